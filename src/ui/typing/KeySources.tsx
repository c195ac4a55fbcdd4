"use client";
import { Button } from "@chakra-ui/react";
import type { useMidiKeys } from "./useMidiKeys";

/** The keyboards notes may come from, each a switch. */
export const KeySources = ({ keys }: { keys: ReturnType<typeof useMidiKeys> }) =>
  keys.choices.map((c) => (
    <Button
      key={c.id}
      size="xs"
      variant="outline"
      borderColor="quiet"
      color="ink"
      aria-pressed={keys.chosen === c.id}
      onClick={() => keys.choose(c.id)}
    >
      {c.name}
    </Button>
  ));
