import { backupDue, database, databasePath } from "../db";
import { aside } from "../server/aside";
import { collection, fillMelodies } from "../server/collection";
import { isLong } from "../server/page";
import { opened, unread } from "../server/states";
import { FIRST_LENS, USUAL_ROOM } from "../ui/bench/layout";
import { prepared } from "./tune/[id]/(bench)/prepared";

/** Tunes made ready as the application starts: those at the top of the list. */
const READY = 3;
/** Pause between looks whether today's backup is made. Milliseconds. */
const HOUR = 60 * 60 * 1000;

/**
 * Opens the database and brings it up to date before the first page is asked for; what is wrong with it is told here
 * and on every page, and tried again with each. Beside it the pages of the first tunes are made ready, so that the
 * first visit finds everything warm, and the day's backup is made.
 */
export function start(): void {
  try {
    database();
    void warm().catch(tellTrouble);
  } catch (error) {
    tellTrouble(error);
  }
  // After the first page, which comes first.
  setTimeout(fill, 1000).unref();
  setTimeout(() => void backUp(), 15_000).unref();
  setInterval(() => void backUp(), HOUR).unref();
}

const tellTrouble = (error: unknown) => console.error(error instanceof Error ? error.message : error);

/** Writes down melodies a few at a time, so that nobody waits for it. */
function fill() {
  try {
    if (fillMelodies(database())) setTimeout(fill, 20).unref();
  } catch (error) {
    tellTrouble(error);
  }
}

async function warm() {
  const db = database();
  for (const { id } of collection(db, {}, READY)) {
    const found = unread(db, id);
    if (found && !isLong(found)) await prepared(opened(found), FIRST_LENS, USUAL_ROOM);
  }
}

async function backUp() {
  if (backupDue(databasePath())) await aside("backup", "daily").catch(tellTrouble);
}
