"use client";
import { useMemo } from "react";
import { readOn } from "../../core/technique";
import { useBench } from "./state";
import { parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { FIDDLE, instrument } from "../../core/instruments";
import { SPELLINGS } from "../../core/spelling";

/** Which instrument the tune is looked at for, and how its notes are named under the staff; kept in the address. */
export function useNaming() {
  const [name, setInstrument] = useQueryState("for", parseAsString.withDefault("fiddle"));
  const [spelling, setSpelling] = useQueryState("names", parseAsStringLiteral(SPELLINGS));
  const places = useBench((s) => s.derived.analysis.places);
  const on = instrument(name) ?? FIDDLE;
  const read = useMemo(() => readOn(on, places), [on, places]);
  return { on, read, spelling, setInstrument, setSpelling };
}
