import type { Asked } from "../../db";

/** What else stands in the list's address: how many tunes are shown, and the notes that are looked for. */
type Also = { shown?: number | undefined; notes?: string | undefined };

/** The address that asks for something else of the list. */
export function addressOf({ holding: _, ...asked }: Asked, also: Also = {}): string {
  const entries = Object.entries({ ...asked, down: asked.down ? "1" : undefined, ...also }).flatMap(([name, value]) =>
    value === undefined || value === "" ? [] : [[name, String(value)]],
  );
  return entries.length ? `/?${new URLSearchParams(entries)}` : "/";
}
