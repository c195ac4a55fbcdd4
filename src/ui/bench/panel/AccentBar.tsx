"use client";
import type { Shaped } from "../../../core/feel";

const WIDTH = 276;
const HEIGHT = 92;
const FOOT = 74;
const TALLEST = 58;

/**
 * One bar of a groove: a weight on a thread for every part of it, as heavy as it is played, at its true place in time.
 */
export function AccentBar({ shape }: { shape: Shaped }) {
  const { groove, shares, weights } = shape;
  const beat = (WIDTH - 24) / groove.beats;
  const starts = shares.map((_, i) => shares.slice(0, i).reduce((a, b) => a + b, 0));
  const marks = weights.map((weight, i) => {
    const [order, part] = [Math.floor(i / groove.parts), i % groove.parts];
    return { weight, part, x: 12 + (order + (starts[part] as number)) * beat, order };
  });
  const words = marks.map((m) => `${m.part === 0 ? `beat ${m.order + 1}` : "and"} ${Math.round(m.weight * 100)}`);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" role="img" aria-label={`Accents: ${words.join(", ")}`}>
      <line x1="4" x2={WIDTH - 4} y1={FOOT} y2={FOOT} stroke="var(--chakra-colors-quiet)" />
      {marks.map(({ weight, part, x, order }) => {
        const height = weight * TALLEST;
        const strong = part === 0;
        return (
          <g key={x}>
            <line x1={x} x2={x} y1={8} y2={FOOT} stroke="var(--chakra-colors-cord)" />
            <rect
              x={x - (strong ? 6 : 4)}
              y={FOOT - height}
              width={strong ? 12 : 8}
              height={height}
              rx="2"
              fill={`var(--chakra-colors-${strong ? "madder" : "walnut"})`}
            />
            {strong && (
              <text x={x} y={HEIGHT - 4} textAnchor="middle" fontSize="12" fill="var(--chakra-colors-ink)">
                {order + 1}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
