"use client";
import { memo } from "react";
import type { SpokenNote } from "../../core/feel";
import { barLabelAt } from "../../core/score";
import { positionOf, type Timed } from "./chordPlaces";
import css from "./lane.module.css";
import type { RowOf } from "./layout";
import { useBench } from "./state";
import { usePulse } from "./usePulse";

/** Height of the lane; of a long block and a short one; where the words stand. Pixels. */
const HEIGHT = 40;
const BLOCK = { tall: 13, low: 8, foot: 16 };
const WORDS = 33;
/** Air between blocks. */
const AIR = 3;

type Block = { note: SpokenNote; x: number; width: number };

/** Under the staff what is said on every note, and how long it is, as woven blocks; the chosen cells stand out. */
export const CellLane = memo(function CellLane({ row, measured }: { row: RowOf; measured: Timed }) {
  const { spoken } = usePulse();
  const places = useBench((s) => s.derived.analysis.places);
  const own = spoken.filter((n) => n.bar >= row.from && n.bar <= row.to);
  const blocks = own.flatMap((note, i): Block[] => {
    const place = places[note.bar];
    const x = place && positionOf(place, note.at, measured);
    const next = own[i + 1];
    const nextPlace = next && places[next.bar];
    const after = next && nextPlace ? positionOf(nextPlace, next.at, measured) : undefined;
    const right = measured.bars.find((b) => b.index === note.bar)?.right ?? 0;
    if (x === undefined) return [];
    const end = Math.min(after ?? right, right);
    return [{ note, x, width: Math.max(8, end - x - AIR) }];
  });
  return (
    <div className={css.cells} style={{ height: HEIGHT }} role="img" aria-label={`Said: ${spokenWords(own, places)}`}>
      <svg width="100%" height={HEIGHT} aria-hidden>
        {blocks.map(({ note, x, width }) => {
          const tall = note.opens ? BLOCK.tall : BLOCK.low;
          return (
            <g key={`${note.bar}.${note.event}`} data-cell={note.cell ?? undefined}>
              <rect x={x} y={BLOCK.foot - tall} width={width} height={tall} rx={2.5} className={css.block} />
              <text x={x} y={WORDS} className={css.word}>
                {note.word}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
});

/** What is said in a row, bar by bar. */
function spokenWords(own: readonly SpokenNote[], places: Parameters<typeof barLabelAt>[0]): string {
  const bars = [...new Set(own.map((n) => n.bar))];
  return bars
    .map(
      (bar) =>
        `bar ${barLabelAt(places, bar)}: ${own
          .filter((n) => n.bar === bar)
          .map((n) => n.word)
          .join(" ")}`,
    )
    .join("; ");
}
