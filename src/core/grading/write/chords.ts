import type { Instrument } from "../../instruments";
import { isCompound, type Place } from "../../score";
import { solved } from "../../search";
import { type Shape, shapesOf } from "../../technique";
import { midi } from "../../theory";
import { knows } from "../learner";
import { readWord } from "../words";
import {
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

/** A chord as it is struck: what sounds, on which strings and frets where it has strings. */
type Struck = { symbol: string; pitches: number[]; strings?: number[]; frets?: string[] };

/** Middle of the hand on keys. */
const MIDDLE = 60;
/** A triad under one hand, about the middle. */
function triad(on: Instrument, symbol: string): Struck {
  const { classes } = chordOf(symbol);
  const low = Math.max(midi(on.lowest), MIDDLE - 5);
  const pitches = classes.slice(0, 4).map((c) => low + ((((c - low) % 12) + 12) % 12));
  return { symbol, pitches: pitches.sort((a, b) => a - b) };
}
function held(on: Instrument, symbol: string, shape: Shape): Struck {
  const notes = [...shape.held].sort((a, b) => a.noteNumber - b.noteNumber);
  return {
    symbol,
    pitches: notes.map((h) => h.noteNumber),
    strings: notes.map((h) => on.strings[h.string]?.number ?? 0),
    frets: notes.map((h) => h.fret.label),
  };
}

/** The chords a learner knows of the tune's: as many as the level has, the commonest first; others by the record. */
function repertoire({ chords }: Material, { on, who, limits }: Request): Map<string, Struck> {
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
    if (!on.frets) made.set(symbol, triad(on, symbol));
    else {
      const shapes = shapesOf(on, symbol, known.includes(symbol) ? "Leading" : who.level);
      const shape = barre === false ? shapes.find((s) => s.barre === 0) : shapes[0];
      if (shape) made.set(symbol, held(on, symbol, shape));
    }
  }
  return made;
}

/** Which chord is held over each stretch: those that are known, not changing more often than the limits say. */
function changes(material: Material, request: Request, stretches: readonly Segment[]): (Struck | null)[] {
  const { limits } = request;
  const own = repertoire(material, request);
  const start = (s: Segment) => ((material.places[s.bar]?.at ?? 0) + s.at) * material.tick;
  type State = { held: Struck | null; since: number };
  // A change is possible once the last one is long enough ago: how many stretches that is, is counted.
  const AGE = 4;
  const states = stretches.map((s): State[] => {
    const struck = own.get(s.symbol) ?? common(own, s);
    const ages = Array.from({ length: AGE }, (_, since) => since);
    return [
      ...(struck ? ages.map((since): State => ({ held: struck, since })) : []),
      ...ages.map((since): State => ({ held: null, since })),
    ];
  });
  if (stretches.length === 0) return [];
  const gapBars = limits.changes === null ? 0 : 1 / limits.changes;
  const solution = solved<State>({
    states,
    limits: [{ name: "begins", broken: (i, s) => i === 0 && s.since !== 0 }],
    local: [{ name: "silent", at: (i, s) => (s.held ? 0 : silence(stretches[i] as Segment)) }],
    moves: [],
    moveLimits: [
      {
        name: "change",
        broken: (i, a, b) => {
          const changed = b.held !== null && b.held.symbol !== lastHeld(a);
          if (!changed) return b.since !== Math.min(AGE - 1, a.since + 1);
          if (b.since !== 0) return true;
          const [now, before] = [stretches[i] as Segment, stretches[i - 1 - a.since] as Segment | undefined];
          if (!before) return false;
          const gap = start(now) - start(before);
          const bars = now.bar - before.bar + (now.at - before.at) / (material.places[now.bar]?.ticks || 1);
          return gap < limits.gap - 1e-9 || bars < gapBars - 1e-9;
        },
      },
    ],
  });
  return solution.path.map((s) => s.held);

  /** What a rest costs: its share of the bar, and more at its beginning, where the chord is wanted most. */
  function silence({ bar, at, ticks }: Segment): number {
    return (ticks / (material.places[bar]?.ticks || 1)) * 4 + (at === 0 ? 1 : 0);
  }

  function lastHeld(a: State): string | undefined {
    return a.held?.symbol;
  }
}
/** A known chord that shares its root, where the very chord is not known. */
function common(own: ReadonlyMap<string, Struck>, { chord }: Segment): Struck | undefined {
  return [...own.values()].find(
    (s) => rootClass(chordOf(s.symbol)) === rootClass(chord) && chordOf(s.symbol).classes[1] === chord.classes[1],
  );
}

/** A stroke of a bar: where, and how; `bass` strikes the lowest string alone. */
type Blow = { at: number; stroke: "down" | "up" | "bass" | "brush" | "chop" };

/** Strokes by level: the first beat; the beats; bass and brush; with up-strokes. */
function blowsOf(place: Place, level: number, who: Request["who"]): Blow[] {
  const beat = pulse(place);
  const count = Math.max(1, Math.round(place.ticks / beat));
  const boom = level >= 2 || knows(who, "boombrush") === true;
  if (level === 0) return [{ at: 0, stroke: "down" }];
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

function struckParts(
  material: Material,
  request: Request,
  blows: (place: Place) => Blow[],
  bars: (place: Place) => boolean,
): PartNote[] {
  const { limits } = request;
  const stretches = segmentsOf(material).flat();
  const heldBy = changes(material, request, stretches);
  const byBar = new Map<number, { segment: Segment; struck: Struck | null }[]>();
  for (const [i, segment] of stretches.entries())
    byBar.set(segment.bar, [...(byBar.get(segment.bar) ?? []), { segment, struck: heldBy[i] ?? null }]);
  const silentBeats = new Set(material.phrases.map((p) => p.to));
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
    if (place.pickup || !bars(place)) return [];
    const own = byBar.get(place.index) ?? [];
    const most = mostIn(material, place, limits);
    const all = blows(place).filter((b) => b.at < place.ticks);
    const sized = all.map((b, i) => ({ ...b, ticks: (all[i + 1]?.at ?? place.ticks) - b.at }));
    const long = sized.every((b) => b.ticks * material.tick >= limits.shortest - 1e-9);
    const few =
      sized.length <= most && long
        ? sized
        : sized.slice(0, Math.min(1, most)).map((b) => ({ ...b, ticks: place.ticks - b.at }));
    // Beginners rest a beat beside the phrase's close.
    const quiet = LEVEL.indexOf(request.who.level) < 2 && silentBeats.has(place.index) && few.length > 1;
    return few
      .filter((_, i) => !quiet || i !== few.length - 1)
      .flatMap((b): PartNote[] => {
        if (b.ticks * material.tick < limits.shortest - 1e-9) return [];
        const now = own.find((o) => segmentAt([o.segment], b.at));
        const struck = now?.struck;
        if (!struck) return [];
        const sounds = soundsOf(struck, b.stroke);
        if (!inTime(place, b.at, struck, sounds.pitches)) return [];
        return [{ bar: place.index, at: b.at, ticks: b.ticks, stroke: b.stroke, ...sounds }];
      });
  });
}
/** What a stroke sounds: a bass its lowest note, a brush the others, any other all. */
function soundsOf(struck: Struck, stroke: Blow["stroke"]): Pick<PartNote, "pitches" | "strings" | "frets"> {
  const pick = <T>(of: readonly T[]): T[] => {
    if (of.length < 2 || (stroke !== "bass" && stroke !== "brush")) return [...of];
    return stroke === "bass" ? of.slice(0, 1) : of.slice(1);
  };
  return {
    pitches: pick(struck.pitches),
    ...(struck.strings ? { strings: pick(struck.strings) } : {}),
    ...(struck.frets ? { frets: pick(struck.frets) } : {}),
  };
}

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
      (place) => blowsOf(place, level, request.who),
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
export function writeDrum(material: Material, { limits, who }: Request): Draft {
  const level = LEVEL.indexOf(who.level);
  const ends = new Set(material.phrases.filter((_, i) => i % 2 === 1).map((p) => p.to));
  const notes = material.places.flatMap((place): PartNote[] => {
    if (place.pickup) return [];
    const beat = pulse(place);
    const parts = isCompound(place.metre) ? 3 : 2;
    const unit = level >= 2 && (beat / parts) * material.tick >= limits.shortest - 1e-9 ? beat / parts : beat;
    const starts = Array.from({ length: Math.max(1, Math.floor(place.ticks / unit)) }, (_, i) => i * unit);
    const most = mostIn(material, place, limits);
    const running = starts.length <= most ? starts : starts.filter((s) => s % beat === 0).slice(0, most);
    // Before a new strain a beginner waits a beat; from the fourth level on that is where the fill is.
    const last = ends.has(place.index);
    const few = last && level < 3 && running.length > 1 ? running.slice(0, -1) : running;
    const long = few.filter((s, i) => ((few[i + 1] ?? place.ticks) - s) * material.tick >= limits.shortest - 1e-9);
    return long.map((at, i) => ({
      bar: place.index,
      at,
      ticks: (long[i + 1] ?? place.ticks) - at,
      pitches: [],
      stroke: at === 0 || (level === 0 && i === 0) || (last && level >= 3) ? ("heavy" as const) : ("light" as const),
    }));
  });
  return { notes, leftOut: ["Everything between its strokes: stay under the tune."] };
}
