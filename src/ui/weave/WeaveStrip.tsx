"use client";
import { type KeyboardEvent, memo, type PointerEvent } from "react";
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
  /** Bar numbers in the cells; only where there is room. */
  numbered?: boolean;
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
  const { cells, height, numbered = false, current, sounding, loop, onPick } = props;
  const chosen = sounding ?? current;
  return (
    <div
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
          numbered={numbered}
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
/** The colour of it: linen shows as its cord, an echo paler than what it echoes. */
function colourOf(cell: Cell): string {
  const name = dyeOf(cell);
  if (cell.parting) return "weld";
  if (cell.linen) return "cord";
  return cell.echo ? `${name}Pale` : name;
}

const flag = (on: unknown) => (on ? "" : undefined);

type CellProps = {
  cell: Cell;
  /** The first of its phrase. */
  first: boolean;
  chosen: boolean;
  outside: boolean;
  numbered: boolean;
  tall: boolean;
  onPick: Props["onPick"];
};

/** A cell changes when what it shows does, not when the tune is worked out anew. */
const same = (a: CellProps, b: CellProps) =>
  a.first === b.first &&
  a.chosen === b.chosen &&
  a.outside === b.outside &&
  a.numbered === b.numbered &&
  a.tall === b.tall &&
  a.onPick === b.onPick &&
  JSON.stringify(a.cell) === JSON.stringify(b.cell);

const WeaveCell = memo(function WeaveCell({ cell, first, chosen, outside, numbered, tall, onPick }: CellProps) {
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
    style: { backgroundColor: `var(--chakra-colors-${colourOf(cell).replace(/Pale$/, "-pale")})` },
  };
  const words = numbered && (
    <>
      {first && (
        <span className={css.phrase}>
          {cell.strain}
          {cell.echo && tall ? ` ${cell.echo}` : ""}
        </span>
      )}
      {!cell.pickup && <span className={css.number}>{cell.label}</span>}
    </>
  );
  if (!onPick) return <div {...looks}>{words}</div>;
  return (
    <button
      type="button"
      {...looks}
      aria-label={cell.says}
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
