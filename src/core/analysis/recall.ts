// Recall: finding a tune by a few of its notes. Intervals count, so any key will do; octaves do not, since notes typed
// by name seldom say them.

/** Notes kept as a short text, a letter a note, and read from it again. */
const FIRST_LETTER = 0x100;
const OCTAVE = 12;
export const storedMelody = (notes: readonly number[]): string =>
  String.fromCharCode(...notes.slice(0, 4000).map((n) => FIRST_LETTER + n));
const numberAt = (stored: string, i: number): number => stored.charCodeAt(i) - FIRST_LETTER;

/** Fewest notes that a search needs, and from how many on one may be wrong, missing or too many. */
export const RECALL = { least: 4, tolerant: 5 };

/**
 * How a stored melody holds some notes, anywhere and in any key: 0 for every interval, 1 with one note wrong, missing
 * or too many, undefined otherwise.
 */
export function recalled(stored: string, asked: readonly number[]): 0 | 1 | undefined {
  if (asked.length < RECALL.least) return undefined;
  let nearly = false;
  for (let from = 0; from < stored.length; from++) {
    // The first note sets the key; where that is the wrong one, the second does.
    const shift = numberAt(stored, from) - (asked[0] as number);
    const run = alike(stored, from, asked, 0, shift);
    if (run === asked.length) return 0;
    if (nearly || asked.length < RECALL.tolerant) continue;
    nearly = oneOff(stored, from, asked, shift, run);
  }
  return nearly ? 1 : undefined;
}

/** How many notes of `asked` from `k` on the melody has from a place on, moved by `shift`. */
function alike(stored: string, from: number, asked: readonly number[], k: number, shift: number): number {
  let n = 0;
  const fits = () => (numberAt(stored, from + n) - (asked[k + n] as number) - shift) % OCTAVE === 0;
  while (k + n < asked.length && from + n < stored.length && fits()) n++;
  return n;
}

/** Whether all but one note agree: after `run` right ones one is wrong, missing or too many; or the first is wrong. */
function oneOff(stored: string, from: number, asked: readonly number[], shift: number, run: number): boolean {
  const rest = (place: number, k: number, by = shift) => alike(stored, place, asked, k, by) === asked.length - k;
  if (run > 0 && run < asked.length) {
    const wrong = from + run < stored.length && rest(from + run + 1, run + 1);
    if (wrong || rest(from + run, run + 1) || rest(from + run + 1, run)) return true;
  }
  return from + 1 < stored.length && rest(from + 1, 1, numberAt(stored, from + 1) - (asked[1] as number));
}
