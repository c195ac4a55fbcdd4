import { CHORD_LINE } from "../performance";
import { type Performance, type Place, type PlayedBar, type PlayedNote, timesThrough } from "../score";
import { isLight, type StrumPlan } from "../strokes";
import type { Derived } from "./derive";
import { passFeel } from "./groove";
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
 * A performance whose chords are strummed where a strum is asked for: all through, or in one time through a strain. The
 * other bars keep the backing they have.
 */
export function strummed(
  work: Work,
  derived: Pick<Derived, "analysis" | "plan">,
  from: readonly Place[],
  performance: Performance,
): Performance {
  const times = timesThrough(from);
  const planAt = (order: number): StrumPlan | undefined => {
    const own = passFeel(work, times[order]?.strain ?? 0, times[order]?.pass ?? 1)?.strum ?? null;
    return own !== null || work.backing === "strum" ? strumOf(work, derived, own) : undefined;
  };
  const plans = performance.bars.map((_, order) => planAt(order));
  if (!plans.some(Boolean)) return performance;
  const kept = performance.notes.filter((n) => {
    const order = performance.bars.findLastIndex((b) => b.at <= n.at);
    return n.line !== CHORD_LINE.id || plans[order] === undefined;
  });
  const struck = performance.bars.flatMap((bar, order) => {
    const plan = plans[order];
    return plan ? barNotes(plan, bar) : [];
  });
  return { ...performance, notes: [...kept, ...struck] };
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
