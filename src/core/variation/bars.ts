import type { Instrument } from "../instruments";
import { beatTicks, type Event, isCompound, type Place } from "../score";
import { alterIn, diatonic, type Key, midi, type Pitch, STEPS as LETTERS } from "../theory";

/** A line by its bars of events, over the places of a tune. */
export type Bars = readonly (readonly Event[])[];
export type Context = { places: readonly Place[]; on: Instrument; key: Key };

/**
 * A named step that makes a line easier or richer: what it does in words, and the line after it; undefined where there
 * is nothing for it to do. The bar count and the beats of the tune stay.
 */
export type Step = {
  name: string;
  way: "easier" | "richer";
  says: string;
  /** What the line must have for it. */
  needs: string;
  /** Whether it is a rung of the ladder; others are taken by themselves. */
  rung?: true;
  take: (bars: Bars, context: Context) => Bars | undefined;
};

export const sounds = ({ pitches }: Event): boolean => pitches.length > 0;
export const top = ({ pitches }: Event): Pitch | undefined => pitches.at(-1);

/** Each event with where it begins in its full bar. */
function timed(events: readonly Event[], place: Place): { event: Event; at: number; into: number }[] {
  let at = 0;
  return events.map((event) => {
    const now = { event, at, into: place.offset + at };
    at += event.ticks;
    return now;
  });
}

/** The bars with each event changed, or taken apart; undefined where nothing is another. */
export function changed(
  bars: Bars,
  places: readonly Place[],
  change: (
    event: Event,
    into: number,
    place: Place,
    next: Event | undefined,
    before: Event | undefined,
  ) => readonly Event[],
): Bars | undefined {
  let touched = false;
  const made = bars.map((events, i) => {
    const place = places[i] as Place;
    return timed(events, place).flatMap(({ event, into }, k) => {
      const own = change(event, into, place, events[k + 1] ?? bars[i + 1]?.[0], events[k - 1] ?? bars[i - 1]?.at(-1));
      if (own.length !== 1 || own[0] !== event) touched = true;
      return own;
    });
  });
  return touched ? made : undefined;
}

/** Notes that are kept, each lengthened over those left out after it; rests stay rests. */
export function kept(
  bars: Bars,
  places: readonly Place[],
  keeps: (into: number, place: Place, event: Event) => boolean,
): Bars | undefined {
  let touched = false;
  const made = bars.map((events, i) => {
    const place = places[i] as Place;
    const out: Event[] = [];
    for (const { event, into } of timed(events, place)) {
      const last = out.at(-1);
      // A tuplet stands or falls whole, and so does what is tied to it.
      const stays = !sounds(event) || event.tuplet !== undefined || keeps(into, place, event) || !last || !sounds(last);
      const joins = !stays && last && !last.tuplet;
      if (joins && last) {
        const { tie: _, ...open } = last;
        out[out.length - 1] = { ...open, ticks: last.ticks + event.ticks, ...(event.tie ? { tie: true } : {}) };
        touched = true;
      } else out.push(event);
    }
    return out;
  });
  return touched ? made : undefined;
}

export const longShort = (into: number, { metre }: Place): boolean => {
  const beat = beatTicks(metre);
  const part = into % beat;
  return part === 0 || (isCompound(metre) ? part === (beat * 2) / 3 : part === beat / 2);
};

/** A scale step above a pitch, in a key. */
export function stepFrom(pitch: Pitch, by: number, key: Key): Pitch {
  const place = diatonic(pitch) + by;
  const step = LETTERS[((place % 7) + 7) % 7] as Pitch["step"];
  return { step, alter: alterIn(key, step), octave: Math.floor(place / 7) };
}

/** The open string beside a note that sounds well with it: a third, fourth, fifth, sixth or octave below. */
const SWEET = new Set([3, 4, 5, 7, 8, 9, 12]);
export function openBelow(on: Instrument, pitch: Pitch): Pitch | undefined {
  return on.strings.map((s) => s.open).find((open) => SWEET.has(midi(pitch) - midi(open)));
}
