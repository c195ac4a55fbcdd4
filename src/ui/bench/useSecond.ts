"use client";
import { useCallback, useEffect, useState } from "react";
import type { HarmonyLine } from "../../core/harmony";
import { startDeriver } from "../../workers/derive";
import type { BenchState } from "./useBench";

export type Which = "ours" | "theirs";

/** A line by another school beside this one, heard against the melody alone; and what is shown under the notes. */
export function useSecond(bench: BenchState, play: (from: number, to: number, line: HarmonyLine | null) => void) {
  const [school, setSchool] = useState("");
  const [line, setLine] = useState<HarmonyLine | null>(null);
  const [numbers, setNumbers] = useState(false);
  const [ghost, setGhost] = useState(false);
  const [trying, setTrying] = useState(false);
  const [blind, setBlind] = useState<{ A: Which; B: Which } | null>(null);
  useEffect(() => {
    setBlind(null);
    if (!school) return setLine(null);
    let current = true;
    startDeriver()
      .rivalLine(bench.work, school)
      .then(
        (found) => {
          if (current) setLine(found);
        },
        () => {
          if (current) setLine(null);
        },
      );
    return () => {
      current = false;
    };
  }, [bench.work, school]);
  const hear = useCallback(
    (from: number, to: number, which: Which) => play(from, to, which === "theirs" ? line : null),
    [play, line],
  );
  const startBlind = useCallback(
    () => setBlind(Math.random() < 0.5 ? { A: "ours", B: "theirs" } : { A: "theirs", B: "ours" }),
    [],
  );
  const endBlind = useCallback(() => setBlind(null), []);
  return {
    school,
    setSchool,
    line,
    numbers,
    setNumbers,
    ghost,
    setGhost,
    hear,
    blind,
    startBlind,
    endBlind,
    trying,
    setTrying,
  };
}
export type SecondState = ReturnType<typeof useSecond>;
