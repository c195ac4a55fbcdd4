import { ROLE_RULES, ROLE_WORDS, type RoleName } from "../../grading";
import { LEVELS } from "../../instruments";
import type { Place } from "../../score";
import type { Candidate } from "./assign";

// What is said of an evening: bars by number, why someone has a role, and ways out.

/** Bars by number, in order. */
export const labels = (places: readonly Place[], bars: readonly number[]): string =>
  [...bars]
    .sort((a, b) => a - b)
    .map((b) => String(places[b]?.number ?? b + 1))
    .join(", ");

type Given = readonly { candidate: Candidate; role: RoleName }[];

/** Who a beginner can follow: someone farther along who does the like. */
function leaderOf({ learner }: Candidate, role: RoleName, all: Given): Candidate | undefined {
  const level = LEVELS.indexOf(learner.level);
  return all.find(
    (o) =>
      o.candidate.learner !== learner &&
      ROLE_RULES[o.role].group === ROLE_RULES[role].group &&
      LEVELS.indexOf(o.candidate.learner.level) > level,
  )?.candidate;
}

/** Level (from 0) from which nobody need be followed. */
const ALONE = 2;
/** What a beginner is told besides: who to listen to, and where to find the way back in. */
export function helpFor(candidate: Candidate, role: RoleName, all: Given, strains: readonly string[]): string[] {
  if (LEVELS.indexOf(candidate.learner.level) >= ALONE) return [];
  const leader = leaderOf(candidate, role, all);
  const second = strains[1];
  return [...(leader ? [`Listen to ${leader.learner.name}.`] : []), ...(second ? [`Lost? Wait for ${second}.`] : [])];
}

/** Why someone has the role they have. */
export function reasonOf(candidate: Candidate, role: RoleName, all: Given, before: readonly RoleName[]): string {
  const { learner, on, settled: hand } = candidate;
  const words = ROLE_WORDS[role];
  if (hand === role) return `You set this: ${words}.`;
  const level = LEVELS.indexOf(learner.level);
  const leader = leaderOf(candidate, role, all);
  const [last] = before;
  const other = last && last !== role ? `; last time it was ${ROLE_WORDS[last]}` : "";
  const suits = `${words[0]?.toUpperCase()}${words.slice(1)} suits ${learner.level} on the ${on.name}${other}`;
  if (level < ALONE && leader) return `${suits}; ${leader.learner.name} leads it.`;
  return ROLE_RULES[role].group === "tune" && level >= ALONE ? `${suits}, and the tune needs carrying.` : `${suits}.`;
}

const WAYS: readonly (readonly [RegExp, string])[] = [
  [/tune is carried/, "Take the melody yourself, or an easier tune for tonight."],
  [/someone stronger/, "Play beside them yourself, or move someone stronger there by hand."],
];
/** The nearest way out where something could not be had. */
export const wayOutOf = (must: string): string =>
  WAYS.find(([test]) => test.test(must))?.[1] ?? "Change one role by hand.";
