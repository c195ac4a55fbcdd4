"use client";
import { type PointerEvent, useRef } from "react";
import { barLabel, momentWords, type Place } from "../../core/score";
import { type ChordNames, chordWords, nameChord, parseChord } from "../../core/theory";
import { signed } from "../signs";
import css from "./lane.module.css";
import { beatsIn, type PlacedChord, type Timed } from "./chordPlaces";

/** Pixels before a press becomes a drag. */
const DRAG = 8;
/** Below two thirds a name could not be read. */
const SMALLEST = 0.66;
/** Width of a letter of the root and of what follows it, at full size. Pixels. */
const LETTER = { root: 12, rest: 9 };

/** A name in its two sizes: root or numeral, and the rest. */
function inTwo(name: string, names: ChordNames): [root: string, rest: string] {
  const pattern = names === "letters" ? /^([A-G][#b]?)(.*)$/ : /^([#b]*(?:[IViv]+|[TSDNPtsdnp]+))(.*)$/;
  const [, root = name, rest = ""] = pattern.exec(name) ?? [];
  return [names === "letters" ? signed(root) : root, rest];
}

/** Drags a change to another beat. */
function useChangeDrag(
  { index, place, chord, x, goesOn }: PlacedChord,
  places: readonly Place[],
  measured: Timed,
  onMove: (index: number, beats: number) => void,
) {
  const start = useRef<number | null>(null);
  const rest = (e: PointerEvent<HTMLElement>) => {
    start.current = null;
    e.currentTarget.style.transform = "";
  };
  return {
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      if (goesOn || e.button !== 0) return;
      start.current = e.clientX;
      e.currentTarget.setPointerCapture(e.pointerId);
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const moved = e.clientX - (start.current ?? e.clientX);
      if (e.buttons && Math.abs(moved) >= DRAG) e.currentTarget.style.transform = `translateX(${moved}px)`;
    },
    onPointerUp: (e: PointerEvent<HTMLElement>) => {
      const moved = e.clientX - (start.current ?? e.clientX);
      rest(e);
      if (Math.abs(moved) < DRAG) return;
      e.currentTarget.addEventListener("click", (click) => click.stopPropagation(), { once: true, capture: true });
      const beats = beatsIn(places, measured);
      const away = (b: { x: number }) => Math.abs(b.x - x - moved);
      const to = beats.reduce((a, b) => (away(b) < away(a) ? b : a));
      onMove(index, beats.indexOf(to) - beats.findIndex((b) => b.at === place.at + chord.at));
    },
    onPointerCancel: rest,
  };
}

type Props = {
  placed: PlacedChord;
  places: readonly Place[];
  measured: Timed;
  chosen: boolean;
  names: ChordNames;
  onTake: () => void;
  onMove: (index: number, beats: number) => void;
};

/** A chord on the note it starts with. One that only goes on is quiet, a locked one has its peg. */
export function ChordButton({ placed, places, measured, chosen, names, onTake, onMove }: Props) {
  const { chord, place, goesOn, x, room } = placed;
  const drag = useChangeDrag(placed, places, measured, onMove);
  const [root, rest] = inTwo(nameChord(chord.symbol, place.key, names), names);
  const parsed = parseChord(chord.symbol);
  const where = `bar ${barLabel(place)}, ${momentWords(place, place.at + chord.at)}`;
  const quiet = goesOn && !chosen;
  const width = root.length * LETTER.root + rest.length * LETTER.rest;
  const size = Math.max(SMALLEST, Math.min(1, room / width));
  return (
    <button
      type="button"
      className={css.chord}
      style={{ left: x - 6, width: chosen ? Math.max(30, room + 6) : undefined }}
      data-goes-on={goesOn ? "" : undefined}
      aria-pressed={chosen}
      aria-label={`${parsed ? chordWords(parsed) : chord.symbol}, ${where}${chord.locked ? ", locked" : ""}`}
      onClick={onTake}
      {...drag}
    >
      <span className={css.root} style={{ fontSize: (quiet ? 13 : 18) * size }}>
        {root}
      </span>
      <span className={css.rest} style={{ fontSize: (quiet ? 12 : 15) * size }}>
        {rest}
      </span>
      {chord.locked && <span className={css.peg} />}
    </button>
  );
}
