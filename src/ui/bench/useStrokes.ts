"use client";
import { bowsOf, picksOf, strokesOf, strumOf } from "../../core/ensemble";
import { useBench } from "./state";

/** The strokes of the hand that is shown, and of each hand by itself, as they are planned now; made once for all. */
export const useStrokes = () => useBench((s) => strokesOf(s.work, s.derived, s.hand));
export const useBows = () => useBench((s) => bowsOf(s.work, s.derived));
export const usePicks = () => useBench((s) => picksOf(s.work, s.derived));
export const useStrum = () => useBench((s) => strumOf(s.work, s.derived));
/** The bows of another style that is held against the tune's; null where none is. */
export const useRivalBows = () =>
  useBench((s) => (s.rivalBowing === null ? null : bowsOf(s.work, s.derived, s.rivalBowing)));
