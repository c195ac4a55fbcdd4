"use client";
import { Box, Flex } from "@chakra-ui/react";
import { ENDINGS, MANNERS, MOST, type Roadmap, shapeWhole } from "../../../core/ensemble";
import { Picker } from "../../controls/Choice";
import { useBench } from "../state";

type Counted = "times" | "introduction" | "vamp" | "tag";
const MANNER_WORDS = { dance: "for a dance", concert: "for listeners" } as const;

/** Choices of each count, in words. */
const COUNTS: readonly { of: Counted; label: string; choices: readonly number[]; words: (n: number) => string }[] = [
  {
    of: "times",
    label: "Times",
    choices: Array.from({ length: MOST.times }, (_, i) => i + 1),
    words: (n) => (n === 1 ? "once" : `${n} times`),
  },
  {
    of: "introduction",
    label: "Before the tune",
    choices: [0, 2, 4, 8],
    words: (n) => (n === 0 ? "nothing" : `${n} bars of chords`),
  },
  {
    of: "vamp",
    label: "Vamp",
    choices: [0, 1, 2, 4, 8],
    words: (n) => (n === 0 ? "none" : `2 bars, ${n} more`),
  },
  { of: "tag", label: "Tag", choices: [0, 1, 2, 4], words: (n) => (n === 0 ? "none" : `last ${n} again`) },
];

/** The shape of the whole: for whom, how often, what comes before the tune and after it. */
export function WholeShape({ roadmap }: { roadmap: Roadmap }) {
  const change = useBench((s) => s.change);
  const kept = (choices: readonly number[], now: number) => (choices.includes(now) ? choices : [...choices, now]);
  return (
    <Flex gap="8px 12px" wrap="wrap" mt="6px">
      <Named label="Grows">
        <Picker
          label="Grows"
          of={MANNERS.map((value) => ({ value, words: MANNER_WORDS[value] }))}
          now={roadmap.manner}
          onTake={(value) => {
            const manner = MANNERS.find((m) => m === value);
            if (manner) change(`Roadmap ${MANNER_WORDS[manner]}`, (w) => shapeWhole(w, { manner }));
          }}
        />
      </Named>
      {COUNTS.map(({ of, label, choices, words }) => (
        <Named key={of} label={label}>
          <Picker
            label={label}
            of={kept(choices, roadmap[of]).map((n) => ({ value: String(n), words: words(n) }))}
            now={String(roadmap[of])}
            onTake={(value) =>
              change(`${label}: ${words(Number(value))}`, (w) => shapeWhole(w, { [of]: Number(value) }))
            }
          />
        </Named>
      ))}
      <Named label="Ends with">
        <Picker
          label="Ends with"
          of={ENDINGS}
          now={roadmap.ending}
          onTake={(value) => {
            const ending = ENDINGS.find((e) => e === value);
            if (ending) change(`Ends with ${ending}`, (w) => shapeWhole(w, { ending }));
          }}
        />
      </Named>
    </Flex>
  );
}

function Named({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <Box>
      <Box fontSize="12px" color="quiet" aria-hidden>
        {label}
      </Box>
      {children}
    </Box>
  );
}
