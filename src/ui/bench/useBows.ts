"use client";
import { bowsOf } from "../../core/ensemble";
import { useBench } from "./state";

/** The bows of the tune as they are planned now; made once for all who look. */
export const useBows = () => useBench((s) => bowsOf(s.work, s.derived));
