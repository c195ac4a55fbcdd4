"use client";
import { useMemo } from "react";
import { readOn } from "../../core/technique";
import { useBench } from "./state";
import { parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { FIDDLE, instrument } from "../../core/instruments";
import { SPELLINGS } from "../../core/spelling";

/** Which instrument the tune is looked at for, and how its notes are named under the staff; kept in the address. */
export function useNaming() {
  const [name, setName] = useQueryState("for", parseAsString.withDefault("fiddle"));
  const [spelling, setSpelling] = useQueryState("names", parseAsStringLiteral(SPELLINGS));
  const places = useBench((s) => s.derived.analysis.places);
  const own = useBench((s) => s.work.instruments);
  const on = instrument(name, own) ?? FIDDLE;
  const read = useMemo(() => readOn(on, places), [on, places]);
  const shown = useBench((s) => s.handShown !== null);
  const setShown = useBench((s) => s.setHandShown);
  /** One instrument for all: names, hand, tablature, shapes. */
  const setInstrument = (next: string) => {
    void setName(next);
    // Another instrument takes the place of the one whose hand is shown.
    if (shown) setShown(next);
  };
  return { on, read, spelling, setInstrument, setSpelling };
}
