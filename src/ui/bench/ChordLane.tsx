"use client";
import { Box } from "@chakra-ui/react";
import { memo } from "react";
import type { PlannedChord } from "../../core/chords";
import type { Place } from "../../core/score";
import { chordWords, parseChord } from "../../core/theory";
import type { Measured } from "../engraving/measure";
import type { Selection } from "./lenses";

/** A planned chord with its order in the plan, and whether it only goes on from the bar before. */
export type Laned = { chord: PlannedChord; index: number; goesOn: boolean };
type Props = { chords: readonly Laned[]; places: readonly Place[]; measured: Measured | null; chosen: number | null; onSelect: (next: Selection) => void };

const same = (a: Props, b: Props) =>
  a.measured === b.measured && a.chosen === b.chosen && a.onSelect === b.onSelect && a.chords.length === b.chords.length
  && a.chords.every((l, i) => {
    const m = b.chords[i] as Laned;
    return l.index === m.index && l.goesOn === m.goesOn && l.chord.symbol === m.chord.symbol && l.chord.at === m.chord.at && l.chord.locked === m.chord.locked;
  });

/** Left edge of a chord: its note's head, or the proper point between two when it starts inside a held note. */
function positionOf(place: Place, at: number, measured: Measured): number | undefined {
  let start = 0;
  for (const [i, event] of place.bar.events.entries()) {
    const x = measured.notes.get(`${place.index}.${i}`);
    if (at < start + event.ticks && x !== undefined) {
      if (at === start) return x - 6;
      const right = measured.notes.get(`${place.index}.${i + 1}`) ?? measured.bars.find((b) => b.index === place.index)?.right ?? x;
      return x - 6 + ((right - x) * (at - start)) / event.ticks;
    }
    start += event.ticks;
  }
  return measured.bars.find((b) => b.index === place.index)?.left;
}

/** Chords on the very notes they start with. A chord that only goes on is quiet; a locked one has its peg. Drawn anew only when what it shows changes. */
export const ChordLane = memo(function ChordLane({ chords, places, measured, chosen: selected, onSelect }: Props) {
  const placed = measured === null ? [] : chords.flatMap(({ chord, index, goesOn }) => {
    const place = places.find((p) => p.index === chord.bar);
    const x = place && positionOf(place, chord.at, measured);
    return x === undefined ? [] : [{ chord, index, goesOn, x, bar: measured.bars.find((b) => b.index === chord.bar) }];
  });
  return (
    <Box position="relative" h="30px">
      {measured?.bars.map((b, i) => <Box key={b.index} position="absolute" top="2px" h="28px" w="1px" bg="cord" style={{ left: i === 0 ? b.left : b.left - 0.5 }} />)}
      {placed.map(({ chord, index, goesOn, x, bar }, i) => {
        const chosen = selected === index;
        const next = placed[i + 1];
        const right = next && next.chord.bar === chord.bar ? next.x - 4 : (bar?.right ?? x + 40) - 2;
        const [, root, rest] = /^([A-G][#b]?)(.*)$/.exec(chord.symbol) ?? ["", chord.symbol, ""];
        const parsed = parseChord(chord.symbol);
        return (
          <Box
            as="button" key={`${chord.bar}.${chord.at}`} position="absolute" top="0" h="30px" minW="24px" px="6px" style={{ left: x - 6, width: chosen ? Math.max(30, right - x + 6) : undefined }} textAlign="left"
            borderRadius="5px" bg={chosen ? "block" : "transparent"} color={chosen ? "onBlock" : goesOn ? "quiet" : "ink"} _hover={chosen ? {} : { bg: "linen" }} lineHeight="30px" whiteSpace="nowrap"
            aria-pressed={chosen} aria-label={`${parsed ? chordWords(parsed) : chord.symbol}${chord.locked ? ", locked" : ""}`} onClick={() => onSelect(chosen ? null : { kind: "chord", index })}
          >
            <Box as="span" fontSize={goesOn && !chosen ? "13px" : "18px"} fontWeight={goesOn && !chosen ? "400" : "700"}>{root?.replace("b", "♭").replace("#", "♯")}</Box>
            <Box as="span" fontSize={goesOn && !chosen ? "12px" : "15px"} fontWeight={goesOn && !chosen ? "400" : "600"}>{rest}</Box>
            {chord.locked && <Box as="span" display="inline-block" w="6px" h="6px" ml="4px" bg="madder" borderRadius="1px" mb="3px" />}
          </Box>
        );
      })}
    </Box>
  );
}, same);
