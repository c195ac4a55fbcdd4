"use client";
import { Checkbox } from "@chakra-ui/react";

/** Something that is so or not, in words beside its box. */
export function Tick({ on, words, onTick }: { on: boolean; words: string; onTick: (on: boolean) => void }) {
  return (
    <Checkbox.Root
      mt="8px"
      size="sm"
      display="flex"
      checked={on}
      onCheckedChange={({ checked }) => onTick(checked === true)}
    >
      <Checkbox.HiddenInput />
      <Checkbox.Control />
      <Checkbox.Label fontSize="14px">{words}</Checkbox.Label>
    </Checkbox.Root>
  );
}
