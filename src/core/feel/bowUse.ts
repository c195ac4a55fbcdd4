import type { Metre } from "../score";
import { atTempo, grooveTempo } from "./groove";
import { type Groove, NO_DANCE, type Purpose } from "./grooves";

/** How much bow accents and other notes take, by what the tempo is for: teachers' judgement. */
const USED: Record<Purpose, { strong: number; light: number }> = {
  practice: { strong: 1 / 2, light: 1 / 4 },
  session: { strong: 1 / 3, light: 1 / 8 },
  dancing: { strong: 1 / 5, light: 1 / 12 },
};

const SHARES: readonly [number, string][] = [
  [1 / 2, "half"],
  [1 / 3, "a third"],
  [1 / 4, "a quarter"],
  [1 / 5, "a fifth"],
  [1 / 6, "a sixth"],
  [1 / 8, "an eighth"],
  [1 / 10, "a tenth"],
  [1 / 12, "a twelfth"],
];
/** The share of the bow in words, the nearest by ratio. */
const shareWords = (share: number): string => {
  const off = ([known]: readonly [number, string]) => Math.abs(Math.log(known / share));
  return SHARES.reduce((a, b) => (off(b) < off(a) ? b : a))[1];
};

/** How much of the bow accents and the notes between take at a tempo (felt beats a minute), and in a sentence. */
export function bowUse(
  groove: Groove | undefined,
  metre: Metre,
  bpm: number,
): { strong: number; light: number; words: string } {
  const own = groove ?? NO_DANCE;
  const tempo = grooveTempo(own, metre, bpm);
  const strong = atTempo(own, tempo, (purpose) => USED[purpose].strong);
  const light = atTempo(own, tempo, (purpose) => USED[purpose].light);
  return {
    strong,
    light,
    words: `At this tempo accents take ${shareWords(strong)} of the bow, the others ${shareWords(light)}.`,
  };
}
