import { analyse, type Cell, fingerprint, inventory, weave } from "../core/analysis";
import { newWork, readWork, type Work } from "../core/ensemble";
import { type Cutting, cutBook, FormatError, readAbcTune, type Remark } from "../core/formats";
import { metreName, type Rights, Tune } from "../core/score";
import { keyName, midi, pitchName, spell } from "../core/theory";
import {
  addRevision,
  type Asked,
  countTunes,
  type Db,
  type Facts,
  findRevision,
  findTune,
  history,
  insertTune,
  listTunes,
  moveHead,
  nameRevision,
  newestChild,
  sameMusic,
} from "../db";

/** A tune as the list shows it. */
export type Listed = {
  id: number;
  title: string;
  sentence: string;
  metre: string;
  dance: string;
  key: string;
  bars: number;
  range: string;
  pitches: number;
  ready: boolean;
  source: string;
  tags: string[];
  weave: Cell[];
  changed: number;
};

/** A tune's work as the bench opens it. */
export type Loaded = { id: number; head: number; work: Work; canUndo: boolean; canRedo: boolean; step: string };

/** What became of tunes that were brought in. */
export type Taken = {
  added: { id: number; title: string }[];
  refused: { line: number; column: number; message: string }[];
  remarks: { title: string; line: number; column: number; message: string }[];
  /**
   * Tunes left out because their music is in the collection already, with the one it is; kept as text or tune so that
   * they can still go in.
   */
  duplicates: { title: string; line: number; of: { id: number; title: string } }[];
};

/** The most text taken in one go. */
export const LARGEST_INTAKE = 8_000_000;

const name = (noteNumber: number) => pitchName(spell(noteNumber, { tonic: "C", mode: "major" }));

function factsOf({ tune }: Work): Facts {
  const { places, form, key, dance, sentence } = analyse(tune);
  const found = inventory(places);
  return {
    title: tune.title || "Untitled",
    key: keyName(key.key),
    metre: metreName(tune.metre),
    dance: dance.name,
    bars: form.bars,
    sentence,
    weave: JSON.stringify(
      weave(
        places,
        form,
        tune.strains.map((s) => s.label),
      ),
    ),
    lowest: found.lowest ? midi(found.lowest) : 0,
    highest: found.highest ? midi(found.highest) : 0,
    pitches: found.pitches.length,
    source: tune.source,
    rights: tune.rights,
    fingerprint: fingerprint(tune),
    words: [
      sentence,
      ...tune.otherTitles,
      tune.composer,
      tune.origin,
      tune.source,
      tune.rhythm,
      tune.notes,
      ...tune.verses,
      sung(tune),
    ]
      .join(" ")
      .slice(0, 20_000),
  };
}

/** Syllables under the notes put together to words again. */
const sung = (tune: Tune): string =>
  tune.strains
    .flatMap((s) => s.bars.flatMap((b) => b.events))
    .flatMap((e) => e.lyrics?.map((l) => (l ? l.text + (l.hyphen ? "" : " ") : "")) ?? [])
    .join("");

/** Tunes a page of the list holds. */
export const PAGE = 50;

/** The list of tunes as asked for. */
export const collection = (db: Db, asked: Asked = {}, limit = PAGE): Listed[] =>
  listTunes(db, asked, limit).map((t) => ({
    id: t.id,
    title: t.title,
    sentence: t.sentence,
    metre: t.metre,
    dance: t.dance,
    key: t.key,
    bars: t.bars,
    range: t.pitches ? `${name(t.lowest)}–${name(t.highest)}` : "",
    pitches: t.pitches,
    ready: t.rights !== "unknown",
    source: t.source,
    tags: t.tags,
    weave: JSON.parse(t.weave) as Cell[],
    changed: t.changed.getTime(),
  }));

const nothing = (): Taken => ({ added: [], refused: [], remarks: [], duplicates: [] });

/** Adds tunes to the collection in one transaction. A tune whose music is there already is left out, unless `again`. */
export function addTunes(
  db: Db,
  tunes: readonly { tune: Tune; remarks?: readonly Remark[]; line?: number }[],
  { again = false, step = "Brought in" } = {},
): Taken {
  const taken = nothing();
  db.$client.transaction(() => {
    for (const { tune, remarks = [], line = 1 } of tunes) {
      const work = newWork(Tune.parse(tune));
      const facts = factsOf(work);
      const known = again ? undefined : sameMusic(db, facts.fingerprint);
      if (known) taken.duplicates.push({ title: facts.title, line, of: known });
      else taken.added.push({ id: insertTune(db, facts, step, JSON.stringify(work)), title: facts.title });
      if (taken.remarks.length < 200) taken.remarks.push(...remarks.map((r) => ({ title: facts.title, ...r })));
    }
  })();
  return taken;
}

/**
 * Reads tunes cut from a book into the collection: every tune that can be read goes in, the others are told with line
 * and column.
 */
export function takeCuttings(db: Db, cuttings: readonly Cutting[], again = false): Taken {
  const refused: Taken["refused"] = [];
  const read = cuttings.flatMap((cutting) => {
    try {
      return [{ ...readAbcTune(cutting), line: cutting.line }];
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      refused.push({ ...error.spot, message: error.message });
      return [];
    }
  });
  const taken = addTunes(db, read, { again });
  return { ...taken, refused: [...refused, ...taken.refused] };
}

/** Reads ABC text into the collection. */
export function takeIn(db: Db, text: string, again = false): Taken {
  const refuse = (message: string): Taken => ({ ...nothing(), refused: [{ line: 1, column: 1, message }] });
  if (text.length > LARGEST_INTAKE)
    return refuse("This is more than 8 million characters. Bring the book in as smaller files.");
  const cuttings = cutBook(text);
  return cuttings.length
    ? takeCuttings(db, cuttings, again)
    : refuse("No tune found. A tune needs a K: line with its key, such as K:D, and notes below it.");
}

/** Opens a tune at its head; undefined when there is none. Throws when the stored work does not hold together. */
export function load(db: Db, id: number): Loaded | undefined {
  const found = findTune(db, id);
  if (!found) return undefined;
  const { tune, revision } = found;
  return {
    id,
    head: tune.head,
    work: readWork(JSON.parse(revision.work)),
    step: revision.step,
    canUndo: revision.parent !== null,
    canRedo: newestChild(db, id, revision.id) !== undefined,
  };
}

/** Saves a new state of a tune on top of its head; gives the revision's id, or undefined when there is no such tune. */
export function save(db: Db, id: number, step: string, work: Work): number | undefined {
  const found = findTune(db, id);
  if (!found) return undefined;
  const checked = readWork(work);
  // The facts of the list follow from the tune alone; a step that leaves it alone need not work them out again.
  const before = readWork(JSON.parse(found.revision.work));
  const same = JSON.stringify(before.tune) === JSON.stringify(checked.tune);
  return addRevision(
    db,
    id,
    found.tune.head,
    same ? undefined : factsOf(checked),
    step.slice(0, 200),
    JSON.stringify(checked),
  );
}

/** Goes one step back, or forward again to the newest state made from here. Does nothing at either end. */
export function travel(db: Db, id: number, way: "undo" | "redo"): Loaded | undefined {
  const found = findTune(db, id);
  if (!found) return undefined;
  const { revision } = found;
  const before = () => (revision.parent === null ? undefined : findRevision(db, id, revision.parent));
  const target = way === "redo" ? newestChild(db, id, revision.id) : before();
  if (target) moveHead(db, id, target.id, factsOf(readWork(JSON.parse(target.work))));
  return load(db, id);
}

/** A state of a tune as its history shows it. */
export type Version = { id: number; step: string; name: string | null; at: number; current: boolean };

/** States of a tune, newest first. */
export const versions = (db: Db, id: number): Version[] => {
  const head = findTune(db, id)?.tune.head;
  return history(db, id).map((r) => ({
    id: r.id,
    step: r.step,
    name: r.name,
    at: r.created.getTime(),
    current: r.id === head,
  }));
};

/** Names the state a tune is in; an empty name takes it away. */
export function nameVersion(db: Db, id: number, revision: number, name: string): void {
  nameRevision(db, id, revision, name.replace(/\s+/g, " ").trim().slice(0, 80) || null);
}

/** Brings an earlier state back as a new step on top, so that nothing after it is lost. */
export function bringBack(db: Db, id: number, revision: number): Loaded | undefined {
  const found = findRevision(db, id, revision);
  if (!found) return undefined;
  save(
    db,
    id,
    `Back to ${found.name ? `“${found.name}”` : found.step.toLowerCase()}`,
    readWork(JSON.parse(found.work)),
  );
  return load(db, id);
}

/** Records source and rights of several tunes, a step in each, in one transaction. */
export function recordRights(db: Db, ids: readonly number[], rights: Rights, source: string | undefined): void {
  db.$client.transaction(() => {
    for (const id of ids) {
      const loaded = load(db, id);
      if (!loaded) continue;
      const { tune } = loaded.work;
      const recorded = { ...tune, rights, ...(source ? { source: source.slice(0, 2000) } : {}) };
      save(db, id, "Rights recorded", { ...loaded.work, tune: recorded });
    }
  })();
}

export const isEmpty = (db: Db): boolean => countTunes(db) === 0;
