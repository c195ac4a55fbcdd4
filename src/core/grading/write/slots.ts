import type { Instrument } from "../../instruments";
import { beatTicks, type Place } from "../../score";
import { solved } from "../../search";
import { midi } from "../../theory";
import {
  inBows,
  type Material,
  mostIn,
  type PartNote,
  type Request,
  rubs,
  rubsIn,
  type Segment,
  segmentAt,
  segmentsOf,
  soundingMelody,
  spotOf,
} from "./material";
import { lyingOn } from "./tune";

// Parts that are not the tune: where their notes may stand, and the cheapest way through those places.

/**
 * A place for a note: from where to where in its bar, under which chord and which others after it, in which phrase, how
 * far into it (0 to 1).
 */
export type Slot = {
  bar: number;
  at: number;
  ticks: number;
  segment: Segment | undefined;
  later: readonly Segment[];
  place: Place;
  first: boolean;
  last: boolean;
  way: number;
};

/** What long notes cost, in points: teachers' judgement. */
export const PRICES = {
  step: 0.12,
  same: 0.7,
  again: 1.3,
  arch: 0.08,
  rub: 6,
  rest: 3,
  restAtEdge: 2,
  foreign: 5,
  /** A note held into a chord that it is not of, and that it rubs against. */
  outgrown: 0.8,
  outgrownHarsh: 4,
  rootAtEdge: -0.6,
  /** Root, third and fifth of a chord, and what lies above them. */
  inChord: [0, 0.15, 0.2],
  seventh: 0.6,
  open: -0.25,
  /** The very note that another part than the usual one is to be without. */
  avoided: 1.6,
} as const;

/** Where the notes of a phrase begin: with the chords, at most so many a bar; never shorter than the limits allow. */
export function slotsOf(material: Material, { limits }: Request, perBar: (place: Place) => number[]): Slot[] {
  const segments = segmentsOf(material);
  return material.phrases.flatMap(({ from, to }) => {
    const bars = material.places.filter((p) => p.index >= from && p.index <= to && !p.pickup);
    return bars.flatMap((place, order): Slot[] => {
      const own = segments[place.index] ?? [];
      const wishes = [...new Set([0, ...own.map((s) => s.at), ...perBar(place)])].sort((a, b) => a - b);
      const long = (from: number, until: number) => (until - from) * material.tick >= limits.shortest - 1e-9;
      const starts: number[] = [];
      for (const at of wishes) {
        const before = starts.at(-1);
        if (at < place.ticks && long(at, place.ticks) && (before === undefined || long(before, at))) starts.push(at);
      }
      const close = own.at(-1)?.at ?? 0;
      // Where a phrase closes, its last chord is heard before one that is too quick for both.
      if (order === bars.length - 1 && long(close, place.ticks) && !starts.includes(close)) {
        while (starts.length > 0 && !long(starts.at(-1) ?? 0, close)) starts.pop();
        starts.push(close);
      }
      const few = starts.slice(0, Math.max(0, mostIn(material, place, limits)));
      return slotsIn(place, few, own, { order, of: bars.length });
    });
  });
}

/** The slots of a bar by where they begin (ticks into it): the bar is one of so many in its phrase. */
export function slotsIn(
  place: Place,
  starts: readonly number[],
  chords: readonly Segment[],
  { order, of }: { order: number; of: number },
): Slot[] {
  return starts.map((at, i): Slot => {
    const until = starts[i + 1] ?? place.ticks;
    return {
      bar: place.index,
      at,
      ticks: until - at,
      segment: segmentAt(chords, at),
      later: chords.filter((s) => s.at > at && s.at < until),
      place,
      first: order === 0 && i === 0,
      last: order === of - 1 && i === starts.length - 1,
      way: (order + i / starts.length) / Math.max(1, of),
    };
  });
}

/** What a rest costs: more where a phrase opens or closes, which is to be heard. */
const silence = ({ first, last }: Slot): number => PRICES.rest + (first || last ? PRICES.restAtEdge : 0);

/** What it costs that a note is held into chords that came after it began. */
const outgrown = ({ later }: Slot, pitch: number): number =>
  later.reduce((sum, { chord }) => {
    if (chord.classes.includes(pitch % 12)) return sum;
    return sum + (rubsIn(chord, pitch) ? PRICES.outgrownHarsh : PRICES.outgrown);
  }, 0);

/**
 * A beginner breathes once a phrase, beside the note that closes it and never on it: the note before it is left out
 * where it shares the bar, or ends a beat early; else the closing note ends early, where no chord comes after it; else
 * the note before it is left out, where it is short.
 */
export function withBreath(material: Material, { limits }: Request, slots: readonly Slot[]): Slot[] {
  const early = (slot: Slot): Slot => ({ ...slot, ticks: slot.ticks - beatTicks(slot.place.metre) });
  const fits = ({ ticks }: Slot) => ticks > 0 && ticks * material.tick >= limits.shortest - 1e-9;
  const endsEarly = (slot: Slot) => slot.later.length === 0 && fits(early(slot));
  /** What becomes of the note before a phrase's last: it goes, it ends early, or it stays as it is. */
  const before = (slot: Slot, close: Slot): "goes" | "early" | "stays" => {
    if (slot.bar === close.bar) return "goes";
    if (fits(early(slot))) return "early";
    return !endsEarly(close) && slot.ticks * 2 <= slot.place.ticks ? "goes" : "stays";
  };
  const breathed = new Set<Slot>();
  return slots.flatMap((slot, i): Slot[] => {
    const next = slots[i + 1];
    if (next?.last && !slot.last && !slot.first) {
      const what = before(slot, next);
      if (what !== "stays") breathed.add(next);
      if (what === "goes") return [];
      return [what === "early" ? early(slot) : slot];
    }
    return [slot.last && !breathed.has(slot) && endsEarly(slot) ? early(slot) : slot];
  });
}

/** A choice for a slot: what sounds, or nothing, with the note before it, how often it was the same, and crossings. */
type State = { pitch: number | null; last: number | null; run: number; crossed: number };
/** Notes in a row of one pitch that are told apart. */
const RUNS = 3;

/** What motion costs: a semitone of it, the same note once more, and again. */
type Motion = { step: number; same: number; again: number; change: number };
const LINE: Motion = { step: PRICES.step, same: PRICES.same, again: PRICES.again, change: 0 };
/** What holds still stays where it is. */
export const STILL: Motion = { step: 0, same: 0, again: 0, change: 1.5 };

type Choose = (slot: Slot) => readonly number[];
type Weigh = (slot: Slot, pitch: number) => number;

/** The cheapest way through the slots within the limits. */
export function chosen(
  material: Material,
  request: Request,
  slots: readonly Slot[],
  choose: Choose,
  weigh: Weigh,
  motion: Motion = LINE,
): (number | null)[] {
  const { on, limits } = request;
  const melody = soundingMelody(material);
  const lies = lyingOn(on, limits.strings);
  const perBar = new Map<number, number>();
  for (const { bar } of slots) perBar.set(bar, (perBar.get(bar) ?? 0) + 1);
  const cap = limits.crossings;
  // Crossings are counted only where a bar has room for too many.
  const counted = cap !== null && Math.max(...perBar.values()) > cap + 1;
  // Where it costs nothing that a note comes again, nothing need be counted.
  const runs = motion.same + motion.again > 0 ? RUNS : 1;
  const counts = counted ? Array.from({ length: cap + 1 }, (_, c) => c) : [0];
  const all = [...new Set(slots.flatMap((s) => [...choose(s)]))];
  const states = slots.map((slot): State[] => [
    ...choose(slot).flatMap((pitch) =>
      counts.flatMap((crossed) =>
        Array.from({ length: runs }, (_, run): State => ({ pitch, last: pitch, run, crossed })),
      ),
    ),
    ...[null, ...all].map((last): State => ({ pitch: null, last, run: 0, crossed: 0 })),
  ]);
  if (slots.length === 0) return [];
  const price = new Map<string, number>();
  const own = (i: number, pitch: number): number => {
    const slot = slots[i] as Slot;
    const name = `${i}.${pitch}`;
    const found = price.get(name);
    if (found !== undefined) return found;
    const from = slot.place.at + slot.at;
    const avoided = request.avoid?.get(spotOf(slot.bar, slot.at)) === pitch ? PRICES.avoided : 0;
    const made =
      avoided +
      weigh(slot, pitch) +
      outgrown(slot, pitch) +
      rubs(material, melody, from, from + slot.ticks, pitch) * PRICES.rub;
    price.set(name, made);
    return made;
  };
  const solution = solved<State>({
    states,
    limits: [
      {
        name: "begins",
        broken: (i, s) => i === 0 && (s.run > 0 || s.crossed > 0 || (s.pitch === null && s.last !== null)),
      },
    ],
    local: [{ name: "note", at: (i, s) => (s.pitch === null ? silence(slots[i] as Slot) : own(i, s.pitch)) }],
    moves: [
      {
        name: "motion",
        into: (_, a, b) => {
          if (b.pitch === null || a.last === null) return 0;
          const far = Math.abs(b.pitch - a.last) * motion.step + (b.pitch === a.last ? 0 : motion.change);
          return far + (b.run > 0 ? motion.same + (b.run - 1) * motion.again : 0);
        },
      },
    ],
    moveLimits: [
      {
        name: "follows",
        broken: (i, a, b) => {
          if (b.pitch === null) return b.last !== a.last;
          const same = slots[i]?.bar === slots[i - 1]?.bar;
          const run = a.last === b.pitch ? Math.min(runs - 1, a.run + 1) : 0;
          if (b.run !== run || !counted) return b.run !== run;
          const crossed = a.last !== null && lies(a.last) !== lies(b.pitch) ? 1 : 0;
          return b.crossed !== (same ? a.crossed + crossed : 0);
        },
      },
      {
        name: "leap",
        broken: (_, a, b) =>
          b.pitch !== null && a.last !== null && limits.leap !== null && Math.abs(a.last - b.pitch) > limits.leap,
      },
      {
        name: "skipped string",
        broken: (i, a, b) =>
          b.pitch !== null &&
          a.last !== null &&
          slots[i]?.first !== true &&
          !limits.skip &&
          cap !== null &&
          Math.abs(lies(a.last) - lies(b.pitch)) > 1,
      },
    ],
  });
  return solution.path.map((s) => s.pitch);
}

/** Pitches a part may use, nearest to the middle of the group first; those the limits allow. */
export function within({ limits, on }: Request, classes: readonly number[]): number[] {
  const low = Math.max(limits.lowest, midi(on.lowest));
  const all = limits.pitches
    ? [...limits.pitches]
    : Array.from({ length: limits.highest - low + 1 }, (_, i) => low + i);
  return all.filter((p) => classes.includes(p % 12)).sort((a, b) => a - b);
}
/** Of many octaves, the ones about a height. */
export const about = (pitches: readonly number[], height: number, most: number): number[] =>
  [...pitches]
    .sort((a, b) => Math.abs(a - height) - Math.abs(b - height))
    .slice(0, most)
    .sort((a, b) => a - b);

/** Pitches of a slot that are weighed. */
export const MOST = 6;
export const isOpen = ({ strings }: Instrument, pitch: number): boolean => strings.some((s) => midi(s.open) === pitch);

export const laid = (
  material: Material,
  request: Request,
  slots: readonly Slot[],
  pitches: readonly (number | null)[],
): PartNote[] =>
  slots.flatMap((slot, i): PartNote[] => {
    const pitch = pitches[i];
    if (pitch === null || pitch === undefined) return [];
    const note = { bar: slot.bar, at: slot.at, ticks: slot.ticks, pitches: [pitch] };
    const pieces = inBows(material, slot.place, note, request.limits);
    const taken = slots.filter((s) => s.bar === slot.bar).length + pieces.length - 1;
    const long = pieces.every((p) => p.ticks * material.tick >= request.limits.shortest - 1e-9);
    if (taken <= mostIn(material, slot.place, request.limits) && long) return pieces;
    const longest = request.limits.bow === null ? note.ticks : Math.floor(request.limits.bow / material.tick);
    return [{ ...note, ticks: Math.min(note.ticks, longest) }];
  });

/** Beginners' long notes rest once a phrase. */
export const BREATHES = new Set(["First sounds", "Steady"]);
