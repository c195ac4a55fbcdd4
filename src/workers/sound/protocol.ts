import type { Cue } from "./engine";

/** What the page tells the worklet. Times are seconds of the audio clock. */
export type ToWorklet =
  | { type: "bank"; bank: ArrayBuffer }
  | { type: "programs"; programs: readonly number[] }
  | { type: "cues"; cues: readonly Cue[] }
  | { type: "silence" };

/** What the worklet answers. */
export type FromWorklet = { type: "ready" } | { type: "failed"; reason: string };
