import { usualTempo, NO_DANCE } from "../feel";
import { type Learner, MANNERS_OF_WRITING, type RoleName, type Writing } from "../grading";
import { beatTicks, type Performance, type Sheet } from "../score";
import type { Spelling } from "../spelling";
import type { Derived } from "./derive";
import { grooveFor } from "./groove";
import { type Evening, groupStaff, inStrokes, planEvening, underPart } from "./group";
import { once } from "./once";
import { performed } from "./performed";
import type { Column, RoadmapChoice, Way } from "./roadmap";
import type { CHANGES, EveningChoice, Work } from "./work";

type Known = Pick<Derived, "analysis" | "plan">;

/** Felt beats a minute that tonight's parts are written for. */
export function tonightsTempo(work: Work, derived: Known): number {
  const groove = grooveFor(work, derived) ?? NO_DANCE;
  return work.evening?.bpm ?? usualTempo(groove, work.tune.metre, "practice");
}

/** Tonight's parts for the group of a work; undefined where none was chosen. Made once for all who look. */
export function eveningFor(work: Work, derived: Known): Evening | undefined {
  const { evening } = work;
  if (!evening) return undefined;
  const { analysis, plan } = derived;
  return once(analysis, ["evening", evening, plan, work.feel.groove, work.instruments], () => {
    const absent = new Set(evening.absent);
    const groove = grooveFor(work, derived);
    const tick = 60 / (tonightsTempo(work, derived) * beatTicks(work.tune.metre));
    const dance = groove?.name ?? null;
    const planned = planEvening({
      analysis,
      plan,
      tick,
      dance,
      learners: evening.learners.filter((l) => !absent.has(l.name)),
      settled: new Map(evening.roles.map((r) => [r.name, r.role])),
      changes: evening.changes ?? [],
      edits: (evening.edits ?? []).map((e) => ({ ...e, notes: e.notes.map(handNote) })),
      writings: new Map((evening.writings ?? []).map((w) => [w.name, w.writing])),
      ...(evening.roadmap ? { roadmap: evening.roadmap } : {}),
      before: new Map((evening.before ?? []).map((b) => [b.name, b.roles])),
      ...(work.instruments ? { own: work.instruments } : {}),
    });
    return { ...planned, parts: inStrokes(planned.parts, { analysis, tick }) };
  });
}

/** What learners of a group played in the tunes before this one, by name, the latest first. */
export type Before = readonly { name: string; roles: RoleName[] }[];

/**
 * The work with another group for tonight, and what it played before, so that roles go round; none where null is given.
 */
export function chooseGroup(
  work: Work,
  group: { name: string; learners: readonly Learner[] } | null,
  earlier: Before = [],
): Work {
  const { evening: before, ...rest } = work;
  if (!group) return rest;
  const names = new Set(group.learners.map((l) => l.name));
  const kept = before?.group === group.name ? before : undefined;
  const evening: EveningChoice = {
    group: group.name,
    learners: [...group.learners],
    absent: (kept?.absent ?? []).filter((n) => names.has(n)),
    roles: (kept?.roles ?? []).filter((r) => names.has(r.name)),
    ...(before?.bpm ? { bpm: before.bpm } : {}),
    ...(kept?.roadmap ? { roadmap: kept.roadmap } : {}),
    ...(kept?.played ? { played: kept.played } : {}),
    ...(earlier.length > 0 ? { before: [...earlier] } : {}),
  };
  return { ...rest, evening };
}

const changed = (work: Work, change: (evening: EveningChoice) => EveningChoice): Work =>
  work.evening ? { ...work, evening: change(work.evening) } : work;

/** The work with someone's role settled, or left to the plan again. */
export const settleRole = (work: Work, name: string, role: RoleName | null): Work =>
  changed(work, (e) => {
    const others = e.roles.filter((r) => r.name !== name);
    return { ...e, roles: role ? [...others, { name, role }] : others };
  });

/** The work with what everyone plays tonight noted down: the next tunes give them something else. */
export const notePlayed = (work: Work, { parts }: Evening): Work =>
  changed(work, (e) => ({ ...e, played: parts.map((p) => ({ name: p.learner.name, role: p.role })) }));

/** The work with someone there tonight, or not. */
export const setThere = (work: Work, name: string, there: boolean): Work =>
  changed(work, (e) => {
    const others = e.absent.filter((n) => n !== name);
    return { ...e, absent: there ? others : [...others, name] };
  });

/** The work with someone changing in a bar to make room for another; as it was where null is given. */
export const makeRoom = (work: Work, name: string, bar: number, what: (typeof CHANGES)[number] | null): Work =>
  changed(work, (e) => {
    const others = (e.changes ?? []).filter((c) => c.name !== name || c.bar !== bar);
    return { ...e, changes: what ? [...others, { name, bar, what }] : others };
  });

type Edit = NonNullable<EveningChoice["edits"]>[number];
const handNote = ({ stroke, ...note }: Edit["notes"][number]) => ({ ...note, ...(stroke ? { stroke } : {}) });

/** The work with a bar of someone's part written by hand; left to the plan again where null is given. */
export const writeBar = (work: Work, name: string, bar: number, notes: Edit["notes"] | null): Work =>
  changed(work, (e) => {
    const others = (e.edits ?? []).filter((x) => x.name !== name || x.bar !== bar);
    return { ...e, edits: notes ? [...others, { name, bar, notes }] : others };
  });

/** The work with the whole of tonight in another shape: times through, introduction, tag, ending. */
export const shapeWhole = (
  work: Work,
  shape: Omit<RoadmapChoice, "set" | "next"> & { next?: number | undefined },
): Work =>
  changed(work, (e) => {
    const { next, ...roadmap } = { ...e.roadmap, ...shape };
    return { ...e, roadmap: { ...roadmap, ...(next ? { next } : {}) } };
  });

/** The work with someone (by name, or a role) resting, playing or louder in a column; null is as planned. */
export const settleWay = (work: Work, who: string, column: Pick<Column, "strain" | "pass" | "turn">, way: Way | null) =>
  changed(work, (e) => {
    const { strain, pass, turn } = column;
    const set = e.roadmap?.set ?? [];
    const others = set.filter((s) => s.who !== who || s.strain !== strain || s.pass !== pass || s.turn !== turn);
    return { ...e, roadmap: { ...e.roadmap, set: way ? [...others, { who, strain, pass, turn, way }] : others } };
  });

/** The work with the roadmap as it is planned. */
export const planRoadmap = (work: Work): Work => changed(work, ({ roadmap: _, ...e }) => e);

/** The work with someone's part written plainer, otherwise, or as usual. */
export const setWriting = (work: Work, name: string, writing: Writing): Work =>
  changed(work, (e) => {
    const others = (e.writings ?? []).filter((w) => w.name !== name);
    return { ...e, writings: writing === "usual" ? others : [...others, { name, writing }] };
  });

/** One way someone's part can be written: how many notes it has, and how hard it is. */
export type OneWriting = { writing: Writing; notes: number; difficulty: number };

/** The ways in which someone's part can be written tonight, each a part of its own: the usual one first. */
export function writingsOf(work: Work, derived: Known, name: string): OneWriting[] {
  const seen = new Set<string>();
  return MANNERS_OF_WRITING.flatMap((writing): OneWriting[] => {
    const evening = eveningFor(setWriting(work, name, writing), derived);
    const part = evening?.parts.find((p) => p.learner.name === name);
    const plain = JSON.stringify(part?.notes.map((n) => [n.bar, n.at, n.pitches, n.stroke]));
    if (!part || seen.has(plain)) return [];
    seen.add(plain);
    return [{ writing, notes: part.notes.length, difficulty: part.difficulty.difficulty }];
  });
}

/** The work with the notes of someone's part named otherwise; as the level has it where null is given. */
export const nameNotes = (work: Work, name: string, spelling: Spelling | "none" | null): Work =>
  changed(work, (e) => {
    const others = (e.names ?? []).filter((n) => n.name !== name);
    return { ...e, names: spelling ? [...others, { name, spelling }] : others };
  });

/** The work with another quickest tempo for tonight. */
export const setTonightsTempo = (work: Work, bpm: number): Work => changed(work, (e) => ({ ...e, bpm }));

/** The id of all parts of a group together, and of one of them, as files and pages name them. */
export const GROUP = "group";
/** Whether a staff or a file is of the group. */
export const isGroup = (id: string): boolean => id === GROUP || id.startsWith(`${GROUP}-`);
export const groupPartId = (id: string): string => `${GROUP}-${id}`;

/** A sheet with a learner's part (by `groupPartId`) under its staves, or all of them; `names` as the work has them. */
export function groupSheet(
  evening: Evening | undefined,
  { analysis }: Pick<Derived, "analysis">,
  sheet: Sheet,
  asked: string,
  names?: EveningChoice["names"],
): Sheet {
  const { places, key, form } = analysis;
  const own = (evening?.parts ?? []).filter((p) => asked === GROUP || groupPartId(p.id) === asked);
  const starts = new Set(form.phrases.map((p) => p.from));
  const staves = own.map((p) => {
    // In the score of all, names would be in the way.
    if (asked === GROUP) return { ...groupStaff(places, p, { key: key.key, starts }), id: groupPartId(p.id) };
    const under = underPart(p, places, key.key, names?.find((n) => n.name === p.learner.name)?.spelling);
    const staff = groupStaff(places, p, { key: key.key, starts, ...(under ? { under } : {}) });
    return { ...staff, id: groupPartId(p.id) };
  });
  return { ...sheet, staves: [...sheet.staves, ...staves] };
}

/** Tonight without one learner's part (by `groupPartId`): what they play along to. */
export const withoutPart = (evening: Evening, id: string): Evening => ({
  ...evening,
  parts: evening.parts.filter((p) => groupPartId(p.id) !== id),
});

type All = Pick<Derived, "analysis" | "plan" | "parts">;
/** Tonight as it sounds: everyone's part, or one; without the chords that nobody plays. */
export const performedTonight = (
  work: Work,
  derived: All,
  evening: Evening,
  sheet: Sheet,
  asked: string,
  percent = 100,
): Performance =>
  withQuiet(
    performed(work, derived, groupSheet(evening, derived, { ...sheet, staves: [] }, asked), { chords: false, percent }),
    evening,
  );

/** Loudness of who plays low, beside what they would have. */
const QUIET = 0.6;
/** A performance with the bars in which someone plays low. */
function withQuiet(performance: Performance, { parts }: Evening): Performance {
  const low = new Set(parts.flatMap((p) => p.notes.flatMap((n) => (n.quiet ? [`${groupPartId(p.id)} ${n.bar}`] : []))));
  if (low.size === 0) return performance;
  const { bars } = performance;
  const notes = performance.notes.map((n) => {
    const bar = bars.findLast((b) => b.at <= n.at)?.index ?? 0;
    return low.has(`${n.line} ${bar}`) ? { ...n, velocity: Math.max(1, Math.round(n.velocity * QUIET)) } : n;
  });
  return { ...performance, notes };
}
