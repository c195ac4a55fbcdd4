import {
  barTicks,
  beatTicks,
  type Event,
  type Performance,
  type Place,
  type PlayedNote,
  type Sheet,
  type Staff,
} from "../score";
import { fitsMetre, grooveTempo, type Shaped, shaped, warped } from "./groove";
import type { Groove } from "./grooves";

/** Loudness of a note of full weight, and where no groove fits the metre. */
const FULL = 112;
const EVEN = 90;
/** What marks do to loudness; and a note that starts inside a part of its beat. */
const MARKED = { accent: 1.14, ghost: 0.5 };
const INSIDE = 0.94;
/** Share of its length a note sounds where there is no groove. */
const PLAIN_LENGTH = 0.94;
/** A short note of a beat: a quarter of it or less. */
const SHORT = 1 / 4;

/** A groove laid over the bars of a tune. */
export type Laid = {
  /** Where a moment of a bar is played, in ticks from the start of the bar; written moments in, and out. */
  played: (place: Place, into: number) => number;
  /** Weight of a moment, 0 to 1. */
  weight: (place: Place, into: number) => number;
  /** Share of its length that a note sounds, by where it starts and ends in its bar. */
  length: (place: Place, into: number, ticks: number) => number;
};

/**
 * Lays a groove over a tune's bars at a tempo in felt beats a minute. Bars whose metre the groove does not fit are
 * played straight. `phraseEnds` are bars (indexes) that end a phrase.
 */
export function laidOver(
  groove: Groove | undefined,
  bpm: number,
  strength: number,
  phraseEnds: ReadonlySet<number> = new Set(),
): Laid {
  const byMetre = new Map<string, Shaped | undefined>();
  const shapeFor = ({ metre }: Place): Shaped | undefined => {
    const name = `${metre.beats}/${metre.unit}`;
    if (!byMetre.has(name)) {
      const fits = groove && fitsMetre(groove, metre);
      byMetre.set(name, fits ? shaped(groove, grooveTempo(groove, metre, bpm), strength) : undefined);
    }
    return byMetre.get(name);
  };
  const starts = new Map<string, number[]>();
  /** Shares of a beat at which the melody has notes. */
  const startsIn = (place: Place, order: number, beat: number): number[] => {
    const name = `${place.index}.${order}`;
    const known = starts.get(name);
    if (known) return known;
    let at = place.offset;
    const found: number[] = [];
    for (const { ticks } of place.bar.events) {
      if (Math.floor(at / beat) === order) found.push((at % beat) / beat);
      at += ticks;
    }
    starts.set(name, found);
    return found;
  };
  const beatOf = (shape: Shaped, place: Place) => barTicks(place.metre) / shape.groove.beats;
  return {
    played: (place, into) => {
      const shape = shapeFor(place);
      if (!shape) return into;
      const beat = beatOf(shape, place);
      const at = place.offset + into;
      const order = Math.floor(at / beat);
      if (at % beat === 0) return into;
      return (order + warped(shape, (at % beat) / beat, startsIn(place, order, beat))) * beat - place.offset;
    },
    weight: (place, into) => {
      const shape = shapeFor(place);
      if (!shape) return EVEN / FULL;
      const part = beatOf(shape, place) / shape.groove.parts;
      const at = place.offset + into;
      const weight = shape.weights[Math.floor(at / part) % shape.weights.length] as number;
      return at % part === 0 || shape.strength === 0 ? weight : weight * INSIDE;
    },
    length: (place, into, ticks) => {
      const shape = shapeFor(place);
      if (!shape) return PLAIN_LENGTH;
      const full = barTicks(place.metre);
      const end = place.offset + into + ticks;
      const lift = shape.groove.lifts.find(({ before }) =>
        before === "phrase" ? phraseEnds.has(place.index) && into + ticks >= place.ticks : end === before * full,
      );
      if (lift) return lift.share;
      return ticks <= SHORT * beatOf(shape, place) ? shape.short : shape.length;
    },
  };
}

/** How loud a note is by its weight and its marks: 1 to 127. */
export const loudnessOf = (weight: number, { marks = [] }: Pick<Event, "marks">, staff = 1): number => {
  const accent = marks.includes("accent") ? MARKED.accent : 1;
  const ghost = marks.includes("ghost") ? MARKED.ghost : 1;
  return Math.max(1, Math.min(127, Math.round(FULL * weight * staff * accent * ghost)));
};

/**
 * What is played in each bar, by its order in the playing: another time through may have its own notes, its own groove
 * and its own bows.
 */
export type Played = {
  place: (order: number) => Place;
  events: (staff: Staff, order: number) => readonly Event[];
  laid: (order: number) => Laid;
  /** Whether a note of a staff goes on into the next one in the same bow. */
  joined?: (staff: string, order: number, into: number) => boolean;
  /** Share of its loudness a note has in a bow that swells. */
  swell?: (staff: string, order: number, into: number) => number;
};

/** The same sheet and the same groove every time through. */
export const plainly = ({ places }: Pick<Sheet, "places">, laid: Laid, { bars }: Performance): Played => ({
  place: (order) => places[bars[order]?.index ?? 0] as Place,
  events: (staff, order) => staff.bars[bars[order]?.index ?? 0] ?? [],
  laid: () => laid,
});

/**
 * A performance with exact written lengths as it is danced: times inside the beat, lengths and loudness follow the
 * groove; bars, beats, metres and tempos stay where they are. All lines move together.
 */
export function danced(performance: Performance, staves: readonly Staff[], played: Played): Performance {
  const { bars } = performance;
  /** The bar that is played at a tick; the end of the last belongs to it. */
  const orderAt = (tick: number) => Math.max(0, upTo(bars, tick));
  const moved = (tick: number): number => {
    const order = orderAt(tick);
    const bar = bars[order] as (typeof bars)[number];
    const into = Math.min(tick - bar.at, bar.ticks);
    return bar.at + played.laid(order).played(played.place(order), into) + Math.max(0, tick - bar.at - bar.ticks);
  };
  const byStaff = new Map(staves.map((s) => [s.id, s]));
  const play = (note: PlayedNote): PlayedNote => {
    const order = orderAt(note.at);
    const [place, laid] = [played.place(order), played.laid(order)];
    const into = note.at - (bars[order]?.at ?? 0);
    const at = Math.round(moved(note.at));
    const joined = played.joined?.(note.line, order, into) === true;
    const share = joined ? 1 : laid.length(place, into, note.ticks);
    const ticks = Math.max(1, Math.round((moved(note.at + note.ticks) - at) * share));
    const staff = byStaff.get(note.line);
    if (!staff) return { ...note, at, ticks };
    const event = eventAt(played.events(staff, order), into);
    const swell = played.swell?.(note.line, order, into) ?? 1;
    const velocity = loudnessOf(laid.weight(place, into) * swell, event ?? {}, staff.loudness);
    return { ...note, at, ticks, velocity };
  };
  const notes = bars.length === 0 ? performance.notes : performance.notes.map(play);
  return { ...performance, notes: [...notes].sort((a, b) => a.at - b.at || a.line.localeCompare(b.line)) };
}

/** The last bar that starts no later than a tick. */
function upTo(bars: Performance["bars"], tick: number): number {
  let [low, high] = [0, bars.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((bars[middle]?.at ?? 0) <= tick) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

function eventAt(events: readonly Event[], into: number): Event | undefined {
  let at = 0;
  return events.find(({ ticks }) => {
    const here = at === into;
    at += ticks;
    return here;
  });
}

/** One note of the written tune as it is played: ticks as written, seconds as played. */
export type DancedNote = {
  place: Place;
  /** Ticks from the start of the tune, and written length with what is tied to it. */
  at: number;
  ticks: number;
  onset: number;
  duration: number;
  pitches: Event["pitches"];
  velocity: number;
};

/** The written tune once through, repeats not unfolded, as it would be played: seconds from its first note. */
export function dancedTune(places: readonly Place[], laid: Laid, bpm: number): DancedNote[] {
  const metre = places[0]?.metre;
  if (!metre) return [];
  const second = (bpm * beatTicks(metre)) / 60;
  const placeAt = (tick: number) => places.findLast((p) => p.at <= tick) as Place;
  const moved = (tick: number): number => {
    const place = placeAt(tick);
    const into = Math.min(tick - place.at, place.ticks);
    return place.at + laid.played(place, into);
  };
  const notes: { place: Place; event: Event; at: number; ticks: number }[] = [];
  let tied = false;
  for (const place of places) {
    let at = place.at;
    for (const event of place.bar.events) {
      const last = notes.at(-1);
      if (event.pitches.length > 0 && tied && last) last.ticks += event.ticks;
      else if (event.pitches.length > 0) notes.push({ place, event, at, ticks: event.ticks });
      tied = event.pitches.length > 0 && event.tie === true;
      at += event.ticks;
    }
  }
  const first = moved(notes[0]?.at ?? 0);
  return notes.map(({ place, event, at, ticks }) => {
    const start = moved(at);
    const share = laid.length(place, at - place.at, ticks);
    return {
      place,
      at,
      ticks,
      onset: (start - first) / second,
      duration: ((moved(at + ticks) - start) * share) / second,
      pitches: event.pitches,
      velocity: loudnessOf(laid.weight(place, at - place.at), event),
    };
  });
}
