import { analyse } from "../../core/analysis";
import { type GroupPart, inStrokes, planEvening } from "../../core/ensemble";
import { barLabel, type Place, type Tune } from "../../core/score";
import { pitchName, spell } from "../../core/theory";
import type { Options } from "../arguments";
import { groundOf, planned } from "./chorded";
import { barName, six, spot, three } from "./figures";
import { grooveFor, tempoFor } from "./felt";
import { tickSeconds } from "./weighed";

/** Parts for a whole group: who plays what, every note within the limits, who plays when, and how it fits. */
export function parted(tune: Tune, options: Options) {
  const start = performance.now();
  const analysis = analyse(tune);
  const { places } = analysis;
  const groove = grooveFor(tune, analysis, options);
  const tempo = tempoFor(tune, groove, options, "practice");
  const tick = tickSeconds(tune, tempo, options.tempo === undefined ? undefined : options.beat);
  const absent = options.without.map((n) => n.toLowerCase());
  const { group } = options;
  const learners = (group?.learners ?? []).filter((l) => !absent.includes(l.name.toLowerCase()));
  const plan = planned(groundOf(tune, options, analysis), []);
  const evening = planEvening({ analysis, plan, tick, dance: groove.name, learners });
  const milliseconds = performance.now() - start;
  const name = (p: number) => pitchName(spell(p, analysis.key.key));
  const barAt = (index: number) => (places[index] ? barLabel(places[index]) : String(index));
  return {
    group: group?.name ?? "",
    tempo: three(tempo),
    unmet: evening.unmet.map((u) => ({ must: u.must, bars: u.bars.map(barAt), way_out: u.wayOut })),
    roadmap: evening.roadmap.columns.map(({ strain, pass, turn, plays }) => ({ strain, pass, turn, plays })),
    seconds: three(evening.seconds),
    parts: inStrokes(evening.parts, { analysis, tick }).map((part) => partJson(part, places, tick, name)),
    fit: {
      total: evening.fit.total,
      worst: evening.fit.worst.map(({ bar, ...w }) => ({ ...barName(places[bar] as Place), ...w })),
    },
    milliseconds: three(milliseconds),
  };
}

function partJson(part: GroupPart, places: readonly Place[], tick: number, name: (pitch: number) => string) {
  const { limits, learner } = part;
  const quarter = 3360 * tick;
  return {
    id: part.id,
    player: learner.name,
    instrument: part.on.name,
    tuning: learner.tuning,
    level: learner.level,
    role: part.role,
    difficulty: six(part.difficulty.difficulty),
    limits: {
      lowest: name(limits.lowest),
      highest: name(limits.highest),
      pitches: limits.pitches ? [...limits.pitches].sort((a, b) => a - b).map(name) : null,
      shortest: six(limits.shortest / quarter),
      per_second: limits.perSecond,
      leap: limits.leap,
      double_stops: part.notes.some((n) => n.stroke) || limits.doubleStops !== "none",
      strings: limits.strings,
      bow: limits.bow,
      crossings: limits.crossings,
      slur: limits.slur,
      shapes: limits.shapes,
      changes: limits.changes,
      gap: limits.gap,
    },
    notes: part.notes.map(({ bar, at, ticks, pitches, ...note }) => {
      const place = places[bar] as Place;
      return { ...spot(place, place.at + at, ticks), pitches: pitches.map(name), ...note };
    }),
    left_out: part.leftOut,
    coaching: part.coaching,
    reason: part.reason,
  };
}
