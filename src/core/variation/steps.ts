import type { Instrument } from "../instruments";
import { beatTicks, type Event, isCompound, type Place, strength } from "../score";
import { alterIn, diatonic, type Key, midi, type Pitch, STEPS as LETTERS } from "../theory";

/** A line by its bars of events, over the places of a tune. */
export type Bars = readonly (readonly Event[])[];
type Context = { places: readonly Place[]; on: Instrument; key: Key };

/**
 * A named step that makes a line easier or richer: what it does in words, and the line after it; undefined where there
 * is nothing for it to do. The bar count and the beats of the tune stay.
 */
export type Step = {
  name: string;
  way: "easier" | "richer";
  says: string;
  take: (bars: Bars, context: Context) => Bars | undefined;
};

const sounds = ({ pitches }: Event): boolean => pitches.length > 0;
const top = ({ pitches }: Event): Pitch | undefined => pitches.at(-1);

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
function changed(
  bars: Bars,
  places: readonly Place[],
  change: (event: Event, into: number, place: Place, next: Event | undefined) => readonly Event[],
): Bars | undefined {
  let touched = false;
  const made = bars.map((events, i) => {
    const place = places[i] as Place;
    return timed(events, place).flatMap(({ event, into }, k) => {
      const own = change(event, into, place, events[k + 1] ?? bars[i + 1]?.[0]);
      if (own.length !== 1 || own[0] !== event) touched = true;
      return own;
    });
  });
  return touched ? made : undefined;
}

/** Notes that are kept, each lengthened over those left out after it; rests stay rests. */
function kept(bars: Bars, places: readonly Place[], keeps: (into: number, place: Place) => boolean): Bars | undefined {
  let touched = false;
  const made = bars.map((events, i) => {
    const place = places[i] as Place;
    const out: Event[] = [];
    for (const { event, into } of timed(events, place)) {
      const last = out.at(-1);
      // A tuplet stands or falls whole, and so does what is tied to it.
      const stays = !sounds(event) || event.tuplet !== undefined || keeps(into, place) || !last || !sounds(last);
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

const longShort = (into: number, { metre }: Place): boolean => {
  const beat = beatTicks(metre);
  const part = into % beat;
  return part === 0 || (isCompound(metre) ? part === (beat * 2) / 3 : part === beat / 2);
};

/** A scale step above a pitch, in a key. */
function stepFrom(pitch: Pitch, by: number, key: Key): Pitch {
  const place = diatonic(pitch) + by;
  const step = LETTERS[((place % 7) + 7) % 7] as Pitch["step"];
  return { step, alter: alterIn(key, step), octave: Math.floor(place / 7) };
}

/** The open string beside a note that sounds well with it: a third, fourth, fifth, sixth or octave below. */
const SWEET = new Set([3, 4, 5, 7, 8, 9, 12]);
function openBelow(on: Instrument, pitch: Pitch): Pitch | undefined {
  return on.strings.map((s) => s.open).find((open) => SWEET.has(midi(pitch) - midi(open)));
}

/** Every step: first the easier ones, from the smallest to the largest; then the richer ones. */
export const STEPS: readonly Step[] = [
  {
    name: "without ornaments",
    way: "easier",
    says: "Grace notes, cuts and rolls are left out.",
    take: (bars, { places }) =>
      changed(bars, places, (event) => {
        if (!event.grace && !event.marks?.length) return [event];
        const { grace: _, graceSlash: _s, marks: _m, ...plain } = event;
        return [plain];
      }),
  },
  {
    name: "long and short",
    way: "easier",
    says: "Passing notes are left out: long and short of every beat are there.",
    take: (bars, { places }) => kept(bars, places, longShort),
  },
  {
    name: "the beats",
    way: "easier",
    says: "One note on every beat.",
    take: (bars, { places }) => kept(bars, places, (into, place) => into % beatTicks(place.metre) === 0),
  },
  {
    name: "the bar",
    way: "easier",
    says: "The strong beats alone.",
    take: (bars, { places }) =>
      kept(bars, places, (into, place) => strength(place, place.at + into - place.offset) >= 3),
  },
  {
    name: "shuffled held notes",
    way: "richer",
    says: "Held notes are struck long, short, short.",
    take: (bars, { places }) =>
      changed(bars, places, (event, _, { metre }) => {
        const beat = beatTicks(metre);
        const [long, short] = isCompound(metre) ? [beat, beat / 2] : [beat, beat / 2];
        if (!sounds(event) || event.tuplet || event.tie || event.ticks !== long + 2 * short) return [event];
        const { grace: _g, ...plain } = event;
        return [
          { ...event, ticks: long },
          { ...plain, ticks: short },
          { ...plain, ticks: short },
        ];
      }),
  },
  {
    name: "filled-in eighths",
    way: "richer",
    says: "Between two beats a third apart the note between them is played.",
    take: (bars, { places, key }) =>
      changed(bars, places, (event, into, { metre }, next) => {
        const beat = beatTicks(metre);
        const [here, after] = [top(event), next && top(next)];
        const plain = !event.tuplet && !event.tie && !isCompound(metre) && event.ticks === beat && into % beat === 0;
        if (!plain || !here || !after || Math.abs(diatonic(after) - diatonic(here)) !== 2) return [event];
        const between = stepFrom(here, Math.sign(diatonic(after) - diatonic(here)), key);
        return [
          { ...event, ticks: beat / 2 },
          { ticks: beat / 2, pitches: [between] },
        ];
      }),
  },
  {
    name: "drone strings",
    way: "richer",
    says: "An open string rings beside the strong beats.",
    take: (bars, { places, on }) => {
      if (on.family !== "bowed") return undefined;
      return changed(bars, places, (event, into, place) => {
        const here = top(event);
        const open = here && openBelow(on, here);
        const strong = strength(place, place.at + into - place.offset) >= 2;
        return open && strong && event.pitches.length === 1 ? [{ ...event, pitches: [open, here] }] : [event];
      });
    },
  },
  {
    name: "cuts",
    way: "richer",
    says: "A quick note from above opens the strong beats.",
    take: (bars, { places, key }) =>
      changed(bars, places, (event, into, place) => {
        const here = top(event);
        if (!here || event.grace || strength(place, place.at + into - place.offset) < 3) return [event];
        const ticks = beatTicks(place.metre) / 8;
        return [
          { ...event, grace: [{ pitches: [stepFrom(here, 1, key)], ticks: Math.round(ticks) }], graceSlash: true },
        ];
      }),
  },
  {
    name: "rolls",
    way: "richer",
    says: "Long notes are rolled.",
    take: (bars, { places }) =>
      changed(bars, places, (event, _, { metre }) => {
        const long = event.ticks >= beatTicks(metre) * (isCompound(metre) ? 1 : 1.5);
        if (!sounds(event) || !long || event.tie || event.marks?.includes("roll")) return [event];
        return [{ ...event, marks: [...(event.marks ?? []), "roll"] }];
      }),
  },
];
