"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import {
  type ChordLock,
  copyToLike,
  lockBars,
  mergeChord,
  moveChange,
  splitChord,
  typedChord,
} from "../../core/chords";
import { type Derived, lockChords, unlockChords } from "../../core/ensemble";
import type { BenchState } from "./useBench";

/** Every way to change the chosen chord and its phrase. What cannot be done says why; what is taken is heard. */
export function useChordEdits(
  bench: BenchState,
  derived: Derived | null,
  index: number | undefined,
  hear: (bar: number) => void,
) {
  const [refused, setRefused] = useState("");
  const waiting = useRef<number | null>(null);
  const chord = index === undefined ? undefined : derived?.plan.chords[index];
  const phrase = chord && derived?.analysis.form.phrases.find((p) => p.from <= chord.bar && chord.bar <= p.to);

  // A taken chord is heard as soon as the plan holds it.
  useEffect(() => {
    if (derived && waiting.current !== null) hear(waiting.current);
    waiting.current = null;
  }, [derived, hear]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another choice, a fresh start
  useEffect(() => setRefused(""), [index]);

  const lock = useCallback(
    (step: string, locks: readonly ChordLock[] | undefined, why: string) => {
      setRefused(locks?.length ? "" : why);
      if (locks?.length) bench.change(step, (w) => lockChords(w, locks));
    },
    [bench.change],
  );

  const take = useCallback(
    (symbol: string, part?: { at?: number | undefined; ticks?: number | undefined }) => {
      if (!chord) return;
      waiting.current = chord.bar;
      if (symbol === chord.symbol && chord.locked) return hear(chord.bar);
      lock(
        `Chord ${symbol} locked`,
        [{ bar: chord.bar, at: part?.at ?? chord.at, ticks: part?.ticks ?? chord.ticks, symbol }],
        "",
      );
    },
    [chord, lock, hear],
  );

  const write = useCallback(
    (text: string): boolean => {
      const read = typedChord(text);
      if ("wrong" in read) setRefused(read.wrong);
      else take(read.symbol);
      return !("wrong" in read);
    },
    [take],
  );

  const toggleLock = useCallback(() => {
    if (!chord) return;
    const own = bench.work.locks.some(
      (l) => l.bar === chord.bar && l.at < chord.at + chord.ticks && l.at + l.ticks > chord.at,
    );
    if (own) bench.change(`Chord ${chord.symbol} freed`, (w) => unlockChords(w, [chord]));
    else
      lock(
        `Chord ${chord.symbol} locked`,
        [{ bar: chord.bar, at: chord.at, ticks: chord.ticks, symbol: chord.symbol }],
        "",
      );
  }, [chord, bench.work.locks, bench.change, lock]);

  const move = useCallback(
    (which: number | undefined, beats: number) => {
      if (!derived || which === undefined) return;
      lock(
        "Change moved",
        moveChange(derived.plan, derived.analysis.places, which, beats),
        "This change cannot go there: both chords keep at least a beat, and a change stops at the next one.",
      );
    },
    [derived, lock],
  );
  const split = useCallback(() => {
    if (derived && index !== undefined)
      lock("Chord split", splitChord(derived.plan, derived.analysis.places, index), "One beat is not split further.");
  }, [derived, index, lock]);
  const merge = useCallback(() => {
    if (derived && index !== undefined)
      lock("Chords joined", mergeChord(derived.plan, index), "This chord has the bar to itself.");
  }, [derived, index, lock]);
  const lockPhrase = useCallback(() => {
    if (!derived || !phrase) return;
    const own = derived.plan.chords.filter((c) => c.bar >= phrase.from && c.bar <= phrase.to);
    if (own.every((c) => c.locked)) bench.change(`${phrase.name} freed`, (w) => unlockChords(w, own));
    else lock(`Chords of ${phrase.name} locked`, lockBars(derived.plan, phrase.from, phrase.to), "");
  }, [derived, phrase, bench.change, lock]);
  const copyPhrase = useCallback(() => {
    if (!derived || !phrase) return;
    lock(
      `Chords of ${phrase.name} copied`,
      copyToLike(derived.plan, derived.analysis.places, derived.analysis.form.phrases, phrase.order),
      `No other phrase has bars like those of ${phrase.name}.`,
    );
  }, [derived, phrase, lock]);

  return { chord, phrase, refused, take, write, toggleLock, move, split, merge, lockPhrase, copyPhrase, lock };
}
export type ChordEdits = ReturnType<typeof useChordEdits>;
