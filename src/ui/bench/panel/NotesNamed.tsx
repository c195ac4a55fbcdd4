"use client";
import { Box, Text } from "@chakra-ui/react";
import { type GroupPart, nameNotes, spellingFor } from "../../../core/ensemble";
import { SPELLINGS } from "../../../core/spelling";
import { Picker } from "../../controls/Choice";
import { useBench } from "../state";

const NONE = "none";
const WORDS: Readonly<Record<string, string>> = { none: "no names" };

/** How the notes are named under a learner's part, on the screen and on paper. */
export function NotesNamed({ part }: { part: GroupPart }) {
  const { name } = part.learner;
  const settled = useBench((s) => s.work.evening?.names?.find((n) => n.name === name)?.spelling);
  const change = useBench((s) => s.change);
  const now = spellingFor(part, settled) ?? NONE;
  const choices = part.on.strings.length > 0 ? SPELLINGS : SPELLINGS.filter((s) => !BY_STRINGS.has(s));
  return (
    <Box mt="8px" maxW="220px">
      <Text as="span" fontSize="13px" color="quiet" aria-hidden>
        Names under the notes
      </Text>
      <Picker
        label="Names under the notes"
        of={[NONE, ...choices].map((value) => ({ value, words: WORDS[value] ?? value }))}
        now={now}
        onTake={(value) => {
          const spelling = SPELLINGS.find((s) => s === value) ?? NONE;
          change(`${name}: ${WORDS[spelling] ?? spelling}`, (w) => nameNotes(w, name, spelling));
        }}
      />
    </Box>
  );
}
/** Ways of naming that need strings. */
const BY_STRINGS = new Set<string>(["string and finger", "tablature"]);
