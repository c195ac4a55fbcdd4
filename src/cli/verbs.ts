import { type Analysis, analyse, inventory, ownKeys, shiftWords, strainKeys } from "../core/analysis";
import { type ChordLock, type ChordPlan, type ChordRequest, deriveChords, fileLocks, settled } from "../core/chords";
import {
  dancedTune,
  foundCells,
  type Groove,
  grooveOf,
  grooveTempo,
  laidOver,
  NO_DANCE,
  type Purpose,
  shaped,
  SOURCE,
  usualTempo,
} from "../core/feel";
import { performanceMidi, sheetMusicXml, tuneAbc } from "../core/formats";
import { deriveHarmony, type HarmonyLine, type HarmonyLock, type HarmonyRequest } from "../core/harmony";
import { perform } from "../core/performance";
import {
  barTicks,
  beatAt,
  beatTicks,
  isCompound,
  isCounted,
  metreName,
  type Place,
  quarters,
  type Tune,
  tuneSheet,
} from "../core/score";
import {
  DIRECTIONS,
  planBowing,
  planPlectrum,
  planStrum,
  type Stroke,
  type StrokeLock,
  type StrokeNote,
  type StrokePlan,
  type Struck,
  type StrumStroke,
} from "../core/strokes";
import { INSTRUMENTS, LEVELS, rangeOf } from "../core/instruments";
import { arrange, type Board, blown, type FingeringLock, rolled, withCapo } from "../core/technique";
import { parseChord, parsePitch, type Pitch, pitchName, semitoneOf, spell } from "../core/theory";
import type { Options, Verb } from "./arguments";
import { type LockWish, placeOf } from "./locks";

export type Result = { json: object } | { content: string | Uint8Array };

const six = (n: number) => Math.round(n * 1e6) / 1e6;
const three = (n: number) => Math.round(n * 1e3) / 1e3;

/** What each verb makes of one tune. */
export const VERBS: Record<Verb, (tune: Tune, options: Options) => Result> = {
  analyse: (tune, options) => ({ json: analysed(tune, options) }),
  chords: (tune, options) => ({ json: chorded(tune, options) }),
  harmony: (tune, options) => ({ json: harmonised(tune, options) }),
  feel: (tune, options) => ({ json: felt(tune, options) }),
  strokes: (tune, options) => ({ json: stroked(tune, options) }),
  arrange: (tune, options) => ({ json: arranged(tune, options) }),
  convert: (tune, options) => ({ content: converted(tune, options) }),
};

function analysed(tune: Tune, { inferKey, inferType }: Options) {
  const analysis = analyse(tune, { inferKey, inferType });
  const { places, key, dance, form, scale } = analysis;
  const own = ownKeys(tune, places);
  const keys = strainKeys(tune, analysis, inferKey);
  const number = (index: number) => places[index]?.number ?? 0;
  const found = inventory(places);
  return {
    metre: metreName(tune.metre),
    pickup: places[0]?.pickup ? quarters(places[0].ticks) : 0,
    danceType: {
      name: dance.name,
      confidence: three(dance.confidence),
      evidence: dance.evidence,
      alternatives: dance.alternatives.map((a) => ({ name: a.name, confidence: three(a.confidence) })),
    },
    key: {
      tonic: key.key.tonic,
      mode: key.key.mode,
      confidence: three(key.confidence),
      declared: { tonic: key.declared.tonic, mode: key.declared.mode },
      evidence: key.evidence,
      ...(key.disagreement ? { disagreement: key.disagreement } : {}),
    },
    keys: key.ranked.map((k) => ({
      tonic: k.tonic,
      mode: k.mode,
      confidence: three(k.confidence),
      evidence: k.evidence,
    })),
    form: form.sequence,
    bars: form.bars,
    learn: form.learn,
    scale: { notes: scale.notes, missing: scale.missing, confidence: three(scale.confidence) },
    strains: tune.strains.map((strain, s) => ({
      label: strain.label,
      bars: places.filter((p) => p.strain === s && isCounted(p)).length,
      key: { tonic: keys[s]?.tonic, mode: keys[s]?.mode },
      ...(own[s] && (own[s].tonic !== keys[s]?.tonic || own[s].mode !== keys[s]?.mode)
        ? { suggested: { tonic: own[s].tonic, mode: own[s].mode, confidence: three(own[s].confidence) } }
        : {}),
      phrases: form.phrases
        .filter((p) => p.strain === s)
        .map((p) => ({
          from: number(places.slice(p.from, p.to + 1).find((b) => !b.pickup)?.index ?? p.from),
          to: number(p.to),
          relation: p.relation,
          to_phrase: p.model === undefined ? null : p.model + 1,
          from_bar: p.parts === undefined ? null : number(p.parts),
          ...(p.shift === undefined ? {} : { interval: shiftWords(p.shift) }),
        })),
    })),
    inventory: {
      pitches: found.pitches.map((p) => ({ pitch: pitchName(p.pitch), duration: quarters(p.ticks), count: p.count })),
      lowest: found.lowest ? pitchName(found.lowest) : null,
      highest: found.highest ? pitchName(found.highest) : null,
      notes: found.notes,
      held: found.held,
      leaps: found.leaps,
      outside: found.outside,
      rhythm: found.cells.slice(0, 8),
    },
  };
}

type Ground = { analysis: Analysis; request: Omit<ChordRequest, "locks">; own: ChordLock[] };

/** What chords are planned over, and the locks the file itself gives. */
function groundOf(tune: Tune, { style, infer }: Options, analysis = analyse(tune)): Ground {
  const { places, form } = analysis;
  return {
    analysis,
    request: { places, phrases: form.phrases, keys: strainKeys(tune, analysis, !style.borrows), style },
    own: infer ? [] : fileLocks(places),
  };
}

/** A bar as every line of JSON names it: its number, and its ending where it is a later one. */
const barName = ({ number, ending }: Place): { bar: number; ending?: number } =>
  ending > 1 ? { bar: number, ending } : { bar: number };

/** When something stands: bar, beat, and quarter notes from the start of the written tune. */
const spot = (place: Place, at: number, ticks: number) => ({
  ...barName(place),
  beat: six(beatAt(place, at)),
  at: quarters(at),
  duration: quarters(ticks),
});

/** The chords as asked for, with locks from the command line laid over those of the file. */
function planned({ analysis, request, own }: Ground, wishes: readonly LockWish[]): ChordPlan {
  if (wishes.length === 0) return deriveChords({ ...request, locks: own });
  const free = deriveChords({ ...request, locks: own });
  const locks = wishes.map((wish): ChordLock => {
    const { place, at, ticks } = placeOf(wish, analysis.places);
    const symbol = parseChord(wish.value)?.symbol;
    if (!symbol) throw new RangeError(`--lock names "${wish.value}", which is no chord. Write Em, A7 or D/F#.`);
    // Without a length it lasts as long as the chord it takes the place of.
    const there = free.chords.find((c) => c.bar === place.index && c.at <= at && at < c.at + c.ticks);
    const until = there ? there.at + there.ticks : place.ticks;
    return { bar: place.index, at, ticks: ticks ?? until - at, symbol, by: "teacher" };
  });
  return deriveChords({ ...request, locks: settled(own, locks) });
}

function chorded(tune: Tune, options: Options) {
  const ground = groundOf(tune, options);
  const { places } = ground.analysis;
  const plan = planned(ground, options.locks);
  return {
    style: plan.style,
    total: six(plan.cost),
    chords: plan.chords.map((c) => {
      const place = places[c.bar] as Place;
      return {
        ...spot(place, place.at + c.at, c.ticks),
        symbol: c.symbol,
        roman: c.roman,
        locked: c.locked,
        reason: c.reason,
        alternatives: distinct(c)
          .slice(0, 5)
          .map((a) => ({
            symbol: a.symbol,
            cost: six(a.cost),
            ...(a.at === undefined || a.ticks === undefined ? {} : spot(place, place.at + a.at, a.ticks)),
          })),
      };
    }),
  };
}

/** What a chord is to someone who compares roots and thirds. */
function kindOf(symbol: string): string {
  const found = parseChord(symbol);
  if (!found) return symbol;
  return found.root + (found.classes.includes((semitoneOf(found.root) + 3) % 12) ? "m" : "");
}

/** Runners-up of other roots or thirds, the cheapest form of each: A7 is no other chord than A. */
function distinct({ symbol, alternatives }: ChordPlan["chords"][number]) {
  const known = new Set([kindOf(symbol)]);
  return alternatives.filter((a) => {
    const kind = kindOf(a.symbol);
    const fresh = !known.has(kind);
    known.add(kind);
    return fresh;
  });
}

function noteLocks(wishes: readonly LockWish[], places: readonly Place[], free: HarmonyLine): HarmonyLock[] {
  return wishes.map((wish): HarmonyLock => {
    const { place, at, ticks } = placeOf(wish, places);
    const there = free.notes.find((n) => n.bar === place.index && n.at - place.at === at);
    if (!there)
      throw new RangeError(`--lock names bar ${wish.bar}, beat ${wish.beat}, where no note of the line starts.`);
    const pitch = ["rest", "z"].includes(wish.value) ? null : pitchNamed(wish.value);
    return { bar: place.index, at, ticks: ticks ?? there.ticks, pitch };
  });
}

function pitchNamed(name: string): Pitch {
  try {
    return parsePitch(name);
  } catch {
    throw new RangeError(`--lock names "${name}", which is no note. Write F#4, Bb3 or rest.`);
  }
}

function harmonised(tune: Tune, options: Options) {
  const ground = groundOf(tune, options);
  const { places, form } = ground.analysis;
  const { school, side, instrument } = options;
  const phraseEnds = new Set(form.phrases.map((p) => p.to));
  const request: HarmonyRequest = { places, plan: planned(ground, []), phraseEnds, school, side, instrument };
  const free = deriveHarmony(request);
  const locks = noteLocks(options.locks, places, free);
  const line = locks.length > 0 ? deriveHarmony({ ...request, locks }) : free;
  return {
    school: line.school,
    side: line.side,
    instrument: line.instrument,
    clash: line.clash,
    total: six(line.cost),
    line: line.notes.map((n) => ({
      ...spot(places[n.bar] as Place, n.at, n.ticks),
      pitch: n.pitch ? pitchName(n.pitch) : null,
      melody: n.melody ? pitchName(n.melody) : null,
      interval: n.interval,
      chord: n.chord,
      locked: n.locked,
      ...(n.broken ? { broken: n.broken } : {}),
      reason: n.reason,
      alternatives: n.alternatives.map((a) => ({ pitch: a.pitch ? pitchName(a.pitch) : null, cost: six(a.cost) })),
    })),
  };
}

/** The groove of a tune: the one asked for, or its dance's own; an air's for a dance without one. */
const grooveFor = (tune: Tune, analysis: Analysis, { dance }: Options): Groove =>
  dance ?? grooveOf(analysis.dance.name, isCompound(tune.metre)) ?? NO_DANCE;

/** Felt beats a minute: as asked for, as the tune says, or the middle of what is usual. */
function tempoFor(tune: Tune, groove: Groove, { tempo }: Options, purpose: Purpose): number {
  if (tempo !== undefined) return tempo;
  if (tune.tempo) return (tune.tempo.bpm * tune.tempo.beat) / beatTicks(tune.metre);
  return usualTempo(groove, tune.metre, purpose);
}

function felt(tune: Tune, options: Options) {
  const analysis = analyse(tune);
  const { places, form } = analysis;
  const groove = grooveFor(tune, analysis, options);
  const tempo = tempoFor(tune, groove, options, "dancing");
  const laid = laidOver(groove, tempo, options.strength, new Set(form.phrases.map((p) => p.to)));
  const shape = shaped(groove, grooveTempo(groove, tune.metre, tempo), options.strength);
  // Shares and accents as they lie in this tune's own felt beats.
  const beats = barTicks(tune.metre) / beatTicks(tune.metre) || groove.beats;
  const perBeat = groove.beats / beats;
  const parts = groove.accents.length;
  return {
    dance: groove.name,
    tempo: three(tempo),
    groove: {
      shares: Array.from({ length: Math.round(beats) }, () =>
        Array.from({ length: Math.max(1, Math.round(perBeat)) }, () =>
          shape.shares.map((s) => six(s / perBeat)),
        ).flat(),
      ),
      lift: groove.lift,
      accents: shape.weights.map((weight, i) => ({ beat: six(1 + (i * beats) / parts), weight: six(weight) })),
      length: groove.length,
      off_beats: groove.offBeats,
      source: SOURCE,
    },
    cells: foundCells(places).map(({ name, syllables, lengths, count, rank }) => ({
      name,
      syllables,
      lengths: lengths.map((l) => six(l / 2)),
      count,
      rank,
    })),
    events: dancedTune(places, laid, tempo).flatMap((note) =>
      note.pitches.map((pitch) => ({
        ...barName(note.place),
        beat: six(beatAt(note.place, note.at)),
        at: quarters(note.at),
        onset: six(note.onset),
        duration: six(note.duration),
        pitch: pitchName(pitch),
        velocity: note.velocity,
      })),
    ),
  };
}

/** A plan of strokes; a strum's strokes say their strings, and it names what it has no place for. */
type Stroked = Omit<StrokePlan, "strokes"> & {
  strokes: readonly (Stroke & Partial<StrumStroke>)[];
  leftOut?: readonly string[];
};

function strokePlan(tune: Tune, analysis: Analysis, options: Options, locks: readonly StrokeLock[]): Stroked {
  const { places, form } = analysis;
  const { instrument } = options;
  const groove = grooveFor(tune, analysis, options);
  if (options.plan === "plectrum") return planPlectrum({ places, style: options.plectrum, instrument, locks });
  if (options.plan === "strum") {
    const { chords } = planned(groundOf(tune, options, analysis), []);
    return planStrum({ places, instrument, style: options.strum, chords, locks });
  }
  return planBowing({
    places,
    style: options.bowing,
    instrument,
    bpm: tempoFor(tune, groove, options, "practice"),
    phraseStarts: new Set(form.phrases.map((p) => p.from)),
    air: groove === NO_DANCE,
    runs: groove?.name === "strathspey",
    locks,
  });
}

function stroked(tune: Tune, options: Options) {
  const analysis = analyse(tune);
  const free = strokePlan(tune, analysis, options, []);
  const locks = options.locks.map((wish): StrokeLock => {
    const { place, at, ticks } = placeOf(wish, analysis.places);
    const direction = DIRECTIONS.find((d) => d === wish.value.toLowerCase());
    if (!direction) throw new RangeError(`--lock names "${wish.value}", which is no direction. Write down or up.`);
    const stroke = free.strokes.find((s) => s.at === place.at + at);
    if (!stroke && ticks === undefined)
      throw new RangeError(`--lock names bar ${wish.bar}, beat ${wish.beat}, where no stroke starts.`);
    return { bar: place.index, at, ticks: ticks ?? (stroke && soundingTicks(stroke)), direction };
  });
  const plan = locks.length > 0 ? strokePlan(tune, analysis, options, locks) : free;
  const numbers = options.instrument.strings.map((s) => s.number);
  return {
    plan: options.plan,
    style: plan.style,
    instrument: options.instrument.name,
    total: six(plan.total),
    downbeats: plan.downbeats,
    ...(plan.leftOut ? { left_out: plan.leftOut } : {}),
    strokes: plan.strokes.map((stroke) => {
      const { place, at, ticks } = stroke;
      return {
        ...spot(place, at, ticks),
        direction: stroke.direction,
        kind: stroke.kind,
        ...(stroke.own?.move ? { move: stroke.own.move } : {}),
        retake: stroke.retake,
        ...(stroke.pluck ? { pluck: stroke.pluck } : {}),
        notes: stroke.struck ? struckNotes(stroke, stroke.struck) : bowedNotes(stroke.notes, numbers),
        locked: stroke.locked,
        reason: stroke.reason,
        alternatives: stroke.alternatives.map((a) => ({ direction: a.direction, cost: six(a.cost) })),
      };
    }),
  };
}

const bowedNotes = (notes: readonly StrokeNote[], numbers: readonly number[]) =>
  notes.flatMap((n) =>
    n.pitches.map((pitch) => ({
      at: quarters(n.at),
      duration: quarters(n.ticks),
      pitch: pitchName(pitch),
      string: n.string === undefined ? null : (numbers[n.string] ?? null),
    })),
  );
/** The strings of one stroke of a strum, as they sound. */
const struckNotes = ({ place, at, ticks }: Stroke, struck: readonly Struck[]) =>
  struck.map(({ string, fret, noteNumber }) => ({
    at: quarters(at),
    duration: quarters(ticks),
    pitch: pitchName(spell(noteNumber, place.key)),
    string,
    fret,
  }));

/** How long the notes of a stroke sound, rests inside it aside; a strum's stroke lasts as its grid says. */
const soundingTicks = ({ notes, ticks }: Stroke): number =>
  notes.length > 0 ? notes.reduce((sum, n) => sum + n.ticks, 0) : ticks;

/** The tune as one instrument plays it: where every note lies, what sounds with it, and what is left out. */
function arranged(tune: Tune, options: Options) {
  const analysis = analyse(tune);
  const { places } = analysis;
  const { kind, level, capo } = options;
  const instrument = withCapo(options.instrument, capo);
  if (instrument.strings.length === 0) return played(places, options);
  const { chords } = planned(groundOf(tune, options, analysis), []);
  const bpm = tempoFor(tune, grooveFor(tune, analysis, options), options, "practice");
  const locks = options.locks.map((wish): FingeringLock => {
    const { place, at } = placeOf(wish, places);
    const match = /^(\d{1,2}):(\d{1,2}\+?)$/.exec(wish.value);
    if (!match) throw new RangeError(`--lock names "${wish.value}". Write string and fret: 2:3.`);
    return { bar: place.index, at, string: Number(match[1]), fret: match[2] ?? "" };
  });
  const make = kind === "roll" ? rolled : arrange;
  const made = make({ places, instrument, kind, level, chords, bpm, locks });
  if (!made) throw new RangeError(`Rolls are for the banjo; the ${instrument.name} has no short string.`);
  const unmet = locks.find(
    (l) => !made.strokes.some((s) => s.locked && s.place.index === l.bar && s.at - s.place.at === l.at),
  );
  if (unmet) throw new RangeError(`--lock names string ${unmet.string}, fret ${unmet.fret}, where no note of it lies.`);
  return {
    instrument: instrument.name,
    tuning: options.tuning ?? instrument.tunings[0]?.name ?? null,
    ...(capo > 0 ? { capo } : {}),
    kind,
    level,
    shift: made.shift,
    strings: instrument.strings.map(({ number, open, shortFrom }) => ({
      number,
      open: pitchName(open),
      ...(shortFrom ? { short_from: shortFrom } : {}),
    })),
    frets: fretsOf(made.board),
    limits: { span: made.board.spans },
    left_out: made.leftOut,
    total: six(made.total),
    difficulty: null,
    strokes: made.strokes.map((s) => ({
      ...spot(s.place, s.at, s.ticks),
      notes: s.notes.map(({ noteNumber, ...n }) => ({ ...n, pitch: pitchName(spell(noteNumber, s.place.key)) })),
      hold: s.hold,
      move: s.move,
      ...(s.pluck ? { pluck: s.pluck } : {}),
      locked: s.locked,
      reason: s.reason,
      alternatives: s.alternatives.map((a) => ({ ...a, cost: six(a.cost) })),
    })),
  };
}

/** The tune on an instrument without strings: holes, or row and bellows. */
function played(places: readonly Place[], { instrument, level, kind, locks }: Options) {
  if (kind !== "melody") throw new RangeError(`The ${instrument.name} plays the melody only. Ask for --kind melody.`);
  if (locks.length > 0) throw new RangeError(`--lock names string and fret; the ${instrument.name} has no strings.`);
  const made = blown(places, instrument, level);
  return {
    instrument: instrument.name,
    tuning: null,
    kind,
    level,
    shift: made.shift,
    strings: [],
    frets: [],
    limits: { span: [] },
    left_out: made.leftOut,
    total: six(made.total),
    difficulty: null,
    strokes: made.strokes.map((s) => ({
      ...spot(s.place, s.at, s.ticks),
      notes: [{ ...s.way, pitch: pitchName(spell(s.noteNumber, s.place.key)), role: "melody" }],
      hold: [],
      move: null,
      reason: s.reason,
      alternatives: s.alternatives.map(({ way, cost }) => ({ ...way, cost: six(cost) })),
    })),
  };
}

/** Every instrument of the catalogue, a line each. */
export const catalogue = () =>
  INSTRUMENTS.map((on) => ({
    name: on.name,
    family: on.family,
    clef: on.clef,
    transposition: on.transposition,
    tunings: on.tunings.map(({ name, strings }) => ({
      name,
      strings: strings.map(({ number, open, shortFrom }) => ({
        number,
        open: pitchName(open),
        ...(shortFrom ? { short_from: shortFrom } : {}),
      })),
      frets: (on.frets ?? []).map(({ label, semitones }) => ({ label, semitones })),
    })),
    levels: LEVELS.map((name) => {
      const { lowest, highest } = rangeOf(on, name);
      return { name, lowest: pitchName(spell(lowest, PLAIN)), highest: pitchName(spell(highest, PLAIN)) };
    }),
  }));
const PLAIN = { tonic: "C", mode: "major" } as const;

const fretsOf = ({ on, strings }: Board) =>
  on.frets?.map(({ label, semitones }) => ({ label, semitones })) ??
  [...new Set(strings.flatMap((s) => s.stops.map((stop) => stop.semitones)))].map((semitones) => ({
    label: String(semitones),
    semitones,
  }));

function converted(tune: Tune, { to }: Options): string | Uint8Array {
  if (to === "abc") return tuneAbc(tune);
  const { places } = analyse(tune);
  const sheet = tuneSheet(tune, places);
  return to === "musicxml"
    ? sheetMusicXml(sheet)
    : performanceMidi(perform(tune, sheet, { straight: true, chords: false }));
}
