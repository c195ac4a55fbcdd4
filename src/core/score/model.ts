import { z } from "zod";
import { Key, Pitch, record } from "../theory";

/** Ticks to a quarter note: 2^5 * 3 * 5 * 7, so that tuplets of 3, 5 and 7 stay exact. */
export const QUARTER = 3360;

const Ticks = z.int().min(0);

/** A metre. `free` has no bar length; `symbol` keeps the printed C and cut C. */
export const Metre = record({
  beats: z.int().min(1).max(64),
  unit: z.union([1, 2, 4, 8, 16, 32].map((u) => z.literal(u))),
  symbol: z.enum(["common", "cut", "free"]).optional(),
});
export type Metre = z.infer<typeof Metre>;

/** Speed: so many beats of `beat` ticks to the minute. */
export const Tempo = record({ beat: Ticks.min(1), bpm: z.number().min(10).max(600) });
export type Tempo = z.infer<typeof Tempo>;

/** Signs on a note. One list for reading, writing and drawing. */
export const MARKS = [
  "accent",
  "staccato",
  "tenuto",
  "marcato",
  "fermata",
  "trill",
  "roll",
  "mordent",
  "lower mordent",
  "turn",
  "ghost",
  "up-bow",
  "down-bow",
  "slide",
  "breath",
  "segno",
  "coda",
  "fine",
  "da capo",
  "dal segno",
  "open",
  "thumb",
  "wedge",
  "finger 0",
  "finger 1",
  "finger 2",
  "finger 3",
  "finger 4",
  "finger 5",
  "pppp",
  "ppp",
  "pp",
  "p",
  "mp",
  "mf",
  "f",
  "ff",
  "fff",
  "ffff",
  "sfz",
  "crescendo start",
  "crescendo end",
  "diminuendo start",
  "diminuendo end",
] as const;
export const Mark = z.enum(MARKS);
export type Mark = z.infer<typeof Mark>;

/** A sung syllable: its text, whether the word goes on (hyphen), and whether it is held over the next notes. */
export const Syllable = record({ text: z.string().max(200), hyphen: z.boolean().optional() });
export type Syllable = z.infer<typeof Syllable>;

/** A run of grace notes before a note; each with its written length in ticks (never counted in the bar). */
export const Grace = record({ pitches: z.array(Pitch).min(1), ticks: Ticks.min(1) });

/** How a note is played: where it lies and how it is struck. Strings are numbered as players number them. */
export const Technique = record({
  /** One entry a pitch of the event, in their order. */
  notes: z
    .array(
      record({
        string: z.int().min(1).max(12).optional(),
        finger: z.int().min(0).max(5).optional(),
        /** A fret by its label, such as 2 or 6+. */
        fret: z.string().min(1).max(3).optional(),
      }),
    )
    .max(8)
    .optional(),
  /** Hand position: the fret or place on the string of the first finger. */
  position: z.int().min(0).max(24).optional(),
  stroke: z
    .object({
      direction: z.enum(["down", "up"]).nullable(),
      kind: z.enum(["bow", "hook", "lift", "pluck", "bass", "brush", "thumb", "chop", "rest", "melody"]),
    })
    .optional(),
  /** Fingers kept down through the note. */
  hold: z.array(z.int().min(1).max(5)).max(5).optional(),
  /** What the left hand does on the way to it. */
  move: z.enum(["slide", "hammer-on", "pull-off", "bend", "shift"]).optional(),
});
export type Technique = z.infer<typeof Technique>;

/** One moment of a line: a note, a double stop (two pitches or more) or a rest (none). */
export const Event = record({
  /** How long it sounds and fills the bar. */
  ticks: Ticks.min(1),
  pitches: z.array(Pitch).max(8),
  /** Held into the next event. */
  tie: z.boolean().optional(),
  /** `actual` notes in the time of `normal`; first and last of the group are marked. */
  tuplet: z
    .object({
      actual: z.int().min(2).max(16),
      normal: z.int().min(1).max(16),
      place: z.enum(["first", "inner", "last"]),
    })
    .optional(),
  grace: z.array(Grace).optional(),
  graceSlash: z.boolean().optional(),
  slurs: record({ open: z.int().min(0).max(9), close: z.int().min(0).max(9) }).optional(),
  marks: z.array(Mark).optional(),
  /** Free words beside the note, such as "slowly". */
  words: z
    .array(record({ text: z.string().max(400), place: z.enum(["above", "below", "left", "right", "near"]) }))
    .optional(),
  /** One entry per verse; null where the verse has no syllable here. */
  lyrics: z.array(Syllable.nullable()).optional(),
  invisible: z.boolean().optional(),
  technique: Technique.optional(),
});
export type Event = z.infer<typeof Event>;

/** A chord symbol of the source, at a tick of its bar. */
export const SourceChord = record({ at: Ticks, symbol: z.string().min(1).max(80) });
export type SourceChord = z.infer<typeof SourceChord>;

/** A change of key, metre or tempo inside the tune, at a tick of its bar. */
export const Change = record({ at: Ticks, key: Key.optional(), metre: Metre.optional(), tempo: Tempo.optional() });
export type Change = z.infer<typeof Change>;

/** How a bar closes on the page. */
export const Barline = z.enum(["single", "double", "final", "heavy", "dotted"]);
export type Barline = z.infer<typeof Barline>;

export const Bar = record({
  events: z.array(Event),
  chords: z.array(SourceChord),
  changes: z.array(Change),
  barline: Barline,
  repeatStart: z.boolean().optional(),
  /** Times the section is played in all, where a repeat ends here. */
  repeatEnd: z.int().min(2).max(9).optional(),
  /** Passes this ending belongs to, where it starts here. */
  ending: z.array(z.int().min(1).max(9)).min(1).optional(),
  endingStop: z.boolean().optional(),
});
export type Bar = z.infer<typeof Bar>;

export const Strain = record({
  /** The label of the source, or a plain letter given by order. */
  label: z.string().min(1).max(80),
  /** True where the source itself names the section. */
  named: z.boolean().optional(),
  bars: z.array(Bar).min(1),
});
export type Strain = z.infer<typeof Strain>;

/** Where a tune came from and whether copies may be made. */
export const Rights = z.enum(["unknown", "traditional", "own", "permission", "licensed", "in copyright"]);
export type Rights = z.infer<typeof Rights>;

/** A tune as it is stored; one from before there were limits may be larger than a new one can be. */
export const StoredTune = record({
  version: z.literal(1),
  title: z.string().max(400),
  otherTitles: z.array(z.string().max(400)),
  composer: z.string().max(400),
  origin: z.string().max(400),
  source: z.string().max(2000),
  rights: Rights,
  notes: z.string().max(20000),
  /** The dance type the source declares, in small letters. */
  rhythm: z.string().max(200),
  key: Key,
  metre: Metre,
  /** Ticks of the source's unit note, kept so that the tune is written back as it came. */
  unit: Ticks.min(1),
  tempo: Tempo.optional(),
  /** Words after the tune, one line each. */
  verses: z.array(z.string().max(2000)),
  strains: z.array(Strain).min(1),
});
export type Tune = z.infer<typeof StoredTune>;

/** The largest tune that is taken in: four hours of dancing. What is more is not one tune. */
export const LARGEST = { bars: 2000, notes: 10_000, inBar: 1000, lyrics: 60_000 };

/** In which way a tune is too large, and what to do; undefined where it is not. */
export function tooLarge({ strains }: Tune): string | undefined {
  let [bars, notes, inBar, letters] = [0, 0, 0, 0];
  for (const bar of strains.flatMap((s) => s.bars)) {
    bars += 1;
    notes += bar.events.length;
    inBar = Math.max(inBar, bar.events.length);
    for (const { lyrics } of bar.events) for (const syllable of lyrics ?? []) letters += syllable?.text.length ?? 0;
  }
  const split = "Split it into smaller tunes";
  if (bars > LARGEST.bars) return `This tune has ${bars} bars; ${LARGEST.bars} are the most. ${split}`;
  if (notes > LARGEST.notes) return `This tune has ${notes} notes; ${LARGEST.notes} are the most. ${split}`;
  if (inBar > LARGEST.inBar) return `One bar has ${inBar} notes; ${LARGEST.inBar} are the most. Put bar lines in`;
  return letters > LARGEST.lyrics
    ? `The words under this tune have ${letters} letters. Leave some verses out`
    : undefined;
}

/** A tune that is taken in. */
export const Tune = StoredTune.superRefine((tune, context) => {
  const message = tooLarge(tune);
  if (message) context.addIssue({ code: "custom", path: [], message });
});
