import { className, midi, parsePitch, pitchName } from "../theory";
import type { Fret, OpenString, Tuning } from "./model";

// Strings and frets as a teacher writes them, and back: "G4@5 D3 G3 B3 D4", "0=0 1=2 2=4", or "20" for frets a semitone
// apart. What cannot be read is told in a sentence that says how to write it.

/** Frets a semitone apart, from the nut. */
export const chromatic = (highest: number): Fret[] =>
  Array.from({ length: highest + 1 }, (_, i) => ({ label: String(i), semitones: i }));

const fretsOf = (text: string): Fret[] =>
  text.split(/\s+/).map((pair) => {
    const [label = "", semitones] = pair.split("=");
    return { label, semitones: Number(semitones) };
  });
/** The mountain dulcimer's diatonic frets, with the half frets that most have. */
export const DIATONIC = fretsOf(
  "0=0 1=2 2=4 3=5 4=7 5=9 6=10 6+=11 7=12 8=14 9=16 10=17 11=19 12=21 13=22 13+=23 14=24",
);

/** Most frets that are written as a number. */
const MOST_FRETS = 30;

/** Frets as they are written: how many, a semitone apart, or each by its name and its semitones. Throws RangeError. */
export function readFrets(text: string): Fret[] {
  const written = text.trim();
  if (/^\d{1,2}$/.test(written)) {
    const highest = Number(written);
    if (highest >= 2 && highest <= MOST_FRETS) return chromatic(highest);
    throw new RangeError(`Write how many frets there are, from 2 to ${MOST_FRETS}.`);
  }
  const wrong = written.split(/\s+/).find((pair) => !/^\d{1,2}\+?=\d{1,2}$/.test(pair));
  if (wrong !== undefined)
    throw new RangeError(`"${wrong}" is not a fret. Write 20 for frets a semitone apart, or each fret: 0=0 1=2 6+=11.`);
  const frets = fretsOf(written);
  const falls = frets.findIndex((f, i) => i > 0 && f.semitones <= (frets[i - 1]?.semitones ?? 0));
  if (falls > 0) throw new RangeError(`Fret ${frets[falls]?.label} does not sound above the one before it.`);
  if (frets[0]?.semitones !== 0) throw new RangeError("The first fret written is the open string: 0=0.");
  return frets;
}

/** Frets as `readFrets` reads them. */
export const writeFrets = (frets: readonly Fret[]): string =>
  frets.every((f, i) => f.semitones === i && f.label === String(i))
    ? String(frets.length - 1)
    : frets.map((f) => `${f.label}=${f.semitones}`).join(" ");

/** Strings from the player's lowest course to the highest; "G4@5" is a short string that begins at the fifth fret. */
function stringsOf(text: string): OpenString[] {
  const names = text.split(/\s+/).filter(Boolean);
  return names.map((name, i) => {
    const [open = "", short] = name.split("@");
    return { number: names.length - i, open: parsePitch(open), ...(short ? { shortFrom: Number(short) } : {}) };
  });
}

/** A tuning is called by the letters of its strings, with what tells it from another of the same letters. */
export function tuningOf(text: string): Tuning {
  const [pitches = "", remark = ""] = text.split("|");
  const strings = stringsOf(pitches);
  const letters = strings.map(({ open }) => className(open)).join("");
  return { name: remark.trim() ? `${letters}, ${remark.trim()}` : letters, strings };
}

/** Most strings of an instrument. */
const MOST_STRINGS = 12;

/** Tunings as they are written, a line each, the usual one first. Throws RangeError. */
export function readTunings(text: string): Tuning[] {
  const lines = text
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);
  const made = lines.map((line) => {
    const names = (line.split("|")[0] ?? "").split(/\s+/).filter(Boolean);
    const wrong = names.find((n) => !/^[A-G](#|b)?[0-8](@\d{1,2})?$/.test(n));
    if (wrong !== undefined)
      throw new RangeError(`"${wrong}" is not a string. Write letter and octave, the lowest first: G3 D4 A4 E5.`);
    if (names.length === 0) throw new RangeError(`"${line}" names no string. Write its strings, the lowest first.`);
    if (names.length > MOST_STRINGS) throw new RangeError(`At most ${MOST_STRINGS} strings.`);
    return tuningOf(line);
  });
  const [usual] = made;
  const other = made.find((t) => t.strings.length !== usual?.strings.length);
  if (other) throw new RangeError(`${other.name} has not as many strings as ${usual?.name}.`);
  const again = made.find((t, i) => made.findIndex((o) => o.name === t.name) !== i);
  if (again) throw new RangeError(`${again.name} stands twice. Tell them apart: ${"G3 C4 E4 A4 | low G"}.`);
  return made;
}

/** Tunings as `readTunings` reads them. */
export const writeTunings = (tunings: readonly Tuning[]): string =>
  tunings
    .map(({ name, strings }) => {
      const [, remark] = name.split(", ");
      const open = strings.map((s) => `${pitchName(s.open)}${s.shortFrom ? `@${s.shortFrom}` : ""}`).join(" ");
      return remark ? `${open} | ${remark}` : open;
    })
    .join("\n");

/** The sounding pitch of the lowest string of a tuning. */
export const lowestOf = ({ strings }: Tuning) =>
  strings.map((s) => s.open).reduce((a, b) => (midi(b) < midi(a) ? b : a));
