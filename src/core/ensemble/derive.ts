import { type Analysis, analyse, type Cell, strainKeys, weave } from "../analysis";
import { type ChordPlan, deriveChords, fileLocks, STYLES, THREE_CHORD } from "../chords";
import { type Part, partSheet, printedChords, writePart } from "../grading";
import {
  CHORD_FIT,
  deriveHarmony,
  type Fault,
  type HarmonyLine,
  type HarmonyLock,
  rootBass,
  schoolNamed,
  together,
  type Voice,
} from "../harmony";
import { melodyStaff, type Sheet, type SheetChord } from "../score";
import { lineOf } from "./decide";
import { type Owning, playedOn } from "./instruments";
import type { Line, Player, Work } from "./work";

/** What stands for the chords of the file among the styles to compare with. */
export const FILE_CHORDS = "the file";

/** A harmony line of the work as it came out. */
export type DerivedLine = HarmonyLine & { id: string };

/** Everything that follows from a work, in the order of the picture: tune, chords, harmony, parts. */
export type Derived = {
  analysis: Analysis;
  weave: Cell[];
  plan: ChordPlan;
  lines: DerivedLine[];
  /** What the lines and a bass of roots do to each other. */
  faults: Fault[];
  chords: SheetChord[];
  parts: Part[];
};

/** The chords of a work, as its style and locks have them. */
function planOf(work: Work, analysis: Analysis): ChordPlan {
  const { places, form } = analysis;
  const style = STYLES.find((s) => s.name === work.style) ?? THREE_CHORD;
  return deriveChords({
    places,
    phrases: form.phrases,
    // Few chords have to be those of the strain itself; many hold those of a neighbouring key too.
    keys: strainKeys(work.tune, analysis, style.borrows !== true),
    style,
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

/** A harmony line over the chords of a work. */
function harmonyOf(work: Owning, line: Line, { places, form }: Analysis, plan: ChordPlan): DerivedLine {
  const school = (name: string) => schoolNamed(name) ?? CHORD_FIT;
  const derived = deriveHarmony({
    places,
    plan,
    phraseEnds: new Set(form.phrases.map((p) => p.to)),
    school: school(line.school),
    side: line.side,
    instrument: playedOn(work, line.instrument),
    bars: new Map(line.bars.map((b) => [b.bar, school(b.school)])),
    locks: line.locks,
  });
  return { ...derived, id: line.id };
}

/**
 * A line by another school throughout, over the same chords, to compare; what was settled in it is left aside, but for
 * `locks`.
 */
export function rivalLine(
  work: Work,
  id: string,
  school: string,
  locks: readonly HarmonyLock[] = [],
): DerivedLine | null {
  const line = lineOf(work, id);
  if (!line) return null;
  const analysis = analyse(work.tune);
  return harmonyOf(work, { ...line, school, bars: [], locks: [...locks] }, analysis, planOf(work, analysis));
}

const LINE_NAMES = ["Harmony", "Harmony, second line", "Harmony, third line"];

/** What a part is called: by its learner, or by what it does, and by the order of its line where there are several. */
function partName({ learner, role, line }: Player, lines: readonly { id: string }[]): string {
  if (learner) return learner;
  if (role === "melody") return "Tune";
  if (role === "one-note harmony") return "One note per chord";
  const order = lines.findIndex((l) => l.id === line);
  return LINE_NAMES[order] ?? `Harmony, line ${order + 1}`;
}

function partsOf(work: Work, { places }: Analysis, plan: ChordPlan, lines: readonly DerivedLine[]): Part[] {
  return work.players.map((player) => {
    const line = lines.find((l) => l.id === player.line);
    return writePart(
      { places, plan },
      {
        id: player.id,
        name: partName(player, lines),
        role: player.role,
        instrument: playedOn(work, player.instrument, player.tuning),
        line: line ? { id: line.id, line } : null,
      },
    );
  });
}

/** What melody, harmony lines and a bass of roots do to each other. Long notes are left out: they are held through. */
function faultsOf(parts: readonly Part[], lines: readonly DerivedLine[], plan: ChordPlan, analysis: Analysis): Fault[] {
  const voices = parts
    .filter((p) => p.role !== "one-note harmony")
    .map((p): Voice => ({ name: p.role, bars: p.staff.bars }));
  const octaves = parts.filter((p) => lines.some((l) => l.id === p.line && l.school === "Octave")).map((p) => p.role);
  // The tune may run in octaves with the roots, as it does wherever it spells its chords; so may a line by the school
  // that wants octaves.
  const running = ["melody", ...octaves];
  return together([...voices, rootBass(plan, analysis.places)], analysis.places, running);
}

/** Remembers the last thing made and what it was made from; made anew where that differs. */
function lastMade<T>(): (from: unknown, make: () => T) => T {
  let last: { from: string; made: T } | undefined;
  return (from, make) => {
    const now = JSON.stringify(from);
    if (last?.from !== now) last = { from: now, made: make() };
    return last.made;
  };
}

/** What follows from the tune alone. */
export type DerivedTune = Pick<Derived, "analysis" | "weave">;

/** A deriver that keeps what a change of the work leaves alone. */
export type Deriver = { tune: (work: Work) => DerivedTune; whole: (work: Work) => Derived };

/**
 * Makes a deriver: it keeps the analysis where the tune is the same, the chords where neither they nor it changed, each
 * line over the same chords. Its whole is what `derive` gives, sooner; its tune is there before the rest.
 */
export function makeDeriver(): Deriver {
  const analysed = lastMade<DerivedTune>();
  const planned = lastMade<ChordPlan>();
  const drawn = new Map<string, ReturnType<typeof lastMade<DerivedLine>>>();
  const tuneOf = ({ tune }: Work) =>
    analysed(tune, () => {
      const analysis = analyse(tune);
      const labels = tune.strains.map((s) => s.label);
      return { analysis, weave: weave(analysis.places, analysis.form, labels) };
    });
  const whole = (work: Work): Derived => {
    const { tune, style, fileChords, locks } = work;
    const { analysis, weave: cells } = tuneOf(work);
    const chosen = [tune, style, fileChords, locks];
    const plan = planned(chosen, () => planOf(work, analysis));
    const lines = work.lines.map((line) => {
      const own = drawn.get(line.id) ?? lastMade<DerivedLine>();
      drawn.set(line.id, own);
      return own([chosen, line, work.instruments], () => harmonyOf(work, line, analysis, plan));
    });
    const parts = partsOf(work, analysis, plan, lines);
    const faults = faultsOf(parts, lines, plan, analysis);
    const rows = analysis.form.phrases.map((p) => p.from);
    const chords = printedChords(plan, analysis.places, rows);
    return { analysis, weave: cells, plan, lines, faults, chords, parts };
  };
  return { tune: tuneOf, whole };
}

/** Derives a whole work. Pure: the same work gives the same result. */
export const derive = (work: Work): Derived => makeDeriver().whole(work);

/**
 * What was derived, with the tune as it is now: to look at while chords and lines are made for it. Undefined where
 * bars have come, gone or changed their length, so that the chords and lines there are would stand wrong.
 */
export function withNewTune(before: Derived, tune: DerivedTune): Derived | undefined {
  const [old, now] = [before.analysis.places, tune.analysis.places];
  const stands = old.length === now.length && old.every((p, i) => p.at === now[i]?.at && p.ticks === now[i]?.ticks);
  const { bars } = melodyStaff(now);
  const parts = before.parts.map((p) => (p.role === "melody" ? { ...p, staff: { ...p.staff, bars } } : p));
  return stands ? { ...before, analysis: tune.analysis, weave: tune.weave, parts } : undefined;
}

/** All parts, or those named (ids), as a sheet to engrave, print, play or save. */
export const sheetOf = (work: Work, { analysis, parts, chords }: Derived, ...only: readonly string[]): Sheet =>
  partSheet(work.tune, analysis.places, only.length === 0 ? parts : parts.filter((p) => only.includes(p.id)), chords);
