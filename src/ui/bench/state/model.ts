import type { ChordLock, ChordPlan } from "../../../core/chords";
import type { Evening, Derived, DerivedLine, HandName, Work } from "../../../core/ensemble";
import type { Edited, Spot, Tune } from "../../../core/score";
import type { Pitch } from "../../../core/theory";
import type { Rung } from "../../../core/variation";
import type { Loaded } from "../../../server/states";
import type { Saving } from "../../saving/saver";
import type { Unsaved } from "../../saving/shelf";
import type { NoteEdit } from "../noteEdits";

/** What is looked at: a planned chord or a note of a harmony line, by order; or a note of the tune itself. */
export type Selection =
  | { kind: "chord"; index: number }
  | { kind: "note"; line: string; index: number }
  | ({ kind: "event" } & Spot)
  | { kind: "stroke"; index: number }
  | null;

/** Bars (indexes) that are played over and over. */
export type Loop = { from: number; to: number } | null;

/** Pages of the tune's side panel, in the order a teacher needs them. */
export const PAGES = ["Say", "Hands", "Note", "Form", "History"] as const;
export type PageName = (typeof PAGES)[number];

/**
 * The work on one tune: what is derived from it, and every way to change it. Changes show at once and are saved in
 * order.
 */
export type WorkSlice = Loaded & {
  derived: Derived;
  /** While what is shown has not yet caught up with the work. */
  busy: boolean;
  problem: string;
  /** Something worth knowing that is not wrong. */
  remark: string;
  saving: Saving;
  /** Both changes in one, where the tune was changed in two places that do not touch. */
  both: Work | undefined;
  /** Steps that an earlier page could not save. */
  left: readonly Unsaved[];
  /** Has what failed worked out and drawn once more. */
  tryAgain: () => void;
  /** Begins to hear of saving and of other tabs; gives what ends it. */
  start: () => () => void;
  /** Begins to draw what will be shown of it, while the page is still being rendered; set by the rows in view. */
  ahead: (derived: Derived) => void;
  change: (step: string, edit: (work: Work) => Work) => void;
  /** An edit of the tune; gives why not, where it cannot be done. */
  edit: (step: string, make: (tune: Tune) => Edited) => string | undefined;
  travel: (way: "undo" | "redo") => void;
  /** Brings an earlier state back as a new step. */
  restore: (revision: number) => void;
  /** Tries at once to save what is not saved yet. */
  retry: () => void;
  settle: (take: "mine" | "theirs" | "both") => void;
  leaveOut: () => void;
  /** Keeps the work as a new tune where its own is gone; gives its number. */
  keepAnew: () => Promise<number | undefined>;
  takeLeft: () => void;
  setLeftAside: () => void;
};

export type ViewSlice = {
  selection: Selection;
  bar: number;
  loop: Loop;
  /** The part shown alone in the parts lens, or "all". */
  shown: string;
  /** The hand that the feel is shown for, and another style of bowing held against the tune's. */
  hand: HandName;
  rivalBowing: string | null;
  /** How the strum is written under the tune. */
  strumDrawn: "slashes" | "tablature";
  /** The instrument whose hand is shown under the tune; null for none. */
  handShown: string | null;
  /** Tonight's parts of the group, as they were last made; null where there is none. */
  evening: Evening | null;
  /** Whether its double stops are heard pure, or tempered. */
  pure: boolean;
  /** The rhythm cell that is looked at; null for those to pull out first. */
  cell: string | null;
  help: boolean;
  folded: boolean;
  page: PageName;
  refused: string | undefined;
  /** A worker that failed, in words; empty while all do their work. */
  stalled: string;
  /** Grows with every “try again”. */
  attempt: number;
  select: (next: Selection) => void;
  /** Goes to a bar, or extends the loop to it. */
  pick: (bar: number, extend: boolean) => void;
  setLoop: (loop: Loop) => void;
  setBar: (bar: number) => void;
  setShown: (part: string) => void;
  setHand: (hand: HandName) => void;
  setRivalBowing: (style: string | null) => void;
  setStrumDrawn: (as: ViewSlice["strumDrawn"]) => void;
  setCell: (cell: string | null) => void;
  setEvening: (evening: Evening | null) => void;
  setHandShown: (instrument: string | null) => void;
  setPure: (pure: boolean) => void;
  setHelp: (open: boolean) => void;
  setFolded: (folded: boolean) => void;
  setPage: (page: PageName) => void;
  setRefused: (why: string | undefined) => void;
};

/** Tempos in percent of the written one, from the first to the last, each a few times. */
export type Ladder = { from: number; to: number; step: number; times: number };
export const rungsOf = ({ from, to, step }: Ladder): number[] => {
  const count = Math.floor(Math.abs(to - from) / step);
  const up = Array.from({ length: count + 1 }, (_, i) => from + Math.sign(to - from) * i * step);
  return up.at(-1) === to ? up : [...up, to];
};

/**
 * What sounds in the place of a line, of the chords, or of the tune (its events by bar); whose part (id) everyone
 * else is heard without; whether tonight is heard as the roadmap has it, from the introduction to the last chord.
 */
export type Other = {
  line?: DerivedLine | null;
  plan?: ChordPlan | null;
  tune?: Rung["bars"];
  without?: string;
  arranged?: boolean;
};

/** A tap along: how late it was, in milliseconds, early below 0; and the bar (index) it fell in. */
export type Tap = { late: number; bar: number };
/** What taps are held against, and who may tap besides the keyboard and the screen. */
export const TAPPED_ON = ["tune", "beats"] as const;
export type TappedOn = (typeof TAPPED_ON)[number];
export type Clapper = "microphone" | "clapper";

export type SoundSlice = {
  playing: boolean;
  /** The written bar that sounds; null at rest. */
  sounding: number | null;
  percent: number;
  counting: boolean;
  /** Parts (ids) that are not heard; "chords" for the chords. */
  muted: ReadonlySet<string>;
  /** How loud parts (ids) are where that is not 1. */
  levels: ReadonlyMap<string, number>;
  failure: string;
  /** The number of the count-in that sounds; null once the music has begun. */
  counted: number | null;
  /** Ids of the engraved notes that sound. */
  lights: readonly string[];
  ladder: Ladder;
  /** The rung of the ladder that sounds; null while none is climbed. */
  rung: { percent: number; time: number; times: number } | null;
  setLadder: (ladder: Ladder) => void;
  /** Plays the loop, or the tune, up the ladder. */
  climb: () => void;
  toggle: () => void;
  taps: readonly Tap[];
  tappedOn: TappedOn;
  /** Whose claps are heard, and milliseconds they are known to come late by. */
  listening: Clapper | null;
  latency: number;
  /** A tap at a moment of the page's clock (milliseconds). */
  tap: (at: number) => void;
  setTappedOn: (on: TappedOn) => void;
  listen: (to: Clapper | null) => void;
  /** Takes the mean of the taps so far as in time: what is left of it is the device's. */
  settleLatency: () => void;
  clearTaps: () => void;
  /** Plays bars once; another line or other chords may take the place of their own. */
  hear: (from: number, to: number, other?: Other) => void;
  setPercent: (percent: number) => void;
  setCounting: (on: boolean) => void;
  mute: (part: string) => void;
  setMuted: (parts: Iterable<string>) => void;
  setLevel: (part: string, level: number) => void;
  /** Lets go of the device when the bench is left. */
  close: () => void;
};

export type Which = "ours" | "theirs";
/** Another plan and another line held against these, and what is shown under the notes. */
export type CompareSlice = {
  rival: string;
  rivalPlan: ChordPlan | null;
  setRival: (style: string) => void;
  takeRivalBars: (from: number, to: number) => void;
  school: string;
  rivalLine: DerivedLine | null;
  setSchool: (school: string) => void;
  numbers: boolean;
  ghost: boolean;
  trying: boolean;
  setNumbers: (on: boolean) => void;
  setGhost: (on: boolean) => void;
  setTrying: (on: boolean) => void;
  /** Plays bars with what is here, or with what it is compared with. */
  hearRival: (what: "line" | "plan", from: number, to: number, which: Which) => void;
  /** Makes what is compared anew, after the work has changed. */
  compareAgain: () => Promise<void>;
};

/** A change of one bar that can be repeated in bars (indexes) that had the same notes. */
export type Offer = { bar: number; like: readonly number[]; again: readonly ((work: Work, bar: number) => Work)[] };

/** Ways to decide about the chosen chord, its phrase and the chosen note. What cannot be done says why. */
export type DecideSlice = {
  chordRefused: string;
  /** What was just done in a bar that others are like, to be done there too. */
  offer: Offer | null;
  takeOffer: () => void;
  dropOffer: () => void;
  takeChord: (symbol: string, part?: { at?: number | undefined; ticks?: number | undefined }) => void;
  /** False where what was written is no chord. */
  writeChord: (text: string) => boolean;
  lockChordsAs: (step: string, locks: readonly ChordLock[] | undefined, why: string) => void;
  toggleChordLock: () => void;
  /** Lets go of what was chosen here, so that it is planned anew. */
  planChordAnew: () => void;
  planNoteAnew: () => void;
  moveChord: (index: number | undefined, beats: number) => void;
  splitChord: () => void;
  mergeChord: () => void;
  lockPhrase: () => void;
  copyPhrase: () => void;
  takeNote: (pitch: Pitch | null) => void;
  toggleNoteLock: () => void;
  /** A harmony note dragged or stepped to another candidate. */
  stepNote: (line: string, index: number, steps: number) => void;
  editNote: (what: NoteEdit) => void;
  dragNote: (spot: Spot, steps: number) => void;
  /** Goes to the note before or after the chosen one. */
  walk: (way: 1 | -1) => void;
  /** Takes up the first stroke of a bar; turns the chosen one the other way; settles or frees it. */
  takeUpStroke: (bar: number) => void;
  turnStroke: () => void;
  toggleStrokeLock: () => void;
  /** Takes the next note into the chosen bow, or lets its last one go. */
  lengthenStroke: (notes: 1 | -1) => void;
  /** Why the chosen stroke could not be settled so; empty otherwise. */
  strokeRefused: string;
  /** Takes up the first note of the first harmony line in a bar. */
  takeUp: (bar: number) => void;
};

export type BenchState = WorkSlice & ViewSlice & SoundSlice & CompareSlice & DecideSlice;
/** How a slice reads and writes the whole. */
export type Get = () => BenchState;
export type Put = (next: Partial<BenchState> | ((now: BenchState) => Partial<BenchState>)) => void;
