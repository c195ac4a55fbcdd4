import { z } from "zod";
import { Pitch } from "../theory";
import { Event, type Tune } from "./model";
import type { Place } from "./time";

/**
 * One staff of a sheet: who plays it and its events bar by bar, as many bars as the sheet has. Pitches are sounding
 * pitches.
 */
export const Staff = z.object({
  id: z.string().max(80),
  name: z.string().max(200),
  /** Bars of events; each fills its bar. */
  bars: z.array(z.array(Event).readonly()).readonly(),
  clef: z.enum(["treble", "alto", "bass"]),
  /** General MIDI program from 0. */
  program: z.int().min(0).max(127),
  /** Semitones from the written to the sounding pitch, whole octaves. */
  transposition: z.int().multipleOf(12).optional(),
  /** Strings of a tablature, from the lowest line up, with their open pitches; absent on a staff of notes. */
  tab: z
    .array(z.object({ number: z.int(), open: Pitch }))
    .readonly()
    .optional(),
  /** Its heads are slashes: a rhythm to be strummed, not notes. */
  slashes: z.boolean().optional(),
  /** Note colour for the screen; files carry none. */
  color: z.string().optional(),
  lyrics: z.boolean().optional(),
  /** Share of the tune's loudness at which it is played, 1 unless said otherwise. */
  loudness: z.number().min(0).max(2).optional(),
});
export type Staff = z.infer<typeof Staff>;

/** A chord to print, at a tick of a bar of the sheet. */
export type SheetChord = { bar: number; at: number; symbol: string };

/** What is engraved, printed or exported: staves over the same bars. Every writer takes one. */
export type Sheet = {
  title: string;
  subtitle: string;
  composer: string;
  places: readonly Place[];
  staves: readonly Staff[];
  chords: readonly SheetChord[];
  tempo: Tune["tempo"];
  /** Letters over the bars (indexes) where strains begin; on paper. */
  letters?: readonly { bar: number; letter: string }[];
};

/**
 * Bars (indexes) where a repeat opens: where one is written, and at the start of a strain that is repeated without its
 * sign.
 */
export function openingRepeats(from: readonly Place[]): ReadonlySet<number> {
  const of = (has: (p: Place) => boolean) => new Set(from.filter(has).map((p) => p.strain));
  const [ends, starts] = [of((p) => p.bar.repeatEnd !== undefined), of((p) => p.bar.repeatStart === true)];
  const opens = (p: Place, i: number) => {
    const first = from[i - 1]?.strain !== p.strain;
    return p.bar.repeatStart === true || (first && ends.has(p.strain) && !starts.has(p.strain));
  };
  return new Set(from.filter(opens).map((p) => p.index));
}

/** A sheet as it goes on paper: letters over its strains, and every repeat opened by its sign. */
export function onPaper(sheet: Sheet, { strains }: Pick<Tune, "strains">): Sheet {
  const opening = openingRepeats(sheet.places);
  const letters = sheet.places.flatMap(({ index, strain }, i) => {
    const letter = strains[strain]?.label ?? "";
    return letter && sheet.places[i - 1]?.strain !== strain ? [{ bar: index, letter }] : [];
  });
  const places = sheet.places.map((p) => (opening.has(p.index) ? { ...p, bar: { ...p.bar, repeatStart: true } } : p));
  return { ...sheet, places, ...(strains.length > 1 ? { letters } : {}) };
}

/** The tune's own line as a staff. */
export const melodyStaff = (from: readonly Place[], name = "Melody"): Staff => ({
  id: "melody",
  name,
  clef: "treble",
  program: 40,
  lyrics: true,
  bars: from.map((p) => p.bar.events),
});

/** The chords the source printed, as chords of a sheet. */
export const sourceChords = (from: readonly Place[]): SheetChord[] =>
  from.flatMap((p, bar) => p.bar.chords.map((c) => ({ bar, at: c.at, symbol: c.symbol })));

/** A sheet with the tune alone, as it came. */
export const tuneSheet = (tune: Tune, from: readonly Place[]): Sheet => ({
  title: tune.title,
  subtitle: "",
  composer: tune.composer,
  places: from,
  tempo: tune.tempo,
  staves: [melodyStaff(from)],
  chords: sourceChords(from),
});

/** Bars `from` to `to` (exclusive) of a sheet; ties and chords are cut with them. */
export const slice = (sheet: Sheet, from: number, to: number): Sheet => ({
  ...sheet,
  places: sheet.places.slice(from, to),
  staves: sheet.staves.map((staff) => ({ ...staff, bars: staff.bars.slice(from, to) })),
  chords: sheet.chords.filter((c) => c.bar >= from && c.bar < to).map((c) => ({ ...c, bar: c.bar - from })),
});

/** A rest that fills so many ticks. */
export const rest = (ticks: number): Event => ({ ticks, pitches: [] });
