import { z } from "zod";
import { record } from "../theory";

/** A chord a teacher has settled: everything from `at` for `ticks` in bar `bar` (an index) keeps this symbol. */
export const ChordLock = record({
  bar: z.int().min(0),
  at: z.int().min(0),
  ticks: z.int().min(1),
  symbol: z.string().min(1).max(80),
  by: z.enum(["teacher", "file"]).optional(),
  /** Unlocked, but kept as it was chosen until chords are planned anew. */
  kept: z.literal(true).optional(),
});
export type ChordLock = z.infer<typeof ChordLock>;

/** What a melody note does in a chord. */
export const NOTE_ROLES = [
  "root",
  "third",
  "fifth",
  "seventh",
  "passing",
  "neighbour",
  "suspension",
  "appoggiatura",
  "anticipation",
  "escape",
  "free",
] as const;
export const NoteRole = z.enum(NOTE_ROLES);
export type NoteRole = z.infer<typeof NoteRole>;

/** What a style has added to a plain triad, and the triad without it. */
const ADDITIONS = [
  "seventh",
  "suspension",
  "secondary dominant",
  "walking bass",
  "augmented dominant",
  "closing chord",
] as const;
export const Added = z.object({ what: z.enum(ADDITIONS), plain: z.string() });
export type Added = z.infer<typeof Added>;

/** One chord of a plan: at most a bar long, so that every bar names its harmony. */
export const PlannedChord = z.object({
  bar: z.int(),
  /** Ticks from the start of the bar. */
  at: z.int(),
  ticks: z.int(),
  symbol: z.string(),
  roman: z.string(),
  locked: z.boolean(),
  /** Chosen and unlocked again: it stays until chords are planned anew. */
  kept: z.literal(true).optional(),
  added: Added.optional(),
  /** One plain sentence. */
  reason: z.string(),
  /** Named costs that the chord pays, and rewards as negative numbers. */
  costs: z.array(z.object({ name: z.string(), cost: z.number() })),
  /** Melody notes in it: name, beats, and what each does. */
  notes: z.array(z.object({ name: z.string(), beats: z.number(), role: NoteRole })),
  /**
   * Other chords, best first, with what the whole plan would cost more: for this place, or where `at` and `ticks` stand
   * for the part of it that they suit best.
   */
  alternatives: z.array(
    z.object({ symbol: z.string(), cost: z.number(), at: z.int().optional(), ticks: z.int().optional() }),
  ),
});
export type PlannedChord = z.infer<typeof PlannedChord>;

export const ChordPlan = z.object({
  style: z.string(),
  /** The chords the style settled on for each strain. */
  vocabulary: z.array(z.array(z.string())),
  cost: z.number(),
  chords: z.array(PlannedChord),
  /** How well each bar's chords fit its melody, 0 to 1, by bar index; a bar without melody or chord fits. */
  fits: z.array(z.number()),
});
export type ChordPlan = z.infer<typeof ChordPlan>;
