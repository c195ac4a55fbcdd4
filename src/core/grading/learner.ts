import { z } from "zod";
import { LEVELS } from "../instruments";
import { readWord } from "./words";

const Name = z.string().trim().min(1).max(80);
const isWord = (text: string): boolean => {
  try {
    readWord(text);
    return true;
  } catch {
    return false;
  }
};
const Words = z.array(z.string().trim().min(1).max(40).refine(isWord, "is not a word of the list")).max(40);

/** Someone in the group: what they play, how far they are, and what sets them apart from their level. */
export const Learner = z.object({
  name: Name,
  instrument: z.string().trim().min(1).max(40),
  /** Null for the usual tuning. */
  tuning: z.string().max(40).nullable(),
  level: z.enum(LEVELS),
  can: Words,
  cannot: Words,
  seat: z.string().trim().max(40),
  notes: z.string().trim().max(2000),
});
export type Learner = z.infer<typeof Learner>;

/** Most learners of a group. */
export const MOST_LEARNERS = 60;
export const Group = z.object({ name: Name, learners: z.array(Learner).max(MOST_LEARNERS) });
export type Group = z.infer<typeof Group>;

/** What a learner can that their level does not say, or cannot that it does. */
export const knows = (of: Pick<Learner, "can" | "cannot">, word: string): boolean | undefined => {
  const same = (w: string) => w.toLowerCase() === word.toLowerCase();
  if (of.cannot.some(same)) return false;
  return of.can.some(same) ? true : undefined;
};
