// Reads harmony lines over a book as a strict listener would, school by school, from what is heard alone.
// Usage: npm run lines -- FILE.abc [COUNT]. Prints faults per 1,000 notes (of last notes: per hundred).
import { readFileSync } from "node:fs";
import { analyse, strainKeys } from "../src/core/analysis";
import { deriveChords, STYLES } from "../src/core/chords";
import { readAbc } from "../src/core/formats";
import { deriveHarmony, type HarmonyNote, SCHOOLS } from "../src/core/harmony";
import { instrument } from "../src/core/instruments";
import { QUARTER, timeline } from "../src/core/score";
import { diatonic, midi, parseChord, type Pitch } from "../src/core/theory";

const [file = "", count = "300"] = process.argv.slice(2);
const fiddle = instrument("fiddle");
const style = STYLES.find((s) => s.name === "Dance band");
if (!file || !fiddle || !style) {
  console.error("Give an ABC file.");
  process.exit(2);
}
const tunes = readAbc(readFileSync(file, "utf8")).tunes.slice(0, Number(count));

const FAULTS = ["accidental", "notPassing", "tritone", "augmented", "fourths", "forms", "shortRests"] as const;
type Sounding = HarmonyNote & { pitch: Pitch };

/** Perfect and major intervals from the first step of the major scale, by steps: what is more is augmented. */
const PLAIN = [0, 2, 4, 5, 7, 9, 11];
const isHard = (a: Pitch, b: Pitch) => Math.abs(midi(b) - midi(a)) === 6 || isAugmented(a, b);
const isAugmented = (a: Pitch, b: Pitch) => {
  const steps = Math.abs(diatonic(b) - diatonic(a));
  return Math.abs(midi(b) - midi(a)) > (PLAIN[steps % 7] as number) + 12 * Math.floor(steps / 7);
};

for (const school of SCHOOLS.filter((s) => process.argv[4] === undefined || s.name === process.argv[4])) {
  const found = Object.fromEntries(FAULTS.map((f) => [f, 0])) as Record<(typeof FAULTS)[number], number>;
  let [notes, lasts, outside, repeats, phrases, phrasesOutside, rests] = [0, 0, 0, 0, 0, 0, 0];
  for (const { tune } of tunes) {
    const analysis = analyse(tune);
    const { places, form } = analysis;
    const phraseEnds = new Set(form.phrases.map((p) => p.to));
    const plan = deriveChords({ places, phrases: form.phrases, keys: strainKeys(tune, analysis), style });
    const line = deriveHarmony({ places, plan, phraseEnds, school, side: school.side, instrument: fiddle });
    const melody = timeline(places).filter((t) => t.event.pitches.length > 0);
    const sounding = line.notes.filter((n): n is Sounding => n.pitch !== null);
    notes += sounding.length;
    rests += line.notes.filter((n) => n.pitch === null && n.melody !== null).length;
    found.shortRests += line.notes.filter((n) => n.pitch === null && n.melody && n.ticks <= QUARTER / 2).length;
    for (const place of places) {
      const own = melody.filter((m) => m.place === place).flatMap((m) => m.event.pitches);
      const line = sounding.filter((n) => n.bar === place.index).map((n) => n.pitch);
      for (const pitch of line) {
        const forms = own.filter((p) => p.step === pitch.step).map((p) => p.alter);
        if (forms.length > 0 && !forms.includes(pitch.alter)) found.accidental += 1;
      }
      for (const step of new Set(line.map((p) => p.step))) {
        const forms = new Set([...own, ...line].filter((p) => p.step === step).map((p) => p.alter));
        if (forms.size > 2) found.forms += 1;
      }
    }
    let fourths = 0;
    line.notes.forEach((note, i) => {
      if (!note.pitch) return;
      fourths = note.interval === 4 ? fourths + 1 : 0;
      if (fourths > 3) found.fourths += 1;
      const [before, after] = [line.notes[i - 1]?.pitch, line.notes[i + 1]?.pitch];
      const own = midi(note.pitch);
      const into = before ? diatonic(note.pitch) - diatonic(before) : 0;
      const out = after ? diatonic(after) - diatonic(note.pitch) : 0;
      const passing = Math.abs(into) === 1 && into === out;
      const said = note.figure === "passing" || /\bpass(ing|es)\b/.test(note.reason) || note.rule === "passing";
      if (said && !passing) found.notPassing += 1;
      if (!before) return;
      const [from, to] = [line.notes[i - 1]?.melody, note.melody];
      if (from && to && isHard(from, to)) return;
      if (Math.abs(own - midi(before)) === 6) found.tritone += 1;
      else if (isAugmented(before, note.pitch)) found.augmented += 1;
      if (midi(before) === own) repeats += 1;
    });
    const inChord = (n: Sounding | undefined) => {
      const chord = n?.chord ? parseChord(n.chord) : null;
      return n === undefined || chord === null || chord.classes.includes(midi(n.pitch) % 12);
    };
    lasts += 1;
    if (!inChord(sounding.at(-1))) outside += 1;
    for (const end of phraseEnds) {
      const last = sounding.findLast((n) => n.bar === end);
      phrases += last ? 1 : 0;
      if (!inChord(last)) phrasesOutside += 1;
    }
  }
  const per = (n: number, of: number, by: number) => ((by * n) / Math.max(1, of)).toFixed(1);
  const told = FAULTS.map((f) => `${f} ${per(found[f], notes, 1000)}`).join(", ");
  console.log(
    `${school.name}: ${notes} notes; ${told}; last notes outside ${per(outside, lasts, 100)}, phrase ends ` +
      `${per(phrasesOutside, phrases, 100)}; repeats ${per(repeats, notes, 100)}, rests ${per(rests, notes, 1000)}`,
  );
}
