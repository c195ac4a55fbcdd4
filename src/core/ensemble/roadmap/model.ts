import { z } from "zod";
import type { RoleName } from "../../grading";
import type { Level } from "../../instruments";
import { record } from "../../theory";

/** How the whole is built up: dancers need the pulse all through, listeners need it to grow. */
export const MANNERS = ["dance", "concert"] as const;
export type Manner = (typeof MANNERS)[number];

/** What someone does in a column. */
export const WAYS = ["rests", "plays", "louder"] as const;
export type Way = (typeof WAYS)[number];

/** How the whole ends. */
export const ENDINGS = ["last note", "last note and a chord", "slow, open chord"] as const;
export type Ending = (typeof ENDINGS)[number];

/** Most times through the whole, bars of introduction or tag, and rounds of a vamp. */
export const MOST = { times: 6, introduction: 8, vamp: 8, tag: 4 } as const;

const count = (least: number, most: number) => z.int().min(least).max(most);
/** What a teacher has settled of the roadmap; the plan's own where nothing is said. */
export const RoadmapChoice = record({
  manner: z.enum(MANNERS).optional(),
  times: count(1, MOST.times).optional(),
  /** Bars of the accompaniment before the tune; the last two of them go round so often, until the leader nods. */
  introduction: count(0, MOST.introduction).optional(),
  vamp: count(0, MOST.vamp).optional(),
  /** Bars that are played once more at the end. */
  tag: count(0, MOST.tag).optional(),
  ending: z.enum(ENDINGS).optional(),
  /** The tune of the shelf (by id) that it goes on into. */
  next: z.int().min(1).optional(),
  /** Who does what in a column: a learner by name, or a role. */
  set: z
    .array(
      record({
        who: z.string().max(80),
        strain: z.string().max(40),
        pass: count(1, MOST.times),
        turn: count(1, 20),
        way: z.enum(WAYS),
      }),
    )
    .max(2000)
    .optional(),
});
export type RoadmapChoice = z.infer<typeof RoadmapChoice>;

/** A part as the roadmap sees it. */
export type Voice = { id: string; name: string; role: RoleName; level: Level; plucked: boolean; alone: boolean };

/**
 * A column: one turn through a strain, in which time through the whole (`pass`, from 1), and which turn of that strain
 * in it (`turn`, from 1); who plays, and who of them louder.
 */
export type Column = { strain: string; pass: number; turn: number; plays: string[]; louder: string[] };

/** Bars of the tune as they are played, by their order in it (the last included): what they are in the whole. */
export type Stretch = {
  kind: "introduction" | "vamp" | "strain" | "tag";
  from: number;
  to: number;
  /** The column whose players play; the accompaniment alone where there is none. */
  column: number | null;
};

export type Roadmap = {
  columns: Column[];
  stretches: Stretch[];
  manner: Manner;
  times: number;
  introduction: number;
  vamp: number;
  tag: number;
  ending: Ending;
};
