"use client";
import { useEffect, useRef } from "react";
import { z } from "zod";
import { HANDS } from "../../core/ensemble";
import { keep, kept } from "../kept";
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
  hand: z.enum(HANDS).optional(),
});
type Left = z.infer<typeof Left>;

const nameOf = (id: number) => `symphonos.bench.${id}`;

/** Finds a tune's bench as it was left, and keeps it as it is changed. */
export function useRemembered(): void {
  const bench = useBenchStore();
  const { lens, setLens } = useLens();
  const shown = useRef(lens);
  useEffect(() => {
    const { id, setPercent, setCounting, setFolded, setMuted, setHand } = bench.getState();
    const left = kept(nameOf(id), Left);
    // A tall screen has room for the sheet under the rows.
    if (!left) return void (window.matchMedia("(min-height: 1000px)").matches && setFolded(false));
    setPercent(left.percent);
    setCounting(left.counting);
    setFolded(left.folded);
    setMuted(left.muted);
    setHand(left.hand ?? "bow");
    // An address that names a lens was asked for.
    if (!new URLSearchParams(window.location.search).has("lens")) void setLens(left.lens);
  }, [bench, setLens]);
  useEffect(() => {
    const keepLeft = () => {
      const { id, percent, counting, folded, muted, hand } = bench.getState();
      keep(nameOf(id), { percent, counting, folded, muted: [...muted], lens, hand } satisfies Left);
    };
    if (shown.current !== lens) keepLeft();
    shown.current = lens;
    return bench.subscribe((now, before) => {
      if (KEPT.some((name) => now[name] !== before[name])) keepLeft();
    });
  }, [bench, lens]);
}
const KEPT = ["percent", "counting", "folded", "muted", "hand"] as const;
