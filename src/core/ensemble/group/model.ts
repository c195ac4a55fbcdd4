import type { Analysis } from "../../analysis";
import type { ChordPlan } from "../../chords";
import type { Difficulty, Learner, Limits, PartNote, RoleName, Writing } from "../../grading";
import type { Instrument } from "../../instruments";
import type { Misfit } from "./fit";
import type { Roadmap, RoadmapChoice } from "../roadmap";

/** The part of one learner for tonight. */
export type GroupPart = {
  id: string;
  learner: Learner;
  on: Instrument;
  role: RoleName;
  notes: PartNote[];
  limits: Limits;
  difficulty: Difficulty;
  leftOut: string[];
  coaching: string[];
  reason: string;
  /** Limits that bars written by hand break: they stand, and are named. */
  broken: { bar: number; words: string }[];
  /** Share of the tune's beats it has; of parts that carry the tune. */
  kept: number | null;
};

/** What someone does in a bar to make room for another. */
export type Change = "rest" | "another note" | "octave higher" | "octave lower" | "quieter";

/** What was asked for and could not be had: what, in which bars (indexes), and the nearest way out. */
export type Unmet = { must: string; bars: number[]; wayOut: string };

export type Evening = {
  parts: GroupPart[];
  unmet: Unmet[];
  roadmap: Roadmap;
  fit: { total: number; worst: Misfit[] };
  /** Seconds of the whole, as the roadmap has it. */
  seconds: number;
};

export type EveningRequest = {
  analysis: Analysis;
  plan: ChordPlan;
  /** Seconds of a tick at tonight's quickest. */
  tick: number;
  dance: string | null;
  learners: readonly Learner[];
  /** Roles settled by hand, by the learner's name. */
  settled?: ReadonlyMap<string, RoleName>;
  /** Bars (indexes) of someone's part that were written by hand. */
  edits?: readonly { name: string; bar: number; notes: readonly Omit<PartNote, "bar">[] }[];
  /** Bars (indexes) that someone plays otherwise, to make room. */
  changes?: readonly { name: string; bar: number; what: Change }[];
  /** Parts that are written otherwise than usual, by the learner's name. */
  writings?: ReadonlyMap<string, Writing>;
  /** What each played in the last tunes, the latest first. */
  before?: ReadonlyMap<string, readonly RoleName[]>;
  own?: readonly Instrument[];
  /** What is settled of who plays when. */
  roadmap?: RoadmapChoice;
};
