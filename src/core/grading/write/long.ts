import type { Instrument } from "../../instruments";
import { beatTicks, type Place } from "../../score";
import { solved } from "../../search";
import { midi, semitoneOf } from "../../theory";
import {
  bassClass,
  type Draft,
  inBows,
  type Material,
  mostIn,
  type PartNote,
  pulse,
  type Request,
  rootClass,
  rubs,
  type Segment,
  segmentAt,
  segmentsOf,
  soundingMelody,
} from "./material";
import { lyingOn } from "./tune";

/** A place for a note: from where to where in its bar, under which chord, in which phrase, how far into it (0 to 1). */
type Slot = {
  bar: number;
  at: number;
  ticks: number;
  segment: Segment | undefined;
  place: Place;
  first: boolean;
  last: boolean;
  way: number;
  /** Whether several notes may sound together here. */
  pair: boolean;
};

/** What long notes cost, in points: teachers' judgement. */
const PRICES = {
  step: 0.12,
  same: 0.7,
  again: 1.3,
  arch: 0.08,
  rub: 6,
  rest: 3,
  foreign: 5,
  rootAtEdge: -0.6,
  /** Root, third and fifth of a chord, and what lies above them. */
  inChord: [0, 0.15, 0.2],
  seventh: 0.6,
  open: -0.25,
} as const;

/** Where the notes of a phrase begin: with the chords, at most so many a bar; never shorter than the limits allow. */
function slotsOf(material: Material, { limits }: Request, perBar: (place: Place) => number[]): Slot[] {
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
      const few = starts.slice(0, Math.max(0, mostIn(material, place, limits)));
      return few.map((at, i): Slot => {
        const until = few[i + 1] ?? place.ticks;
        return {
          bar: place.index,
          at,
          ticks: until - at,
          segment: segmentAt(own, at),
          place,
          first: order === 0 && i === 0,
          last: order === bars.length - 1 && i === few.length - 1,
          way: (order + i / few.length) / Math.max(1, bars.length),
          pair: false,
        };
      });
    });
  });
}

/** A beginner breathes once a phrase, beside the note that closes it and never on it. */
function withBreath(material: Material, { limits }: Request, slots: readonly Slot[]): Slot[] {
  return slots.flatMap((slot, i): Slot[] => {
    const next = slots[i + 1];
    if (!next?.last) return [slot];
    const beat = beatTicks(slot.place.metre);
    if (slot.bar === next.bar && slot.ticks <= beat * 1.5) return [];
    const left = slot.ticks - beat;
    return left > 0 && left * material.tick >= limits.shortest - 1e-9 ? [{ ...slot, ticks: left }] : [slot];
  });
}

/** A choice for a slot: what sounds, or nothing, with the note before it, how often it was the same, and crossings. */
type State = { pitch: number | null; last: number | null; run: number; crossed: number };
/** Notes in a row of one pitch that are told apart. */
const RUNS = 3;

type Choose = (slot: Slot) => readonly number[];
type Weigh = (slot: Slot, pitch: number) => number;

/** The cheapest way through the slots within the limits. */
function chosen(
  material: Material,
  request: Request,
  slots: readonly Slot[],
  choose: Choose,
  weigh: Weigh,
): (number | null)[] {
  const { on, limits } = request;
  const melody = soundingMelody(material);
  const lies = lyingOn(on, limits.strings);
  const cap = limits.crossings;
  const counts = cap === null ? [0] : Array.from({ length: cap + 1 }, (_, c) => c);
  const all = [...new Set(slots.flatMap((s) => [...choose(s)]))];
  const states = slots.map((slot): State[] => [
    ...choose(slot).flatMap((pitch) =>
      counts.flatMap((crossed) =>
        Array.from({ length: RUNS }, (_, run): State => ({ pitch, last: pitch, run, crossed })),
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
    const made = weigh(slot, pitch) + rubs(material, melody, from, from + slot.ticks, pitch) * PRICES.rub;
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
    local: [{ name: "note", at: (i, s) => (s.pitch === null ? PRICES.rest : own(i, s.pitch)) }],
    moves: [
      {
        name: "motion",
        into: (_, a, b) => {
          if (b.pitch === null || a.last === null) return 0;
          return Math.abs(b.pitch - a.last) * PRICES.step + (b.run > 0 ? PRICES.same + (b.run - 1) * PRICES.again : 0);
        },
      },
    ],
    moveLimits: [
      {
        name: "follows",
        broken: (i, a, b) => {
          if (b.pitch === null) return b.last !== a.last;
          const same = slots[i]?.bar === slots[i - 1]?.bar;
          const crossed = cap !== null && a.last !== null && lies(a.last) !== lies(b.pitch) ? 1 : 0;
          const run = a.last === b.pitch ? Math.min(RUNS - 1, a.run + 1) : 0;
          return b.run !== run || (cap !== null && b.crossed !== (same ? a.crossed : 0) + crossed);
        },
      },
      {
        name: "leap",
        broken: (_, a, b) =>
          b.pitch !== null && a.last !== null && limits.leap !== null && Math.abs(a.last - b.pitch) > limits.leap,
      },
      {
        name: "skipped string",
        broken: (_, a, b) =>
          b.pitch !== null &&
          a.last !== null &&
          !limits.skip &&
          cap !== null &&
          Math.abs(lies(a.last) - lies(b.pitch)) > 1,
      },
    ],
  });
  return solution.path.map((s) => s.pitch);
}

/** Pitches a part may use, nearest to the middle of the group first; those the limits allow. */
function within({ limits, on }: Request, classes: readonly number[]): number[] {
  const low = Math.max(limits.lowest, midi(on.lowest));
  const all = limits.pitches
    ? [...limits.pitches]
    : Array.from({ length: limits.highest - low + 1 }, (_, i) => low + i);
  return all.filter((p) => classes.includes(p % 12)).sort((a, b) => a - b);
}
/** Of many octaves, the ones about a height. */
const about = (pitches: readonly number[], height: number, most: number): number[] =>
  [...pitches]
    .sort((a, b) => Math.abs(a - height) - Math.abs(b - height))
    .slice(0, most)
    .sort((a, b) => a - b);

/** Pitches of a slot that are weighed. */
const MOST = 6;
const isOpen = ({ strings }: Instrument, pitch: number): boolean => strings.some((s) => midi(s.open) === pitch);

const laid = (
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
const BREATHES = new Set(["First sounds", "Steady"]);

/** One note for each chord, near to the one before, with a shape of its own; from the third level two a bar. */
export function writeOneNote(material: Material, request: Request): Draft {
  const { limits, who, on } = request;
  const twice = !BREATHES.has(who.level);
  const plain = slotsOf(material, request, (place) => (twice && place.ticks % 2 === 0 ? [place.ticks / 2] : []));
  const slots = twice ? plain : withBreath(material, request, plain);
  const middle = (limits.lowest + limits.highest) / 2;
  const height =
    limits.pitches && limits.pitches.size < 12 ? middle : Math.min(middle, 64 + (on.transposition > 0 ? 12 : 0));
  const reach = Math.min(7, (limits.highest - limits.lowest) / 2);
  const pitches = chosen(
    material,
    request,
    slots,
    (slot) => (slot.segment ? about(within(request, slot.segment.chord.classes), height, MOST) : []),
    (slot, pitch) => {
      const { segment } = slot;
      if (!segment) return PRICES.foreign;
      const order = segment.chord.classes.indexOf(pitch % 12);
      // A phrase rises to its middle and comes home.
      const arch = height - reach / 2 + Math.sin(Math.PI * Math.min(1, slot.way * 1.15)) * reach;
      const edge = slot.first || slot.last ? ([PRICES.rootAtEdge, 0, PRICES.rootAtEdge / 2, 1][order] ?? 1) : 0;
      return (
        Math.abs(pitch - arch) * PRICES.arch +
        edge +
        (PRICES.inChord[Math.max(0, order)] ?? PRICES.seventh) +
        (isOpen(on, pitch) ? PRICES.open : 0)
      );
    },
  );
  return {
    notes: laid(material, request, slots, pitches),
    leftOut: ["The rhythm and the runs of the tune: one note to each chord."],
  };
}

/** Tonic or fifth, held: whichever does not rub, changing only where it must. */
export function writeDrone(material: Material, request: Request): Draft {
  const { limits, on, who } = request;
  const tonic = semitoneOf(material.key.tonic);
  const classes = [tonic, (tonic + 7) % 12];
  const beginner = BREATHES.has(who.level);
  // Every fourth bar is struck twice, so that it never goes on unchanged.
  const slots0 = slotsOf(material, request, (place) =>
    place.index % 4 === 3 && place.ticks % 2 === 0 ? [place.ticks / 2] : [],
  );
  const slots = (beginner ? withBreath(material, request, slots0) : slots0).filter((s, i, all) => {
    const before = all[i - 1];
    return !before || s.bar !== before.bar || s.at * 2 === s.place.ticks;
  });
  const full = slots.map((s, i) => {
    const next = slots[i + 1];
    const until = next?.bar === s.bar ? next.at : s.at + s.ticks;
    return { ...s, ticks: Math.max(s.ticks, until - s.at) };
  });
  const height = (limits.lowest + limits.highest) / 2;
  const pitches = chosen(
    material,
    request,
    full,
    () => about(within(request, classes), height, MOST),
    (slot, pitch) => {
      const inChord = slot.segment?.chord.classes.includes(pitch % 12) ?? true;
      return (inChord ? 0 : 1.2) + (isOpen(on, pitch) ? PRICES.open : 0) - (pitch % 12 === tonic && slot.last ? 1 : 0);
    },
  );
  const notes = laid(material, request, full, pitches);
  if (limits.doubleStops === "none" || on.family !== "bowed")
    return { notes, leftOut: ["Everything that moves: the drone stands."] };
  return { notes: notes.map((n) => paired(on, n, classes)), leftOut: ["Everything that moves: the drone stands."] };
}

/** A second open string beside a drone's note, where it is of the drone too. */
function paired(on: Instrument, note: PartNote, classes: readonly number[]): PartNote {
  const [pitch = 0] = note.pitches;
  const open = on.strings.map((s) => midi(s.open));
  const own = open.findIndex((o, i) => o <= pitch && (open[i + 1] ?? 200) > pitch);
  const beside = [open[own - 1], open[own + 1]].find((o) => o !== undefined && classes.includes(o % 12) && o !== pitch);
  return beside === undefined ? note : { ...note, pitches: [pitch, beside].sort((a, b) => a - b) };
}

/** Long, short, short on an open string of the chord or the key; pairs of them from the third level. */
export function writeShuffle(material: Material, request: Request): Draft {
  const { on, limits, who } = request;
  const tonic = semitoneOf(material.key.tonic);
  const open = on.strings.filter((s) => !s.shortFrom).map((s) => midi(s.open));
  const usable = open.filter((p) => !limits.pitches || limits.pitches.has(p));
  const slots = slotsOf(material, request, () => []).filter((s) => s.at === 0);
  const whole = slots.map((s) => ({ ...s, ticks: s.place.ticks }));
  const pitches = chosen(
    material,
    request,
    whole,
    () => usable,
    (slot, pitch) => {
      const own = slot.segment?.chord.classes.includes(pitch % 12) ?? false;
      if (own) return 0;
      return [0, 7].includes((pitch - tonic + 120) % 12) ? 2.2 : 6;
    },
  );
  const notes = whole.flatMap((slot, i): PartNote[] => {
    const pitch = pitches[i];
    if (pitch === null || pitch === undefined) return [];
    return rhythmOf(slot.place).flatMap(([at, ticks]) => [{ bar: slot.bar, at, ticks, pitches: [pitch] }]);
  });
  const kept = keptShort(material, request, notes);
  const pair = limits.doubleStops !== "none" && !BREATHES.has(who.level) && on.family === "bowed";
  return {
    notes: pair ? kept.map((n) => pairedOpen(material, on, n, open)) : kept,
    leftOut: ["The tune’s notes: the rhythm is the part."],
  };
}
/** An open pair of strings under a chord. */
function pairedOpen(material: Material, on: Instrument, note: PartNote, open: readonly number[]): PartNote {
  const segment = segmentAt(segmentsOf(material)[note.bar] ?? [], note.at);
  return paired(on, note, segment?.chord.classes ?? open.map((o) => o % 12));
}
/** Long, short, short in the pulses of a bar: where each begins, and how long it is. */
function rhythmOf(place: Place): [number, number][] {
  const beat = pulse(place);
  const unit = place.metre.unit === 8 && place.metre.beats % 3 === 0 ? beat : beat * 2;
  const out: [number, number][] = [];
  for (let at = 0; at < place.ticks; at += unit) {
    const left = Math.min(unit, place.ticks - at);
    if (left < unit) out.push([at, left]);
    else if (unit === beat) out.push([at, (beat * 2) / 3], [at + (beat * 2) / 3, beat / 3]);
    else out.push([at, beat], [at + beat, beat / 2], [at + beat * 1.5, beat / 2]);
  }
  return out;
}
/** Strokes of a bar that are long enough, the others given to the stroke before; as many as the limits allow. */
function keptShort(material: Material, { limits }: Request, notes: readonly PartNote[]): PartNote[] {
  const byBar = new Map<number, PartNote[]>();
  for (const n of notes) byBar.set(n.bar, [...(byBar.get(n.bar) ?? []), n]);
  return [...byBar].flatMap(([bar, own]) => {
    const place = material.places[bar] as Place;
    const most = mostIn(material, place, limits);
    const grids = [1, pulse(place) / 2, pulse(place), place.ticks];
    for (const grid of grids) {
      const kept = own.filter((n) => n.at % grid === 0);
      const made = kept.map((n, i) => ({ ...n, ticks: (kept[i + 1]?.at ?? place.ticks) - n.at }));
      const bows = made.every((n) => limits.bow === null || n.ticks * material.tick <= limits.bow + 1e-9);
      if (made.length <= most && bows && made.every((n) => n.ticks * material.tick >= limits.shortest - 1e-9))
        return made;
    }
    return [];
  });
}

/** A chord begins on its root; between, its root again is dull. */
function placePrice(begins: boolean, isRoot: boolean): number {
  if (begins) return isRoot ? 0 : 4;
  return isRoot ? 0.5 : 0;
}

/** The roots of the chords on the first count; fifths between them; steps into the next; walking. */
export function writeBass(material: Material, request: Request): Draft {
  const { limits, who, on } = request;
  const level = ["First sounds", "Steady", "Moving", "Fluent", "Leading"].indexOf(who.level);
  const walking = (place: Place) => {
    const beat = pulse(place);
    const half = level >= 1 ? Math.max(1, Math.round(place.ticks / beat / 2)) : Number.POSITIVE_INFINITY;
    const wanted = level >= 3 ? 1 : half;
    return Array.from({ length: Math.ceil(place.ticks / beat) }, (_, i) => i * beat).filter((_, i) => i % wanted === 0);
  };
  const slots = slotsOf(material, request, walking);
  const few = level === 0 ? slots.filter((s) => s.at === 0).map((s) => ({ ...s, ticks: s.place.ticks })) : slots;
  const low = Math.max(limits.lowest, midi(on.lowest));
  const height = low + 7;
  const begins = (slot: Slot) => slot.segment !== undefined && slot.segment.at === slot.at;
  const pitches = chosen(
    material,
    request,
    few,
    (slot) => {
      const { segment } = slot;
      if (!segment) return [];
      const root = bassClass(segment.chord);
      const fifth = segment.chord.classes[2] ?? root;
      const moving = level < 3 ? [root, fifth] : segment.chord.classes;
      const classes = level === 0 || begins(slot) ? [root] : moving;
      return about(within(request, classes), height, MOST);
    },
    (slot, pitch) => {
      const { segment } = slot;
      if (!segment) return PRICES.foreign;
      const isRoot = pitch % 12 === bassClass(segment.chord);
      return (
        Math.abs(pitch - height) * 0.04 +
        placePrice(begins(slot), isRoot) +
        (rootClass(segment.chord) === pitch % 12 ? 0 : 0.1)
      );
    },
  );
  const notes = laid(material, request, few, pitches);
  const missing = few.length - pitches.filter((p) => p !== null).length;
  return {
    notes,
    leftOut:
      missing > 0
        ? [`${missing} roots that do not lie on ${level === 0 ? "an open string" : "your strings"}: rest there.`]
        : [],
  };
}

/** Beats a melody note is held from which it is answered. */
const HELD = 1.5;
/** Moves while the melody holds, rests while it moves. */
export function writeCounter(material: Material, request: Request): Draft {
  const { limits } = request;
  const segments = segmentsOf(material);
  const slots = material.melody
    .flatMap((n): Slot[] => {
      const { place } = n;
      const beat = pulse(place);
      const within = Math.min(n.ticks, place.at + place.ticks - n.at);
      if (within < HELD * beat || place.pickup) return [];
      const at = n.at - place.at;
      const unit = beat / (beat % 3 === 0 && place.metre.unit === 8 ? 3 : 2);
      const starts: number[] = [];
      for (
        let s = at + unit * (unit * 3 === beat ? 3 : 2);
        s + unit <= at + within;
        s += unit * (unit * 3 === beat ? 1 : 1)
      )
        starts.push(s);
      const room = Math.min(starts.length, mostIn(material, place, limits), 4);
      return starts.slice(0, room).map(
        (s, i): Slot => ({
          bar: place.index,
          at: s,
          ticks: unit,
          segment: segmentAt(segments[place.index] ?? [], s),
          place,
          first: i === 0,
          last: i === room - 1,
          way: i / Math.max(1, room),
          pair: false,
        }),
      );
    })
    .filter((s) => s.ticks * material.tick >= limits.shortest - 1e-9);
  const height = Math.min((limits.lowest + limits.highest) / 2, 62);
  const pitches = chosen(
    material,
    request,
    slots,
    (slot) => (slot.segment ? about(within(request, slot.segment.chord.classes), height, MOST) : []),
    (_, pitch) => Math.abs(pitch - height) * 0.05,
  );
  const figures = slots.length;
  return {
    notes: laid(material, request, slots, pitches),
    leftOut:
      figures === 0
        ? ["The tune holds no note long enough to answer."]
        : ["What the tune plays: this answers it where it holds."],
  };
}
