import type { Cell } from "../core/analysis";
import { type ChartRow, chordChart } from "../core/chords";
import {
  bowedSheet,
  type Derived,
  derive,
  eveningFor,
  GROUP,
  type GroupPart,
  groupPartId,
  groupSheet,
  type Hand,
  handById,
  handSheet,
  readWork,
  isVersion,
  sheetOf,
  type Version,
  versionOf,
  versionSheet,
  whenWords,
  type Work,
} from "../core/ensemble";
import { type Part, ROLE_WORDS } from "../core/grading";
import { onPaper, type Sheet, type Tune } from "../core/score";
import { CHORD_NAMES, type ChordNames } from "../core/theory";

// What goes on paper, and nothing else of what follows from a tune: a long tune has megabytes of that.

/** What stands over and under the music. */
export type Heading = Omit<Tune, "strains">;
const headingOf = ({ strains: _, ...heading }: Tune): Heading => heading;

export type ChartPaper = {
  heading: Heading;
  sentence: string;
  style: string;
  weave: Cell[];
  rows: Record<ChordNames, ChartRow[]>;
};

/** The chord chart of a work as it is stored, in every way its chords can be named. */
export function chartPaper(stored: string): ChartPaper {
  const work = readWork(JSON.parse(stored));
  const { analysis, plan, weave } = derive(work);
  const rows = (names: ChordNames) => chordChart(plan, analysis.places, analysis.form.phrases, names);
  const all = Object.fromEntries(CHORD_NAMES.map((names) => [names, rows(names)] as const));
  const heading = headingOf(work.tune);
  return { heading, sentence: analysis.sentence, style: plan.style, weave, rows: all as ChartPaper["rows"] };
}

export type PartPaper = {
  heading: Heading;
  sentence: string;
  weave: Cell[];
  sheet: Sheet;
  /** Bars (indexes) that begin a new system. */
  starts: number[];
  /** The part's own words; null where all parts stand together. */
  own: Pick<Part, "name" | "instrument" | "coaching"> | null;
};

/** The address of all parts together. */
export const ALL = "all";

/** What stands over a learner's part: who plays it, in which role, and what to think of. */
const learnerWords = ({ learner, role, on, coaching, leftOut }: GroupPart, when: string): PartPaper["own"] => ({
  name: `${learner.name}: ${ROLE_WORDS[role]}`,
  instrument: on.name,
  coaching: [when, ...coaching, ...leftOut.map((l) => `Left out: ${l}`)].join(" "),
});

const partWords = (found: Part | undefined): PartPaper["own"] =>
  found ? { name: found.name, instrument: found.instrument, coaching: found.coaching } : null;

/** What stands over a version of the tune: what was done to it, and how much of it is there. */
function versionWords(work: Work, derived: Derived, version: Version): PartPaper["own"] {
  const { name, says, kept } = versionOf(work, derived, version);
  const share = kept < 1 ? ` ${Math.round(kept * 100)} % of its beats are there.` : "";
  return { name: `${version[0]?.toUpperCase()}${version.slice(1)} version`, instrument: name, coaching: says + share };
}

/** The tune over how one hand plays it. */
function handPaper(work: Work, derived: Derived, hand: Hand): Sheet {
  const melody = derived.parts.filter((p) => p.role === "melody").map((p) => p.id);
  return handSheet(work, derived, sheetOf(work, derived, ...melody), hand);
}
/** What stands over it: on what, how, in which tuning, for whom. */
function handWords({ instrument, kind, tuning, capo = 0, level }: Hand): PartPaper["own"] {
  const said = [kind, tuning ? `tuned ${tuning}` : "", capo > 0 ? `capo on fret ${capo}` : "", `for ${level}`];
  return { name: `On the ${instrument}`, instrument, coaching: said.filter(Boolean).join(", ") };
}

/** One part of a work as it is stored, by its id, or the score of all; null where there is no such part. */
export function partPaper(stored: string, part: string): PartPaper | null {
  const work = readWork(JSON.parse(stored));
  const hand = handById(work, part);
  const derived = derive(work);
  const evening = eveningFor(work, derived);
  const learner = evening?.parts.find((p) => groupPartId(p.id) === part);
  const isGroup = part === GROUP && evening !== undefined;
  const version = isVersion(part) ? part : null;
  if (part !== ALL && !hand && !learner && !isGroup && !version && !work.players.some((p) => p.id === part))
    return null;
  const found = derived.parts.find((p) => p.id === part);
  const own = sheetOf(work, derived, ...(found ? [found.id] : []));
  const { form, sentence } = derived.analysis;
  const sheetFor = (): Sheet => {
    if (version) return versionSheet(work, derived, version);
    if (learner || isGroup) return groupSheet(evening, derived, { ...own, staves: [] }, part, work.evening?.names);
    return hand ? handPaper(work, derived, hand) : bowedSheet(work, derived, own);
  };
  const wordsFor = () => {
    if (learner && evening) return learnerWords(learner, whenWords(evening.roadmap, learner.id));
    if (version) return versionWords(work, derived, version);
    return hand ? handWords(hand) : partWords(found);
  };
  return {
    heading: headingOf(work.tune),
    sentence,
    weave: derived.weave,
    sheet: onPaper(sheetFor(), work.tune),
    starts: form.phrases.map((p) => p.from),
    own: wordsFor(),
  };
}
