"use client";
import { parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { FIDDLE, instrument } from "../../core/instruments";
import { SPELLINGS } from "../../core/spelling";

/** Which instrument the tune is looked at for, and how its notes are named under the staff; kept in the address. */
export function useNaming() {
  const [name, setInstrument] = useQueryState("for", parseAsString.withDefault("fiddle"));
  const [spelling, setSpelling] = useQueryState("names", parseAsStringLiteral(SPELLINGS));
  return { on: instrument(name) ?? FIDDLE, spelling, setInstrument, setSpelling };
}
