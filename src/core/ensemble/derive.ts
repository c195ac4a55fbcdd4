import { type Analysis, analyse, type Cell, strainKeys, weave } from "../analysis";
import { type ChordPlan, deriveChords, fileLocks, STYLES, THREE_CHORD } from "../chords";
import { type Part, partSheet, printedChords, writeParts } from "../grading";
import {
  CHORD_FIT,
  deriveHarmony,
  type Fault,
  type HarmonyLine,
  rootBass,
  SCHOOLS,
  together,
  type Voice,
} from "../harmony";
import type { Sheet, SheetChord } from "../score";
import type { Work } from "./work";

/** What stands for the chords of the file among the styles to compare with. */
export const FILE_CHORDS = "the file";

/** Everything that follows from a work, in the order of the picture: tune, chords, harmony, parts. */
export type Derived = {
  analysis: Analysis;
  weave: Cell[];
  plan: ChordPlan;
  line: HarmonyLine;
  /** The second line, where one is asked for. */
  upper: HarmonyLine | null;
  /** What the lines and a bass of roots do to each other. */
  faults: Fault[];
  chords: SheetChord[];
  parts: Part[];
};

/** The chords of a work, as its style and locks have them. */
function planOf(work: Work, analysis: Analysis): ChordPlan {
  const { places, form } = analysis;
  return deriveChords({
    places,
    phrases: form.phrases,
    keys: strainKeys(work.tune, analysis),
    style: STYLES.find((s) => s.name === work.style) ?? THREE_CHORD,
    locks: [...(work.fileChords ? fileLocks(places) : []), ...work.locks],
  });
}

/**
 * Another plan for the same tune, to compare: a style by its name, or the chords its file prints. The teacher's locks
 * hold in a style, and not in the file's chords.
 */
export const rivalPlan = (work: Work, other: string): ChordPlan =>
  planOf(
    other === FILE_CHORDS ? { ...work, fileChords: true, locks: [] } : { ...work, fileChords: false, style: other },
    analyse(work.tune),
  );

const schoolNamed = (name: string) => SCHOOLS.find((s) => s.name === name) ?? CHORD_FIT;

/** The harmony line of a work over its chords. */
function lineOf(work: Work, { places, form }: Analysis, plan: ChordPlan): HarmonyLine {
  return deriveHarmony({
    places,
    plan,
    phraseEnds: new Set(form.phrases.map((p) => p.to)),
    school: schoolNamed(work.school),
    side: work.side,
    bars: new Map(work.barSchools.map((b) => [b.bar, schoolNamed(b.school)])),
    locks: work.harmonyLocks,
  });
}

/** The line of another school throughout, over the same chords, to compare; locks are left aside. */
export function rivalLine(work: Work, school: string): HarmonyLine {
  const analysis = analyse(work.tune);
  return lineOf({ ...work, school, barSchools: [], harmonyLocks: [] }, analysis, planOf(work, analysis));
}

/** Derives a whole work. Pure: the same work gives the same result. */
export function derive(work: Work): Derived {
  const analysis = analyse(work.tune);
  const { places, form } = analysis;
  const plan = planOf(work, analysis);
  const line = lineOf(work, analysis, plan);
  const upper = work.second && lineOf({ ...work, ...work.second, barSchools: [], harmonyLocks: [] }, analysis, plan);
  const parts = writeParts({ places, plan, line, upper });
  const voices = parts
    .filter((p) => p.role !== "one-note line")
    .map((p): Voice => ({ name: p.role, bars: p.staff.bars }));
  // The tune may run in octaves with the roots, as it does wherever it spells its chords; so may a line by the school
  // that wants octaves.
  const running = [
    "melody",
    ...[line, upper].flatMap((l, i) => (l?.school === "Octave" ? [voices[i + 1]?.name ?? ""] : [])),
  ];
  const faults = together([...voices, rootBass(plan, places)], places, running);
  return {
    analysis,
    weave: weave(
      places,
      form,
      work.tune.strains.map((s) => s.label),
    ),
    plan,
    line,
    upper,
    faults,
    chords: printedChords(plan, places),
    parts,
  };
}

/** All parts, or those named (ids), as a sheet to engrave, print, play or save. */
export const sheetOf = (work: Work, { analysis, parts, chords }: Derived, ...only: readonly string[]): Sheet =>
  partSheet(
    work.tune,
    analysis.places,
    only.length === 0 ? parts : parts.filter((p) => only.includes(p.staff.id)),
    chords,
  );
