import { lettersOf, type SongSheet } from "../formats";
import type { Place } from "../score";
import { isConflict, solve } from "../search";
import type { ChordLock } from "./model";

/** A syllable of the tune: where it falls, and how many letters are sung before it. */
type Sung = { bar: number; at: number; before: number };

/** What a wrong first letters of a syllable cost, and a letter more or fewer between two chords than the sheet has. */
const MISMATCH = 6;
const DRIFT = 1;

/** Syllables of a verse in order, and its letters. */
function sungOf(places: readonly Place[], verse: number): { syllables: Sung[]; letters: string } {
  const syllables: Sung[] = [];
  let letters = "";
  for (const place of places) {
    let at = 0;
    for (const event of place.bar.events) {
      const own = lettersOf(event.lyrics?.[verse]?.text ?? "");
      if (own) {
        syllables.push({ bar: place.index, at, before: letters.length });
        letters += own;
      }
      at += event.ticks;
    }
  }
  return { syllables, letters };
}

const pairs = (text: string) => Array.from({ length: Math.max(0, text.length - 1) }, (_, i) => text.slice(i, i + 2));

/**
 * How far two texts differ over their next few letters: the share of neighbouring pairs of letters they do not share
 * (Dice 1945).
 */
function unlike(a: string, b: string): number {
  const [x, y] = [pairs(a.slice(0, 10)), pairs(b.slice(0, 10))];
  return x.length + y.length === 0
    ? Number(a[0] !== b[0])
    : 1 - (2 * x.filter((p) => y.includes(p)).length) / Math.max(1, x.length + y.length);
}

/**
 * Lays the chords of a song sheet on a tune's first verse: each on the syllable whose words follow it, in order, even
 * where sheet and tune spell words differently.
 * Every chord holds until the next, or to the end of its strain. Gives undefined where the tune has no words, or other
 * ones.
 */
export function locksFromSheet(sheet: SongSheet, places: readonly Place[]): ChordLock[] | undefined {
  const { syllables, letters } = sungOf(places, 0);
  const chords = sheet.chords.filter((c) => c.letters < letters.length);
  if (syllables.length === 0 || chords.length === 0) return undefined;
  const between = (i: number) => (chords[i]?.letters ?? 0) - (chords[i - 1]?.letters ?? 0);
  const found = solve<Sung>({
    states: chords.map(() => syllables),
    moveLimits: [{ name: "chords in the order of the words", broken: (_, a, b) => b.before <= a.before }],
    local: [
      {
        name: "other words",
        at: (i, s) => MISMATCH * unlike(sheet.letters.slice(chords[i]?.letters), letters.slice(s.before)),
      },
    ],
    moves: [{ name: "letters between", into: (i, a, b) => DRIFT * Math.abs(b.before - a.before - between(i)) }],
  });
  // More chords than syllables cannot keep their order: these are other words.
  if (isConflict(found)) return undefined;
  const { path, cost } = found;
  if (cost > (MISMATCH / 2) * chords.length) return undefined;
  const starts = path.map((s, i) => ({ place: places[s.bar] as Place, at: s.at, symbol: chords[i]?.symbol as string }));
  return heldLocks(starts, places, "teacher");
}

/** Chords that start in their places as locks: each holds until the next one, or to the end of its strain. */
export function heldLocks(
  starts: readonly { place: Place; at: number; symbol: string }[],
  places: readonly Place[],
  by: "teacher" | "file",
): ChordLock[] {
  return starts.flatMap(({ place, at, symbol }, i) => {
    const next = starts[i + 1];
    return places
      .filter(
        (p) =>
          p.strain === place.strain && p.index >= place.index && (next === undefined || p.index <= next.place.index),
      )
      .flatMap((p): ChordLock[] => {
        const start = p === place ? at : 0;
        const end = next && next.place === p ? next.at : p.ticks;
        return end > start && !(p.pickup && p !== place)
          ? [{ bar: p.index, at: start, ticks: end - start, symbol, by }]
          : [];
      });
  });
}
