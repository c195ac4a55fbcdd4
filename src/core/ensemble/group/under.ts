import { type PartNote, ROLE_RULES } from "../../grading";
import { LEVELS } from "../../instruments";
import type { Event, Place } from "../../score";
import { nameOf, type Spelling } from "../../spelling";
import { type Key, spell } from "../../theory";
import type { GroupPart } from "./model";

/** Levels that read names under the notes where nothing else is said. */
const NAMED = 2;

/** How the notes of a part are named under it: as the teacher has settled it, by letters for beginners, or not. */
export function spellingFor(part: GroupPart, settled: Spelling | "none" | undefined): Spelling | null {
  const { kind } = ROLE_RULES[part.role];
  if (kind === "chords" || kind === "drum" || settled === "none") return null;
  return settled ?? (LEVELS.indexOf(part.learner.level) < NAMED ? "letters" : null);
}

/** What stands under the notes of a part: the words, for who sings the tune; else names, where they are wanted. */
export function underPart(
  part: GroupPart,
  places: readonly Place[],
  key: Key,
  settled: Spelling | "none" | undefined,
): ((note: PartNote) => Event["lyrics"]) | undefined {
  if (part.on.family === "voice" && ROLE_RULES[part.role].group === "tune") {
    const words = sungIn(places);
    if (words.size > 0) return (note) => words.get(`${note.bar}.${note.at}`);
  }
  const spelling = spellingFor(part, settled);
  if (!spelling) return undefined;
  return ({ pitches }) => {
    const text = pitches.map((p) => nameOf(spell(p, key), spelling, { key, on: part.on }).text).join(" ");
    return text ? [{ text }] : undefined;
  };
}

/** The words of a tune by where they are sung: bar and ticks into it. */
function sungIn(places: readonly Place[]): Map<string, NonNullable<Event["lyrics"]>> {
  const words = new Map<string, NonNullable<Event["lyrics"]>>();
  for (const { index, bar } of places) {
    let at = 0;
    for (const { lyrics, ticks } of bar.events) {
      if (lyrics?.some((l) => l !== null)) words.set(`${index}.${at}`, lyrics);
      at += ticks;
    }
  }
  return words;
}
