import type { Instrument } from "../../instruments";
import { type Event, type Place, strength } from "../../score";
import { firstPosition } from "../../technique";
import { midi } from "../../theory";

/** One note of a part as its player meets it. Times in seconds from the start of the written part. */
export type Met = {
  bar: number;
  at: number;
  /** How long it sounds, and until the next note begins. */
  seconds: number;
  gap: number;
  /** Length in beats of its bar's metre, and where in the bar it begins. */
  ticks: number;
  into: number;
  /** 3 on the downbeat, 0 between beats. */
  strength: number;
  pitches: readonly number[];
  graces: number;
  marks: number;
  slurred: boolean;
  tuplet: boolean;
  /** Order of its string from the lowest, semitones above it; where it has strings. */
  string: number;
  above: number;
};

const ORNAMENTS: ReadonlySet<string> = new Set(["trill", "roll", "mordent", "lower mordent", "turn"]);

/** The notes of a part: ties joined, each on its string where the instrument, as it reads the page, has strings. */
export function met(
  places: readonly Place[],
  bars: readonly (readonly Event[])[],
  read: Instrument,
  tick: number,
): Met[] {
  const notes: Met[] = [];
  let tied = false;
  let slurs = 0;
  for (const [i, place] of places.entries()) {
    let at = place.at;
    for (const event of bars[i] ?? []) {
      const last = notes.at(-1);
      if (event.pitches.length > 0 && tied && last) last.seconds += event.ticks * tick;
      else if (event.pitches.length > 0) {
        const pitches = event.pitches.map(midi).sort((a, b) => a - b);
        notes.push({
          bar: i,
          at: at * tick,
          seconds: event.ticks * tick,
          gap: 0,
          ticks: event.ticks,
          into: place.offset + at - place.at,
          strength: strength(place, at),
          pitches,
          graces: event.grace?.length ?? 0,
          marks: (event.marks ?? []).filter((m) => ORNAMENTS.has(m)).length,
          slurred: slurs > 0 || (event.slurs?.open ?? 0) > 0,
          tuplet: event.tuplet !== undefined,
          ...lieOf(read, pitches.at(-1) as number),
        });
      }
      slurs += (event.slurs?.open ?? 0) - (event.slurs?.close ?? 0);
      tied = event.pitches.length > 0 && event.tie === true;
      at += event.ticks;
    }
  }
  notes.forEach((n, i) => {
    n.gap = (notes[i + 1]?.at ?? n.at + n.seconds) - n.at;
  });
  return notes;
}

/** Where a note lies: in first position where it can, else up the highest string. */
function lieOf(on: Instrument, pitch: number): Pick<Met, "string" | "above"> {
  if (on.strings.length === 0) return { string: -1, above: 0 };
  const place = firstPosition(on, pitch);
  const string = place?.string ?? on.strings.length - 1;
  return { string, above: pitch - midi((on.strings[string] as Instrument["strings"][number]).open) };
}
