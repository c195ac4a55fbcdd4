import { LEVELS } from "../instruments";
import { barLabel, type LineNote } from "../score";
import { midi, pitchName, spell } from "../theory";
import { type Board, boardOf } from "./board";
import { stopsOf } from "./grips";

/** The highest pitch of a note: its melody. */
export const topOf = ({ pitches }: LineNote): number =>
  midi(pitches[pitches.length - 1] as LineNote["pitches"][number]);

/** What of a tune an instrument does not have, with a way out, in one sentence for each pitch. */
export function missingWords(board: Board, notes: readonly LineNote[], shift: number): string[] {
  const missing = new Map<number, LineNote[]>();
  for (const n of notes) {
    const sounding = topOf(n) + shift;
    if (stopsOf(board, sounding).length === 0) missing.set(sounding, [...(missing.get(sounding) ?? []), n]);
  }
  return [...missing].map(([sounding, own]) => {
    const first = own[0] as LineNote;
    const bars = [...new Set(own.map((n) => (n.place.pickup ? "the pickup" : `bar ${barLabel(n.place)}`)))];
    const name = pitchName(spell(sounding, first.place.key));
    return `${name} in ${bars.join(", ")} is not played: ${wayOut(board, sounding)}`;
  });
}

/** Half frets that some dulcimers have. Semitones above the open string. */
const HALF_FRETS = [
  { label: "1+", semitones: 3 },
  { label: "8+", semitones: 15 },
];
function wayOut(board: Board, sounding: number): string {
  const { on, level } = board;
  const other = on.tunings.find((t) => {
    const retuned = boardOf({ ...on, strings: t.strings }, level);
    return retuned !== undefined && stopsOf(retuned, sounding).length > 0;
  });
  const half = HALF_FRETS.find((f) => board.fromAbove && board.strings.some((s) => s.open + f.semitones === sounding));
  if (half) return `a fret ${half.label}${other ? ` or the tuning ${other.name}` : ""} has it; so may another key.`;
  if (other) return `the tuning ${other.name} has it; so may another key.`;
  const higher = LEVELS.find((l) => {
    const further = boardOf(on, l);
    return further !== undefined && stopsOf(further, sounding).length > 0;
  });
  if (higher && higher !== level) return `it lies within reach at the level ${higher}; so may another key.`;
  return `the ${on.name} does not have it. Take another key, or the note an octave away.`;
}
