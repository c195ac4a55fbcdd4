import { cache } from "react";
import { type Derived, derive } from "../core/ensemble";
import { database } from "../db";
import { Recent } from "../engraving";
import { type Loaded, load } from "./collection";

/** The tune an address names, read once for all that one page asks of it; undefined where there is none. */
export const tuneOf = cache((id: string) => (/^[1-9]\d{0,9}$/.test(id) ? load(database(), Number(id)) : undefined));

/** Tunes whose derivation is kept: about half a megabyte each. */
const MOST = 60;
const kept = new Recent<Derived>(MOST);

/** Everything that follows from a tune as it stands; worked out once for each of its states. */
export function derivedOf({ id, head, work }: Loaded): Derived {
  const state = `${id}.${head}`;
  return kept.get(state) ?? kept.put(state, derive(work));
}
