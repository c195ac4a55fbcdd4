"use client";
import { Box } from "@chakra-ui/react";
import { memo, useMemo } from "react";
import { comparePlans } from "../../core/chords";
import { barLabelAt, type Place } from "../../core/score";
import { type ChordNames, nameChord } from "../../core/theory";
import type { Measured } from "../../engraving";
import { ChordButton } from "./ChordButton";
import { type Laned, placedChords, positionOf } from "./chordPlaces";
import css from "./lane.module.css";
import type { RowOf } from "./layout";
import { type Selection, useBench } from "./state";
import { useChordNames } from "./useChordNames";

/** Below this a bar's chords and melody disagree more than they should. */
const POOR = 0.62;

/** What another plan has in a bar that reads otherwise. */
type RivalBar = { bar: number; theirs: readonly string[] };
type Props = {
  chords: readonly Laned[];
  places: readonly Place[];
  measured: Measured | null;
  chosen: number | null;
  names: ChordNames;
  rivals: readonly RivalBar[] | null;
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
  measured: Measured | null;
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
    () => (compared && rival ? comparePlans(plan, rival, all).bars.filter((b) => b.bar >= from && b.bar <= to) : null),
    [compared, rival, plan, all, from, to],
  );
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

const same = (a: Props, b: Props) =>
  a.measured === b.measured &&
  a.chosen === b.chosen &&
  a.onSelect === b.onSelect &&
  a.onMove === b.onMove &&
  a.names === b.names &&
  JSON.stringify(a.fits) === JSON.stringify(b.fits) &&
  JSON.stringify(a.rivals) === JSON.stringify(b.rivals) &&
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
  const { chords, places, measured, chosen, names, rivals, fits, onSelect, onMove } = props;
  const placed = placedChords(chords, places, measured);
  return (
    <Box position="relative" h={rivals ? "54px" : "34px"} pt="4px" data-chords>
      {fits && measured && <Fits fits={fits} chords={chords} places={places} measured={measured} />}
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

type Over = { places: readonly Place[]; measured: Measured };

/** How well each bar's chords fit its melody, as a thin band over it. */
function Fits({ fits, chords, places, measured }: Over & { fits: readonly number[]; chords: readonly Laned[] }) {
  const chorded = new Set(chords.map((l) => l.chord.bar));
  return measured.bars
    .filter((b) => chorded.has(b.index))
    .map((b) => {
      const fit = fits[b.index] ?? 1;
      const bar = barLabelAt(places, b.index);
      return (
        <div
          key={b.index}
          className={css.fit}
          data-poor={fit < POOR ? "" : undefined}
          style={{ left: b.left + 4, width: Math.max(8, b.right - b.left - 8) }}
          title={`Bar ${bar}: chords fit the melody ${Math.round(100 * fit)} of 100`}
        >
          <div style={{ width: `${Math.max(4, 100 * fit)}%` }} />
        </div>
      );
    });
}

/** What the other plan has in bars that read otherwise. */
function Rivals({ rivals, places, measured, names }: Over & { rivals: readonly RivalBar[]; names: ChordNames }) {
  return measured.bars.map((b) => {
    const rival = rivals.find((r) => r.bar === b.index);
    const key = places.find((p) => p.index === b.index)?.key;
    return rival && key ? (
      <Box
        key={b.index}
        position="absolute"
        top="33px"
        h="20px"
        px="6px"
        lineHeight="18px"
        fontSize="13px"
        fontStyle="italic"
        color="quiet"
        borderBottom="2px solid"
        borderColor="weld"
        whiteSpace="nowrap"
        overflow="hidden"
        style={{ left: b.left + 4, width: b.right - b.left - 8 }}
        title="What the other plan has here"
      >
        {rival.theirs.map((s) => nameChord(s, key, names)).join("  ") || "no chord"}
      </Box>
    ) : null;
  });
}

/** A mark over the melody note on which each change falls. */
function ChangeMarks({ chords, places, measured }: Over & { chords: readonly Laned[] }) {
  return chords
    .filter((l) => !l.goesOn)
    .map(({ chord }) => {
      const place = places.find((p) => p.index === chord.bar);
      const x = place && positionOf(place, chord.at, measured);
      const top = measured.staves.find((s) => s.bar === chord.bar)?.top;
      return x === undefined || top === undefined ? null : (
        <div
          key={`${chord.bar}.${chord.at}`}
          className={css.change}
          style={{ left: x + 5, height: Math.max(4, top - 4) }}
        />
      );
    });
}
