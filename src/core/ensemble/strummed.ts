import { CHORD_LINE } from "../performance";
import type { Place, PlayedBar, PlayedNote } from "../score";
import { timesThrough } from "../score";
import { isLight, type StrumPlan } from "../strokes";
import type { Derived } from "./derive";
import { strumOf } from "./strokes";
import type { Work } from "./work";

/** Loudness of each kind of stroke, and of a light one; a fill has three fifths of it. */
const LOUD: Readonly<Record<string, number>> = { bass: 54, brush: 40, chop: 42, melody: 52, thumb: 38, pluck: 42 };
const LIGHT = 0.75;
const FILL = 0.6;
/** Ticks from one string to the next of a brush, and the share of its place that a chop sounds. */
const SPREAD = 45;
const CHOP = 0.3;

/**
 * The chords as the work's strum has them, by the bars that are played; undefined where they are heard otherwise.
 * Another time through may have another strum.
 */
export function strummed(
  work: Work,
  derived: Pick<Derived, "analysis" | "plan">,
  from: readonly Place[],
): ((bars: readonly PlayedBar[]) => PlayedNote[]) | undefined {
  const asked = work.backing === "strum" || (work.feel.passes ?? []).some((p) => p.strum !== null);
  if (!asked || !work.feel.strum) return undefined;
  const times = timesThrough(from);
  const planAt = (order: number) => {
    const own = work.feel.passes?.find((p) => p.strain === times[order]?.strain && p.pass === times[order]?.pass);
    return strumOf(work, derived, own?.strum ?? null);
  };
  return (bars) => bars.flatMap((bar, order) => barNotes(planAt(order), bar));
}

/** The strokes of one played bar as notes; a stroke sounds until the next one. */
function barNotes({ strokes }: StrumPlan, bar: PlayedBar): PlayedNote[] {
  const own = strokes.filter((s) => s.place.index === bar.index);
  return own.flatMap((stroke, k): PlayedNote[] => {
    const { kind, direction } = stroke;
    const next = own.slice(k + 1).find((s) => s.struck.length > 0);
    const end = next ? next.at : stroke.place.at + stroke.place.ticks;
    const ticks = kind === "chop" ? Math.round(stroke.ticks * CHOP) : end - stroke.at;
    const light = isLight(stroke) ? LIGHT : 1;
    const loud = (LOUD[kind] ?? LOUD.brush ?? 0) * (stroke.fill ? FILL : light);
    const strings = direction === "up" ? [...stroke.struck].reverse() : stroke.struck;
    return strings.map(({ noteNumber }, order) => ({
      line: CHORD_LINE.id,
      at: bar.at + stroke.at - stroke.place.at + order * SPREAD,
      ticks: Math.max(1, ticks - order * SPREAD),
      noteNumber,
      cents: 0,
      velocity: Math.max(1, Math.round(loud)),
    }));
  });
}
