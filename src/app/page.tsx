import { type Asked, countTunes, database, shelves, SORTS } from "../db";
import { collection, holding, PAGE } from "../server/collection";
import { notFound } from "next/navigation";
import { numberOf } from "../server/page";
import { withTrouble } from "./withTrouble";
import { TunesPage } from "../ui/tunes/TunesPage";

/** Most tunes of one list. */
const MOST = 5000;

export const dynamic = "force-dynamic";

type Search = Record<string, string | string[] | undefined>;

const textOf = (search: Search, name: string) =>
  typeof search[name] === "string" && search[name] ? search[name].slice(0, 100) : undefined;

/** What the address asks of the list; anything strange is passed over. */
function askedOf(search: Search): Asked {
  const get = (name: string) => textOf(search, name);
  const ready = get("ready");
  const pitches = Number(get("pitches"));
  return {
    find: get("find"),
    dance: get("dance"),
    key: get("key"),
    metre: get("metre"),
    tag: get("tag"),
    sort: SORTS.find((s) => s === get("sort")),
    down: get("down") === "1",
    ready: ready === "ready" || ready === "open" ? ready : undefined,
    pitches: Number.isInteger(pitches) && pitches > 0 ? pitches : undefined,
  };
}

export default async function Page({ searchParams }: { searchParams: Promise<Search> }) {
  const search = await searchParams;
  const shown = search.shown === undefined ? PAGE : numberOf(String(search.shown));
  if (shown === undefined) notFound();
  const limit = Math.min(MOST, Math.max(PAGE, shown));
  return withTrouble(async () => {
    const db = database();
    const notes = textOf(search, "notes") ?? "";
    const held = notes ? holding(db, notes) : undefined;
    const asked = { ...askedOf(search), ...(held ? { holding: held } : {}) };
    return (
      <TunesPage
        tunes={collection(db, asked, limit)}
        found={countTunes(db, asked)}
        all={countTunes(db)}
        asked={askedOf(search)}
        notes={notes}
        unread={notes !== "" && held === undefined}
        shelves={shelves(db)}
      />
    );
  });
}
