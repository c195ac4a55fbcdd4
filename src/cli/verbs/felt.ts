import { type Analysis, analyse } from "../../core/analysis";
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
} from "../../core/feel";
import { barTicks, beatAt, beatTicks, isCompound, quarters, type Tune } from "../../core/score";
import { pitchName } from "../../core/theory";
import type { Options } from "../arguments";

import { six, three, barName } from "./figures";

/** The groove of a tune: the one asked for, or its dance's own; an air's for a dance without one. */
export const grooveFor = (tune: Tune, analysis: Analysis, { dance }: Options): Groove =>
  dance ?? grooveOf(analysis.dance.name, isCompound(tune.metre)) ?? NO_DANCE;

/** Felt beats a minute: as asked for, as the tune says, or the middle of what is usual. */
export function tempoFor(tune: Tune, groove: Groove, { tempo }: Options, purpose: Purpose): number {
  if (tempo !== undefined) return tempo;
  if (tune.tempo) return (tune.tempo.bpm * tune.tempo.beat) / beatTicks(tune.metre);
  return usualTempo(groove, tune.metre, purpose);
}

export function felt(tune: Tune, options: Options) {
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
