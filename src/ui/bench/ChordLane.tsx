"use client";
import { Box } from "@chakra-ui/react";
import { memo, useMemo } from "react";
import { type ChordPlan, comparePlans } from "../../core/chords";
import type { Instrument } from "../../core/instruments";
import { barLabelAt, type Place } from "../../core/score";
import { type Shape, shapesFor } from "../../core/technique";
import { type ChordNames, nameChord } from "../../core/theory";
import { ChordButton } from "./ChordButton";
import { type Laned, type PlacedChord, placedChords, positionOf, type Timed } from "./chordPlaces";
import { Diagram, SMALL_HEIGHT } from "./Diagram";
import css from "./lane.module.css";
import type { RowOf } from "./layout";
import { type Selection, useBench } from "./state";
import { signed } from "../signs";
import { useChordNames } from "./useChordNames";
import { useDiagrams, useShapes } from "./useShapes";

/** Below this a bar's chords and melody disagree more than they should. */
const POOR = 0.62;

/** A chord of another plan in a bar that reads otherwise, at its place; null where it has none. */
type Rival = { bar: number; at: number; symbol: string | null };
/** Shapes of chords by their order in the plan. */
type Shapes = { on: Instrument; held: ReadonlyMap<number, Shape> };
type Props = {
  chords: readonly Laned[];
  places: readonly Place[];
  measured: Timed | null;
  chosen: number | null;
  names: ChordNames;
  rivals: readonly Rival[] | null;
  /** How each chord of the row is held, by its order in the plan, and on what; null where no diagrams are shown. */
  shapes: Shapes | null;
  /** How well each bar's chords fit, by bar; shown where given. */
  fits: readonly number[] | null;
  onSelect: (next: Selection) => void;
  onMove: (index: number, beats: number) => void;
};

/**
 * The chords of a row over their notes, and, where plans are compared, what the other one has and the notes changes
 * fall on.
 */
export function RowChords({
  row,
  places,
  measured,
  compared,
}: {
  row: RowOf;
  places: readonly Place[];
  measured: Timed | null;
  compared: boolean;
}) {
  const { from, to } = row;
  const plan = useBench((s) => s.derived.plan);
  const all = useBench((s) => s.derived.analysis.places);
  const rival = useBench((s) => s.rivalPlan);
  const chosen = useBench(({ selection }) => (selection?.kind === "chord" ? selection.index : null));
  const select = useBench((s) => s.select);
  const move = useBench((s) => s.moveChord);
  const { names } = useChordNames();
  const chords = useMemo(
    () =>
      plan.chords.flatMap((chord, index): Laned[] => {
        if (chord.bar < from || chord.bar > to) return [];
        const before = plan.chords[index - 1];
        return [{ chord, index, goesOn: before?.symbol === chord.symbol && before.bar >= from }];
      }),
    [plan, from, to],
  );
  const rivals = useMemo(
    () => (compared && rival ? rivalsOf(plan, rival, all).filter((b) => b.bar >= from && b.bar <= to) : null),
    [compared, rival, plan, all, from, to],
  );
  const shapes = useRowShapes(plan, chords);
  const here = chords.some((c) => c.index === chosen) ? chosen : null;
  return (
    <>
      <ChordLane
        chords={chords}
        places={places}
        measured={measured}
        chosen={here}
        names={names}
        rivals={rivals}
        shapes={shapes}
        fits={compared ? plan.fits : null}
        onSelect={select}
        onMove={move}
      />
      {compared && measured && (
        <Box position="relative" h="0">
          <ChangeMarks chords={chords} places={places} measured={measured} />
        </Box>
      )}
    </>
  );
}

/** How the chords of a row are held, where diagrams are asked for: from chord to chord with few fingers moved. */
function useRowShapes(plan: ChordPlan, chords: readonly Laned[]): Shapes | null {
  const [asked] = useDiagrams();
  const { on, level } = useShapes();
  const all = useMemo(
    () =>
      asked
        ? shapesFor(
            on,
            plan.chords.map((c) => c.symbol),
            level,
          )
        : null,
    [asked, on, plan, level],
  );
  return useMemo(() => {
    if (!all) return null;
    const held = new Map<number, Shape>();
    for (const { index, goesOn } of chords) {
      const shape = all[index];
      if (shape && !goesOn) held.set(index, shape);
    }
    return { on, held };
  }, [all, chords, on]);
}

/** The chords of another plan in the bars that read otherwise. */
function rivalsOf(plan: ChordPlan, other: ChordPlan, places: readonly Place[]): Rival[] {
  return comparePlans(plan, other, places).bars.flatMap(({ bar }): Rival[] => {
    const own = other.chords.filter((c) => c.bar === bar).map(({ at, symbol }) => ({ bar, at, symbol }));
    return own.length > 0 ? own : [{ bar, at: 0, symbol: null }];
  });
}

const same = (a: Props, b: Props) =>
  a.measured === b.measured &&
  a.chosen === b.chosen &&
  a.onSelect === b.onSelect &&
  a.onMove === b.onMove &&
  a.names === b.names &&
  JSON.stringify(a.fits) === JSON.stringify(b.fits) &&
  JSON.stringify(a.rivals) === JSON.stringify(b.rivals) &&
  a.shapes === b.shapes &&
  a.chords.length === b.chords.length &&
  a.chords.every((l, i) => {
    const m = b.chords[i] as Laned;
    return (
      l.index === m.index &&
      l.goesOn === m.goesOn &&
      l.chord.symbol === m.chord.symbol &&
      l.chord.at === m.chord.at &&
      l.chord.ticks === m.chord.ticks &&
      l.chord.locked === m.chord.locked
    );
  });

/** Chords on the very notes they start with. Drawn anew only when what it shows changes. */
const ChordLane = memo(function ChordLane(props: Props) {
  const { chords, places, measured, chosen, names, rivals, shapes, fits, onSelect, onMove } = props;
  const placed = placedChords(chords, places, measured);
  const over = shapes ? SMALL_HEIGHT : 0;
  return (
    <Box position="relative" h={`${(rivals ? 54 : 34) + over}px`} pt="4px" data-chords>
      {shapes && measured && <Diagrams placed={placed} shapes={shapes} />}
      {fits && measured && <Poor fits={fits} chords={chords} places={places} measured={measured} />}
      {measured?.bars.map((b, i) => (
        <div key={b.index} className={css.barline} style={{ left: i === 0 ? b.left : b.left - 0.5 }} />
      ))}
      {measured &&
        placed.map((p) => (
          <ChordButton
            key={`${p.chord.bar}.${p.chord.at}`}
            placed={p}
            places={places}
            measured={measured}
            chosen={chosen === p.index}
            names={names}
            onTake={() => onSelect(chosen === p.index ? null : { kind: "chord", index: p.index })}
            onMove={onMove}
          />
        ))}
      {rivals && measured && <Rivals rivals={rivals} places={places} measured={measured} names={names} />}
    </Box>
  );
}, same);

type Over = { places: readonly Place[]; measured: Timed };

/** Room a diagram takes at least. Pixels. */
const NARROWEST = 44;

/** How each chord is held, under its name; none where the next chord leaves no room. */
function Diagrams({ placed, shapes }: { placed: readonly PlacedChord[]; shapes: Shapes }) {
  return placed.map(({ index, x, room }) => {
    const shape = shapes.held.get(index);
    return shape && room >= NARROWEST ? (
      <div key={index} className={css.diagram} style={{ left: x - 8 }}>
        <Diagram on={shapes.on} shape={shape} size="small" />
      </div>
    ) : null;
  });
}

/** A band over each bar whose melody often leaves its chords; the others need no sign. */
function Poor({ fits, chords, places, measured }: Over & { fits: readonly number[]; chords: readonly Laned[] }) {
  const chorded = new Set(chords.map((l) => l.chord.bar));
  return measured.bars
    .filter((b) => chorded.has(b.index) && (fits[b.index] ?? 1) < POOR)
    .map((b) => (
      <div
        key={b.index}
        className={css.poor}
        style={{ left: b.left + 4, width: Math.max(8, b.right - b.left - 8) }}
        title={`Bar ${barLabelAt(places, b.index)}: the tune often leaves its chord here. Another may go better.`}
      />
    ));
}

/** What the other plan has in bars that read otherwise, each chord over the note it starts with. */
function Rivals({ rivals, places, measured, names }: Over & { rivals: readonly Rival[]; names: ChordNames }) {
  return rivals.map(({ bar, at, symbol }) => {
    const place = places.find((p) => p.index === bar);
    const x = place && positionOf(place, at, measured);
    return place && x !== undefined ? (
      <div key={`${bar}.${at}`} className={css.rival} style={{ left: x }} title="What the other chords have here">
        {symbol === null ? "none" : signed(nameChord(symbol, place.key, names))}
      </div>
    ) : null;
  });
}

/** How long a mark under a chord is, and how near it may come to a head. Pixels. */
const MARK = { most: 10, clear: 9 };

/** A short mark from each change down to the note it falls on. */
function ChangeMarks({ chords, places, measured }: Over & { chords: readonly Laned[] }) {
  return chords
    .filter((l) => !l.goesOn)
    .map(({ chord }) => {
      const place = places.find((p) => p.index === chord.bar);
      const x = place && positionOf(place, chord.at, measured);
      // It ends before the highest head of its bar, so that it crosses no note.
      const staff = measured.staves.find((s) => s.bar === chord.bar);
      const highest = Math.min(staff?.top ?? 0, ...(staff?.heads.values() ?? []));
      const height = Math.min(MARK.most, highest - MARK.clear);
      return x === undefined || height < 3 ? null : (
        <div key={`${chord.bar}.${chord.at}`} className={css.change} style={{ left: x + 5, height }} />
      );
    });
}
