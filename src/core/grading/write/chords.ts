import type { Instrument } from "../../instruments";
import { isCompound, type Place } from "../../score";
import { solved } from "../../search";
import { type Shape, shapesOf } from "../../technique";
import { midi } from "../../theory";
import { knows } from "../learner";
import { readWord } from "../words";
import {
  bassClass,
  chordOf,
  type Draft,
  type Material,
  mostIn,
  type PartNote,
  pulse,
  type Request,
  rootClass,
  type Segment,
  segmentAt,
  segmentsOf,
} from "./material";

/** A chord as it is struck: what sounds, on which strings and frets where it has strings; and its low notes alone. */
type Struck = {
  symbol: string;
  pitches: number[];
  strings?: number[];
  frets?: string[];
  /** Root and fifth below, in turn, where the hand has them. */
  basses: { pitches: number[]; strings?: number[]; frets?: string[] }[];
};

/** Middle of the hand on keys, and where the left hand's notes lie at the highest. */
const MIDDLE = 60;
const LEFT = 50;
/** By how much the hand lies higher where other notes than the usual are wanted: the next inversion. */
const TURNED = 4;
/** A triad under one hand, about the middle; root and fifth under the other. */
function triad(on: Instrument, symbol: string, turned: boolean): Struck {
  const { classes } = chordOf(symbol);
  const lowest = midi(on.lowest);
  const above = (c: number, from: number) => from + ((((c - from) % 12) + 12) % 12);
  const root = above(bassClass(chordOf(symbol)), Math.max(lowest, LEFT - 11));
  // The chord lies over its bass, where an instrument begins high.
  const low = Math.max(MIDDLE - 5, Math.min(root, lowest + 9)) + (turned ? TURNED : 0);
  const pitches = classes.slice(0, 4).map((c) => above(c, low));
  const fifth = above(fifthOf(symbol), Math.max(lowest, root - 11));
  return { symbol, pitches: pitches.sort((a, b) => a - b), basses: [{ pitches: [root] }, { pitches: [fifth] }] };
}
const fifthOf = (symbol: string): number => chordOf(symbol).classes[2] ?? rootClass(chordOf(symbol));

function held(on: Instrument, symbol: string, shape: Shape): Struck {
  const notes = [...shape.held].sort((a, b) => a.noteNumber - b.noteNumber);
  const own = notes.map((h) => ({
    pitches: [h.noteNumber],
    strings: [on.strings[h.string]?.number ?? 0],
    frets: [h.fret.label],
  }));
  // Open strings that the shape leaves out may still be struck alone.
  const free = on.strings
    .filter((s, i) => !s.shortFrom && !notes.some((h) => h.string === i))
    .map((s) => ({ pitches: [midi(s.open)], strings: [s.number], frets: ["0"] }));
  const low = [...own, ...free].sort((a, b) => (a.pitches[0] ?? 0) - (b.pitches[0] ?? 0));
  const lowest = (c: number) => low.find((n) => (n.pitches[0] ?? 0) % 12 === c);
  const root = lowest(bassClass(chordOf(symbol)));
  const fifth = low.find((n) => (n.pitches[0] ?? 0) % 12 === fifthOf(symbol) && n.strings[0] !== root?.strings[0]);
  return {
    symbol,
    pitches: notes.map((h) => h.noteNumber),
    strings: own.map((n) => n.strings[0] ?? 0),
    frets: own.map((n) => n.frets[0] ?? "0"),
    basses: [root, fifth].flatMap((n) => (n ? [n] : [])),
  };
}

/** The chords a learner knows of the tune's: as many as the level has, the commonest first; others by the record. */
function repertoire({ chords }: Material, { on, who, limits, avoid }: Request): Map<string, Struck> {
  const time = new Map<string, number>();
  for (const c of chords) time.set(c.symbol, (time.get(c.symbol) ?? 0) + c.ticks);
  const words = (list: readonly string[]) => list.map(readWord).flatMap((w) => (w.word === "shape" ? [w.symbol] : []));
  const [known, unknown] = [words(who.can), words(who.cannot)];
  const barre = knows(who, "barre");
  const made = new Map<string, Struck>();
  const order = [...time].sort((a, b) => b[1] - a[1]).map(([symbol]) => symbol);
  for (const symbol of [...known.filter((s) => time.has(s)), ...order]) {
    if (made.has(symbol) || unknown.includes(symbol)) continue;
    if (limits.shapes !== null && made.size >= limits.shapes && !known.includes(symbol)) continue;
    if (!on.frets) made.set(symbol, triad(on, symbol, avoid !== undefined));
    else {
      const all = shapesOf(on, symbol, known.includes(symbol) ? "Leading" : who.level);
      const shapes = barre === false ? all.filter((s) => s.barre === 0) : all;
      const shape = (avoid && shapes[1]) ?? shapes[0];
      if (shape) made.set(symbol, held(on, symbol, shape));
    }
  }
  return made;
}

/**
 * Which chord is held over each stretch: those that are known, not changing more often than the limits say. Where no
 * stroke falls nothing is held.
 */
function changes(
  material: Material,
  request: Request,
  stretches: readonly Segment[],
  struck: (stretch: Segment) => boolean,
): (Struck | null)[] {
  const { limits } = request;
  if (stretches.length === 0) return [];
  const own = repertoire(material, request);
  const places = ({ bar }: Segment) => material.places[bar] as Place;
  const start = (s: Segment) => (places(s).at + s.at) * material.tick;
  const bars = (s: Segment) => s.bar + s.at / (places(s).ticks || 1);
  const gapBars = limits.changes === null ? 0 : 1 / limits.changes;
  const late = (a: Segment, b: Segment) =>
    start(b) - start(a) >= limits.gap - 1e-9 && bars(b) - bars(a) >= gapBars - 1e-9;
  /** How many stretches before each a change must lie at least, so that there may be another. */
  const needs = stretches.map((s, i) => {
    const enough = stretches.findLastIndex((before, k) => k < i && late(before, s));
    return enough < 0 ? i + 1 : i - enough;
  });
  const most = Math.max(...needs);
  const held = stretches.map((s) => (struck(s) ? (own.get(s.symbol) ?? common(own, s) ?? null) : null));
  const symbols = [...new Set(held.flatMap((h) => (h ? [h.symbol] : [])))];
  /** The last chord that was held, stretches since it came in (as many as are needed at most), whether it sounds. */
  type State = { last: string | null; since: number; sounds: boolean };
  const counts = Array.from({ length: most + 1 }, (_, since) => since);
  const states = held.map((h): State[] => [
    ...(h ? counts.map((since): State => ({ last: h.symbol, since, sounds: true })) : []),
    ...[null, ...symbols].flatMap((last) => counts.map((since): State => ({ last, since, sounds: false }))),
  ]);
  const solution = solved<State>({
    states,
    limits: [{ name: "begins", broken: (i, s) => i === 0 && (s.since !== 0 || (!s.sounds && s.last !== null)) }],
    local: [{ name: "silent", at: (i, s) => (s.sounds || !held[i] ? 0 : silence(stretches[i] as Segment)) }],
    moves: [],
    moveLimits: [
      {
        name: "change",
        broken: (i, a, b) => {
          const stays = b.last === a.last && b.since === Math.min(most, a.since + 1);
          if (!b.sounds || b.last === a.last) return !stays;
          return b.since !== 0 || (a.last !== null && a.since + 1 < (needs[i] ?? 1));
        },
      },
    ],
  });
  return solution.path.map((s, i) => (s.sounds ? (held[i] ?? null) : null));

  /** What a rest costs: its share of the bar, more at the bar's beginning, most where a phrase opens or closes. */
  function silence(stretch: Segment): number {
    const { at, bar, ticks } = stretch;
    const opens = at === 0 && material.phrases.some((p) => p.from === bar || (p.from === bar - 1 && isPickup(p.from)));
    const closes = material.phrases.some((p) => p.to === bar) && at + ticks >= places(stretch).ticks;
    const edge = opens || closes ? SILENT.edge : 0;
    return (ticks / (places(stretch).ticks || 1)) * SILENT.bar + (at === 0 ? SILENT.downbeat : 0) + edge;
  }
  function isPickup(bar: number): boolean {
    return material.places[bar]?.pickup === true;
  }
}
/** What silence costs, in points: a bar of it, a downbeat, the edge of a phrase. Teachers' judgement. */
const SILENT = { bar: 4, downbeat: 1, edge: 2 };
/** A known chord that shares its root, where the very chord is not known. */
function common(own: ReadonlyMap<string, Struck>, { chord }: Segment): Struck | undefined {
  return [...own.values()].find(
    (s) => rootClass(chordOf(s.symbol)) === rootClass(chord) && chordOf(s.symbol).classes[1] === chord.classes[1],
  );
}

/** A stroke of a bar: where, and how; `bass` strikes one low string alone. */
type Blow = { at: number; stroke: "down" | "up" | "bass" | "brush" | "chop" };
/** The strokes of a bar with its chords. */
type Blows = (place: Place, own: readonly Segment[]) => Blow[];

/** Strokes by level: where a chord begins; the beats; bass and brush. */
function blowsOf(place: Place, own: readonly Segment[], level: number, who: Request["who"]): Blow[] {
  const beat = pulse(place);
  const count = Math.max(1, Math.round(place.ticks / beat));
  const boom = level >= 2 || knows(who, "boombrush") === true;
  if (level === 0) return [...new Set([0, ...own.map((s) => s.at)])].map((at) => ({ at, stroke: "down" as const }));
  const beats = Array.from({ length: count }, (_, i) => i * beat);
  if (!boom || knows(who, "boombrush") === false) return beats.map((at) => ({ at, stroke: "down" as const }));
  if (isCompound(place.metre))
    return beats.flatMap((at): Blow[] => [
      { at, stroke: "bass" },
      { at: at + (beat * 2) / 3, stroke: "brush" },
    ]);
  if (count === 3) return beats.map((at, i) => ({ at, stroke: i === 0 ? ("bass" as const) : ("brush" as const) }));
  return beats.map((at, i) => ({ at, stroke: i % 2 === 0 ? ("bass" as const) : ("brush" as const) }));
}

/** Where off-beats stand, in pulses, by the dance: teachers' judgement. */
function offBeats(place: Place, dance: string | null, level: number): number[] {
  const beat = pulse(place);
  const count = Math.max(1, Math.round(place.ticks / beat));
  if (dance === "strathspey") return [];
  if (isCompound(place.metre)) return Array.from({ length: count }, (_, i) => i * beat + (beat * 2) / 3);
  if (count === 3) return level < 2 ? [beat] : [beat, 2 * beat];
  if (dance === "polka" || count <= 2) return Array.from({ length: count }, (_, i) => i * beat + beat / 2);
  return Array.from({ length: count }, (_, i) => i * beat).filter((_, i) => i % 2 === 1);
}

const LEVEL = ["First sounds", "Steady", "Moving", "Fluent", "Leading"];

function struckParts(material: Material, request: Request, blows: Blows, bars: (place: Place) => boolean): PartNote[] {
  const { limits } = request;
  const byBar = segmentsOf(material);
  const closes = new Set(material.phrases.map((p) => p.to));
  const beginner = LEVEL.indexOf(request.who.level) < 2;
  const inBar = material.places.map((place) => {
    if (place.pickup || !bars(place)) return [];
    const own = byBar[place.index] ?? [];
    const all = fitting(material, request, place, blows(place, own));
    return beginner && closes.has(place.index) ? breathing(all, own.at(-1)?.at ?? 0) : all;
  });
  const stretches = byBar.flat();
  const falls = (s: Segment) => inBar[s.bar]?.some((b) => b.at >= s.at && b.at < s.at + s.ticks) ?? false;
  const held = changes(material, request, stretches, falls);
  const heldBy = new Map(stretches.map((s, i) => [s, held[i] ?? null]));
  // A chord may follow another only when the last one has been there long enough, stroke by stroke.
  let last: { symbol: string; at: number } | undefined;
  const inTime = (place: Place, at: number, struck: Struck, pitches: readonly number[]): boolean => {
    if (pitches.length < 2) return true;
    const now = (place.at + at) * material.tick;
    if (last && last.symbol !== struck.symbol && now - last.at < limits.gap - 1e-9) return false;
    if (!last || last.symbol !== struck.symbol) last = { symbol: struck.symbol, at: now };
    return true;
  };
  return material.places.flatMap((place): PartNote[] => {
    const own = inBar[place.index] ?? [];
    const basses = new Map<Segment, number>();
    return own.flatMap((b): PartNote[] => {
      const segment = segmentAt(byBar[place.index] ?? [], b.at);
      const struck = segment && heldBy.get(segment);
      if (!segment || !struck) return [];
      const turn = basses.get(segment) ?? 0;
      if (b.stroke === "bass") basses.set(segment, turn + 1);
      const sounds = soundsOf(struck, b.stroke, turn);
      if (!inTime(place, b.at, struck, sounds.pitches)) return [];
      // A chord that is struck but once ends where the next one would begin.
      const until = Math.min(b.at + b.ticks, segment.at + segment.ticks);
      const ticks = (until - b.at) * material.tick >= limits.shortest - 1e-9 ? until - b.at : b.ticks;
      return [{ bar: place.index, at: b.at, ticks, stroke: b.stroke, ...sounds }];
    });
  });
}

/** A beginner's last bar of a phrase: one stroke rests, after the one that closes it, or else before it. */
function breathing<T extends { at: number; ticks: number }>(strokes: readonly T[], close: number): T[] {
  if (strokes.length < 2) return [...strokes];
  const after = (strokes.at(-1) as T).at > close;
  return strokes.filter((_, i) => i !== strokes.length - (after ? 1 : 2));
}

/** The strokes of a bar that are few and long enough, each until the next; the first alone where they are not. */
function fitting(material: Material, { limits }: Request, place: Place, blows: readonly Blow[]) {
  const most = mostIn(material, place, limits);
  const all = blows.filter((b) => b.at < place.ticks).sort((a, b) => a.at - b.at);
  const long = (ticks: number) => ticks * material.tick >= limits.shortest - 1e-9;
  const sized = all.map((b, i) => ({ ...b, ticks: (all[i + 1]?.at ?? place.ticks) - b.at }));
  if (sized.length <= most && sized.every((b) => long(b.ticks))) return sized;
  const few = all.slice(0, Math.min(1, most)).map((b) => ({ ...b, ticks: place.ticks - b.at }));
  return few.filter((b) => long(b.ticks));
}

/** Strings that a brush sounds at most: the highest. */
const BRUSHED = 3;
/** What a stroke sounds: a bass the root, then root and fifth in turn; a brush the high strings; any other all. */
function soundsOf(struck: Struck, stroke: Blow["stroke"], turn: number): Sounds {
  if (stroke === "bass") return picked(struck.basses[turn % Math.max(1, struck.basses.length)] ?? struck, [0]);
  const { length } = struck.pitches;
  const all = Array.from({ length }, (_, i) => i);
  return picked(struck, stroke === "brush" ? all.slice(-BRUSHED) : all);
}
type Sounds = Pick<PartNote, "pitches" | "strings" | "frets">;
const picked = ({ pitches, strings, frets }: Omit<Struck, "symbol" | "basses">, which: readonly number[]): Sounds => {
  const of = <T>(all: readonly T[]): T[] => which.flatMap((i) => (i < all.length ? [all[i] as T] : []));
  return {
    pitches: of(pitches),
    ...(strings ? { strings: of(strings) } : {}),
    ...(frets ? { frets: of(frets) } : {}),
  };
};

const unknownWords = (material: Material, request: Request): string[] => {
  const own = repertoire(material, request);
  const missing = [...new Set(material.chords.map((c) => c.symbol))].filter((s) => !own.has(s));
  return missing.length > 0 ? [`${missing.join(", ")}: not among your shapes yet. Rest there, and keep the beat.`] : [];
};

/** Chords struck on the beats, as the level has them. */
export function writeStrum(material: Material, request: Request): Draft {
  const level = LEVEL.indexOf(request.who.level);
  return {
    notes: struckParts(
      material,
      request,
      (place, own) => blowsOf(place, own, level, request.who),
      () => true,
    ),
    leftOut: unknownWords(material, request),
  };
}

/** An off-beat is short: a part of the beat, or as short as the learner plays. */
function shortened(material: Material, { limits }: Request, note: PartNote): PartNote {
  const place = material.places[note.bar] as Place;
  const unit = pulse(place) / (isCompound(place.metre) ? 3 : 2);
  const least = Math.ceil(limits.shortest / material.tick);
  return { ...note, ticks: Math.min(note.ticks, Math.max(unit, least)) };
}

/** Chords between the beats, where the dance has them; in every other bar to begin with. */
export function writeOffBeats(material: Material, request: Request): Draft {
  const level = LEVEL.indexOf(request.who.level);
  const places = (place: Place): Blow[] =>
    offBeats(place, material.dance, level).map((at) => ({ at, stroke: "chop" as const }));
  const notes = struckParts(material, request, places, (place) => level >= 2 || place.index % 2 === 1);
  return {
    notes: notes.map((n) => shortened(material, request, n)),
    leftOut: [...unknownWords(material, request), ...(notes.length === 0 ? ["This dance has no off-beats."] : [])],
  };
}

/** Beats; heavy and light; running; with a fill at the end of eight bars. */
export function writeDrum(material: Material, { limits, who, avoid }: Request): Draft {
  const level = LEVEL.indexOf(who.level);
  const closes = new Set(material.phrases.map((p) => p.to));
  const ends = new Set(material.phrases.filter((_, i) => i % 2 === 1).map((p) => p.to));
  const notes = material.places.flatMap((place): PartNote[] => {
    if (place.pickup) return [];
    const beat = pulse(place);
    const parts = isCompound(place.metre) ? 3 : 2;
    const unit = level >= 2 && (beat / parts) * material.tick >= limits.shortest - 1e-9 ? beat / parts : beat;
    const starts = Array.from({ length: Math.max(1, Math.floor(place.ticks / unit)) }, (_, i) => i * unit);
    const most = mostIn(material, place, limits);
    const running = starts.length <= most ? starts : starts.filter((s) => s % beat === 0).slice(0, most);
    // Where a phrase closes a beginner waits a beat; from the fourth level on there is a fill before a new strain.
    const waits = level < 2 ? closes.has(place.index) : level < 3 && ends.has(place.index);
    const few = waits && running.length > 1 ? running.slice(0, -1) : running;
    const long = few.filter((s, i) => ((few[i + 1] ?? place.ticks) - s) * material.tick >= limits.shortest - 1e-9);
    const fills = level >= 3 && ends.has(place.index);
    return long.map((at, i) => ({
      bar: place.index,
      at,
      // A stroke is short: what follows it is a rest.
      ticks: Math.min((long[i + 1] ?? place.ticks) - at, lasting(unit)),
      pitches: [],
      stroke:
        (avoid ? isLeaning(place, at, unit) : isHeavy(place, at)) || (fills && at >= place.ticks - beat)
          ? ("heavy" as const)
          : ("light" as const),
    }));

    /** The length of a stroke, as long as the limits want one. */
    function lasting(of: number): number {
      return Math.max(of, Math.ceil(limits.shortest / material.tick));
    }
  });
  return { notes, leftOut: ["Everything between its strokes: stay under the tune."] };
}
/** Leaning forward: where strokes run in eights, by threes, three and two; elsewhere on the last beat too. */
const isLeaning = (place: Place, at: number, unit: number): boolean => {
  const running = Math.round(place.ticks / unit) === 8;
  if (running) return [0, 3, 6].includes(at / unit);
  return at === 0 || at === place.ticks - pulse(place);
};
/** Heavy are the downbeat, and the half bar where beats come in fours. */
const isHeavy = (place: Place, at: number): boolean => {
  const beats = Math.round(place.ticks / pulse(place));
  return at === 0 || (beats === 4 && at === 2 * pulse(place));
};
