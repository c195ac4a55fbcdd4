"use client";
import { groupPartId } from "../../core/ensemble";
import { barLabelAt } from "../../core/score";
import type { Timed } from "./chordPlaces";
import css from "./lane.module.css";
import type { RowOf } from "./layout";
import { useBench } from "./state";

const HEIGHT = 10;
/** Points of a bar by itself from which it is as hard as can be shown. */
const FULL = 90;

/** Under a learner's part how hard each bar is by itself: the darker the harder, and its points for who looks. */
export function HeatLane({ row, measured }: { row: RowOf; measured: Timed }) {
  const shown = useBench((s) => s.shown);
  const part = useBench((s) => s.evening?.parts.find((p) => groupPartId(p.id) === shown));
  const places = useBench((s) => s.derived.analysis.places);
  if (!part) return null;
  const bars = measured.bars.filter((b) => b.index >= row.from && b.index <= row.to);
  const points = (bar: number) => Math.round(part.difficulty.bars[bar] ?? 0);
  const words = bars.map((b) => `bar ${barLabelAt(places, b.index)}: ${points(b.index)}`).join(", ");
  return (
    <div className={css.cells} style={{ height: HEIGHT }} role="img" aria-label={`How hard, bar by bar: ${words}`}>
      {bars.map((b) => (
        <div
          key={b.index}
          className={css.heat}
          style={{ left: b.left + 2, width: b.right - b.left - 4, opacity: Math.min(1, points(b.index) / FULL) }}
          title={`Bar ${barLabelAt(places, b.index)} by itself: ${points(b.index)} of 100`}
        />
      ))}
    </div>
  );
}
