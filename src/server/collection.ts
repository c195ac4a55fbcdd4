import { z } from "zod";
import { analyse, type Cell, fingerprint, inventory, recalled, storedMelody, weave } from "../core/analysis";
import { MOST_DOUBTS, newWork, readWork, type Work } from "../core/ensemble";
import { type Cutting, cutBook, FormatError, readAbcTune, type Remark } from "../core/formats";
import { melodyOf, metreName, Tune } from "../core/score";
import { keyName, midi, pitchName, spell } from "../core/theory";
import { askedNotes } from "../core/typing";
import {
  type Asked,
  countTunes,
  type Db,
  type Facts,
  inOne,
  insertTune,
  listTunes,
  melodies,
  sameMusic,
  withoutMelody,
  writeMelody,
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

/** What became of tunes that were brought in. */
export type Taken = {
  added: { id: number; title: string }[];
  refused: { line: number; column: number; message: string }[];
  remarks: (Remark & { title: string })[];
  /**
   * Tunes left out because their music is in the collection already, with the one it is; kept as text or tune so that
   * they can still go in.
   */
  duplicates: { title: string; line: number; of: { id: number; title: string } }[];
};

/** The most text taken in one go. */
export const LARGEST_INTAKE = 8_000_000;

const name = (noteNumber: number) => pitchName(spell(noteNumber, { tonic: "C", mode: "major" }));

/** What the list shows and finds of a work. */
export function factsOf({ tune }: Work): Facts {
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
    melody: storedMelody(melodyOf(tune)),
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

/** Most cells of a weave that the list shows; a longer tune is shown by every second bar, or third, and so on. */
const SHORT_WEAVE = 96;
function shortWeave(stored: string): Cell[] {
  const cells = JSON.parse(stored) as Cell[];
  const every = Math.ceil(cells.length / SHORT_WEAVE);
  return every < 2 ? cells : cells.filter((_, i) => i % every === 0);
}

/** Most tunes that a few notes find. */
const MOST_HELD = 5000;

/**
 * Tunes that hold some notes, in whatever spelling they are written and in any key; undefined where the text is no
 * notes.
 */
export function holding(db: Db, text: string): Asked["holding"] {
  const readings = askedNotes(text);
  if (readings.length === 0) return undefined;
  const found = melodies(db).map(({ id, melody }) => {
    const marks = readings.map((notes) => recalled(melody, notes));
    return { id, off: marks.includes(0) ? 0 : marks.find((m) => m !== undefined) };
  });
  const ids = (off: number) => found.flatMap((f) => (f.off === off ? [f.id] : [])).slice(0, MOST_HELD);
  return { exactly: ids(0), nearly: ids(1) };
}

/** Melodies written down in one go. */
const FILLED = 50;
/** What stands for no melody: a tune of rests, or one whose work cannot be read. */
const NO_MELODY = " ";

/**
 * Writes down the melodies of some tunes that came in before melodies were kept; says whether there may be more. A tune
 * that cannot be read stops none of the others.
 */
export function fillMelodies(db: Db): boolean {
  const some = withoutMelody(db, FILLED);
  for (const { id, work } of some) writeMelody(db, id, melodyIn(work) || NO_MELODY);
  return some.length === FILLED;
}

function melodyIn(work: string): string {
  try {
    return storedMelody(melodyOf(readWork(JSON.parse(work)).tune));
  } catch {
    return "";
  }
}

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
    weave: shortWeave(t.weave),
    changed: t.changed.getTime(),
  }));

/** Most things told that were mended. */
const MOST_REMARKS = 200;

const nothing = (): Taken => ({ added: [], refused: [], remarks: [], duplicates: [] });

/** A tune to add, with the line of its file. */
export type Incoming = { tune: Tune; remarks?: readonly Remark[]; line?: number };

/**
 * Adds tunes to the collection in one transaction. A tune whose music is there already is left out, unless `again`; one
 * that cannot be added is told with its place, and the others go in all the same.
 */
export function addTunes(db: Db, tunes: readonly Incoming[], { again = false, step = "Brought in" } = {}): Taken {
  const taken = nothing();
  // Everything is worked out before the transaction begins, so that nobody waits for it.
  const ready = tunes.flatMap(({ tune, remarks = [], line = 1 }) => {
    try {
      const work = newWork(Tune.parse(tune), doubtsOf(remarks));
      return [{ line, remarks, facts: factsOf(work), work: JSON.stringify(work) }];
    } catch (error) {
      taken.refused.push({ line, column: 1, message: refusalWords(tune, error) });
      return [];
    }
  });
  inOne(db, () => {
    for (const { line, remarks, facts, work } of ready) {
      const { title } = facts;
      const known = again ? undefined : sameMusic(db, facts.fingerprint);
      if (known) taken.duplicates.push({ title, line, of: known });
      else taken.added.push({ id: insertTune(db, facts, step, work), title });
      if (taken.remarks.length < MOST_REMARKS) taken.remarks.push(...remarks.map((r) => ({ title, ...r })));
    }
  });
  return taken;
}

/** What was left out or read in doubt, as it is kept with the tune until it is settled. */
const doubtsOf = (remarks: readonly Remark[]): string[] =>
  remarks
    .filter((r) => r.left)
    .slice(0, MOST_DOUBTS)
    .map((r) => `${r.line > 1 ? `Line ${r.line}: ` : ""}${r.message}`.slice(0, 400));

/** Why a tune that could be read could not be added. */
function refusalWords(tune: Tune, error: unknown): string {
  const title = typeof tune?.title === "string" ? tune.title.slice(0, 80) : "";
  const issue = error instanceof z.ZodError ? error.issues[0] : undefined;
  if (issue) return `“${title}” was left out. ${[issue.path.join("."), issue.message].filter(Boolean).join(": ")}.`;
  const words = error instanceof Error ? error.message : String(error);
  return `“${title}” could not be worked out and was left out (${words.slice(0, 200)}).`;
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
      const spot = error instanceof FormatError ? error.spot : { line: cutting.line, column: 1 };
      const words = error instanceof Error ? error.message : String(error);
      const message = error instanceof FormatError ? words : `This tune could not be read (${words.slice(0, 200)}).`;
      refused.push({ ...spot, message });
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

export const isEmpty = (db: Db): boolean => countTunes(db) === 0;
