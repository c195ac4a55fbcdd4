"use client";
import { LineButton } from "../../../controls/buttons";
import { type Make, useEdit } from "./useForm";

/** A button that edits the tune: what it says, the step it makes, and a longer word where the short one needs it. */
export function Act({
  words,
  step,
  make,
  title,
  on,
}: {
  words: string;
  step: string;
  make: Make;
  title?: string;
  on?: boolean;
}) {
  const edit = useEdit();
  return (
    <LineButton size="xs" title={title} aria-pressed={on} onClick={() => edit(step, make)}>
      {words}
    </LineButton>
  );
}
