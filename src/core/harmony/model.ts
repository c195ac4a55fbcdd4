import { z } from "zod";
import { Pitch } from "../theory";

/** One note of a line over one melody note (ties joined). Times in ticks from the start of the tune. */
export const HarmonyNote = z.object({
  /** Bar index and event index of the melody note it goes with. */
  bar: z.int(),
  event: z.int(),
  at: z.int(),
  ticks: z.int(),
  /** Null for a rest. */
  pitch: Pitch.nullable(),
  melody: Pitch.nullable(),
  /** Counted inclusively; null where either rests. */
  interval: z.int().nullable(),
  /** Chord in force. */
  chord: z.string().nullable(),
  rule: z.string(),
  reason: z.string(),
});
export type HarmonyNote = z.infer<typeof HarmonyNote>;

export const HarmonyLine = z.object({
  school: z.string(),
  side: z.enum(["below", "above"]),
  instrument: z.string(),
  notes: z.array(HarmonyNote),
  /** Clash of each bar by index, 0 calm to 100 harsh, and of the whole. */
  clashes: z.array(z.number()),
  clash: z.number(),
});
export type HarmonyLine = z.infer<typeof HarmonyLine>;
export type Side = HarmonyLine["side"];
