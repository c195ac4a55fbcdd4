import { z } from "zod";
import { midi, Pitch } from "../theory";

export const FAMILIES = ["bowed", "plucked", "wind", "box", "keyboard", "voice"] as const;

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
    frets: z.array(Fret).optional(),
  })
  .refine((i) => midi(i.lowest) < midi(i.highest), "The range runs from low to high.")
  .refine(
    (i) => i.strings.length > 0 === (i.hand !== undefined),
    "What has strings has a hand that finds notes on them.",
  )
  .refine((i) => (i.hand === "frets") === (i.frets !== undefined), "Fretted strings have frets, and no others.");
export type Instrument = z.infer<typeof Instrument>;
