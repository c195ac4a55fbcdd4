import type { Instrument, Level } from "../instruments";
import { LEVELS } from "../instruments";
import type { PartKind } from "./limits";

/** What a player does in the group. */
export const ROLES = [
  "melody",
  "simple melody",
  "low harmony",
  "high harmony",
  "one-note harmony",
  "drone",
  "bass",
  "strum",
  "off-beats",
  "shuffle drone",
  "counter-figure",
  "hand drum",
] as const;
export type RoleName = (typeof ROLES)[number];

/** What a role is called among players. */
export const ROLE_WORDS: Readonly<Record<RoleName, string>> = {
  melody: "tune",
  "simple melody": "simple tune",
  "low harmony": "low harmony",
  "high harmony": "high harmony",
  "one-note harmony": "one note",
  drone: "drone",
  bass: "bass",
  strum: "chords",
  "off-beats": "off-beats",
  "shuffle drone": "shuffle",
  "counter-figure": "answers",
  "hand drum": "hand drum",
};

/** What roles do together: who is beside whom. */
export const ROLE_GROUPS = ["tune", "harmony", "long notes", "chords", "bass", "drum"] as const;
export type RoleGroup = (typeof ROLE_GROUPS)[number];

type Family = Instrument["family"];
type Rule = {
  group: RoleGroup;
  kind: PartKind;
  /** The first level (from 1) that takes it, by teachers' judgement. */
  least: number;
  families: readonly Family[];
};
const SINGLE: readonly Family[] = ["bowed", "plucked", "wind", "box", "keyboard", "voice"];
const CHORDAL: readonly Family[] = ["plucked", "box", "keyboard"];

/** What each role is, and who may take it: some roles do not exist on some instruments. */
export const ROLE_RULES: Readonly<Record<RoleName, Rule>> = {
  melody: { group: "tune", kind: "line", least: 3, families: SINGLE },
  "simple melody": { group: "tune", kind: "line", least: 2, families: SINGLE },
  "low harmony": { group: "harmony", kind: "line", least: 3, families: SINGLE },
  "high harmony": { group: "harmony", kind: "line", least: 3, families: SINGLE },
  "counter-figure": { group: "harmony", kind: "line", least: 4, families: SINGLE },
  "one-note harmony": { group: "long notes", kind: "line", least: 1, families: SINGLE },
  drone: { group: "long notes", kind: "line", least: 1, families: ["bowed", "wind", "box", "voice"] },
  "shuffle drone": { group: "long notes", kind: "line", least: 2, families: ["bowed", "plucked"] },
  strum: { group: "chords", kind: "chords", least: 1, families: CHORDAL },
  "off-beats": { group: "chords", kind: "chords", least: 2, families: CHORDAL },
  bass: { group: "bass", kind: "bass line", least: 1, families: ["bowed", "plucked", "box", "keyboard"] },
  "hand drum": { group: "drum", kind: "drum", least: 1, families: ["drum"] },
};

/** Instruments that can carry the bass, the likeliest first: sounding low enough. */
const BASSES = ["bass", "plucked bass", "cello", "accordion", "piano", "guitar"];
export const bassOrder = ({ name }: Instrument): number => BASSES.indexOf(name);
const LOW_ENOUGH = new Set(BASSES);
/** Keys and boxes strum once they have the left hand, or two hands. */
const HANDS_TOGETHER = 3;

/** Words of a record that open a role, or close it. */
const SKILLS: Partial<Record<RoleName, string>> = { "shuffle drone": "shuffle", "off-beats": "offbeat" };

/** Why a role is not for someone; empty where it is. */
export function refusal(
  role: RoleName,
  on: Instrument,
  level: Level,
  cans: (word: string) => boolean | undefined,
): string {
  const rule = ROLE_RULES[role];
  if (!rule.families.includes(on.family)) return `There is no ${role} on the ${on.name}.`;
  const order = LEVELS.indexOf(level) + 1;
  const named = SKILLS[role];
  const word = named ? cans(named) : undefined;
  if (word === false) return `${role} is not known yet.`;
  if (order < rule.least && word !== true) return `${role} is for ${LEVELS[rule.least - 1]} and on.`;
  if (role === "bass" && !LOW_ENOUGH.has(on.name)) return `The ${on.name} does not sound low enough for the bass.`;
  if (role === "low harmony" && on.transposition > 0)
    return `The ${on.name} sounds above the tune: it has no low harmony.`;
  if (role === "high harmony" && on.transposition < 0)
    return `The ${on.name} sounds below the tune: it has no high harmony.`;
  if (rule.kind === "chords" && on.family !== "plucked" && order < HANDS_TOGETHER && cans("lefthand") !== true)
    return `Chords on the ${on.name} want both hands.`;
  if (rule.kind === "chords" && on.family === "plucked" && (on.name === "plucked bass" || !on.frets))
    return `There are no chords on the ${on.name}.`;
  return "";
}
