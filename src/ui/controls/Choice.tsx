"use client";
import { Flex, NativeSelect } from "@chakra-ui/react";
import { LineButton } from "./buttons";

/** One of a few, side by side: the pressed one holds. */
export function ChoiceRow<T extends string>({
  label,
  of,
  now,
  onTake,
  words = (choice) => choice,
}: {
  label: string;
  of: readonly T[];
  now: T;
  onTake: (choice: T) => void;
  words?: (choice: T) => string;
}) {
  return (
    <Flex gap="4px" wrap="wrap" role="group" aria-label={label}>
      {of.map((choice) => (
        <LineButton key={choice} size="xs" even aria-pressed={now === choice} onClick={() => onTake(choice)}>
          {words(choice)}
        </LineButton>
      ))}
    </Flex>
  );
}

type Option = { value: string; words: string };
/** One of many, from a list that unfolds. */
export function Picker({
  label,
  of,
  now,
  onTake,
  width,
  id,
}: {
  label: string;
  of: readonly (string | Option)[];
  now: string;
  onTake: (choice: string) => void;
  width?: string;
  id?: string;
}) {
  const options = of.map((o) => (typeof o === "string" ? { value: o, words: o } : o));
  return (
    <NativeSelect.Root size="sm" {...(width ? { w: width } : {})}>
      <NativeSelect.Field
        {...(id ? { id } : { "aria-label": label })}
        bg="fleece"
        borderColor="cord"
        value={now}
        onChange={(e) => onTake(e.target.value)}
      >
        {options.map(({ value, words }) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
  );
}
