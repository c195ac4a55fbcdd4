"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Cell } from "../../core/analysis";
import { LineButton, LinkButton } from "../controls/buttons";
import { WeaveStrip } from "./WeaveStrip";

const PLAIN: Omit<Cell, "bar"> = {
  number: 1,
  label: "1",
  dye: 0,
  texture: 0,
  parting: false,
  echo: undefined,
  linen: false,
  pickup: false,
  opens: false,
  closes: false,
  ending: false,
  phrase: "A 1–4",
  strain: undefined,
  says: "",
};
const cells = (...made: Partial<Cell>[]): Cell[] => made.map((own, bar) => ({ ...PLAIN, bar, ...own }));

/** Every sign of the weave, shown and said. */
const SIGNS: readonly [cells: Cell[], words: string][] = [
  [cells({}, {}, { dye: 1, phrase: "b" }), "One cell a bar. The colour is the notes: same colour, same notes."],
  [cells({}, {}, { texture: 2, phrase: "b" }), "The pattern is the rhythm: same pattern, same rhythm."],
  [cells({}, { echo: "up a fourth", phrase: "b" }), "Paler: the same tune at another pitch."],
  [cells({}, {}, { parting: true }), "Yellow: from here it goes another way than the first time."],
  [cells({ opens: true }, {}, { closes: true }), "Round ends: this part is repeated."],
  [cells({}, { ending: true }, { ending: true, phrase: "b" }), "A line on top: an ending."],
  [cells({ pickup: true }, {}, {}), "A narrow first cell: the pickup."],
  [cells({ linen: true }, {}, {}), "Undyed: an intro, a vamp or a tag."],
];

/** What the weave says, once, where it is asked. */
export function Legend() {
  const [open, setOpen] = useState(false);
  return (
    <Box position="relative">
      <LinkButton aria-expanded={open} onClick={() => setOpen(!open)}>
        what it says
      </LinkButton>
      {open && (
        <Box
          position="absolute"
          right="0"
          top="100%"
          zIndex={20}
          w="340px"
          maxW="90vw"
          bg="fleece"
          border="1px solid"
          borderColor="cord"
          borderRadius="8px"
          boxShadow="lg"
          p="16px"
        >
          {SIGNS.map(([shown, words]) => (
            <Flex key={words} align="center" gap="12px" mb="8px">
              <Box w="84px" flexShrink={0}>
                <WeaveStrip cells={shown} height={18} />
              </Box>
              <Text fontSize="14px" lineHeight="18px">
                {words}
              </Text>
            </Flex>
          ))}
          <Text fontSize="14px" mb="8px">
            Press a cell to go there; drag over some to loop them.
          </Text>
          <LineButton onClick={() => setOpen(false)}>Close</LineButton>
        </Box>
      )}
    </Box>
  );
}
