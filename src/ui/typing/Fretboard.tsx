"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Instrument } from "../../core/instruments";
import { semitonesOf } from "../../core/technique";
import { stringName } from "../../core/spelling";
import { className, inKey, type Key, midi, spell } from "../../core/theory";

const FINGERS = ["0", "L1", "1", "L2", "2", "3", "H3", "4"];

/** Semitones of a string that have room to be pressed. */
const SHOWN = 12;

/** The strings as the player sees them, the highest on top; every fret or finger place enters its note. */
export function Fretboard({
  on,
  onNote,
  spelling,
  musicKey,
}: {
  on: Instrument;
  onNote: (noteNumber: number) => void;
  spelling: "frets" | "string and finger";
  musicKey: Key;
}) {
  const places =
    spelling === "frets"
      ? (on.frets ?? []).filter((f) => f.semitones <= SHOWN)
      : FINGERS.flatMap((label) => {
          const semitones = semitonesOf(on, Number(label.at(-1)), label.length > 1 ? (label[0] as "L" | "H") : "");
          return semitones === undefined ? [] : [{ label, semitones }];
        });
  return (
    <Box role="group" aria-label={`Strings of the ${on.name}`}>
      {on.strings
        .map(({ open }, string) => ({ open, string }))
        .reverse()
        .map(({ open, string }) => (
          <Flex key={string} align="stretch" h="28px">
            <Text w="34px" fontWeight="700" lineHeight="28px">
              {stringName(on, string)}
            </Text>
            {places.map(({ label, semitones }) => {
              const pitch = spell(midi(open) + semitones, musicKey);
              const own = inKey(pitch, musicKey);
              return (
                <Box
                  as="button"
                  key={label}
                  flex="1 1 0"
                  aria-label={`${stringName(on, string)} ${label}, ${className(pitch)}${pitch.octave}`}
                  onClick={() => onNote(midi(pitch))}
                  borderLeft="1px solid"
                  borderColor="cord"
                  position="relative"
                  bg={semitones === 0 ? "cord" : "transparent"}
                  color={own ? "ink" : "quiet"}
                  _hover={{ bg: "wash" }}
                  _active={{ bg: "weld" }}
                  fontSize="13px"
                  css={{
                    "&::before": {
                      content: '""',
                      position: "absolute",
                      left: 0,
                      right: 0,
                      top: "50%",
                      borderTop: "1px solid var(--chakra-colors-quiet)",
                      opacity: 0.5,
                    },
                  }}
                >
                  <Box
                    as="span"
                    position="relative"
                    bg={semitones === 0 ? "cord" : "linen"}
                    px="5px"
                    fontWeight={own ? "600" : "400"}
                  >
                    {label}
                    {own && (
                      <Box as="span" color="quiet" fontSize="12px">
                        {" "}
                        {className(pitch).replace("#", "♯").replace("b", "♭")}
                      </Box>
                    )}
                  </Box>
                </Box>
              );
            })}
          </Flex>
        ))}
    </Box>
  );
}
