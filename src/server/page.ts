import { cache } from "react";
import type { Derived } from "../core/ensemble";
import { database } from "../db";
import { Recent } from "../engraving";
import { aside } from "./aside";
import { type Loaded, opened, type Unread, unread } from "./states";

/** A number as an address spells it; undefined for anything else. */
export const numberOf = (text: string): number | undefined => (/^[1-9]\d{0,9}$/.test(text) ? Number(text) : undefined);

/** The tune an address names, found once for all that one page asks of it, unread; undefined where there is none. */
export const storedOf = cache((text: string) => {
  const id = numberOf(text);
  return id === undefined ? undefined : unread(database(), id);
});

/** The same, with its work read. */
export const tuneOf = cache((text: string) => {
  const found = storedOf(text);
  return found && opened(found);
});

/** Characters of a stored work from which the browser works it out: what follows from it would be megabytes to send. */
const LONG = 120_000;
export const isLong = ({ work }: Unread): boolean => work.length > LONG;

/** Tunes whose derivation is kept: about half a megabyte each. */
const MOST = 60;
const kept = new Recent<Derived>(MOST);

/** Everything that follows from a tune as it stands; worked out once for each of its states, beside the application. */
export async function derivedOf({ id, head, work }: Loaded): Promise<Derived> {
  const state = `${id}.${head}.${JSON.stringify(work.instruments ?? [])}`;
  return kept.get(state) ?? kept.put(state, await aside("derive", work));
}

/** A tune's title for the head of a page; without it where the tune cannot be reached, which the page itself tells. */
export function titleOf(text: string): string | undefined {
  try {
    return storedOf(text)?.title;
  } catch {
    return undefined;
  }
}
