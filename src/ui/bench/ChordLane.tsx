"use client";
import { Box } from "@chakra-ui/react";
import type { ChordPlan } from "../../core/chords";
import type { Place } from "../../core/score";
import { chordWords, parseChord } from "../../core/theory";
import type { Measured } from "../engraving/measure";
import type { Selection } from "./lenses";

type Props = { plan: ChordPlan; places: readonly Place[]; measured: Measured | null; selection: Selection; onSelect: (next: Selection) => void };

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

/** Chords on the very notes they start with. A chord that only goes on is quiet; a locked one has its peg. */
export function ChordLane({ plan, places, measured, selection, onSelect }: Props) {
  const placed = measured === null ? [] : plan.chords.flatMap((chord, index) => {
    const place = places.find((p) => p.index === chord.bar);
    const x = place && positionOf(place, chord.at, measured);
    return x === undefined ? [] : [{ chord, index, x, bar: measured.bars.find((b) => b.index === chord.bar) }];
  });
  return (
    <Box position="relative" h="30px">
      {measured?.bars.map((b, i) => <Box key={b.index} position="absolute" left={`${i === 0 ? b.left : b.left - 0.5}px`} top="2px" h="28px" w="1px" bg="cord" />)}
      {placed.map(({ chord, index, x, bar }, i) => {
        const chosen = selection?.kind === "chord" && selection.index === index;
        const before = plan.chords[index - 1];
        const goesOn = before?.symbol === chord.symbol && i > 0;
        const next = placed[i + 1];
        const right = next && next.chord.bar === chord.bar ? next.x - 4 : (bar?.right ?? x + 40) - 2;
        const [, root, rest] = /^([A-G][#b]?)(.*)$/.exec(chord.symbol) ?? ["", chord.symbol, ""];
        const parsed = parseChord(chord.symbol);
        return (
          <Box
            as="button" key={`${chord.bar}.${chord.at}`} position="absolute" left={`${x - 6}px`} top="0" h="30px" minW="24px" w={chosen ? `${Math.max(30, right - x + 6)}px` : undefined} px="6px" textAlign="left"
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
}
