"use client";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { FIRST_LENS, LENSES } from "./layout";

/** The lens the tune is looked at through; kept in the address. */
export function useLens() {
  const [lens, setLens] = useQueryState("lens", parseAsStringLiteral(LENSES).withDefault(FIRST_LENS));
  return { lens, setLens };
}
