import { readFileSync } from "node:fs";
import { resolve } from "node:path";
import type { Db } from "../db";
import { isEmpty, takeIn } from "./collection";

/** Puts the demo tunes into an empty collection; leaves any other alone. Gives how many went in. */
export function seedDemo(db: Db, folder = resolve(process.cwd(), "demo")): number {
  if (!isEmpty(db)) return 0;
  const { added, refused } = takeIn(db, readFileSync(resolve(folder, "tunes.abc"), "utf8"));
  if (refused[0]) throw new Error(`demo/tunes.abc:${refused[0].line}:${refused[0].column}: ${refused[0].message}`);
  return added.length;
}
