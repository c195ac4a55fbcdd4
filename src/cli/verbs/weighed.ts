import { analyse } from "../../core/analysis";
import { difficultyOf } from "../../core/grading";
import { beatTicks, QUARTER, type Tune } from "../../core/score";
import type { Options } from "../arguments";
import { six, three } from "./figures";
import { grooveFor, tempoFor } from "./felt";

/** Ticks of the beats a tempo can be told in. */
const BEATS = { quarter: QUARTER, half: 2 * QUARTER, "dotted quarter": (3 * QUARTER) / 2 } as const;

/** Seconds of a tick at a tempo told in felt beats, or in the beat that was named. */
export const tickSeconds = (tune: Tune, tempo: number, beat: Options["beat"]): number =>
  60 / (tempo * (beat ? BEATS[beat] : beatTicks(tune.metre)));

/** How hard the tune is on an instrument at a tempo, feature by feature and bar by bar. */
export function weighed(tune: Tune, options: Options) {
  const analysis = analyse(tune);
  const { places } = analysis;
  const { instrument, beat } = options;
  const tempo = tempoFor(tune, grooveFor(tune, analysis, options), options, "practice");
  const tick = tickSeconds(tune, tempo, options.tempo === undefined ? undefined : beat);
  const { difficulty, features, bars } = difficultyOf(
    places,
    places.map((p) => p.bar.events),
    instrument,
    tick,
  );
  return {
    instrument: instrument.name,
    tempo: three(tempo),
    difficulty: six(difficulty),
    features: features.map((f) => ({ name: f.name, value: six(f.value), points: six(f.points) })),
    bars: bars.map(six),
  };
}
