import { barTicks, type Event, type Place } from "../score";
import { anInterval, diatonic, midi, type Pitch, pitchName } from "../theory";

/** What a unit of the tune is to an earlier one. */
export const RELATIONS = [
  "new",
  "same",
  "same start, new ending",
  "echo",
  "same notes, new rhythm",
  "same rhythm, other notes",
] as const;
export type Relation = (typeof RELATIONS)[number];

/**
 * A relation with the unit it points to (by order), the first bar (index) that differs, and an echo's distance in scale
 * steps (up is positive).
 */
export type Related = {
  relation: Relation;
  model: number | undefined;
  parts: number | undefined;
  shift: number | undefined;
};

/** A stretch of bars to be compared, by index into the tune's places, both ends included. */
export type Unit = { from: number; to: number };

const sounds = (events: readonly Event[]): string => {
  let text = "";
  for (const { pitches, ticks } of events) {
    for (const pitch of pitches) text += `${pitchName(pitch)}.`;
    text += `:${ticks} `;
  }
  return text;
};
/** What was heard in bars before, as long as they live. */
const known = new WeakMap<Place, string>();

/** What is heard in a bar, for telling same from different: notes as spelled and lengths, without ornaments. */
export function music(place: Place): string {
  const made = known.get(place) ?? sounds(place.bar.events);
  known.set(place, made);
  return made;
}

/** A unit as the ear compares it. */
type Heard = {
  bars: readonly Place[];
  music: readonly string[];
  rhythm: readonly string[];
  tops: readonly number[];
  steps: readonly number[];
  lengths: readonly number[];
};

const top = (pitches: readonly Pitch[]) => pitches[pitches.length - 1] as Pitch;

/**
 * Full bars of a unit. For shape and rhythm the last one is heard without its lead-in to what follows, since another
 * phrase may be led into another way.
 */
function heard(places: readonly Place[], { from, to }: Unit, leadIn: number): Heard {
  const bars = places.slice(from, to + 1).filter((p) => !p.pickup);
  const isWhole = (i: number) => i < bars.length - 1 || leadIn === 0;
  const events = bars.map((p, i) =>
    isWhole(i) ? p.bar.events : clipped(p.bar.events, Math.min(p.ticks, barTicks(p.metre) - leadIn)),
  );
  const notes = events.flat().filter((e) => e.pitches.length > 0);
  return {
    bars,
    music: bars.map(music),
    rhythm: events.map((list) => list.map((e) => `${e.pitches.length ? "" : "z"}${e.ticks}`).join(" ")),
    tops: notes.map((e) => midi(top(e.pitches))),
    steps: notes.map((e) => diatonic(top(e.pitches))),
    lengths: notes.map((e) => e.ticks),
  };
}

/** Events up to a moment of their bar. */
function clipped(events: readonly Event[], end: number): Event[] {
  let at = 0;
  return events.flatMap((e) => {
    const ticks = Math.min(e.ticks, end - at);
    at += e.ticks;
    return ticks > 0 ? [{ ...e, ticks }] : [];
  });
}

const collapsed = (tops: readonly number[]) => tops.filter((t, i) => t !== tops[i - 1]);
const equal = (a: readonly unknown[], b: readonly unknown[]) => a.length === b.length && a.every((x, i) => x === b[i]);

/** Longest common subsequence as a share of the longer list. */
function likeness(a: readonly number[], b: readonly number[]): number {
  const [short, long] = [Math.min(a.length, b.length), Math.max(a.length, b.length)];
  if (short < SAME_NOTES * long) return short / Math.max(1, long);
  let row = new Array<number>(b.length + 1).fill(0);
  for (const x of a) {
    const next = [0];
    for (const [j, y] of b.entries())
      next.push(x === y ? (row[j] as number) + 1 : Math.max(row[j + 1] as number, next[j] as number));
    row = next;
  }
  return (row[b.length] ?? 0) / Math.max(1, a.length, b.length);
}

/** Share of one length above which a rhythm is running notes, which sets no phrase apart. */
const RUNNING = 0.8;
/** How far back a likeness is looked for, in units. */
const REACH = 64;
/** How much of the melody must agree for "same notes". */
const SAME_NOTES = 0.9;

function isPlain({ lengths }: Heard): boolean {
  const counts = new Map<number, number>();
  for (const l of lengths) counts.set(l, (counts.get(l) ?? 0) + 1);
  return Math.max(0, ...counts.values()) > RUNNING * lengths.length;
}

/** Steps of the staff between two units of one shape and rhythm; undefined where the shapes differ. */
function shiftOf(own: Heard, model: Heard): number | undefined {
  if (own.steps.length < 3 || !equal(own.rhythm, model.rhythm) || own.steps.length !== model.steps.length)
    return undefined;
  const shift = (own.steps[0] as number) - (model.steps[0] as number);
  const moves = new Set(own.steps).size > 1;
  return shift !== 0 && moves && own.steps.every((s, i) => s - (model.steps[i] as number) === shift)
    ? shift
    : undefined;
}

const NEW: Related = { relation: "new", model: undefined, parts: undefined, shift: undefined };

/**
 * Compares each unit with those before it, the nearest likeness first: same, note for note; same start, new ending
 * (half of it or more alike); echo; same notes in another rhythm; same start for a bar or more; same rhythm with other
 * notes (unless the rhythm is plain running notes). `leadIn` is the pickup in ticks.
 */
export function relateUnits(places: readonly Place[], units: readonly Unit[], leadIn = 0): Related[] {
  const all = units.map((u) => heard(places, u, leadIn));
  return all.map((own, i) => {
    const back = Math.max(0, i - REACH);
    const earlier = all.slice(back, i);
    const alike = earlier.map((model) => {
      const d = own.music.findIndex((m, k) => m !== model.music[k]);
      return d < 0 ? own.music.length : d;
    });
    const first = (test: (model: Heard, k: number) => boolean) => earlier.findIndex(test);
    const same = first((model, k) => alike[k] === own.music.length && model.music.length === own.music.length);
    if (same >= 0) return { ...NEW, relation: "same", model: back + same };
    const start = Math.max(0, ...alike);
    const begins = (): Related => {
      const model = back + alike.indexOf(start);
      return { relation: "same start, new ending", model, parts: own.bars[start]?.index, shift: undefined };
    };
    const isStart = start >= 1 && start < own.music.length;
    if (isStart && start * 2 >= own.music.length) return begins();
    const echo = first((model) => shiftOf(own, model) !== undefined);
    if (echo >= 0) return { ...NEW, relation: "echo", model: back + echo, shift: shiftOf(own, earlier[echo] as Heard) };
    const notes = first(
      (model) =>
        own.tops.length >= 3 &&
        !equal(own.rhythm, model.rhythm) &&
        likeness(collapsed(own.tops), collapsed(model.tops)) >= SAME_NOTES,
    );
    if (notes >= 0) return { ...NEW, relation: "same notes, new rhythm", model: back + notes };
    if (isStart) return begins();
    const others = (model: Heard) => own.music.filter((m, k) => m !== model.music[k]).length * 2 > own.music.length;
    const rhythm = first(
      (model) => equal(own.rhythm, model.rhythm) && own.lengths.length >= 3 && !isPlain(own) && others(model),
    );
    if (rhythm >= 0) return { ...NEW, relation: "same rhythm, other notes", model: back + rhythm };
    return NEW;
  });
}

/** Bars that are earlier bars over again, note for note: from where to where, and the first of those they repeat. */
export type Again = { from: number; to: number; model: number };

/** Runs of bars between two (indexes) that repeat earlier ones of the tune; the earliest is named. */
export function barsAgain(places: readonly Place[], from: number, to: number): Again[] {
  const isFull = (p: Place) => !p.pickup && p.offset === 0;
  const first = new Map<string, number>();
  const runs: Again[] = [];
  for (const place of places.slice(0, to + 1).filter(isFull)) {
    const model = first.get(music(place));
    if (model === undefined) first.set(music(place), place.index);
    if (model === undefined || place.index < from) continue;
    const last = runs.at(-1);
    const goesOn = last && last.to === place.index - 1 && last.model + (place.index - last.from) === model;
    if (goesOn) last.to = place.index;
    else runs.push({ from: place.index, to: place.index, model });
  }
  return runs;
}

/** `shiftWords(3) // => "up a fourth"` */
export const shiftWords = (shift: number): string => `${shift > 0 ? "up" : "down"} ${anInterval(Math.abs(shift) + 1)}`;
