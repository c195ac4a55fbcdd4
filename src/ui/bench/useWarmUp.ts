"use client";
import { useEffect } from "react";
import { startDeriver } from "../../workers/derive";
import { startEngraver } from "../../workers/engrave";
import { useBenchStore } from "./state";

/**
 * Once the page stands, the workers are started in a quiet moment, so that the first edit is as quick as the others.
 */
export function useWarmUp(): void {
  const bench = useBenchStore();
  useEffect(() => {
    const warm = () => {
      startEngraver();
      void startDeriver().warm(bench.getState().work);
    };
    const idle = globalThis.requestIdleCallback?.(warm, { timeout: 1500 });
    const timer = idle === undefined ? setTimeout(warm, 300) : undefined;
    return () => {
      if (idle !== undefined) cancelIdleCallback(idle);
      clearTimeout(timer);
    };
  }, [bench]);
}
