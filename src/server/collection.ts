import { analyse, type Cell, weave } from "../core/analysis";
import { newWork, Work } from "../core/ensemble";
import { readAbc } from "../core/formats";
import { metreName } from "../core/score";
import { keyName } from "../core/theory";
import { addRevision, countTunes, type Db, type Facts, findRevision, findTune, insertTune, listTunes, moveHead, newestChild } from "../db";

/** A tune as the list shows it. */
export type Listed = { id: number; title: string; sentence: string; metre: string; dance: string; bars: number; weave: Cell[]; changed: number };

/** A tune's work as the bench opens it. */
export type Loaded = { id: number; head: number; work: Work; canUndo: boolean; canRedo: boolean; step: string };

/** What became of a text that was brought in. */
export type Intake = {
  added: { id: number; title: string }[];
  refused: { index: number; line: number; column: number; message: string }[];
  remarks: { title: string; line: number; column: number; message: string }[];
};

/** The most text taken in one go. */
export const LARGEST_INTAKE = 8_000_000;

function factsOf(work: Work): Facts {
  const analysis = analyse(work.tune);
  return {
    title: work.tune.title || "Untitled", key: keyName(analysis.key.key), metre: metreName(work.tune.metre), dance: analysis.dance.name,
    bars: analysis.form.bars, sentence: analysis.sentence, weave: JSON.stringify(weave(analysis.places, analysis.form, work.tune.strains.map((s) => s.label))),
  };
}

/** Tunes a page of the list holds. */
export const PAGE = 50;

/** The list of tunes by title, as many as are asked for. */
export const collection = (db: Db, query = "", limit = PAGE): Listed[] =>
  listTunes(db, query, limit).map(({ id, title, sentence, metre, dance, bars, weave: cells, changed }) => ({ id, title, sentence, metre, dance, bars, weave: JSON.parse(cells) as Cell[], changed: changed.getTime() }));

const pick = ({ title, key, metre, dance, bars, sentence, weave }: Facts): Facts => ({ title, key, metre, dance, bars, sentence, weave });

/** Reads ABC text into the collection: every tune that can be read goes in, the others are told with line and column. */
export function takeIn(db: Db, text: string): Intake {
  if (text.length > LARGEST_INTAKE) {
    return { added: [], remarks: [], refused: [{ index: 0, line: 1, column: 1, message: "This is more than 8 million characters. Bring the book in as smaller files." }] };
  }
  const { tunes, refused } = readAbc(text);
  const added = db.$client.transaction(() => tunes.map(({ tune }) => {
    const work = newWork(tune);
    return { id: insertTune(db, factsOf(work), "Brought in", JSON.stringify(work)), title: tune.title || "Untitled" };
  }))();
  return {
    added,
    refused: refused.map(({ error, index }) => ({ index, ...error.spot, message: error.message })),
    remarks: tunes.flatMap(({ tune, remarks }) => remarks.map((r) => ({ title: tune.title, ...r }))).slice(0, 200),
  };
}

/** Opens a tune at its head; undefined when there is none. Throws when the stored work does not hold together. */
export function load(db: Db, id: number): Loaded | undefined {
  const found = findTune(db, id);
  if (!found) return undefined;
  const { tune, revision } = found;
  return {
    id, head: tune.head, work: Work.parse(JSON.parse(revision.work)), step: revision.step,
    canUndo: revision.parent !== null, canRedo: newestChild(db, id, revision.id) !== undefined,
  };
}

/** Saves a new state of a tune on top of its head; gives the revision's id, or undefined when there is no such tune. */
export function save(db: Db, id: number, step: string, work: Work): number | undefined {
  const found = findTune(db, id);
  if (!found) return undefined;
  const checked = Work.parse(work);
  // The facts of the list follow from the tune alone; a step that leaves it alone need not work them out again.
  const before = Work.parse(JSON.parse(found.revision.work));
  const facts = JSON.stringify(before.tune) === JSON.stringify(checked.tune) ? found.tune : factsOf(checked);
  return addRevision(db, id, found.tune.head, pick(facts), step.slice(0, 200), JSON.stringify(checked));
}

/** Goes one step back, or forward again to the newest state made from here. Does nothing at either end. */
export function travel(db: Db, id: number, way: "undo" | "redo"): Loaded | undefined {
  const found = findTune(db, id);
  if (!found) return undefined;
  const { revision } = found;
  const target = way === "redo" ? newestChild(db, id, revision.id) : revision.parent === null ? undefined : findRevision(db, id, revision.parent);
  if (target) moveHead(db, id, target.id, factsOf(Work.parse(JSON.parse(target.work))));
  return load(db, id);
}

export const isEmpty = (db: Db): boolean => countTunes(db) === 0;
