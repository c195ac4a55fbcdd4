"use client";
import { useEffect } from "react";
import { warmDeriver } from "../../workers/derive";
import { warmEngraver } from "../../workers/engrave";
import { useBenchStore } from "./state";

/**
 * Once the page stands, the workers are started in a quiet moment, so that the first edit is as quick as the others.
 */
export function useWarmUp(): void {
  const bench = useBenchStore();
  useEffect(() => {
    const warm = () => {
      warmEngraver();
      // What goes wrong with it is told when it is first needed.
      warmDeriver(bench.getState().work).catch(() => {});
    };
    const idle = globalThis.requestIdleCallback?.(warm, { timeout: 1500 });
    const timer = idle === undefined ? setTimeout(warm, 300) : undefined;
    return () => {
      if (idle !== undefined) cancelIdleCallback(idle);
      clearTimeout(timer);
    };
  }, [bench]);
}
