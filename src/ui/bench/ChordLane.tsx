"use client";
import { Box } from "@chakra-ui/react";
import { memo, useRef } from "react";
import type { PlannedChord } from "../../core/chords";
import { beatTicks, type Place } from "../../core/score";
import { type ChordNames, chordWords, nameChord, parseChord } from "../../core/theory";
import type { Measured } from "../engraving/measure";
import type { Selection } from "./lenses";

/** Below this a bar's chords and melody disagree more than they should. */
const POOR = 0.62;
/** Pixels before a press becomes a drag. */
const DRAG = 8;

/** A planned chord with its order in the plan, and whether it only goes on from the bar before. */
export type Laned = { chord: PlannedChord; index: number; goesOn: boolean };
/** What another plan has in a bar that reads otherwise. */
export type RivalBar = { bar: number; theirs: readonly string[] };
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

/** Left edge of a chord: its note's head, or the proper point between two when it starts inside a held note. */
function positionOf(place: Place, at: number, measured: Measured): number | undefined {
  let start = 0;
  for (const [i, event] of place.bar.events.entries()) {
    const x = measured.notes.get(`${place.index}.${i}`);
    if (at < start + event.ticks && x !== undefined) {
      if (at === start) return x - 6;
      const right =
        measured.notes.get(`${place.index}.${i + 1}`) ?? measured.bars.find((b) => b.index === place.index)?.right ?? x;
      return x - 6 + ((right - x) * (at - start)) / event.ticks;
    }
    start += event.ticks;
  }
  return measured.bars.find((b) => b.index === place.index)?.left;
}

/**
 * How much smaller a name is written so that it ends before the next begins; below two thirds it could not be read.
 * Widths in pixels.
 */
const fitting = (width: number, room: number): number => Math.max(0.66, Math.min(1, room / width));

/** Every felt beat of a row with its place on the page, in order. */
const beatsOf = (places: readonly Place[], measured: Measured): { at: number; x: number }[] =>
  places.flatMap((place) =>
    Array.from({ length: Math.ceil(place.ticks / beatTicks(place.metre)) }, (_, i) => ({
      at: place.at + i * beatTicks(place.metre),
      x: positionOf(place, i * beatTicks(place.metre), measured) ?? 0,
    })),
  );

/**
 * Chords on the very notes they start with. A chord that only goes on is quiet; a locked one has its peg; a change is
 * dragged to another beat. Drawn anew only when what it shows changes.
 */
export const ChordLane = memo(function ChordLane({
  chords,
  places,
  measured,
  chosen: selected,
  names,
  rivals,
  fits,
  onSelect,
  onMove,
}: Props) {
  /** A change picked up by the pointer: which, the tick and place it starts from, where the pointer took hold. */
  const held = useRef<{ index: number; from: number; x: number; start: number } | null>(null);
  const placed =
    measured === null
      ? []
      : chords.flatMap(({ chord, index, goesOn }) => {
          const place = places.find((p) => p.index === chord.bar);
          const x = place && positionOf(place, chord.at, measured);
          return place === undefined || x === undefined
            ? []
            : [{ chord, place, index, goesOn, x, bar: measured.bars.find((b) => b.index === chord.bar) }];
        });
  const pull = (e: React.PointerEvent<HTMLElement>) => {
    if (!held.current || !e.buttons) return;
    const moved = e.clientX - held.current.start;
    if (Math.abs(moved) < DRAG) return;
    e.currentTarget.style.transform = `translateX(${moved}px)`;
  };
  const letGo = (e: React.PointerEvent<HTMLElement>) => {
    const [drag, moved] = [held.current, e.clientX - (held.current?.start ?? e.clientX)];
    held.current = null;
    e.currentTarget.style.transform = "";
    if (!drag || !measured || Math.abs(moved) < DRAG) return;
    e.currentTarget.addEventListener("click", (click) => click.stopPropagation(), { once: true, capture: true });
    const beats = beatsOf(places, measured);
    const away = (b: { x: number }) => Math.abs(b.x - drag.x - moved);
    const to = beats.reduce((a, b) => (away(b) < away(a) ? b : a));
    onMove(drag.index, beats.indexOf(to) - beats.findIndex((b) => b.at === drag.from));
  };
  return (
    <Box position="relative" h={rivals ? "54px" : "34px"} pt="4px">
      {fits &&
        measured?.bars
          .filter((b) => chords.some((l) => l.chord.bar === b.index))
          .map((b) => {
            const fit = fits[b.index] ?? 1;
            return (
              <Box
                key={b.index}
                position="absolute"
                top="0"
                h="3px"
                borderRadius="2px"
                bg="linen"
                style={{ left: b.left + 4, width: Math.max(8, b.right - b.left - 8) }}
                title={`Bar ${places.find((p) => p.index === b.index)?.number}: chords fit the melody ${Math.round(100 * fit)} of 100`}
              >
                <Box
                  h="3px"
                  borderRadius="2px"
                  bg={fit < POOR ? "weld" : "lichen"}
                  opacity={fit < POOR ? 1 : 0.6}
                  style={{ width: `${Math.max(4, 100 * fit)}%` }}
                />
              </Box>
            );
          })}
      {measured?.bars.map((b, i) => (
        <Box
          key={b.index}
          position="absolute"
          top="2px"
          bottom="0"
          w="1px"
          bg="cord"
          style={{ left: i === 0 ? b.left : b.left - 0.5 }}
        />
      ))}
      {placed.map(({ chord, place, index, goesOn, x, bar }, i) => {
        const chosen = selected === index;
        const next = placed[i + 1];
        const right = next && next.chord.bar === chord.bar ? next.x - 4 : (bar?.right ?? x + 40) - 2;
        const [, root, rest] = (names === "letters"
          ? /^([A-G][#b]?)(.*)$/
          : /^([#b]*(?:[IViv]+|[TSDNPtsdnp]+))(.*)$/
        ).exec(nameChord(chord.symbol, place.key, names)) ?? ["", nameChord(chord.symbol, place.key, names), ""];
        const parsed = parseChord(chord.symbol);
        const quiet = goesOn && !chosen;
        const tight = fitting((root ?? "").length * 12 + (rest ?? "").length * 9, right - x);
        return (
          <Box
            as="button"
            key={`${chord.bar}.${chord.at}`}
            position="absolute"
            top="4px"
            h="30px"
            minW="24px"
            px="6px"
            style={{ left: x - 6, width: chosen ? Math.max(30, right - x + 6) : undefined, touchAction: "pan-y" }}
            textAlign="left"
            borderRadius="5px"
            bg={chosen ? "block" : "transparent"}
            color={chosen ? "onBlock" : goesOn ? "quiet" : "ink"}
            _hover={chosen ? {} : { bg: "linen" }}
            lineHeight="30px"
            whiteSpace="nowrap"
            cursor={goesOn ? "pointer" : "grab"}
            aria-pressed={chosen}
            aria-label={`${parsed ? chordWords(parsed) : chord.symbol}${chord.locked ? ", locked" : ""}`}
            onClick={() => onSelect(chosen ? null : { kind: "chord", index })}
            onPointerDown={(e: React.PointerEvent<HTMLElement>) => {
              if (goesOn || e.button !== 0) return;
              held.current = { index, from: place.at + chord.at, x, start: e.clientX };
              e.currentTarget.setPointerCapture(e.pointerId);
            }}
            onPointerMove={pull}
            onPointerUp={letGo}
            onPointerCancel={(e: React.PointerEvent<HTMLElement>) => {
              held.current = null;
              e.currentTarget.style.transform = "";
            }}
          >
            <Box as="span" style={{ fontSize: (quiet ? 13 : 18) * tight }} fontWeight={quiet ? "400" : "700"}>
              {names === "letters" ? root?.replace("b", "♭").replace("#", "♯") : root}
            </Box>
            <Box as="span" style={{ fontSize: (quiet ? 12 : 15) * tight }} fontWeight={quiet ? "400" : "600"}>
              {rest}
            </Box>
            {chord.locked && (
              <Box as="span" display="inline-block" w="6px" h="6px" ml="4px" bg="madder" borderRadius="1px" mb="3px" />
            )}
          </Box>
        );
      })}
      {rivals &&
        measured?.bars.map((b) => {
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
        })}
    </Box>
  );
}, same);

/** A mark over the melody note on which each change falls. */
export function ChangeMarks({
  chords,
  places,
  measured,
}: {
  chords: readonly Laned[];
  places: readonly Place[];
  measured: Measured;
}) {
  return (
    <>
      {chords
        .filter((l) => !l.goesOn)
        .map(({ chord }) => {
          const place = places.find((p) => p.index === chord.bar);
          const x = place && positionOf(place, chord.at, measured);
          const top = measured.staves.find((s) => s.bar === chord.bar)?.top;
          return x === undefined || top === undefined ? null : (
            <Box
              key={`${chord.bar}.${chord.at}`}
              position="absolute"
              pointerEvents="none"
              w="2px"
              borderRadius="1px"
              bg="lichen"
              style={{ left: x + 5, top: 0, height: Math.max(4, top - 4) }}
            />
          );
        })}
    </>
  );
}
