import { z } from "zod";
import { diatonic, Pitch, record } from "../theory";

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
  /** What a note outside the chord does; absent for chord notes and where no chord is set. */
  figure: z.enum(["passing", "neighbour", "suspension", "appoggiatura", "anticipation", "escape", "free"]).optional(),
  locked: z.boolean(),
  /** Chosen and unlocked again: it stays until the line is planned anew. */
  kept: z.literal(true).optional(),
  /** Promises of the line that a locked note breaks, by name; absent where it breaks none. */
  broken: z.array(z.string()).optional(),
  /** Named points paid for it, and for going on to it. */
  costs: z.array(z.object({ name: z.string(), cost: z.number() })),
  /** Other notes for this moment, a null pitch for a rest, with what the whole line would cost more: exact. */
  alternatives: z.array(z.object({ pitch: Pitch.nullable(), interval: z.int().nullable(), cost: z.number() })),
});
export type HarmonyNote = z.infer<typeof HarmonyNote>;

/**
 * A note a teacher has settled: what starts `at` ticks into bar `bar` (an index) and lasts `ticks`, or as long as the
 * line's own note there; null for a rest.
 */
export const HarmonyLock = record({
  bar: z.int().min(0),
  at: z.int().min(0),
  ticks: z.int().min(1).optional(),
  pitch: Pitch.nullable(),
  /** Unlocked, but kept as it was chosen until the line is planned anew. */
  kept: z.literal(true).optional(),
});
export type HarmonyLock = z.infer<typeof HarmonyLock>;

/**
 * The candidate a note goes to when it is moved by so many scale steps: of those that way the one nearest to where it
 * was put down. Undefined where none lies that way.
 */
export function steppedTo(note: HarmonyNote, steps: number): Pitch | undefined {
  if (!note.pitch) return undefined;
  const from = diatonic(note.pitch);
  const away = (p: Pitch) => Math.abs(diatonic(p) - from - steps);
  return note.alternatives
    .flatMap((a) => (a.pitch && Math.sign(diatonic(a.pitch) - from) === Math.sign(steps) ? [a.pitch] : []))
    .sort((a, b) => away(a) - away(b))[0];
}

export const HarmonyLine = z.object({
  school: z.string(),
  side: z.enum(["below", "above"]),
  instrument: z.string(),
  /** What the whole line costs. */
  cost: z.number(),
  notes: z.array(HarmonyNote),
  /** By bar index: whether the line has a rhythm of its own there. Elsewhere it has the melody's. */
  own: z.array(z.boolean()),
  /** Clash of each bar by index, 0 calm to 100 harsh, and of the whole. */
  clashes: z.array(z.number()),
  clash: z.number(),
});
export type HarmonyLine = z.infer<typeof HarmonyLine>;
export type Side = HarmonyLine["side"];
