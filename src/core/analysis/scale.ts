import { type Place, timeline } from "../score";
import { alterIn, degreeOf, type Key, scale } from "../theory";

/**
 * A scale of the key as the tune uses it: which degrees it never (or hardly) touches, and how sure that is no accident
 * of a short tune.
 */
export type UsedScale = { notes: number; missing: number[]; confidence: number };

/** A degree heard for less than this share of the time is missing. */
const HARDLY = 0.004;
/** Chance that a degree in use turns up at any one note. */
const USUAL = 0.07;

/**
 * Gapped scales: five or six notes of the key, the missing degrees named. `usedScale(bars, { tonic: "D", mode: "major"
 * }) // => { notes: 5, missing: [4, 7], confidence: 0.98 }`
 */
export function usedScale(from: readonly Place[], key: Key): UsedScale {
  const heard = new Array<number>(8).fill(0);
  let [notes, total] = [0, 0];
  for (const { event } of timeline(from)) {
    for (const pitch of event.pitches) {
      notes += 1;
      total += event.ticks;
      if (pitch.alter === alterIn(key, pitch.step)) heard[degreeOf(pitch, key)]! += event.ticks;
    }
  }
  const missing = [1, 2, 3, 4, 5, 6, 7].filter((d) => (heard[d] as number) <= HARDLY * total);
  return {
    notes: 7 - missing.length,
    missing,
    confidence: missing.length ? (1 - (1 - USUAL) ** notes) ** missing.length : 1,
  };
}

const ORDINALS = ["", "first", "second", "third", "fourth", "fifth", "sixth", "seventh"];

/** A gapped scale in words, or an empty string where all seven notes are used (or so few that it is no scale). */
export function scaleWords({ notes, missing }: UsedScale, key: Key): string {
  if (missing.length === 0) return "";
  const names = missing.map((d) => `${ORDINALS[d]} (${scale(key)[d - 1]})`);
  const gap = names.length === 1 ? names[0] : `${names.slice(0, -1).join(", ")} or ${names[names.length - 1]}`;
  return notes === 5 || notes === 6
    ? `${notes === 5 ? "five" : "six"}-note scale, no ${gap}`
    : `only ${notes} notes of the key`;
}
