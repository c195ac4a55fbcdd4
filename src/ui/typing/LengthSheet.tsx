"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Instrument } from "../../core/instruments";
import { stringName } from "../../core/spelling";
import type { TypedSpelling } from "../../core/typing";

/** How lengths and bars are written, the same in every spelling. */
export const LENGTHS: readonly (readonly [string, string])[] = [
  ["A", "one step"],
  ["A-", "two steps; each - holds it one more, also alone and over a bar line"],
  ["A/", "half a step"],
  ["A.", "a step and a half"],
  ["_", "a rest, a step long; _- two"],
  ["(A B C)", "three in the time of two; four in three, five in four"],
  ["A!", "an accent"],
  ["| || |: :|", "bar lines and repeats; leave them out and bars fill themselves"],
];

const names = (on: Instrument) => on.strings.map((_, i) => stringName(on, i)).join(" ");
const NOTES: Record<TypedSpelling, (on: Instrument) => readonly (readonly [string, string])[]> = {
  letters: () => [
    ["D E F", "the key gives the sharps and flats; the nearest note is meant"],
    [">D <D", "the next D up, the next D down"],
    ["F# Fn", "sharp (b flat), natural, whatever the key"],
    ["D5", "a D in octave 5"],
  ],
  syllables: () => [
    ["re mi fa", "fixed do; the key gives the sharps and flats"],
    [">re <re", "the next re up, down"],
    ["fa# fan", "sharp (b flat), natural"],
  ],
  "string and finger": (on) => [
    ["D:", `the string (${names(on)}), until another is named`],
    ["0 1 2 3 4", "open and fingers, whole steps and the high second finger"],
    ["L2 L1", "low second finger, low first"],
    ["H3", "high third finger"],
  ],
  frets: (on) => [
    [`${stringName(on, on.strings.length - 1)}:`, `the string (${names(on)}), or its number from the top`],
    ["0 2 4", `frets ${fretNames(on)}`],
  ],
};

/** The frets by name: all of them where they are no plain row. */
function fretNames({ frets = [] }: Instrument): string {
  const plain = frets.every((f, i) => f.label === String(i));
  return plain ? `0 to ${frets.length - 1}` : frets.map((f) => f.label).join(" ");
}

/** Beside the writing: what the signs mean. */
export function LengthSheet({ spelling, on }: { spelling: TypedSpelling; on: Instrument }) {
  const list = (rows: readonly (readonly [string, string])[]) =>
    rows.map(([sign, words]) => (
      <Flex key={sign} gap="10px" py="3px" fontSize="14px">
        <Text w="76px" flexShrink={0} fontFamily="ui-monospace, monospace" fontWeight="600">
          {sign}
        </Text>
        <Text lineHeight="19px">{words}</Text>
      </Flex>
    ));
  return (
    <>
      <Text fontFamily="heading" fontSize="18px" fontWeight="600" mb="4px">
        Notes
      </Text>
      {list(NOTES[spelling](on))}
      <Text fontFamily="heading" fontSize="18px" fontWeight="600" mt="14px" mb="4px">
        Lengths and bars
      </Text>
      {list(LENGTHS)}
      <Box mt="12px" fontSize="13px" color="quiet">
        Spaces part the notes. What cannot be read is underlined; everything else goes on the staff.
      </Box>
    </>
  );
}
