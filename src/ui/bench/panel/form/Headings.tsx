"use client";
import { Box, Text } from "@chakra-ui/react";
import type { Tune } from "../../../../core/score";
import { useBench } from "../../state";
import { Block } from "../parts";

import { LeftInput, LONGEST } from "./LeftInput";
import { useEdit } from "./useForm";

type Heading = {
  words: string;
  of: (tune: Tune) => string;
  step: string;
  max: number;
  take: (typed: string) => Partial<Tune>;
};
const HEADINGS: readonly Heading[] = [
  {
    words: "Title",
    of: (t) => t.title,
    step: "Title changed",
    max: LONGEST.title,
    take: (title) => ({ title: title || "Untitled" }),
  },
  {
    words: "Dance, as it is called",
    of: (t) => t.rhythm,
    step: "Dance named",
    max: LONGEST.words,
    take: (rhythm) => ({ rhythm: rhythm.toLowerCase() }),
  },
  {
    words: "Made by",
    of: (t) => t.composer,
    step: "Maker named",
    max: LONGEST.title,
    take: (composer) => ({ composer }),
  },
  {
    words: "Source",
    of: (t) => t.source,
    step: "Source recorded",
    max: LONGEST.source,
    take: (source) => ({ source }),
  },
];

export function Headings() {
  const tune = useBench((s) => s.work.tune);
  const edit = useEdit();
  return (
    <Block title="What is written over it">
      {HEADINGS.map(({ words, of, step, max, take }) => (
        <Box mb="6px" key={words}>
          <Text fontSize="13px" color="quiet">
            <label htmlFor={`f-${words}`}>{words}</label>
          </Text>
          <LeftInput
            id={`f-${words}`}
            label={words}
            value={of(tune)}
            max={max}
            onLeave={(typed) => edit(step, (t) => ({ tune: { ...t, ...take(typed) } }))}
          />
        </Box>
      ))}
    </Block>
  );
}
