import { z } from "zod";
import { ChordLock, StyleName } from "../chords";
import { Id, Learner, MANNERS_OF_WRITING, MOST_LEARNERS, PLAYED_ROLES, type Role, Role as RoleName } from "../grading";
import { HarmonyLock, SchoolName, type Side } from "../harmony";
import { FIDDLE, Instrument } from "../instruments";
import { Backing } from "../performance";
import { StoredTune, type Tune } from "../score";
import { SPELLINGS } from "../spelling";
import { RoadmapChoice } from "./roadmap";
import { record } from "../theory";

const Name = z.string().max(40);
const Bar = z.int().min(0);

/** A harmony line: its school and side, the instrument it is written for, and what the teacher has settled in it. */
export const Line = record({
  id: Id,
  school: SchoolName,
  side: z.enum(["below", "above"]),
  instrument: Name,
  /** Bars (indexes) that follow another school. */
  bars: z.array(record({ bar: Bar, school: SchoolName })).max(4000),
  locks: z.array(HarmonyLock).max(8000),
});
export type Line = z.infer<typeof Line>;

/**
 * Someone who plays: on what, in which role, and what is settled in their part. Names, levels and limits live with
 * the group.
 */
export const Player = record({
  id: Id,
  /** The learner of the group who takes this part; null for anyone. */
  learner: z.string().max(80).nullable(),
  instrument: Name,
  /** Null for the usual tuning. */
  tuning: Name.nullable(),
  role: RoleName,
  /** The harmony line it plays; null for roles that play none. */
  line: Id.nullable(),
  locks: z.array(HarmonyLock).max(8000),
});
export type Player = z.infer<typeof Player>;

/** Strokes that are settled: where each begins, for how long it lasts, and its direction; none where only it lasts. */
const StrokeLocks = z.array(record({ bar: Bar, at: Bar, ticks: z.int().min(1), value: Name })).max(8000);
/** A plan of strokes, chosen by name, with the strokes that are settled. */
const Strokes = record({
  style: Name,
  locks: StrokeLocks,
  /** What it is played on, where that is not the usual one; and whether the slurs of the file are kept. */
  instrument: Name.optional(),
  written: z.boolean().optional(),
});
/** A strum: on what, by which pattern of the library or by a grid of one's own. */
const StrumChoice = record({
  instrument: Name,
  tuning: Name.nullable(),
  style: Name,
  grid: z.string().max(64).nullable(),
  fills: z.boolean(),
  /** A banjo's thumb drops to the melody. */
  thumb: z.boolean().optional(),
  locks: StrokeLocks,
});
export type StrumChoice = z.infer<typeof StrumChoice>;

/** What a teacher has moved in a dance's bar: accents in percent, the lean of its parts in thousandths of a beat. */
const OwnGroove = record({
  groove: Name,
  accents: z.array(z.int().min(5).max(100)).max(24),
  lean: z.array(z.int().min(-500).max(500)).max(3),
});
/** Another feel for one time through a strain. Null is as it is set for the whole tune. */
const PassFeel = record({
  strain: Bar,
  pass: z.int().min(1),
  groove: Name.nullable(),
  cell: Name.nullable(),
  bowing: Name.nullable(),
  strum: Name.nullable(),
});
export type PassFeel = z.infer<typeof PassFeel>;

/** How the tune is to feel. Null where nothing is chosen yet. */
export const Feel = record({
  /** Null for the dance's own. */
  groove: Name.nullable(),
  /** Percent of the groove's swing and accents; 100 where nothing is said. */
  strength: z.int().min(0).max(150).optional(),
  own: OwnGroove.optional(),
  /** Long to short of dotted pairs, in tenths. */
  tight: z.int().min(20).max(50).optional(),
  /** A chord of one bar before the tune, for the dancers to honour each other. */
  opening: z.boolean().optional(),
  cell: Name.nullable(),
  bowing: Strokes.nullable(),
  plectrum: Strokes.nullable(),
  strum: StrumChoice.nullable(),
  passes: z.array(PassFeel).max(200).optional(),
});
export type Feel = z.infer<typeof Feel>;

/** One time through a strain: who plays. */
const Pass = record({ strain: Bar, pass: z.int().min(1), plays: z.array(Id).max(60) });

/** How the tune is played on one instrument, with the notes that are settled on their string and fret. */
export const Hand = record({
  instrument: Name,
  tuning: Name.nullable(),
  kind: Name,
  level: Name,
  /** The fret of a capo, how many notes have a double stop; none and alternating where nothing is said. */
  capo: z.int().min(0).max(12).optional(),
  doubling: Name.optional(),
  locks: z
    .array(record({ bar: Bar, at: Bar, string: z.int().min(1).max(12), fret: z.string().min(1).max(3) }))
    .max(8000),
});
export type Hand = z.infer<typeof Hand>;

/** Most instruments a teacher can add. */
export const MOST_OWN = 40;
/** What someone can do in a bar to make room for another. */
export const CHANGES = ["rest", "another note", "octave higher", "octave lower", "quieter"] as const;
/** A learner by name, with a role. */
const Had = record({ name: z.string().max(80), role: z.enum(PLAYED_ROLES) });
/** Who is there tonight, and what they play where the teacher has settled it. */
export const EveningChoice = record({
  /** The group it was taken from. */
  group: z.string().max(80),
  learners: z.array(Learner).max(MOST_LEARNERS),
  absent: z.array(z.string().max(80)).max(MOST_LEARNERS),
  roles: z.array(Had).max(MOST_LEARNERS),
  /** What everyone played tonight, once it was noted; and in the tunes before it, the latest first. */
  played: z.array(Had).max(MOST_LEARNERS).optional(),
  before: z
    .array(record({ name: z.string().max(80), roles: z.array(z.enum(PLAYED_ROLES)).max(4) }))
    .max(MOST_LEARNERS)
    .optional(),
  /** Bars (indexes) in which someone makes room: rests, takes other notes or another octave, or plays low. */
  changes: z
    .array(record({ name: z.string().max(80), bar: Bar, what: z.enum(CHANGES) }))
    .max(2000)
    .optional(),
  /** Bars (indexes) of someone's part that were written by hand: sounding pitches (MIDI), ticks into the bar. */
  edits: z
    .array(
      record({
        name: z.string().max(80),
        bar: Bar,
        notes: z
          .array(
            record({
              at: Bar,
              ticks: z.int().min(1),
              pitches: z.array(z.int().min(0).max(127)).max(4),
              stroke: z.enum(["heavy", "light"]).optional(),
            }),
          )
          .max(200),
      }),
    )
    .max(2000)
    .optional(),
  /** Parts that are plainer than usual, or other ones. */
  writings: z
    .array(record({ name: z.string().max(80), writing: z.enum(MANNERS_OF_WRITING) }))
    .max(MOST_LEARNERS)
    .optional(),
  /** How notes are named under someone's part, where that is not as the level has it. */
  names: z
    .array(record({ name: z.string().max(80), spelling: z.enum([...SPELLINGS, "none"]) }))
    .max(MOST_LEARNERS)
    .optional(),
  /** The roadmap, where it is other than planned. */
  roadmap: RoadmapChoice.optional(),
  /** Felt beats a minute at tonight's quickest; the middle of practice where nothing is said. */
  bpm: z.number().min(10).max(600).optional(),
});
export type EveningChoice = z.infer<typeof EveningChoice>;

/** Most doubts that are kept with a tune. */
export const MOST_DOUBTS = 60;

/** All that a teacher has decided about one tune. Everything else is derived from it. */
export const Work = record({
  version: z.literal(2),
  tune: StoredTune,
  /** The style of its chords, whether those printed in the file are kept, and what the teacher has settled. */
  style: StyleName,
  fileChords: z.boolean(),
  locks: z.array(ChordLock).max(4000),
  /** How the chords are heard under the tune. */
  backing: Backing,
  lines: z.array(Line).max(12),
  players: z.array(Player).max(60),
  feel: Feel,
  /** How it lies under the hands it was looked at for, the latest first. */
  hands: z.array(Hand).max(60).optional(),
  evening: EveningChoice.optional(),
  /** The teacher's own instruments, as they were when it was saved; a tune is opened with those there are now. */
  instruments: z.array(Instrument).max(MOST_OWN).optional(),
  /** What was left out or read in doubt when the tune came in, until a teacher has settled it. */
  doubts: z.array(z.string().max(400)).max(MOST_DOUBTS).optional(),
  /** The roadmap; empty for everybody all the time. */
  passes: z.array(Pass).max(400),
});
export type Work = z.infer<typeof Work>;

export const NO_FEEL: Feel = { groove: null, cell: null, bowing: null, plectrum: null, strum: null };

/** What a player on a line is called by the side it lies on. */
export const harmonyRole = (side: Side): Role => (side === "below" ? "low harmony" : "high harmony");

export const newLine = (id: string, school: string, side: Side): Line => ({
  id,
  school,
  side,
  instrument: FIDDLE.name,
  bars: [],
  locks: [],
});

export const newPlayer = (id: string, role: Role, line: Line | null = null): Player => ({
  id,
  learner: null,
  instrument: FIDDLE.name,
  tuning: null,
  role,
  line: line?.id ?? null,
  locks: [],
});

/** The work on a tune that has just come in, with its doubts: one harmony line, and three players on the fiddle. */
export function newWork(tune: Tune, doubts: readonly string[] = []): Work {
  const line = newLine("line-1", "Chord-fit", "below");
  return {
    version: 2,
    tune,
    style: "Three-chord",
    fileChords: tune.strains.some((s) => s.bars.some((b) => b.chords.length > 0)),
    locks: [],
    backing: "bass and chord",
    lines: [line],
    players: [
      newPlayer("melody", "melody"),
      newPlayer("moving", harmonyRole(line.side), line),
      newPlayer("first", "one-note harmony"),
    ],
    feel: NO_FEEL,
    passes: [],
    ...(doubts.length > 0 ? { doubts: [...doubts] } : {}),
  };
}
