"use client";
import { memo, type MouseEvent, type ReactNode } from "react";
import { pickedOn, strummedOn } from "../../core/ensemble";
import type { Instrument } from "../../core/instruments";
import { barLabel, strength } from "../../core/score";
import { isLight, SHORT_MOVES, type Stroke, type StrumStroke } from "../../core/strokes";
import { positionOf, type Timed } from "./chordPlaces";
import css from "./lane.module.css";
import type { RowOf } from "./layout";
import { useBench } from "./state";
import { usePicks, useStrum } from "./useStrokes";

/** Height of a lane of strings, and room above and below them. Pixels. */
const HEIGHT = 58;
const EDGE = 9;
const HEAD = 6;

type Drawn<S> = { stroke: S; index: number; x: number };

/** The strokes of a row where their notes stand. */
function inRow<S extends Stroke>(strokes: readonly S[], { from, to }: RowOf, measured: Timed): Drawn<S>[] {
  return strokes.flatMap((stroke, index) => {
    if (stroke.place.index < from || stroke.place.index > to) return [];
    const x = positionOf(stroke.place, stroke.at - stroke.place.at, measured);
    return x === undefined ? [] : [{ stroke, index, x: x + HEAD }];
  });
}

/** Where a string lies in a lane: the highest on top, as in a tablature. */
const laneOf = (strings: number) => (fromTop: number) =>
  strings > 1 ? EDGE + (fromTop * (HEIGHT - 2 * EDGE)) / (strings - 1) : HEIGHT / 2;

type LaneProps = {
  own: readonly Drawn<Stroke>[];
  strings: number;
  right: number;
  words: string;
  children: ReactNode;
};

/** A lane with its strings; a press takes up the nearest stroke. */
function Lane({ own, strings, right, words, children }: LaneProps) {
  const select = useBench((s) => s.select);
  const chosen = useBench((s) => (s.selection?.kind === "stroke" ? s.selection.index : null));
  const y = laneOf(strings);
  const held = own.find((o) => o.index === chosen);
  const press = (event: MouseEvent<HTMLElement>) => {
    const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
    const nearest = [...own].sort((p, q) => Math.abs(p.x - x) - Math.abs(q.x - x))[0];
    if (nearest) select(chosen === nearest.index ? null : { kind: "stroke", index: nearest.index });
  };
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Enter and the arrows go from stroke to stroke on the whole page
    <div className={css.shuttle} style={{ height: HEIGHT }} role="img" aria-label={words} onClick={press} data-shuttle>
      <svg width="100%" height={HEIGHT} aria-hidden>
        {held && <rect x={held.x - 9} width={18} y={0} height={HEIGHT} className={css.held} />}
        {[...Array(strings).keys()].map((i) => (
          <line key={i} x1={0} x2={right} y1={y(i)} y2={y(i)} className={css.string} />
        ))}
        {children}
        {own.map(({ stroke, index, x }) =>
          stroke.locked ? (
            <rect key={index} x={x - 3} y={HEIGHT - 7} width={6} height={6} className={css.pegged} />
          ) : null,
        )}
      </svg>
    </div>
  );
}

const rightOf = (measured: Timed) => Math.max(0, ...measured.bars.map((b) => b.right));

/** The plectrum's way through the strings it crosses: a triangle for each pick, pointing the way it goes. */
export const PickLane = memo(function PickLane({ row, measured }: { row: RowOf; measured: Timed }) {
  const plan = usePicks();
  const strings = useBench((s) => pickedOn(s.work).strings.length) || 1;
  const own = inRow(plan.strokes, row, measured);
  const y = laneOf(strings);
  const at = ({ stroke, x }: Drawn<Stroke>) => ({ x, y: y(strings - 1 - (stroke.notes[0]?.string ?? 0)) });
  const words = `Picks: ${own.map(({ stroke }) => `${stroke.direction}, bar ${barLabel(stroke.place)}`).join("; ")}`;
  return (
    <Lane own={own} strings={strings} right={rightOf(measured)} words={words}>
      <polyline
        className={css.path}
        points={own
          .map(at)
          .map((p) => `${p.x},${p.y}`)
          .join(" ")}
      />
      {own.map((drawn) => {
        const { x, y: on } = at(drawn);
        const way = drawn.stroke.direction === "down" ? 1 : -1;
        const strong = strength(drawn.stroke.place, drawn.stroke.at) >= 2;
        const size = strong ? 6.5 : 5;
        return (
          <path
            key={drawn.index}
            d={`M${x - size} ${on - way * size * 0.7} H${x + size} L${x} ${on + way * size} Z`}
            className={css.pick}
            data-strong={strong ? "" : undefined}
          />
        );
      })}
    </Lane>
  );
});

/**
 * A strum's strokes over the strings they touch, as the hand meets them: the lowest string on top, down is down. Each
 * kind has its own shape.
 */
export const StrumLane = memo(function StrumLane({ row, measured }: { row: RowOf; measured: Timed }) {
  const plan = useStrum();
  const strings = useBench((s) => stringsOf(strummedOn(s.work)));
  const own = inRow(plan.strokes, row, measured).filter((o) => o.stroke.kind !== "rest");
  const y = laneOf(strings);
  // The edges alone: lines for strings would be read as a tablature, which counts from the other side.
  const words = `Strum: ${own.map(({ stroke }) => `${stroke.kind} ${stroke.direction ?? ""}`.trim()).join(", ")}`;
  return (
    <Lane own={own} strings={2} right={rightOf(measured)} words={words}>
      {own.map(({ stroke, index, x }) => (
        <StrumMark key={index} stroke={stroke} x={x} y={y} strings={strings} />
      ))}
    </Lane>
  );
});

/** Strings a strum goes over; of what has none, as many as show its shapes. */
const stringsOf = ({ frets, strings }: Instrument): number => (frets ? strings.length : 4);

type MarkProps = { stroke: Stroke & StrumStroke; x: number; y: (fromTop: number) => number; strings: number };

function StrumMark({ stroke, x, y, strings }: MarkProps) {
  const { struck, direction, kind } = stroke;
  const move = stroke.own?.move;
  const light = isLight(stroke);
  const touched = struck.length > 0 ? struck.map((s) => strings - s.string) : [0, kind === "bass" ? 0 : strings - 1];
  const [top, foot] = [y(Math.min(...touched)), y(Math.max(...touched))];
  const ink = `var(--chakra-colors-${INKS[stroke.fill ? "fill" : kind] ?? "ink"})`;
  if (kind === "bass" || kind === "pluck") return <rect x={x - 4} y={top - 4} width={8} height={8} fill={ink} />;
  if (move)
    return (
      <>
        <path d={`M${x - 6} ${top + 3} q6 -9 12 0`} fill="none" stroke={ink} strokeWidth={2} strokeLinecap="round" />
        <text x={x} y={top - 4} textAnchor="middle" className={css.word}>
          {SHORT_MOVES[move]}
        </text>
      </>
    );
  if (kind === "melody") return <circle cx={x} cy={top} r={4.5} fill={ink} />;
  if (kind === "thumb") return <circle cx={x} cy={top} r={4} fill="none" stroke={ink} strokeWidth={2.2} />;
  if (kind === "chop")
    return (
      <path
        d={`M${x - 5} ${top} L${x + 5} ${foot} M${x + 5} ${top} L${x - 5} ${foot}`}
        stroke={ink}
        strokeWidth={2}
        strokeLinecap="round"
      />
    );
  const [tail, tip] = direction === "down" ? [top - 3, foot + 3] : [foot + 3, top - 3];
  const back = direction === "down" ? -5 : 5;
  return (
    <path
      d={`M${x} ${tail} V${tip} M${x - 4} ${tip + back} L${x} ${tip} L${x + 4} ${tip + back}`}
      fill="none"
      stroke={ink}
      strokeWidth={light ? 1.3 : 2.6}
      strokeDasharray={stroke.fill ? "3 2" : undefined}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  );
}
const INKS: Readonly<Record<string, string>> = {
  bass: "walnut",
  melody: "woad",
  thumb: "weld",
  chop: "madder",
  fill: "lichen",
  pluck: "walnut",
};
