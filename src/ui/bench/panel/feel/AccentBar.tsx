"use client";
import { useRef, useState } from "react";
import type { Pull, Shaped } from "../../../../core/feel";
import css from "./accents.module.css";

const WIDTH = 276;
const HEIGHT = 104;
const FOOT = 84;
const TALLEST = 68;
const EDGE = 12;
/** Percent of loudness, and share of a beat, that one press of an arrow key moves. */
const STEP = { weight: 0.04, share: 0.02 };
/** Pixels a finger moves sideways before it means time and not loudness. */
const SLACK = 5;

type Props = { shape: Shaped; onPull: (pull: Pull, done: boolean) => void };

/**
 * One bar of a groove: a weight on a thread for every part of it, as heavy as it is played, at its true place in time.
 * A handle is dragged up and down for loudness; between the beats also to the sides, for swing.
 */
export function AccentBar({ shape, onPull }: Props) {
  const { groove, shares, weights } = shape;
  const beat = (WIDTH - 2 * EDGE) / groove.beats;
  const starts = shares.map((_, i) => shares.slice(0, i).reduce((a, b) => a + b, 0));
  return (
    <div className={css.bar}>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" aria-hidden>
        <line x1="4" x2={WIDTH - 4} y1={FOOT} y2={FOOT} stroke="var(--chakra-colors-quiet)" />
        {[...Array(groove.beats).keys()].map((i) => (
          <text
            key={i}
            x={EDGE + i * beat}
            y={HEIGHT - 4}
            textAnchor="middle"
            fontSize="12"
            fill="var(--chakra-colors-ink)"
          >
            {i + 1}
          </text>
        ))}
        {weights.map((weight, i) => {
          const x = EDGE + placeOf(i, groove.parts, starts) * beat;
          const strong = i % groove.parts === 0;
          const wide = strong ? 12 : 8;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: parts of one bar, in order
            <g key={i}>
              <line x1={x} x2={x} y1={8} y2={FOOT} stroke="var(--chakra-colors-cord)" />
              <rect
                x={x - wide / 2}
                y={FOOT - weight * TALLEST}
                width={wide}
                height={weight * TALLEST}
                rx="2"
                fill={`var(--chakra-colors-${strong ? "madder" : "walnut"})`}
              />
              <rect
                x={x - wide / 2}
                y={FOOT - weight * TALLEST}
                width={wide}
                height="4"
                fill="var(--chakra-colors-ink)"
              />
            </g>
          );
        })}
      </svg>
      {weights.map((weight, i) => (
        <Handle
          // biome-ignore lint/suspicious/noArrayIndexKey: parts of one bar, in order
          key={i}
          name={partName(i, groove.parts)}
          x={EDGE + placeOf(i, groove.parts, starts) * beat}
          weight={weight}
          share={starts[i % groove.parts] as number}
          beat={beat}
          sideways={i % groove.parts > 0}
          onPull={(loud, share, done) => onPull({ part: i, weight: loud, share }, done)}
        />
      ))}
    </div>
  );
}

/** Where a part of the bar lies, in beats. */
const placeOf = (i: number, parts: number, starts: readonly number[]) =>
  Math.floor(i / parts) + (starts[i % parts] as number);
const partName = (i: number, parts: number) => {
  const beat = Math.floor(i / parts) + 1;
  const part = i % parts;
  if (part === 0) return `Beat ${beat}`;
  return parts === 2 ? `The and of ${beat}` : `Beat ${beat}, part ${part + 1}`;
};

type HandleProps = {
  name: string;
  x: number;
  weight: number;
  share: number;
  beat: number;
  sideways: boolean;
  onPull: (weight: number, share: number, done: boolean) => void;
};

/** The top of a weight, to be dragged; the arrow keys do the same. */
function Handle({ name, x, weight, share, beat, sideways, onPull }: HandleProps) {
  const from = useRef<{ x: number; y: number; weight: number; share: number; scale: number } | null>(null);
  const [held, setHeld] = useState(false);
  const moved = (event: React.PointerEvent): [number, number] => {
    const begun = from.current;
    if (!begun) return [weight, share];
    const [dx, dy] = [(event.clientX - begun.x) / begun.scale, (event.clientY - begun.y) / begun.scale];
    const aside = sideways && Math.abs(dx) > SLACK ? dx - Math.sign(dx) * SLACK : 0;
    return [clamp(begun.weight - dy / TALLEST), clamp(begun.share + aside / beat)];
  };
  const byKey = (event: React.KeyboardEvent) => {
    const step: Record<string, [number, number] | undefined> = {
      ArrowUp: [STEP.weight, 0],
      ArrowDown: [-STEP.weight, 0],
      ArrowRight: sideways ? [0, STEP.share] : undefined,
      ArrowLeft: sideways ? [0, -STEP.share] : undefined,
    };
    const own = step[event.key];
    if (!own) return;
    event.preventDefault();
    event.stopPropagation();
    onPull(clamp(weight + own[0]), clamp(share + own[1]), true);
  };
  const percent = Math.round(weight * 100);
  return (
    <button
      type="button"
      role="slider"
      aria-label={name}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={percent}
      aria-valuetext={`${percent} percent loud${sideways ? `, ${Math.round(share * 100)} percent into the beat` : ""}`}
      className={css.handle}
      data-held={held ? "" : undefined}
      style={{
        left: `${(x / WIDTH) * 100}%`,
        top: `${((FOOT - weight * TALLEST) / HEIGHT) * 100}%`,
        cursor: sideways ? "move" : "ns-resize",
      }}
      title={`${name}: ${percent}`}
      onKeyDown={byKey}
      onPointerDown={(event) => {
        const width = event.currentTarget.parentElement?.clientWidth ?? WIDTH;
        from.current = { x: event.clientX, y: event.clientY, weight, share, scale: width / WIDTH };
        event.currentTarget.setPointerCapture(event.pointerId);
        setHeld(true);
      }}
      onPointerMove={(event) => {
        if (from.current) onPull(...moved(event), false);
      }}
      onPointerUp={(event) => {
        if (from.current) onPull(...moved(event), true);
        from.current = null;
        setHeld(false);
      }}
      onPointerCancel={() => {
        from.current = null;
        setHeld(false);
      }}
    />
  );
}
const clamp = (value: number) => Math.min(1, Math.max(0.05, value));
