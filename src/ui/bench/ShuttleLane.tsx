"use client";
import { memo, type MouseEvent } from "react";
import { feltBpm, grooveFor } from "../../core/ensemble";
import { bowUse, grooveOf } from "../../core/feel";
import { barLabel, isCompound, strength } from "../../core/score";
import type { Stroke } from "../../core/strokes";
import type { Timed } from "./chordPlaces";
import { positionOf } from "./chordPlaces";
import css from "./lane.module.css";
import type { RowOf } from "./layout";
import { useBench } from "./state";
import { useBows, useRivalBows } from "./useStrokes";

/** Height of the lane, and room above and below its path. Pixels. */
const HEIGHT = 54;
const EDGE = 8;

/** Where a strong down-bow begins, so that it has the bow before it; and how near to the ends a bow goes. */
const HOME = 0.15;
const ENDS = { heel: 0.04, point: 0.96 };

/** Where in the bow strokes begin and end: 0 at the heel, 1 at the point. What is used follows the accents. */
function travels(
  strokes: readonly Stroke[],
  used: { strong: number; light: number },
): { from: number; to: number; strong: boolean }[] {
  const isStrong = ({ notes: [first] }: Stroke) => first !== undefined && strength(first.place, first.at) >= 2;
  let at = HOME;
  return strokes.map((stroke, k) => {
    const { direction, notes } = stroke;
    const strong = isStrong(stroke);
    const length = (strong ? used.strong : used.light) * Math.min(1.6, 0.7 + notes.length * 0.3);
    const next = strokes[k + 1];
    const back = next !== undefined && isStrong(next) && next.direction === "down";
    const up = back ? Math.min(at - 0.06, HOME) : at - length;
    const to = direction === "down" ? Math.min(ENDS.point, at + length) : Math.max(ENDS.heel, up);
    const travel = { from: at, to, strong };
    at = to;
    return travel;
  });
}

/**
 * The shuttle line: one path for the row, note by note. Height is where in the bow the stroke is, heel above and point
 * below; thick and madder on accents; a slur is one line under several notes, a retake a gap.
 */
export const ShuttleLane = memo(function ShuttleLane({ row, measured }: { row: RowOf; measured: Timed }) {
  const plan = useBows();
  const rival = useRivalBows();
  const used = useBowUse();
  const select = useBench((s) => s.select);
  const chosen = useBench((s) => (s.selection?.kind === "stroke" ? s.selection.index : null));
  const all = travels(plan.strokes, used);
  const y = (place: number) => EDGE + place * (HEIGHT - 2 * EDGE);
  const own = drawnIn(plan.strokes, all, row, measured);
  const other = rival ? drawnIn(rival.strokes, travels(rival.strokes, used), row, measured) : [];
  const height = rival ? 2 * HEIGHT - EDGE : HEIGHT;
  const right = Math.max(0, ...measured.bars.map((b) => b.right));
  /** The stroke nearest to where the lane is pressed; arrows and Enter do the same for the whole page. */
  const press = (event: MouseEvent<HTMLElement>) => {
    const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
    const nearest = [...own].sort((p, q) => Math.abs(p.x - x) - Math.abs(q.x - x))[0];
    if (nearest) select(chosen === nearest.index ? null : { kind: "stroke", index: nearest.index });
  };
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Enter and the arrows go from bow to bow on the whole page
    <div
      className={css.shuttle}
      style={{ height }}
      role="img"
      aria-label={`Bows: ${own.map(({ stroke }) => strokeWords(stroke)).join("; ")}`}
      onClick={press}
      data-shuttle
    >
      <svg width="100%" height={height} aria-hidden>
        <line x1={0} x2={right} y1={EDGE} y2={EDGE} className={css.warp} />
        <line x1={0} x2={right} y1={HEIGHT - EDGE} y2={HEIGHT - EDGE} className={css.warp} />
        {/* The other style in a lane of its own, under this one. */}
        <g transform={`translate(0, ${HEIGHT - EDGE})`}>
          {other.map(({ index, x, travel, stroke }, k) => (
            <line
              key={`other ${index}`}
              x1={x}
              y1={y(travel.from)}
              x2={Math.max(x + 4, (other[k + 1]?.x ?? right) - (other[k + 1]?.stroke.retake ? 7 : 1))}
              y2={y(travel.to)}
              className={css.weft}
              data-rival={stroke.direction}
            />
          ))}
        </g>
        {own.map(({ stroke, index, x, travel }, k) => {
          const next = own[k + 1];
          const end = Math.max(x + 4, (next?.x ?? right) - (next?.stroke.retake ? 7 : 1));
          return (
            <g key={index} data-chosen={chosen === index ? "" : undefined}>
              {chosen === index && <rect x={x - 4} width={end - x + 6} y={0} height={HEIGHT} className={css.held} />}
              <line
                x1={x}
                y1={y(travel.from)}
                x2={end}
                y2={y(travel.to)}
                className={css.weft}
                data-strong={travel.strong ? "" : undefined}
              />
              {stroke.locked && <rect x={x - 3} y={HEIGHT - 7} width={6} height={6} className={css.pegged} />}
            </g>
          );
        })}
      </svg>
    </div>
  );
});

type Travel = ReturnType<typeof travels>[number];
/** The strokes of a row where their notes stand. */
function drawnIn(strokes: readonly Stroke[], all: readonly Travel[], { from, to }: RowOf, measured: Timed) {
  return strokes.flatMap((stroke, index) => {
    if (stroke.place.index < from || stroke.place.index > to) return [];
    const x = positionOf(stroke.place, stroke.at - stroke.place.at, measured);
    return x === undefined ? [] : [{ stroke, index, x: x + 6, travel: all[index] as Travel }];
  });
}

/** How much bow is used at today's tempo; what is drawn keeps room to be read. */
function useBowUse(): { strong: number; light: number } {
  const bpm = useBench((s) => feltBpm(s.work.tune, s.percent));
  const groove = useBench((s) => grooveFor(s.work, s.derived)?.name);
  const metre = useBench((s) => s.work.tune.metre);
  const { strong, light } = bowUse(groove === undefined ? undefined : grooveOf(groove, isCompound(metre)), metre, bpm);
  return { strong: Math.max(LEAST.strong, strong), light: Math.max(LEAST.light, light) };
}
const LEAST = { strong: 0.3, light: 0.14 };

function strokeWords({ direction, notes, locked }: Stroke): string {
  const [first] = notes as [Stroke["notes"][number]];
  const many = notes.length > 1 ? `, ${notes.length} notes` : "";
  return `${direction === "down" ? "Down" : "Up"}-bow${many}, bar ${barLabel(first.place)}${locked ? ", locked" : ""}`;
}
