import { type Instrument, LEVELS, reachOf } from "../../core/instruments";
import { className, midi } from "../../core/theory";
import { signed } from "../signs";

const WIDTH = 620;
const NUT = 46;
const GAP = 22;
const TOP = 34;
/** Share of the string, from the nut, that is drawn. */
const shareOf = (semitones: number): number => 1 - 2 ** (-semitones / 12);

/**
 * The strings of an instrument with its frets where they lie, half frets dashed, a short string where it begins; above
 * them how far each level goes.
 */
export function Neck({ on }: { on: Instrument }) {
  const highest = on.frets?.at(-1)?.semitones ?? Math.max(...(on.reach ?? []).map((r) => r.highest));
  const scale = (WIDTH - NUT - 16) / shareOf(highest);
  const x = (semitones: number) => NUT + shareOf(semitones) * scale;
  const strings = [...on.strings].reverse();
  const bottom = TOP + (strings.length - 1) * GAP;
  const semitonesOf = (fret: number) =>
    on.frets?.filter((f) => Number.parseFloat(f.label) <= fret).at(-1)?.semitones ?? fret;
  const ends = LEVELS.map((level, i) => ({ level: i + 1, at: x(semitonesOf(reachOf(on, level).highest)) }));
  const letters = strings.map((s) => className(s.open)).join(", ");
  const words = `Strings from the highest: ${letters}; frets at their distances`;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${bottom + 30}`} width="100%" role="img" aria-label={words}>
      <line x1={NUT} x2={NUT} y1={TOP - 6} y2={bottom + 6} stroke="var(--chakra-colors-ink)" strokeWidth={3} />
      {on.frets?.slice(1).map(({ label, semitones }) => (
        <g key={label}>
          <line
            x1={x(semitones)}
            x2={x(semitones)}
            y1={TOP - 6}
            y2={bottom + 6}
            stroke="var(--chakra-colors-quiet)"
            strokeDasharray={label.endsWith("+") ? "3 3" : undefined}
            strokeWidth={0.9}
          />
          {x(semitones) - x(semitones - 1) > 17 && (
            <text
              x={(x(semitones) + x(Math.max(0, semitones - 1))) / 2}
              y={bottom + 24}
              textAnchor="middle"
              fontSize="12"
              fill="var(--chakra-colors-quiet)"
            >
              {label}
            </text>
          )}
        </g>
      ))}
      {strings.map(({ number, open, shortFrom }, i) => (
        <g key={number}>
          <text x={NUT - 12} y={TOP + i * GAP + 5} textAnchor="end" fontSize="14" fill="var(--chakra-colors-ink)">
            {signed(className(open))}
          </text>
          <line
            x1={shortFrom ? x(shortFrom) : NUT}
            x2={WIDTH - 8}
            y1={TOP + i * GAP}
            y2={TOP + i * GAP}
            stroke="var(--chakra-colors-walnut)"
            strokeWidth={Math.max(1, 3.4 - midi(open) / 30)}
          />
        </g>
      ))}
      {ends.map(({ level, at }) => (
        <g key={level}>
          <path d={`M${at} ${TOP - 9} l-5 -8 h10 z`} fill="var(--chakra-colors-woad)" />
          <text
            x={at + (ends.filter((e) => e.at === at && e.level < level).length - 0) * 12}
            y={TOP - 20}
            textAnchor="middle"
            fontSize="12"
            fontWeight="700"
            fill="var(--chakra-colors-woad)"
          >
            {level}
          </text>
        </g>
      ))}
    </svg>
  );
}
