"use client";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type Learner, readWord } from "../../core/grading";
import { type Instrument, instrument, LEVELS } from "../../core/instruments";
import { LinkButton } from "../controls/buttons";
import { Picker } from "../controls/Choice";
import { signed } from "../signs";

type Props = {
  learner: Learner;
  instruments: readonly Instrument[];
  own: readonly Instrument[];
  taken: readonly string[];
  onChange: (next: Learner) => void;
  onRemove: () => void;
};

const COLUMNS = "44px minmax(130px, 1.3fr) minmax(118px, 1fr) 108px 118px minmax(100px, 1fr) minmax(100px, 1fr) 100px";
export const LEARNER_GRID = { base: "1fr 1fr", lg: COLUMNS };

/** A note is read more than written: it stands as text under its row. */
const NOTE = {
  height: "28px",
  border: "none",
  background: "transparent",
  fontSize: "13px",
  color: "var(--chakra-colors-quiet)",
} as const;

/** What is wrong with a list of words, if anything. */
function wordsFault(text: string): string {
  for (const word of text.split(";")) {
    if (word.trim() === "") continue;
    try {
      readWord(word);
    } catch (wrong) {
      return (wrong as Error).message;
    }
  }
  return "";
}
const listed = (text: string): string[] =>
  text
    .split(";")
    .map((w) => w.trim())
    .filter(Boolean);

/** One learner, every field changed where it stands; what cannot be kept is told under it. */
export function LearnerRow({ learner, instruments, own, taken, onChange, onRemove }: Props) {
  const [fault, setFault] = useState("");
  const [noting, setNoting] = useState(false);
  const noted = noting || learner.notes !== "";
  const on = instrument(learner.instrument, own);
  const tunings = on?.tunings ?? [];
  const box = (field: "seat" | "name" | "can" | "cannot" | "notes", label: string) => {
    const value = learner[field];
    const text = typeof value === "string" ? value : value.join("; ");
    return (
      <Input
        key={`${field} ${text}`}
        size="sm"
        px="8px"
        bg="fleece"
        borderColor="cord"
        aria-label={`${label} of ${learner.name}`}
        defaultValue={text}
        onBlur={(e) => {
          const next = e.target.value.trim();
          if (next === text) return;
          const wrong = faultOf(field, next, taken);
          setFault(wrong);
          if (!wrong) onChange({ ...learner, [field]: field === "can" || field === "cannot" ? listed(next) : next });
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
        }}
      />
    );
  };
  return (
    <Box borderTop="1px solid" borderColor="cord" py="4px" data-learner={learner.name}>
      <Box display="grid" gridTemplateColumns={LEARNER_GRID} gap="6px" alignItems="center">
        {box("seat", "Seat")}
        {box("name", "Name")}
        <Picker
          label={`Instrument of ${learner.name}`}
          of={instruments.map((i) => i.name)}
          now={learner.instrument}
          onTake={(name) => onChange({ ...learner, instrument: name, tuning: null })}
        />
        {tunings.length > 1 ? (
          <Picker
            label={`Tuning of ${learner.name}`}
            of={tunings.map((t) => ({ value: t.name, words: signed(t.name) }))}
            now={learner.tuning ?? tunings[0]?.name ?? ""}
            onTake={(tuning) => onChange({ ...learner, tuning })}
          />
        ) : (
          <span />
        )}
        <Picker
          label={`Level of ${learner.name}`}
          of={[...LEVELS]}
          now={learner.level}
          onTake={(level) => onChange({ ...learner, level: LEVELS.find((l) => l === level) ?? learner.level })}
        />
        {box("can", "What they can")}
        {box("cannot", "What they cannot")}
        <Flex gap="8px" justify="flex-end">
          {!noted && (
            <LinkButton onClick={() => setNoting(true)} aria-label={`Note on ${learner.name}`}>
              note
            </LinkButton>
          )}
          <LinkButton tone="madder" onClick={onRemove} aria-label={`Take ${learner.name} out`}>
            take out
          </LinkButton>
        </Flex>
      </Box>
      {noted && (
        <Box ml={{ base: "0", lg: "50px" }} css={{ "& input": NOTE }}>
          {box("notes", "Notes")}
        </Box>
      )}
      {fault && (
        <Text role="alert" color="madder" fontSize="13px" mt="2px">
          {fault}
        </Text>
      )}
    </Box>
  );
}

function faultOf(field: string, next: string, taken: readonly string[]): string {
  if (field === "name" && next === "") return "Give the learner a name.";
  if (field === "name" && taken.some((t) => t.toLowerCase() === next.toLowerCase()))
    return "There is one of that name.";
  return field === "can" || field === "cannot" ? wordsFault(next) : "";
}

/** The heads of the columns. */
export const LearnerHead = () => (
  <Flex display={{ base: "none", lg: "grid" }} gridTemplateColumns={COLUMNS} gap="6px" color="quiet" fontSize="13px">
    {["Seat", "Name", "Instrument", "Tuning", "Level", "Can, beyond it", "Cannot yet", ""].map((title) => (
      <Text key={title} px="8px">
        {title}
      </Text>
    ))}
  </Flex>
);
