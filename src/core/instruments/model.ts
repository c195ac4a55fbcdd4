import { z } from "zod";
import { midi, Pitch } from "../theory";

export const FAMILIES = ["bowed", "plucked", "wind", "box", "keyboard", "voice", "drum"] as const;

/** The five levels of players, from their first months on. */
export const LEVELS = ["First sounds", "Steady", "Moving", "Fluent", "Leading"] as const;
export type Level = (typeof LEVELS)[number];
/** What there is for each level, from the first. */
const byLevel = <T extends z.ZodType>(of: T) => z.tuple([of, of, of, of, of]);

/**
 * One string or course: its number as players count it, the pitch it sounds open, and the fret a short string begins
 * at.
 */
export const OpenString = z.object({
  number: z.int().min(1).max(12),
  open: Pitch,
  shortFrom: z.int().min(1).max(12).optional(),
});
export type OpenString = z.infer<typeof OpenString>;

/** A fret by the name players give it, with its semitones above the open string. */
export const Fret = z.object({ label: z.string().min(1).max(3), semitones: z.int().min(0).max(36) });
export type Fret = z.infer<typeof Fret>;

/** A way to tune: its strings as they lie, from the player's lowest course to the highest. */
export const Tuning = z.object({ name: z.string().min(1).max(40), strings: z.array(OpenString).min(1).max(12) });
export type Tuning = z.infer<typeof Tuning>;

export const CLEFS = ["treble", "alto", "bass"] as const;
export const Clef = z.enum(CLEFS);
export type Clef = z.infer<typeof Clef>;

/** How a hand finds notes on strings: fingers of the violin family, fingers of the cello, or frets. */
export const Hand = z.enum(["violin", "cello", "frets"]);
export type Hand = z.infer<typeof Hand>;

/** Strings (by number, as players count them; all where none are named) and the highest fret a level plays on. */
export const Reach = z.object({ strings: z.array(z.int().min(1).max(12)).optional(), highest: z.int().min(1).max(24) });
export type Reach = z.infer<typeof Reach>;

/** Widest stretch of the fingers, by where the lowest one lies: so many frets from each of three places on. */
export const Spans = z.object({
  from: z.tuple([z.int().min(1).max(24), z.int().min(1).max(24), z.int().min(1).max(24)]),
  frets: byLevel(z.tuple([z.int().min(1).max(12), z.int().min(1).max(12), z.int().min(1).max(12)])),
});
export type Spans = z.infer<typeof Spans>;

const Said = z.string().trim().min(1).max(200);

/** An instrument of the catalogue. Pitches are sounding pitches. */
export const Instrument = z
  .object({
    name: z.string().min(1).max(40),
    family: z.enum(FAMILIES),
    /** Sounding range a player in the group can be asked for. */
    lowest: Pitch,
    highest: Pitch,
    clef: Clef,
    /** Semitones from a written to the sounding pitch: -12 for a guitar, 12 for a whistle. Whole octaves. */
    transposition: z.int().multipleOf(12).min(-24).max(24),
    /** General MIDI program from 0, for files and for our own sound bank. */
    program: z.int().min(0).max(127),
    /** Ways to tune it, the usual one first; none where it has no strings. */
    tunings: z.array(Tuning),
    /** The strings as they are tuned now: those of the usual tuning, unless `tuned` chose another. */
    strings: z.array(OpenString),
    hand: Hand.optional(),
    /** Length of its open strings, in centimetres: how far apart its frets are. */
    scale: z.number().min(20).max(120).optional(),
    frets: z.array(Fret).min(2).max(48).optional(),
    /** The highest fret a capo is put on, in semitones; none where none is used. */
    capo: z.int().min(1).max(12).optional(),
    /** By level: how far up its strings, how wide the hand opens. Strung instruments only. */
    reach: byLevel(Reach).optional(),
    spans: Spans.optional(),
    /** By level: lowest and highest note, where it has no strings. */
    ranges: byLevel(z.object({ lowest: Pitch, highest: Pitch })).optional(),
    /** By level: notes a second that are comfortable. */
    speed: byLevel(z.number().min(0.5).max(20)),
    /** How its fingers are counted or its holes are read, in words. */
    fingers: z.string().trim().max(200),
    /** What to take care of, a sentence each. */
    cautions: z.array(Said).max(8),
    /** Where its numbers come from. */
    source: Said,
  })
  .refine((i) => midi(i.lowest) < midi(i.highest), "The range runs from low to high.")
  .refine(
    (i) => i.strings.length > 0 === (i.hand !== undefined),
    "What has strings has a hand that finds notes on them.",
  )
  .refine((i) => (i.hand === "frets") === (i.frets !== undefined), "Fretted strings have frets, and no others.")
  .refine(
    (i) => i.strings.length > 0 === (i.reach !== undefined && i.spans !== undefined),
    "What has strings has frets and spans for each level.",
  );
export type Instrument = z.infer<typeof Instrument>;

/** Whether it plays notes; a drum has strokes alone. */
export const isPitched = ({ family }: Instrument): boolean => family !== "drum";
