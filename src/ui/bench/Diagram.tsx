import type { Instrument } from "../../core/instruments";
import type { Shape } from "../../core/technique";

/** A shape as it is written: a fret for each string from the lowest course, x where it is silent. */
export const shapeName = (on: Instrument, { held }: Shape): string =>
  on.strings.map((_, i) => held.find((h) => h.string === i)?.fret.label ?? "x").join(" ");

/** Measures of a diagram: large in the panel, small over the staff. Pixels. */
const SIZES = {
  large: { width: 84, top: 22, row: 17, side: 12, dot: 6, ring: 4, foot: 14, text: 12 },
  small: { width: 46, top: 13, row: 9, side: 7, dot: 3.4, ring: 2.4, foot: 2, text: 9 },
};
const ROWS = 5;
/** Height of a small diagram: the lane's room for it. */
export const SMALL_HEIGHT = SIZES.small.top + ROWS * SIZES.small.row + SIZES.small.foot;

/**
 * One shape over its strings: spots where fingers are, a bar where one lies across, a ring over an open string, a cross
 * over a silent one. Frets lie where the instrument has them, half frets between; a short string starts lower down.
 */
export function Diagram({ on, shape, size = "large" }: { on: Instrument; shape: Shape; size?: keyof typeof SIZES }) {
  const { width, top, row, side, dot, ring, foot, text } = SIZES[size];
  const strings = on.strings.length;
  const frets = on.frets ?? [];
  const x = (i: number) => side + (i * (width - 2 * side)) / Math.max(1, strings - 1);
  const order = (semitones: number) => frets.findIndex((f) => f.semitones === semitones);
  const orders = shape.held.map((h) => order(h.fret.semitones));
  const lowest = Math.min(...orders.filter((o) => o > 0));
  const first = Math.max(...orders) > ROWS ? lowest : 1;
  const y = (o: number) => top + (o - first + 0.5) * row;
  const height = top + ROWS * row + foot;
  const across = shape.held.filter((h) => order(h.fret.semitones) === lowest).map((h) => h.string);
  const words = `${on.name}: ${shapeName(on, shape)}, from the lowest string`;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} role="img" aria-label={words}>
      <line
        x1={x(0)}
        x2={x(strings - 1)}
        y1={top}
        y2={top}
        stroke="var(--chakra-colors-ink)"
        strokeWidth={first === 1 ? 3 : 1}
      />
      {[...Array(ROWS).keys()].map((r) => (
        <line
          key={r}
          x1={x(0)}
          x2={x(strings - 1)}
          y1={top + (r + 1) * row}
          y2={top + (r + 1) * row}
          stroke="var(--chakra-colors-quiet)"
          strokeDasharray={frets[first + r]?.label.endsWith("+") ? "3 2" : undefined}
          strokeWidth={0.8}
        />
      ))}
      {on.strings.map(({ number, shortFrom }, i) => {
        const held = shape.held.find((h) => h.string === i);
        const at = held ? order(held.fret.semitones) : 0;
        const starts = shortFrom ? top + row * (ROWS - 1) : top;
        const cross = ring - 0.5;
        const wide = 2 * cross;
        return (
          <g key={number}>
            <line x1={x(i)} x2={x(i)} y1={starts} y2={top + ROWS * row} stroke="var(--chakra-colors-walnut)" />
            {held && at > 0 && <circle cx={x(i)} cy={y(at)} r={dot} fill="var(--chakra-colors-woad)" />}
            {held && at === 0 && (
              <circle
                cx={x(i)}
                cy={top - ring - 4}
                r={ring}
                fill="none"
                stroke="var(--chakra-colors-woad)"
                strokeWidth={1.4}
              />
            )}
            {!held && !shortFrom && (
              <path
                d={`M${x(i) - cross} ${top - ring - 4 - cross} l${wide} ${wide} m0 ${-wide} l${-wide} ${wide}`}
                stroke="var(--chakra-colors-quiet)"
                strokeWidth={1.2}
              />
            )}
          </g>
        );
      })}
      {shape.barre > 0 && (
        <line
          x1={x(Math.min(...across))}
          x2={x(Math.max(...across))}
          y1={y(lowest)}
          y2={y(lowest)}
          stroke="var(--chakra-colors-woad)"
          strokeWidth={dot}
          strokeLinecap="round"
        />
      )}
      {first > 1 && (
        <text x={0} y={y(first) + 4} fontSize={text} fill="var(--chakra-colors-quiet)">
          {frets[first]?.label}
        </text>
      )}
    </svg>
  );
}
