"use client";
import { useRef, useState } from "react";
import { cutBook } from "../../core/formats";
import { bringIn } from "../../server/actions";
import { answered, wordsOf } from "../answered";
import type { Taken } from "../../server/collection";

/** Tunes sent to the collection at a time. */
const BATCH = 40;

export type Progress = { done: number; all: number };

/** Brings a book in, a few tunes at a time, so that it can be watched and stopped. What has gone in stays in. */
export function useIntake() {
  const [progress, setProgress] = useState<Progress | null>(null);
  const [result, setResult] = useState<(Taken & { stopped: boolean }) | null>(null);
  const [failure, setFailure] = useState("");
  const stopped = useRef(false);

  const take = async (text: string, again = false): Promise<Taken | null> => {
    stopped.current = false;
    setFailure("");
    setResult(null);
    const cuttings = cutBook(text);
    const all: Taken = { added: [], refused: [], remarks: [], duplicates: [] };
    if (cuttings.length === 0)
      all.refused.push({
        line: 1,
        column: 1,
        message: "No tune found. A tune needs a K: line with its key, such as K:D, and notes below it.",
      });
    setProgress({ done: 0, all: cuttings.length });
    try {
      for (let from = 0; from < cuttings.length && !stopped.current; from += BATCH) {
        const some = await answered(bringIn({ cuttings: cuttings.slice(from, from + BATCH), again }));
        for (const part of ["added", "refused", "remarks", "duplicates"] as const)
          (all[part] as unknown[]).push(...some[part]);
        setProgress({ done: Math.min(cuttings.length, from + BATCH), all: cuttings.length });
      }
    } catch (error) {
      const left = all.added.length ? `${all.added.length} tunes went in; the rest is` : "The text is";
      setFailure(`${wordsOf(error)} ${left} still here.`);
      setProgress(null);
      setResult({ ...all, stopped: true });
      return null;
    }
    setProgress(null);
    setResult({ ...all, stopped: stopped.current });
    return all;
  };
  return {
    progress,
    result,
    failure,
    setFailure,
    setResult,
    take,
    stop: () => {
      stopped.current = true;
    },
  };
}
