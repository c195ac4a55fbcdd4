import { z } from "zod";

/** A chord a teacher has settled: everything from `at` for `ticks` in bar `bar` (an index) keeps this symbol. */
export const ChordLock = z.object({ bar: z.int().min(0), at: z.int().min(0), ticks: z.int().min(1), symbol: z.string().min(1).max(80), by: z.enum(["teacher", "file"]).optional() });
export type ChordLock = z.infer<typeof ChordLock>;

/** What a melody note does in a chord. */
export const NOTE_ROLES = ["root", "third", "fifth", "seventh", "passing", "neighbour", "suspension", "appoggiatura", "anticipation", "escape", "free"] as const;
export const NoteRole = z.enum(NOTE_ROLES);
export type NoteRole = z.infer<typeof NoteRole>;

/** One chord of a plan: at most a bar long, so that every bar names its harmony. */
export const PlannedChord = z.object({
  bar: z.int(),
  /** Ticks from the start of the bar. */
  at: z.int(),
  ticks: z.int(),
  symbol: z.string(),
  roman: z.string(),
  locked: z.boolean(),
  /** One plain sentence. */
  reason: z.string(),
  /** Named costs that the chord pays, and rewards as negative numbers. */
  costs: z.array(z.object({ name: z.string(), cost: z.number() })),
  /** Melody notes in it: name, beats, and what each does. */
  notes: z.array(z.object({ name: z.string(), beats: z.number(), role: NoteRole })),
  /** Other chords for this place, best first, with what the whole plan would cost more. */
  alternatives: z.array(z.object({ symbol: z.string(), cost: z.number() })),
});
export type PlannedChord = z.infer<typeof PlannedChord>;

export const ChordPlan = z.object({
  style: z.string(),
  /** The chords the style settled on for each strain. */
  vocabulary: z.array(z.array(z.string())),
  cost: z.number(),
  chords: z.array(PlannedChord),
});
export type ChordPlan = z.infer<typeof ChordPlan>;
