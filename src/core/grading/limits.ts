import { type Instrument, LEVELS, type Level, rangeOf, reachOf } from "../instruments";
import { inKey, type Key, midi, parsePitch, spell } from "../theory";
import { knows, type Learner } from "./learner";
import { readWord } from "./words";

/** What a part may ask of a learner. Sounding pitches (MIDI), seconds, semitones; null where nothing limits it. */
export type Limits = {
  lowest: number;
  highest: number;
  pitches: ReadonlySet<number> | null;
  /** Shortest note, and most notes in a second of any bar. */
  shortest: number;
  perSecond: number;
  leap: number | null;
  doubleStops: "none" | "open" | "held" | "any";
  /** Strings by number that may be used. */
  strings: readonly number[] | null;
  /** Longest bow or breath. */
  bow: number | null;
  /** String crossings, or changes of register, of a bar; whether a string may be skipped. */
  crossings: number | null;
  skip: boolean;
  /** Notes in one bow. */
  slur: number;
  shapes: number | null;
  /** Chord changes of a bar, and the least time between two. */
  changes: number | null;
  gap: number;
};

type Five<T> = readonly [T, T, T, T, T];
/** By level: teachers' judgement. */
const BY_LEVEL = {
  shortest: [0.6, 0.24, 0.16, 0.11, 0.08],
  perSecond: [1.5, 3, 4.5, 7, 10],
  bow: [2, 4, 6, 8, 10],
  leap: [7, 9, 12, 16, null],
  shapes: [2, 3, 5, 8, null],
  changes: [0.5, 1, 2, 4, null],
  gap: [3, 1.2, 0.7, 0.5, 0.3],
  crossings: [1, 2, 5, null, null],
  slur: [1, 2, 3, 8, 16],
  doubleStops: ["none", "none", "open", "held", "any"],
} satisfies Record<string, Five<unknown>>;

const step = (level: Level): number => LEVELS.indexOf(level);
/** Semitones above the open string, by level: open and first finger; a pattern; both seconds; all of first position. */
const BOWED: Five<readonly number[]> = [
  [0, 2],
  [0, 2, 4, 5],
  [0, 2, 3, 4, 5],
  [0, 1, 2, 3, 4, 5, 6, 7],
  [0, 1, 2, 3, 4, 5, 6, 7],
];
const BOWED_WORDS: readonly (readonly [word: string, semitones: number])[] = [
  ["low2", 3],
  ["high3", 6],
  ["fourth", 7],
  ["extension", 1],
];
/** Strings first lessons begin on. */
const FIRST_STRINGS = new Set([2, 9]);

/** Semitones above the lowest note of what has six holes and lies in its own scale. */
const SCALE = [0, 2, 4, 5, 7, 9, 11];
const FLAT_SEVENTH = 10;
const REGISTER = 12;
const HIGH_G = 17;
const B = 9;

/** The strings a bowed or plucked learner plays the tune on. */
function stringsOf(on: Instrument, who: Learner): readonly number[] | null {
  const level = step(who.level);
  const all = knows(who, "allstrings");
  if (level >= 2 && all !== false) return null;
  if (all === true) return null;
  const known = on.strings.filter((s) => FIRST_STRINGS.has(midi(s.open) % 12)).map((s) => s.number);
  if (on.family === "bowed" && on.name !== "bass") {
    const middle = on.strings.slice(-3, -1).map((s) => s.number);
    return known.length >= 2 ? known : middle;
  }
  return null;
}

function bowedPitches(on: Instrument, who: Learner, strings: readonly number[] | null): Set<number> {
  const level = step(who.level);
  const allowed = new Set(BOWED[level]);
  for (const [word, semitones] of BOWED_WORDS) {
    const known = knows(who, word);
    if (known === true) allowed.add(semitones);
    if (known === false) allowed.delete(semitones);
  }
  const highest = reachOf(on, who.level).highest;
  if (level === 4) for (let s = 8; s <= highest; s++) allowed.add(s);
  const pitches = new Set<number>();
  for (const { number, open } of on.strings)
    if (!strings || strings.includes(number)) for (const s of allowed) pitches.add(midi(open) + s);
  return pitches;
}

/** Of the plucked tune: one string, then two that lie together, with few frets: those that hold most of it. */
function pluckedStrings(on: Instrument, who: Learner, wanted: readonly number[]): readonly number[] | null {
  const level = step(who.level);
  if (level >= 2 || knows(who, "allstrings") === true) return null;
  const reach = reachOf(on, who.level);
  const own = on.strings.filter((s) => !s.shortFrom && (reach.strings?.includes(s.number) ?? true));
  const groups = level === 0 ? own.map((s) => [s]) : own.slice(1).map((s, i) => [own[i], s]);
  const frets = Math.min(level === 0 ? 3 : 5, reach.highest);
  const held = (group: readonly (typeof own)[number][]) =>
    wanted.filter((w) => group.some((s) => w >= midi(s.open) && w - midi(s.open) <= frets)).length;
  const named = groups.map((g) => g.filter((s) => s !== undefined));
  const best = named.reduce<(typeof own)[number][]>((a, b) => (held(b) > held(a) ? b : a), named[0] ?? []);
  return best.length > 0 ? best.map((s) => s.number) : null;
}

function fretted(on: Instrument, who: Learner, strings: readonly number[] | null): Set<number> {
  const level = step(who.level);
  const most = Math.min([3, 5, 7, 12, 24][level] as number, reachOf(on, who.level).highest);
  const reach = reachOf(on, who.level).strings;
  const pitches = new Set<number>();
  for (const { number, open, shortFrom } of on.strings) {
    if (shortFrom || (strings && !strings.includes(number)) || (reach && !reach.includes(number))) continue;
    for (const f of on.frets ?? []) if (Number.parseFloat(f.label) <= most) pitches.add(midi(open) + f.semitones);
  }
  return pitches;
}

/** The lowest of the six holes, as a whistle's are counted: a recorder has one more below, a flute is in D. */
function sixOf(on: Instrument): number {
  if (on.name.includes("recorder")) return midi(on.lowest) + 2;
  return on.name === "flute" ? midi(parsePitch("D4")) : midi(on.lowest);
}

/** Of what is blown: B A G first, the lower octave, up to high G, then all; other notes when they are known. */
function blown(on: Instrument, who: Learner): Set<number> {
  const level = step(who.level);
  const low = midi(on.lowest);
  // A recorder's and a flute's fingers are counted as a whistle's: its B A G lie under the same three.
  const six = sixOf(on);
  const pitches = new Set<number>();
  if (level === 0) for (const s of [5, 7, B]) pitches.add(six + s);
  const top = [0, B, HIGH_G, 24, 24][level] as number;
  for (let s = six === low ? 0 : -2; s <= top; s++) {
    const inScale = SCALE.includes(((s % REGISTER) + REGISTER) % REGISTER);
    if (level > 0 && inScale) pitches.add(six + s);
  }
  const flat = knows(who, "cnat");
  if (level >= 2 ? flat !== false : flat === true)
    for (const s of [FLAT_SEVENTH, 22]) if (s <= Math.max(top, FLAT_SEVENTH)) pitches.add(six + s);
  const half = knows(who, "halfhole");
  if (level === 4 ? half !== false : half === true) for (let s = 0; s <= top; s++) pitches.add(six + s);
  if (knows(who, "lowD") === true) for (const s of [0, 2, 4]) pitches.add(six + s);
  if (knows(who, "lowD") === false) for (const s of [0, 2, 4]) pitches.delete(six + s);
  if (knows(who, "highoctave") === true) for (const s of SCALE) pitches.add(six + REGISTER + s);
  if (knows(who, "highoctave") === false) for (const p of pitches) if (p >= six + REGISTER) pitches.delete(p);
  return pitches;
}

/** Of keys: five that lie under one hand, then an octave, then all; the best place for the key. */
function keys(on: Instrument, who: Learner, key: Key, wanted: readonly number[]): Set<number> | null {
  const level = step(who.level);
  if (level >= 2) return null;
  const [low, high] = [midi(on.lowest), midi(on.highest)];
  const scale = Array.from({ length: high - low + 1 }, (_, i) => low + i).filter((n) => inKey(spell(n, key), key));
  const width = level === 0 ? 5 : 8;
  const starts = scale.slice(0, Math.max(1, scale.length - width + 1));
  const held = (i: number) =>
    wanted.filter((w) => w >= (scale[i] as number) && w <= (scale[i + width - 1] ?? high)).length;
  const best = starts.reduce((a, _, i) => (held(i) > held(a) ? i : a), 0);
  return new Set(scale.slice(best, best + width));
}

/** Of a singer: five steps, an octave, all. */
const sung = keys;

/** Of a bass: open strings; first position; farther. */
function bassPitches(on: Instrument, who: Learner): Set<number> {
  const level = step(who.level);
  const most = level === 0 ? 0 : reachOf(on, who.level).highest;
  const pitches = new Set<number>();
  for (const { open } of on.strings) for (let s = 0; s <= most; s++) pitches.add(midi(open) + s);
  return pitches;
}
/** A bass on an instrument with more strings than that: its lowest, open; then a few frets of them. */
const THUMB = { strings: 3, frets: [0, 3, 4, 5, 7] };
function thumbPitches(on: Instrument, who: Learner): Set<number> {
  const most = THUMB.frets[step(who.level)] as number;
  const low = [...on.strings].sort((a, b) => midi(a.open) - midi(b.open)).slice(0, THUMB.strings);
  const frets = (on.frets ?? []).filter((f) => Number.parseFloat(f.label) <= most).map((f) => f.semitones);
  return new Set(low.flatMap(({ open }) => [0, ...frets].map((s) => midi(open) + s)));
}
const isBass = ({ name }: Instrument) => name === "bass" || name === "plucked bass";

/** What kind of part it is: one line of notes, chords under a hand, or strokes without pitches. */
export type PartKind = "line" | "bass line" | "chords" | "drum";

type Asked = { who: Learner; on: Instrument; key: Key; kind: PartKind; wanted: readonly number[] };

/**
 * The limits of a learner for a kind of part: those of the level, switched word by word by the record. `wanted` are the
 * pitches the part would like, so that a beginner's one string is the one that holds most of them.
 */
export function limitsOf({ who, on, key, kind, wanted }: Asked): Limits {
  const level = step(who.level);
  const quick = Math.max(0, Math.min(4, level + (knows(who, "quick") === true ? 1 : 0)));
  const long = knows(who, "longbreath") === true ? 2 : 0;
  const sustained = on.family === "bowed" || on.family === "wind" || on.family === "voice";
  const strings = kind === "line" ? tuneStrings(on, who, wanted) : null;
  const pitches =
    kind === "chords" || kind === "drum" ? null : bounded(pitchesOf(on, who, key, kind, strings, wanted), who, key);
  const { lowest, highest } = rangeOf(on, who.level);
  const all = pitches ? [...pitches] : [lowest, highest];
  const slurs = [knows(who, "slur2") === true ? 2 : 0, knows(who, "slur3") === true ? 3 : 0];
  const cut = [knows(who, "slur2") === false ? 1 : 16, knows(who, "slur3") === false ? 2 : 16];
  const free = kind === "chords" || kind === "drum";
  return {
    lowest: all.length > 0 ? Math.min(...all) : lowest,
    highest: all.length > 0 ? Math.max(...all) : highest,
    pitches,
    shortest: BY_LEVEL.shortest[quick] as number,
    perSecond: BY_LEVEL.perSecond[quick] as number,
    leap: free || (kind === "bass line" && level === 0) ? null : (BY_LEVEL.leap[level] as number | null),
    doubleStops: doubleStops(who, level),
    strings,
    bow: sustained ? (BY_LEVEL.bow[level] as number) + long : null,
    crossings: crossingsOf(on, who, level, kind),
    skip: knows(who, "skip") ?? level >= 3,
    slur: Math.min(...cut, Math.max(BY_LEVEL.slur[level] as number, ...slurs)),
    shapes: shapesOf(who, BY_LEVEL.shapes[level] as number | null),
    changes: BY_LEVEL.changes[level] as number | null,
    gap: BY_LEVEL.gap[level] as number,
  };
}

/** Chord shapes of the level, or as many as the record names. */
function shapesOf({ can }: Learner, ofLevel: number | null): number | null {
  const named = can.map(readWord).filter((w) => w.word === "shape").length;
  return ofLevel === null ? null : Math.max(ofLevel, named);
}

function doubleStops(who: Learner, level: number): Limits["doubleStops"] {
  if (knows(who, "double") === true) return level >= 4 ? "any" : "held";
  if (knows(who, "double") === false) return knows(who, "opendouble") === true ? "open" : "none";
  if (knows(who, "opendouble") === true && level < 2) return "open";
  if (knows(who, "opendouble") === false) return "none";
  return BY_LEVEL.doubleStops[level] as Limits["doubleStops"];
}

function crossingsOf(on: Instrument, who: Learner, level: number, kind: PartKind): number | null {
  if (kind !== "line") return null;
  if (on.family === "bowed") return BY_LEVEL.crossings[level] as number | null;
  if (on.family === "wind" && level <= 2) return level === 2 || knows(who, "highoctave") === true ? 1 : 0;
  return null;
}

const tuneStrings = (on: Instrument, who: Learner, wanted: readonly number[]): readonly number[] | null => {
  if (on.family === "bowed") return isBass(on) ? null : stringsOf(on, who);
  return on.family === "plucked" && !isBass(on) ? pluckedStrings(on, who, wanted) : null;
};

function pitchesOf(
  on: Instrument,
  who: Learner,
  key: Key,
  kind: PartKind,
  strings: readonly number[] | null,
  wanted: readonly number[],
): Set<number> | null {
  if (isBass(on)) return bassPitches(on, who);
  if (on.family === "bowed" && kind === "bass line" && step(who.level) === 0)
    return new Set(on.strings.flatMap((s) => [midi(s.open), midi(s.open) + 2]));
  if (on.family === "plucked" && kind === "bass line") return thumbPitches(on, who);
  const families: Partial<Record<Instrument["family"], () => Set<number> | null>> = {
    bowed: () => bowedPitches(on, who, strings),
    plucked: () => fretted(on, who, strings),
    wind: () => blown(on, who),
    box: () => keys(on, who, key, wanted),
    keyboard: () => keys(on, who, key, wanted),
    voice: () => sung(on, who, key, wanted),
  };
  return families[on.family]?.() ?? null;
}

const MODES: Readonly<Record<string, Key["mode"]>> = {
  m: "minor",
  min: "minor",
  dor: "dorian",
  mix: "mixolydian",
  phr: "phrygian",
  lyd: "lydian",
};
/** A key as a record names it: G, Edor, Bbm. */
function parseKey(text: string): Key {
  const [, tonic = "C", mode = ""] = /^([A-G](?:#|b)?)(.*)$/.exec(text) ?? [];
  return { tonic, mode: MODES[mode.toLowerCase()] ?? "major" } as Key;
}

/** What a record says of ranges and keys. */
function bounded(pitches: Set<number> | null, who: Learner, key: Key): Set<number> | null {
  const ranges = who.can.map(readWord).filter((w) => w.word === "range");
  const keysKnown = who.can.map(readWord).filter((w) => w.word === "key");
  let made = pitches;
  for (const r of ranges) {
    const [low, high] = [midi(parsePitch(r.lowest)), midi(parsePitch(r.highest))];
    const scale = Array.from({ length: high - low + 1 }, (_, i) => low + i).filter((n) => inKey(spell(n, key), key));
    made = new Set([...(made ?? []), ...scale]);
  }
  for (const w of who.cannot.map(readWord))
    if (w.word === "range" && made) {
      const [low, high] = [midi(parsePitch(w.lowest)), midi(parsePitch(w.highest))];
      made = new Set([...made].filter((p) => p < low || p > high));
    }
  for (const { key: known } of keysKnown) {
    const own = parseKey(known);
    const [low, high] = made && made.size > 0 ? [Math.min(...made), Math.max(...made)] : [1, 0];
    const scale = Array.from({ length: Math.max(0, high - low + 1) }, (_, i) => low + i);
    made = new Set([...(made ?? []), ...scale.filter((n) => inKey(spell(n, own), own))]);
  }
  return made;
}
