"use client";
import { Input } from "@chakra-ui/react";

/** Longest texts the score keeps, by field. */
export const LONGEST = { name: 80, words: 200, title: 400, source: 2000 };

/** A field that takes what was typed when it is left, by Enter or otherwise. */
export function LeftInput({
  label,
  value,
  max,
  width,
  id,
  number,
  onLeave,
}: {
  label: string;
  value: string;
  max: number;
  width?: string;
  id?: string;
  /** For numbers: the least and the most. */
  number?: { least: number; most: number };
  onLeave: (typed: string) => void;
}) {
  return (
    <Input
      key={value}
      size={id ? "sm" : "xs"}
      bg="fleece"
      borderColor="cord"
      defaultValue={value}
      maxLength={max}
      {...(width ? { w: width } : {})}
      {...(id ? { id } : { "aria-label": label })}
      {...(number ? { type: "number", min: number.least, max: number.most } : {})}
      onBlur={(e) => {
        const typed = e.target.value.trim();
        if (typed !== value) onLeave(typed);
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}
