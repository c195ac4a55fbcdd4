"use client";
import { useEffect } from "react";
import { useBenchStore } from "./state";

/** Lights up the notes that sound, in the drawings themselves: nothing renders for it. */
export function useLights(): void {
  const bench = useBenchStore();
  useEffect(() => {
    const light = (ids: readonly string[], on: boolean) => {
      for (const id of ids) {
        const mark = document.querySelector(`#rows [data-id="${CSS.escape(id)}"]`);
        if (on) mark?.setAttribute("data-sounding", "");
        else mark?.removeAttribute("data-sounding");
      }
    };
    return bench.subscribe((now, before) => {
      if (now.lights === before.lights) return;
      light(before.lights, false);
      light(now.lights, true);
    });
  }, [bench]);
}
