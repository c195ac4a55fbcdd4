import type { Key } from "../theory";
import type { Segment } from "./segments";

/** The key a beat is in: that of its strain. */
export const keyAt = (keys: readonly Key[], { place }: Pick<Segment, "place">): Key =>
  keys[place.strain] ?? (keys[0] as Key);
