import type { Asked } from "../../db";

/** The address that asks for something else of the list. */
export function addressOf(asked: Asked, shown?: number): string {
  const entries = Object.entries({ ...asked, down: asked.down ? "1" : undefined, shown }).flatMap(([name, value]) =>
    value === undefined || value === "" ? [] : [[name, String(value)]],
  );
  return entries.length ? `/?${new URLSearchParams(entries)}` : "/";
}
