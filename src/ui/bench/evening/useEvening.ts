"use client";
import { useEffect, useRef, useState } from "react";
import { eveningOf } from "../../../workers/derive";
import { useBench } from "../state";

/** Keeps tonight's parts as tune, chords and group stand: made beside the page, the latest question wins. */
export function useEvening(): { busy: boolean; changed: string[] } {
  const work = useBench((s) => s.work);
  const derived = useBench((s) => s.derived);
  const setEvening = useBench((s) => s.setEvening);
  const evening = useBench((s) => s.evening);
  const asked = useRef(0);
  const before = useRef(evening);
  const [busy, setBusy] = useState(false);
  const [changed, setChanged] = useState<string[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: made anew where what it follows from is another
  useEffect(() => {
    const own = ++asked.current;
    if (!work.evening) {
      setEvening(null);
      before.current = null;
      return;
    }
    setBusy(true);
    eveningOf(work).then(
      (made) => {
        if (own !== asked.current) return;
        setChanged(made && before.current ? changedFor(before.current.parts, made.parts) : []);
        before.current = made;
        setEvening(made);
        setBusy(false);
      },
      () => own === asked.current && setBusy(false),
    );
  }, [work.evening, work.feel.groove, work.instruments, derived.plan, derived.analysis]);
  return { busy, changed };
}

type Parts = NonNullable<Awaited<ReturnType<typeof eveningOf>>>["parts"];
/** For whom something is other than before. */
function changedFor(before: Parts, now: Parts): string[] {
  const known = new Map(before.map((p) => [p.learner.name, JSON.stringify([p.role, p.notes])]));
  return now
    .filter((p) => known.has(p.learner.name) && known.get(p.learner.name) !== JSON.stringify([p.role, p.notes]))
    .map((p) => p.learner.name);
}
