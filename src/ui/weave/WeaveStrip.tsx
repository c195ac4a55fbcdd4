"use client";
import { type KeyboardEvent, memo, type PointerEvent, useEffect, useRef } from "react";
import type { Cell } from "../../core/analysis";
import css from "./weave.module.css";

const DYES = ["woad", "madder", "lichen", "heather", "walnut"];
const TEXTURES = 5;
/** From this height a cell says with its phrase what it echoes. Pixels. */
const TALL = 24;
/** Bars up to which there is room between cells. */
const SPACED = 150;

type Props = {
  cells: readonly Cell[];
  height: number;
  /** Letters of the strains in the cells, or bar numbers too; only where there is room. */
  marks?: "letters" | "numbers" | undefined;
  current?: number | null | undefined;
  sounding?: number | null | undefined;
  loop?: { from: number; to: number } | null | undefined;
  onPick?: (bar: number, extend: boolean) => void;
};

/**
 * The woven picture of a tune: one cell a bar, dye for notes, texture for rhythm, weld where a phrase parts from its
 * model.
 */
export const WeaveStrip = memo(function WeaveStrip(props: Props) {
  const { cells, height, marks, current, sounding, loop, onPick } = props;
  const chosen = sounding ?? current;
  const strip = useRef<HTMLDivElement>(null);
  // Who goes through the strip by arrows stays on the bar that is gone to.
  useEffect(() => {
    const own = strip.current;
    if (own?.contains(document.activeElement)) own.querySelector<HTMLElement>('[tabindex="0"]')?.focus();
  });
  return (
    <div
      ref={strip}
      className={css.strip}
      data-dense={flag(cells.length > SPACED)}
      style={{ height }}
      {...(onPick ? { role: "group", "aria-label": "Bars of the tune" } : { "aria-hidden": true })}
    >
      {cells.map((cell, i) => (
        <WeaveCell
          key={cell.bar}
          cell={cell}
          first={cells[i - 1]?.phrase !== cell.phrase}
          chosen={chosen === cell.bar}
          outside={loop ? cell.bar < loop.from || cell.bar > loop.to : false}
          marks={marks}
          reached={onPick !== undefined && (current ?? 0) === cell.bar}
          tall={height > TALL}
          onPick={onPick}
        />
      ))}
    </div>
  );
});

/** The dye a cell is woven in, by name. */
function dyeOf({ parting, linen, dye }: Cell): string {
  if (linen) return "linen";
  return parting ? "weld" : (DYES[dye % DYES.length] as string);
}
/** The colour of it, as a token: linen shows as its cord, an echo paler than what it echoes. */
function colourOf(cell: Cell): string {
  if (cell.linen) return "cord";
  return `${dyeOf(cell)}-${cell.echo && !cell.parting ? "pale" : "cloth"}`;
}

const flag = (on: unknown) => (on ? "" : undefined);

type CellProps = {
  cell: Cell;
  /** The first of its phrase. */
  first: boolean;
  chosen: boolean;
  outside: boolean;
  marks: Props["marks"];
  /** The one cell that Tab comes to; the arrows go on from it. */
  reached: boolean;
  tall: boolean;
  onPick: Props["onPick"];
};

/** A cell changes when what it shows does, not when the tune is worked out anew. */
const same = (a: CellProps, b: CellProps) =>
  a.first === b.first &&
  a.chosen === b.chosen &&
  a.outside === b.outside &&
  a.marks === b.marks &&
  a.reached === b.reached &&
  a.tall === b.tall &&
  a.onPick === b.onPick &&
  JSON.stringify(a.cell) === JSON.stringify(b.cell);

const WeaveCell = memo(function WeaveCell({ cell, first, chosen, outside, marks, reached, tall, onPick }: CellProps) {
  const looks = {
    className: css.cell,
    title: cell.says,
    "data-texture": cell.texture % TEXTURES,
    "data-dye": dyeOf(cell),
    "data-pickup": flag(cell.pickup),
    "data-first": flag(first),
    "data-opens": flag(cell.opens),
    "data-closes": flag(cell.closes),
    "data-ending": flag(cell.ending),
    "data-outside": flag(outside),
    "data-here": flag(chosen),
    style: { backgroundColor: `var(--chakra-colors-${colourOf(cell)})` },
  };
  const words = marks && (
    <>
      {first && (
        <span className={css.phrase}>
          {cell.strain}
          {cell.echo && tall ? ` ${cell.echo}` : ""}
        </span>
      )}
      {marks === "numbers" && !cell.pickup && <span className={css.number}>{cell.label}</span>}
    </>
  );
  if (!onPick) return <div {...looks}>{words}</div>;
  return (
    <button
      type="button"
      {...looks}
      aria-label={cell.says}
      tabIndex={reached ? 0 : -1}
      aria-current={chosen ? "true" : undefined}
      onPointerDown={(e: PointerEvent) => {
        e.currentTarget.releasePointerCapture?.(e.pointerId);
        onPick(cell.bar, e.shiftKey);
      }}
      onPointerEnter={(e: PointerEvent) => {
        if (e.buttons === 1) onPick(cell.bar, true);
      }}
      onKeyDown={(e: KeyboardEvent) => {
        if (e.key === "Enter") onPick(cell.bar, e.shiftKey);
      }}
    >
      {words}
    </button>
  );
}, same);
