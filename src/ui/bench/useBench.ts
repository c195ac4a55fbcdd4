"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { saveStep, travelStep } from "../../server/actions";
import { type Derived, type Work, withTune } from "../../core/ensemble";
import type { Edited, Tune } from "../../core/score";
import type { Loaded } from "../../server/collection";
import { startDeriver } from "../../workers/derive";

/** Parts of a derivation that came out as before keep their identity, so that what shows them is not drawn again. */
function keepSame(old: Derived | null, found: Derived): Derived {
  if (!old) return found;
  const kept = <K extends "analysis" | "weave">(key: K): Derived[K] =>
    JSON.stringify(old[key]) === JSON.stringify(found[key]) ? old[key] : found[key];
  return { ...found, analysis: kept("analysis"), weave: kept("weave") };
}

/**
 * The work on one tune: what is derived from it, and every way to change it. Changes show at once and are saved in
 * order.
 */
export function useBench(loaded: Loaded) {
  const [state, setState] = useState(loaded);
  const [derived, setDerived] = useState<Derived | null>(null);
  const [problem, setProblem] = useState("");
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const order = useRef(0);
  const latest = useRef(state.work);
  latest.current = state.work;

  useEffect(() => {
    let current = true;
    startDeriver()
      .derive(state.work)
      .then(
        (found) => {
          if (current) setDerived((old) => keepSame(old, found));
        },
        (error: unknown) => {
          if (current) setProblem(`This tune could not be worked out: ${String(error)}`);
        },
      );
    return () => {
      current = false;
    };
  }, [state.work]);

  /**
   * Runs saves one after another; undo and redo answer with the state they went to, which counts only if nothing newer
   * has been done meanwhile.
   */
  const enqueue = useCallback((run: () => Promise<Loaded | null | boolean>) => {
    const own = ++order.current;
    line.current = line.current.then(run).then(
      (answer) => {
        setProblem(answer ? "" : "This tune is no longer in the collection.");
        if (answer && answer !== true && own === order.current) setState(answer);
      },
      () => setProblem("Not saved: the application does not answer. Start it again; then undo and redo once to save."),
    );
  }, []);

  const change = useCallback(
    (step: string, edit: (work: Work) => Work) => {
      const work = edit(latest.current);
      if (JSON.stringify(work) === JSON.stringify(latest.current)) return;
      latest.current = work;
      setState((now) => ({ ...now, work, canUndo: true, canRedo: false, step }));
      enqueue(() => saveStep(loaded.id, step, work));
    },
    [enqueue, loaded.id],
  );

  /** An edit of the tune; gives why not, where it cannot be done. */
  const edit = useCallback(
    (step: string, make: (tune: Tune) => Edited): string | undefined => {
      const made = make(latest.current.tune);
      if (made.tune) change(step, (work) => withTune(work, made.tune as Tune));
      return made.refused;
    },
    [change],
  );

  /** Shows a state the collection has gone to. */
  const show = useCallback((loaded: Loaded) => {
    latest.current = loaded.work;
    setState(loaded);
  }, []);

  const travel = useCallback((way: "undo" | "redo") => enqueue(() => travelStep(loaded.id, way)), [enqueue, loaded.id]);

  return { ...state, derived, problem, change, edit, travel, show };
}
export type BenchState = ReturnType<typeof useBench>;
