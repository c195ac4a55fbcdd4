"use client";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { CHORD_NAMES } from "../../core/theory";

/** How chords are written: letters, numerals or functions; kept in the address. */
export function useChordNames() {
  const [names, setNames] = useQueryState("as", parseAsStringLiteral(CHORD_NAMES).withDefault("letters"));
  return { names, setNames };
}
