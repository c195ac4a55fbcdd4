import { knows, type Learner, type Material, PLAYED_ROLES, refusal, type RoleName, writeRole } from "../../grading";
import { type Instrument, INSTRUMENTS, LEVELS } from "../../instruments";
import type { Candidate } from "./assign";

/** Bars of the tune a part must play in to be worth offering, as a share of them. */
const WORTH = 0.5;

/** A role in which someone plays in half of the bars at least; undefined where there is none. */
function roleFor(material: Material, learner: Learner, on: Instrument): RoleName | undefined {
  const bars = material.places.filter((p) => !p.pickup).length;
  return PLAYED_ROLES.find((role) => {
    if (refusal(role, on, learner.level, (word) => knows(learner, word)) !== "") return false;
    const part = writeRole(material, learner, on, role);
    return "notes" in part && new Set(part.notes.map((n) => n.bar)).size >= bars * WORTH;
  });
}

/** Instruments of one kind in other keys: whistles beside a whistle, recorders beside a recorder. */
const kin = (on: Instrument, own: readonly Instrument[]): Instrument[] => {
  const kind = on.name.split(" ").at(-1);
  return [...INSTRUMENTS, ...own].filter((i) => i.name !== on.name && i.name.split(" ").at(-1) === kind);
};

/**
 * The nearest way to a part for someone who has none: another instrument of the kind, or one limit less. Each is tried,
 * and named only where it gives a part in half of the bars.
 */
export function wayInFor(material: Material, { learner, on }: Candidate, own: readonly Instrument[] = []): string {
  const other = kin(on, own).find((i) => roleFor(material, { ...learner, instrument: i.name }, i));
  if (other) return `On the ${other.name} there is one.`;
  const word = [...learner.cannot].find((w) =>
    roleFor(material, { ...learner, cannot: learner.cannot.filter((c) => c !== w) }, on),
  );
  if (word) return `Without “cannot ${word}” there is one.`;
  const next = LEVELS[LEVELS.indexOf(learner.level) + 1];
  const role = next && roleFor(material, { ...learner, level: next }, on);
  if (role) return `At ${next} there is one; or another key for the tune.`;
  return "Another key for the tune, or another instrument for tonight.";
}
