"use client";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { FIDDLE } from "../../core/instruments";
import { QUARTER } from "../../core/score";
import type { Key } from "../../core/theory";
import { tokenFor, type TypedSetting } from "../../core/typing";
import { LineButton } from "../controls/buttons";
import { Keyboard } from "../typing/Keyboard";
import { KeySources } from "../typing/KeySources";
import { useMidiKeys } from "../typing/useMidiKeys";

const C: Key = { tonic: "C", mode: "major" };
/** How played notes are written: by letter, with their signs. */
const WRITTEN: TypedSetting = {
  spelling: "letters",
  key: C,
  metre: { beats: 4, unit: 4 },
  step: QUARTER / 2,
  on: FIDDLE,
};

type Props = { notes: string; unread: boolean; onNotes: (notes: string) => void };

/** Finds a tune by a few of its notes: typed in any spelling, pressed on the keys below, or played on a keyboard. */
export function NoteSearch({ notes, unread, onNotes }: Props) {
  const [open, setOpen] = useState(false);
  const enter = (noteNumber: number) =>
    onNotes([notes.trim(), tokenFor(noteNumber, notes, WRITTEN)].filter(Boolean).join(" "));
  const keys = useMidiKeys(enter);
  return (
    <>
      <Flex flex="1 1 300px" maxW="460px" gap="6px">
        <Input
          flex="1"
          h="44px"
          type="search"
          aria-label="Find by a few notes"
          placeholder="or a few notes: D F# A D, re fa la, 1 3 5"
          value={notes}
          maxLength={100}
          onChange={(e) => onNotes(e.target.value)}
          borderColor="quiet"
          bg="fleece"
          fontSize="16px"
        />
        <LineButton size="md" h="44px" aria-expanded={open} onClick={() => setOpen(!open)}>
          keys
        </LineButton>
      </Flex>
      {unread && (
        <Text role="status" fontSize="14px" color="quiet" w="100%">
          These are no notes yet. Write letters, syllables, degrees, or a string with fingers or frets, such as A: 0 1
          2.
        </Text>
      )}
      {open && (
        <Box w="100%">
          <Flex gap="8px" mb="6px" wrap="wrap" align="center">
            <Text fontSize="13px" color="quiet">
              In any key; one wrong note does no harm.
            </Text>
            <KeySources keys={keys} />
            <Text fontSize="13px" color={keys.live ? "lichen" : "quiet"}>
              {keys.words}
            </Text>
          </Flex>
          <Keyboard onNote={enter} musicKey={C} />
        </Box>
      )}
    </>
  );
}
