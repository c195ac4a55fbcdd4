import type { Instrument } from "../instruments";
import { midi, type Pitch, spell } from "../theory";

const PLAIN = { tonic: "C", mode: "major" } as const;

/** An instrument with a capo: every string sounds so many semitones higher, and frets count from there. */
export function withCapo(on: Instrument, frets: number): Instrument {
  if (frets === 0) return on;
  const raised = (open: Pitch): Pitch => spell(midi(open) + frets, PLAIN);
  const strings = on.strings.map((s) => ({ ...s, open: raised(s.open) }));
  return { ...on, strings, lowest: raised(on.lowest), highest: raised(on.highest) };
}
