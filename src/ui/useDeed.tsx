"use client";
import { Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Answer } from "../server/answer";
import { answered, wordsOf } from "./answered";
import { LinkButton } from "./controls/buttons";

/** Something that was asked and could not be done, and how to ask it once more. */
type Failed = { words: string; again: () => void } | null;

/** Runs what is asked of the application; what goes wrong is kept, to be said and tried again. */
export function useDeed() {
  const [failed, setFailed] = useState<Failed>(null);
  const run = async <T,>(ask: () => Promise<Answer<T>>, then: (value: T) => void): Promise<void> => {
    try {
      const value = await answered(ask());
      setFailed(null);
      then(value);
    } catch (error) {
      setFailed({ words: wordsOf(error), again: () => void run(ask, then) });
    }
  };
  const failure = failed && (
    <Text role="alert" color="madder" w="100%">
      {failed.words}{" "}
      <LinkButton onClick={failed.again} tone="madder">
        try again
      </LinkButton>
    </Text>
  );
  return { run, failure };
}
