import { type Analysis, analyse } from "../../core/analysis";
import { NO_DANCE } from "../../core/feel";
import { quarters, type Tune } from "../../core/score";
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
} from "../../core/strokes";
import { pitchName, spell } from "../../core/theory";
import type { Options } from "../arguments";
import { placeOf } from "../locks";

import { six, spot } from "./figures";
import { groundOf, planned } from "./chorded";
import { grooveFor, tempoFor } from "./felt";

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

export function stroked(tune: Tune, options: Options) {
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
