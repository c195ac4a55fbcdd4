"use client";
import { Box } from "@chakra-ui/react";
import { className, inKey, type Key, pitchName, spell } from "../../core/theory";
import { signed } from "../signs";

const LOWEST = 55;
const HIGHEST = 88;
const BLACK = new Set([1, 3, 6, 8, 10]);

/** Two octaves and more of keys; those of the key are named. */
export function Keyboard({ onNote, musicKey }: { onNote: (noteNumber: number) => void; musicKey: Key }) {
  const all = Array.from({ length: HIGHEST - LOWEST + 1 }, (_, i) => LOWEST + i);
  const white = all.filter((s) => !BLACK.has(s % 12));
  const width = 100 / white.length;
  return (
    <Box position="relative" h="96px" role="group" aria-label="Keyboard" userSelect="none">
      {all.map((noteNumber) => {
        const dark = BLACK.has(noteNumber % 12);
        const left = white.filter((s) => s < noteNumber).length * width - (dark ? width * 0.3 : 0);
        const pitch = spell(noteNumber, musicKey);
        const own = inKey(pitch, musicKey);
        return (
          <Box
            as="button"
            key={noteNumber}
            aria-label={pitchName(pitch)}
            onClick={() => onNote(noteNumber)}
            position="absolute"
            top="0"
            h={dark ? "58px" : "96px"}
            zIndex={dark ? 1 : 0}
            style={{ left: `${left}%`, width: `calc(${dark ? width * 0.6 : width}% - 1px)` }}
            bg={dark ? "block" : "fleece"}
            color={dark ? "onBlock" : "ink"}
            border="1px solid"
            borderColor={dark ? "block" : "cord"}
            borderRadius="0 0 4px 4px"
            _hover={{ bg: dark ? "quiet" : "wash" }}
            _active={{ bg: "weld" }}
            display="flex"
            alignItems="flex-end"
            justifyContent="center"
            pb="5px"
            fontSize="12px"
            overflow="hidden"
          >
            {own ? signed(className(pitch)) : ""}
          </Box>
        );
      })}
    </Box>
  );
}
