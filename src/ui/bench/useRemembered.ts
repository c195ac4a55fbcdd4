"use client";
import { useEffect, useRef } from "react";
import { z } from "zod";
import { LENSES } from "./layout";
import { useBenchStore } from "./state";
import { useLens } from "./useLens";

/** How a tune's bench was left in this browser: tempo, count-in, silent voices, the panel, the lens. */
const Left = z.object({
  percent: z.number().min(1).max(1000),
  counting: z.boolean(),
  muted: z.array(z.string().max(80)).max(60),
  folded: z.boolean(),
  lens: z.enum(LENSES),
});
type Left = z.infer<typeof Left>;

const nameOf = (id: number) => `symphonos.bench.${id}`;

/** What was kept of a bench; undefined where nothing was, or nothing that can be used. */
export function remembered(kept: string | null): Left | undefined {
  try {
    return Left.safeParse(JSON.parse(kept ?? "null")).data;
  } catch {
    return undefined;
  }
}

/** The browser's own store, where it lets a page have one. */
const store = (): Storage | undefined => {
  try {
    return window.localStorage;
  } catch {
    return undefined;
  }
};

/** Finds a tune's bench as it was left, and keeps it as it is changed. */
export function useRemembered(): void {
  const bench = useBenchStore();
  const { lens, setLens } = useLens();
  const shown = useRef(lens);
  useEffect(() => {
    const { id, setPercent, setCounting, setFolded, setMuted } = bench.getState();
    const left = remembered(store()?.getItem(nameOf(id)) ?? null);
    if (!left) return;
    setPercent(left.percent);
    setCounting(left.counting);
    setFolded(left.folded);
    setMuted(left.muted);
    // An address that names a lens was asked for.
    if (!new URLSearchParams(window.location.search).has("lens")) void setLens(left.lens);
  }, [bench, setLens]);
  useEffect(() => {
    const keep = () => {
      const { id, percent, counting, folded, muted } = bench.getState();
      const left: Left = { percent, counting, folded, muted: [...muted], lens };
      try {
        store()?.setItem(nameOf(id), JSON.stringify(left));
      } catch {
        // A full store forgets; nothing of the tune is lost by it.
      }
    };
    if (shown.current !== lens) keep();
    shown.current = lens;
    return bench.subscribe((now, before) => {
      if (KEPT.some((name) => now[name] !== before[name])) keep();
    });
  }, [bench, lens]);
}
const KEPT = ["percent", "counting", "folded", "muted"] as const;
