"use client";
import { useRef, useState } from "react";
import { cutBook } from "../../core/formats";
import { wordsOf } from "../answered";
import type { Taken } from "../../server/collection";
import { batches, nothing, taken } from "./batches";

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
    const all = nothing();
    if (cuttings.length === 0)
      all.refused.push({
        line: 1,
        column: 1,
        message: "No tune found. A tune needs a K: line with its key, such as K:D, and notes below it.",
      });
    setProgress({ done: 0, all: cuttings.length });
    try {
      let done = 0;
      for (const batch of batches(cuttings)) {
        if (stopped.current) break;
        for (const some of await taken(batch, again))
          for (const part of ["added", "refused", "remarks", "duplicates"] as const)
            (all[part] as unknown[]).push(...some[part]);
        done += batch.length;
        setProgress({ done, all: cuttings.length });
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
