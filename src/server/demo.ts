import { readFileSync } from "node:fs";
import { resolve } from "node:path";
import { readRoster } from "../core/grading";
import type { Db } from "../db";
import { isEmpty, takeIn } from "./collection";
import { saveGroup } from "./groups";

/** Puts the demo tunes and a group into an empty collection; leaves any other alone. Gives how many went in. */
export function seedDemo(db: Db, folder = resolve(process.cwd(), "demo")): number {
  if (!isEmpty(db)) return 0;
  const { added, refused } = takeIn(db, readFileSync(resolve(folder, "tunes.abc"), "utf8"));
  if (refused[0]) throw new Error(`demo/tunes.abc:${refused[0].line}:${refused[0].column}: ${refused[0].message}`);
  const { learners } = readRoster(readFileSync(resolve(folder, "group.csv"), "utf8"));
  saveGroup(db, { name: "Tuesday in the net loft", learners }, null);
  return added.length;
}
