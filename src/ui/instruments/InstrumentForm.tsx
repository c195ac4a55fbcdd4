"use client";
import { Box, Flex, Heading, Input, Text, Textarea } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import {
  CLEFS,
  FAMILIES,
  Hand,
  LEVELS,
  type OwnDraft,
  type OwnFault,
  type OwnField,
  readOwn,
} from "../../core/instruments";
import { LinkButton, SolidButton } from "../controls/buttons";
import { Picker } from "../controls/Choice";
import { FAMILY_WORDS, SOUNDS } from "./families";

type Props = {
  title: string;
  from: OwnDraft;
  busy: boolean;
  /** What was found wrong as it was kept. */
  faults: readonly OwnFault[];
  onKeep: (draft: OwnDraft) => void;
  onLeave: () => void;
};

const HANDS: Readonly<Record<Hand, string>> = {
  frets: "on frets",
  violin: "as on the fiddle",
  cello: "as on the cello",
};
const OCTAVES = [
  { value: "-1", words: "an octave below its page" },
  { value: "0", words: "as written" },
  { value: "1", words: "an octave above its page" },
];

/** An instrument as it is written: every box says what is wrong with it as soon as it is left. */
export function InstrumentForm({ title, from, busy, faults: kept, onKeep, onLeave }: Props) {
  const [draft, setDraft] = useState(from);
  const [tried, setTried] = useState(false);
  const [touched, setTouched] = useState<ReadonlySet<OwnField>>(new Set());
  const read = readOwn(draft);
  const found = "faults" in read ? read.faults : [];
  const faults = [...found.filter((f) => tried || touched.has(f.field)), ...(found.length === 0 ? kept : [])];
  const strung = draft.tunings.trim() !== "";
  const set = (change: Partial<OwnDraft>) => setDraft({ ...draft, ...change });
  const leave = (field: OwnField) => setTouched(new Set([...touched, field]));
  const text = (field: Exclude<OwnField, LevelField>, words: string, { hint = "", lines = 1 } = {}) => (
    <Field key={field} words={words} hint={hint} faults={faults.filter((f) => f.field === field)} name={field}>
      {lines > 1 ? (
        <Textarea
          id={`own-${field}`}
          rows={lines}
          borderColor="cord"
          value={draft[field]}
          onBlur={() => leave(field)}
          onChange={(e) => set({ [field]: e.target.value })}
        />
      ) : (
        <Input
          id={`own-${field}`}
          size="sm"
          borderColor="cord"
          value={draft[field]}
          onBlur={() => leave(field)}
          onChange={(e) => set({ [field]: e.target.value })}
        />
      )}
    </Field>
  );
  const pick = (field: Exclude<OwnField, LevelField>, words: string, of: { value: string; words: string }[]) => (
    <Field key={field} words={words} faults={faults.filter((f) => f.field === field)} name={field}>
      <Picker id={`own-${field}`} label={words} of={of} now={draft[field]} onTake={(v) => set({ [field]: v })} />
    </Field>
  );
  return (
    <Box
      as="form"
      onSubmit={(e) => {
        e.preventDefault();
        setTried(true);
        if (found.length === 0) onKeep(draft);
      }}
    >
      <Heading as="h2" fontSize="24px" fontWeight="600" mb="10px">
        {title}
      </Heading>
      {text("name", "Name")}
      {pick(
        "family",
        "Family",
        FAMILIES.map((f) => ({ value: f, words: FAMILY_WORDS[f] })),
      )}
      {text("tunings", "Strings", {
        hint: "the lowest first, a tuning a line: G3 D4 A4 E5. A short string: G4@5. None: leave it empty.",
        lines: 3,
      })}
      {strung &&
        pick(
          "hand",
          "The hand finds notes",
          Hand.options.map((h) => ({ value: h, words: HANDS[h] })),
        )}
      {strung &&
        draft.hand === "frets" &&
        text("frets", "Frets", { hint: "how many, a semitone apart: 17; or each with its semitones: 0=0 1=2 6+=11" })}
      {strung && draft.hand === "frets" && text("scale", "Length of its strings", { hint: "centimetres" })}
      {!strung && text("lowest", "Lowest note")}
      {text("highest", "Highest note", { hint: "as it sounds: B5" })}
      {pick(
        "clef",
        "Clef",
        CLEFS.map((c) => ({ value: c, words: c })),
      )}
      {pick("octaves", "Sounds", OCTAVES)}
      {pick("program", "Heard as", SOUNDS)}
      <ByLevel draft={draft} strung={strung} faults={faults} onChange={set} onLeave={leave} />
      {text("fingers", "Fingers", { hint: "how they are counted" })}
      {text("cautions", "Take care", { hint: "a line each", lines: 3 })}
      {text("source", "These numbers come from")}
      <Flex gap="14px" align="center" mt="14px">
        <SolidButton type="submit" disabled={busy}>
          Keep it
        </SolidButton>
        <LinkButton onClick={onLeave}>leave it as it was</LinkButton>
        {tried && found.length > 0 && (
          <Text color="madder" role="alert">
            {found.length === 1 ? "One box needs another look." : `${found.length} boxes need another look.`}
          </Text>
        )}
      </Flex>
    </Box>
  );
}

type FieldProps = { words: string; name: OwnField; hint?: string; faults: readonly OwnFault[]; children: ReactNode };

function Field({ words, name, hint = "", faults, children }: FieldProps) {
  return (
    <Flex gap="16px" py="6px" borderTop="1px solid" borderColor="cord" align="flex-start" wrap="wrap">
      <Text as="label" w="150px" flexShrink={0} pt="6px" {...{ htmlFor: `own-${name}` }}>
        {words}
      </Text>
      <Box flex="1" minW="220px">
        {children}
        {hint && (
          <Text fontSize="13px" color="quiet" mt="2px">
            {hint}
          </Text>
        )}
        {faults.map((f) => (
          <Text key={f.words} fontSize="14px" color="madder" role="alert" mt="2px">
            {f.words}
          </Text>
        ))}
      </Box>
    </Flex>
  );
}

const LEVEL_FIELDS = ["reach", "spans", "ranges", "speed"] as const;
type LevelField = (typeof LEVEL_FIELDS)[number];
const LEVEL_WORDS: Readonly<Record<LevelField, string>> = {
  reach: "Highest fret",
  spans: "Hand spans",
  ranges: "Notes",
  speed: "Notes a second",
};

type ByLevelProps = {
  draft: OwnDraft;
  strung: boolean;
  faults: readonly OwnFault[];
  onChange: (change: Partial<OwnDraft>) => void;
  onLeave: (field: OwnField) => void;
};

/** What each level has: a row for each kind of limit, a box for each level; an empty one takes the usual. */
function ByLevel({ draft, strung, faults, onChange, onLeave }: ByLevelProps) {
  const fields = LEVEL_FIELDS.filter((f) => f === "speed" || (f === "ranges") !== strung);
  const own = faults.filter((f) => fields.some((x) => x === f.field));
  return (
    <Box py="8px" borderTop="1px solid" borderColor="cord">
      <Box display="grid" gridTemplateColumns="150px repeat(5, minmax(84px, 1fr))" gap="6px 8px" overflowX="auto">
        <Text>By level</Text>
        {LEVELS.map((level) => (
          <Text key={level} fontSize="13px" color="quiet">
            {level}
          </Text>
        ))}
        {fields.map((field) => [
          <Text key={field} pt="6px" fontSize="14px">
            {LEVEL_WORDS[field]}
          </Text>,
          ...LEVELS.map((level, i) => (
            <Input
              key={`${field} ${level}`}
              size="sm"
              px="8px"
              borderColor={own.some((f) => f.field === field && f.level === level) ? "madder" : "cord"}
              aria-label={`${LEVEL_WORDS[field]}, ${level}`}
              value={draft[field][i]}
              onBlur={() => onLeave(field)}
              onChange={(e) => {
                const next = [...draft[field]] as OwnDraft[LevelField];
                next[i] = e.target.value;
                onChange({ [field]: next });
              }}
            />
          )),
        ])}
      </Box>
      {own.map((f) => (
        <Text key={`${f.field} ${f.level} ${f.words}`} fontSize="14px" color="madder" role="alert" mt="4px">
          {f.level ? `${f.level}: ` : ""}
          {f.words}
        </Text>
      ))}
    </Box>
  );
}
