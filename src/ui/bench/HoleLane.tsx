"use client";
import { memo, useMemo } from "react";
import { handFor } from "../../core/ensemble";
import { instrument, LEVELS } from "../../core/instruments";
import { barLabelAt } from "../../core/score";
import { blown } from "../../core/technique";
import { positionOf, type Timed } from "./chordPlaces";
import css from "./lane.module.css";
import type { RowOf } from "./layout";
import { useBench } from "./state";

/** Height of a lane of holes, of a hole and the next, and of a lane of buttons. Pixels. */
const HOLES = { height: 66, top: 7, each: 9, radius: 3.2 };
const BUTTONS = { height: 40 };
/** From the left edge of a head to its middle. */
const HEAD = 6;

/** Under the staff how each note is made: the holes of a whistle, or the row of a box and the way of its bellows. */
export const HoleLane = memo(function HoleLane({ row, measured, name }: { row: RowOf; measured: Timed; name: string }) {
  const places = useBench((s) => s.derived.analysis.places);
  const level = useBench((s) => handFor(s.work, name).level);
  const own = useBench((s) => s.work.instruments);
  const on = instrument(name, own);
  const made = useMemo(
    () => (on && on.strings.length === 0 ? blown(places, on, LEVELS.find((l) => l === level) ?? LEVELS[2]) : null),
    [on, places, level],
  );
  if (!made) return null;
  const drawn = made.strokes.flatMap((stroke) => {
    const { place, at } = stroke;
    if (place.index < row.from || place.index > row.to) return [];
    const x = positionOf(place, at - place.at, measured);
    return x === undefined ? [] : [{ stroke, x: x + HEAD }];
  });
  const holes = drawn.some((o) => o.stroke.way.holes);
  const buttons = drawn.some((o) => o.stroke.way.button);
  if (!holes && !buttons) return null;
  const words = drawn.map(({ stroke: { way, place } }) => {
    const said = way.holes ?? `${way.button} ${way.bellows}`;
    return `bar ${barLabelAt(places, place.index)} ${said}`;
  });
  const height = holes ? HOLES.height : BUTTONS.height;
  return (
    <div className={css.cells} style={{ height }} role="img" aria-label={`${name}: ${words.join("; ")}`}>
      <svg width="100%" height={height} aria-hidden>
        {drawn.map(({ stroke: { at, way }, x }, i) => (
          <g key={at}>
            {way.holes && <Holes holes={way.holes} x={x} />}
            {way.button && <Button way={way} before={drawn[i - 1]?.stroke.way.bellows} x={x} />}
          </g>
        ))}
      </svg>
    </div>
  );
});

/** Six holes from the mouth down: closed, open or half; a plus for each time it is blown harder. */
function Holes({ holes, x }: { holes: string; x: number }) {
  const six = [...holes.slice(0, 6)];
  return (
    <>
      {six.map((hole, i) => {
        const y = HOLES.top + i * HOLES.each;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: holes in order
          <g key={i}>
            <circle cx={x} cy={y} r={HOLES.radius} className={css.hole} data-hole={hole} />
            {hole === "h" && <path d={`M${x} ${y - 3.2} a3.2 3.2 0 0 0 0 6.4 Z`} fill="var(--chakra-colors-ink)" />}
          </g>
        );
      })}
      <text x={x} y={HOLES.height - 1} textAnchor="middle" className={css.word}>
        {holes.slice(6)}
      </text>
    </>
  );
}

const SIGN = { push: "▸◂", pull: "◂▸" };
/** The row, and the bellows where they turn. */
function Button({
  way,
  before,
  x,
}: {
  way: { button?: string; bellows?: "push" | "pull" };
  before: string | undefined;
  x: number;
}) {
  return (
    <>
      <text x={x} y={13} textAnchor="middle" className={css.row}>
        {way.button?.[0]}
      </text>
      {way.bellows && way.bellows !== before && (
        <text x={x} y={32} textAnchor="middle" className={css.word}>
          {SIGN[way.bellows]}
        </text>
      )}
    </>
  );
}
