import type { Part } from "../../core/grading";
import type { Voice } from "../roles";

/** Something that is heard and can be silenced: its id, its badge, its name, and the key that switches it. */
export type Heard = { id: string; voice: Voice; key: string | undefined };

const KEYS: Partial<Record<Voice, readonly string[]>> = {
  melody: ["M"],
  "one-note harmony": ["N"],
};
/** Harmony lines share their keys, whichever side they lie on. */
const LINE_KEYS = ["K", "J"];

/** Every part and the chords, in the order they are shown; the first of each kind have keys. */
export function voicesOf(parts: readonly Part[]): Heard[] {
  const used = new Map<string, number>();
  const heard = parts.map(({ id, role, line }): Heard => {
    const kind = line ? "line" : role;
    const order = used.get(kind) ?? 0;
    used.set(kind, order + 1);
    return { id, voice: role, key: (line ? LINE_KEYS : KEYS[role])?.[order] };
  });
  const long = heard.findIndex((v) => v.voice === "one-note harmony");
  const chords: Heard = { id: "chords", voice: "chords", key: "C" };
  return heard.toSpliced(long < 0 ? heard.length : long, 0, chords);
}
