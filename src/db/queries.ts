import { and, asc, count, desc, eq, gte, inArray, isNull, lte, sql, type SQL, ne } from "drizzle-orm";
import type { Db } from "./open";
import { answers, revisions, tags, tunes } from "./schema";

export type TuneRow = typeof tunes.$inferSelect;
export type Facts = Pick<
  TuneRow,
  | "title"
  | "key"
  | "metre"
  | "dance"
  | "bars"
  | "lowest"
  | "highest"
  | "pitches"
  | "source"
  | "rights"
  | "fingerprint"
  | "melody"
  | "sentence"
  | "weave"
> & {
  /** Everything else a search looks through. */
  words: string;
};

/** Columns the list can be sorted by. */
export const SORTS = ["title", "dance", "key", "metre", "range", "pitches", "bars", "changed"] as const;
export type Sort = (typeof SORTS)[number];
/** Where a title is looked for: without The, An or A before it, and without apostrophes. */
const bare = sql`replace(replace(${tunes.title}, char(39), ''), char(8217), '')`;
const sorted = sql`CASE
  WHEN ${tunes.title} LIKE 'the %' THEN substr(${bare}, 5)
  WHEN ${tunes.title} LIKE 'an %' THEN substr(${bare}, 4)
  WHEN ${tunes.title} LIKE 'a %' THEN substr(${bare}, 3)
  ELSE ${bare} END COLLATE NOCASE`;
const COLUMNS: Record<Sort, SQL> = {
  title: sorted,
  dance: sql`${tunes.dance}`,
  key: sql`${tunes.key}`,
  metre: sql`${tunes.metre}`,
  range: sql`${tunes.highest} - ${tunes.lowest}`,
  pitches: sql`${tunes.pitches}`,
  bars: sql`${tunes.bars}`,
  changed: sql`${tunes.changed}`,
};

/** What the list is asked for. Empty fields ask for everything. */
export type Asked = {
  find?: string | undefined;
  /** Tunes (ids) that hold some notes, those that hold them exactly first. */
  holding?: { exactly: readonly number[]; nearly: readonly number[] } | undefined;
  dance?: string | undefined;
  key?: string | undefined;
  metre?: string | undefined;
  tag?: string | undefined;
  ready?: "ready" | "open" | undefined;
  pitches?: number | undefined;
  sort?: Sort | undefined;
  down?: boolean | undefined;
};

/** Words as a full-text query: every one must begin a word of the tune. Signs mean nothing. */
const matching = (find: string): string =>
  (find.match(/[\p{L}\p{N}]+/gu) ?? [])
    .slice(0, 12)
    .map((w) => `"${w}"*`)
    .join(" ");

function where(db: Db, asked: Asked): SQL | undefined {
  const query = matching(asked.find ?? "");
  // Signs alone find nothing.
  const found = query ? sql`${tunes.id} IN (SELECT rowid FROM tunes_words WHERE tunes_words MATCH ${query})` : sql`0`;
  return and(
    isNull(tunes.removed),
    asked.find?.trim() ? found : undefined,
    asked.holding ? inArray(tunes.id, [...asked.holding.exactly, ...asked.holding.nearly]) : undefined,
    asked.dance ? eq(tunes.dance, asked.dance) : undefined,
    asked.key ? eq(tunes.key, asked.key) : undefined,
    asked.metre ? eq(tunes.metre, asked.metre) : undefined,
    asked.ready === "ready" ? ne(tunes.rights, "unknown") : undefined,
    asked.ready === "open" ? eq(tunes.rights, "unknown") : undefined,
    asked.pitches ? and(lte(tunes.pitches, asked.pitches), gte(tunes.pitches, 1)) : undefined,
    asked.tag
      ? inArray(tunes.id, db.select({ id: tags.tuneId }).from(tags).where(eq(tags.name, asked.tag)))
      : undefined,
  );
}

/**
 * Tunes as asked for, at most so many, with their tags. They are chosen by the index that holds every column of the
 * filters and sorts
 * (`tunes_shelf`); only the rows that are shown are read whole.
 */
export function listTunes(db: Db, asked: Asked, limit: number) {
  const column = COLUMNS[asked.sort ?? "title"];
  const nearest = asked.holding ? [desc(inArray(tunes.id, [...asked.holding.exactly]))] : [];
  const ids = db
    .select({ id: tunes.id })
    .from(tunes)
    .where(where(db, asked))
    .orderBy(...nearest, asked.down ? desc(column) : asc(column), COLUMNS.title, tunes.id)
    .limit(limit)
    .all()
    .map((r) => r.id);
  if (ids.length === 0) return [];
  const rows = new Map(
    db
      .select()
      .from(tunes)
      .where(inArray(tunes.id, ids))
      .all()
      .map((row) => [row.id, row]),
  );
  const shelved = db.select().from(tags).where(inArray(tags.tuneId, ids)).orderBy(tags.name).all();
  return ids.map((id) => ({
    ...(rows.get(id) as TuneRow),
    tags: shelved.filter((t) => t.tuneId === id).map((t) => t.name),
  }));
}

export const countTunes = (db: Db, asked: Asked = {}): number =>
  db.select({ n: count() }).from(tunes).where(where(db, asked)).get()?.n ?? 0;

/** The stored melody of every tune. */
export const melodies = (db: Db) =>
  db.select({ id: tunes.id, melody: tunes.melody }).from(tunes).where(isNull(tunes.removed)).all();

/** Some tunes whose melody has not been written down yet, at most so many, with their work; and writing it. */
export const withoutMelody = (db: Db, limit: number) =>
  db
    .select({ id: tunes.id, work: revisions.work })
    .from(tunes)
    .innerJoin(revisions, eq(revisions.id, tunes.head))
    .where(eq(tunes.melody, ""))
    .limit(limit)
    .all();
export const writeMelody = (db: Db, id: number, melody: string): void =>
  void db.update(tunes).set({ melody }).where(eq(tunes.id, id)).run();

/** What there is to choose from in the list's filters. */
export function shelves(db: Db) {
  const distinct = (column: typeof tunes.dance | typeof tunes.key | typeof tunes.metre) =>
    db
      .selectDistinct({ value: column })
      .from(tunes)
      .where(isNull(tunes.removed))
      .orderBy(column)
      .all()
      .map((r) => r.value);
  return {
    dances: distinct(tunes.dance),
    keys: distinct(tunes.key),
    metres: distinct(tunes.metre),
    tags: db
      .selectDistinct({ value: tags.name })
      .from(tags)
      .innerJoin(tunes, eq(tunes.id, tags.tuneId))
      .where(isNull(tunes.removed))
      .orderBy(tags.name)
      .all()
      .map((r) => r.value),
  };
}

/** A tune with its head revision, or undefined. */
export const findTune = (db: Db, id: number) =>
  db
    .select({ tune: tunes, revision: revisions })
    .from(tunes)
    .innerJoin(revisions, eq(revisions.id, tunes.head))
    .where(eq(tunes.id, id))
    .get();

/** The first tune in the collection with this music, in any key. */
export const sameMusic = (db: Db, fingerprint: string) =>
  db
    .select({ id: tunes.id, title: tunes.title })
    .from(tunes)
    .where(and(eq(tunes.fingerprint, fingerprint), isNull(tunes.removed)))
    .orderBy(tunes.id)
    .get();

const filed = (id: number): SQL => sql`coalesce((SELECT group_concat(name, ' ') FROM tags WHERE tune_id = ${id}), '')`;

function index(db: Pick<Db, "run">, id: number, { title, words }: Pick<Facts, "title" | "words">) {
  db.run(sql`DELETE FROM tunes_words WHERE rowid = ${id}`);
  db.run(sql`INSERT INTO tunes_words (rowid, title, words, tags) VALUES (${id}, ${title}, ${words}, ${filed(id)})`);
}

/** Adds a tune with its first revision; gives its id. */
export function insertTune(db: Db, { words, ...facts }: Facts, step: string, work: string): number {
  return db.transaction((tx) => {
    const now = new Date();
    const { id } = tx
      .insert(tunes)
      .values({ ...facts, head: 0, created: now, changed: now })
      .returning({ id: tunes.id })
      .get();
    const revision = tx
      .insert(revisions)
      .values({ tuneId: id, parent: null, step, work, created: now })
      .returning({ id: revisions.id })
      .get();
    tx.update(tunes).set({ head: revision.id }).where(eq(tunes.id, id)).run();
    index(tx, id, { title: facts.title, words });
    return id;
  });
}

/** What became of a change made from a head: the new head; or that the tune is gone, or has gone on since. */
export type Moved = { head: number } | "gone" | "apart";

type Writer = Pick<Db, "run" | "update" | "select" | "insert">;
/** The head a tune stands at; undefined where there is no such tune. */
export const headOf = (db: Pick<Db, "select">, tuneId: number): number | undefined =>
  db.select({ head: tunes.head }).from(tunes).where(eq(tunes.id, tuneId)).get()?.head;

/** A state to save. Facts only where they changed; a token is the page's own name for this save. */
export type NewState = { facts: Facts | undefined; step: string; work: string; token?: string | undefined };

/**
 * Saves a new state on top of the head it was made from, compared in the same transaction. What was undone before stays
 * in the table; a save that comes twice, by its token, is kept once.
 */
export function addRevision(db: Db, tuneId: number, from: number, state: NewState): Moved {
  return inOne(db, (tx) => {
    const known =
      state.token && tx.select({ id: revisions.id }).from(revisions).where(eq(revisions.token, state.token)).get();
    if (known) return { head: known.id };
    const head = headOf(tx, tuneId);
    if (head === undefined) return "gone";
    if (head !== from) return "apart";
    const { facts, ...values } = state;
    const now = new Date();
    const { id } = tx
      .insert(revisions)
      .values({ tuneId, parent: head, ...values, created: now })
      .returning({ id: revisions.id })
      .get();
    moveTo(tx, tuneId, id, facts, now);
    return { head: id };
  });
}

/** Keeps a state beside the others under a name, the head where it is. One that comes twice is kept once. */
export function addAside(db: Db, tuneId: number, state: Omit<NewState, "facts"> & { name: string }): void {
  db.insert(revisions)
    .values({ tuneId, parent: null, ...state, created: new Date() })
    .onConflictDoNothing()
    .run();
}

function moveTo(tx: Writer, tuneId: number, head: number, facts: Facts | undefined, now: Date) {
  const { words = "", ...columns } = facts ?? {};
  tx.update(tunes)
    .set({ ...columns, head, changed: now })
    .where(eq(tunes.id, tuneId))
    .run();
  if (facts) index(tx, tuneId, { title: facts.title, words });
}

/** Moves the head of a tune from the one it is believed to be at to another of its revisions. */
export const moveHead = (db: Db, tuneId: number, from: number, to: number, facts: Facts): Moved =>
  inOne(db, (tx) => {
    const head = headOf(tx, tuneId);
    if (head === undefined) return "gone";
    if (head !== from) return "apart";
    moveTo(tx, tuneId, to, facts, new Date());
    return { head: to };
  });

/** Runs in one transaction that holds off every other writer from its first line. */
export const inOne = <T>(db: Db, run: (tx: Writer) => T): T => db.transaction(run, { behavior: "immediate" });

export const findRevision = (db: Db, tuneId: number, id: number) =>
  db
    .select()
    .from(revisions)
    .where(and(eq(revisions.tuneId, tuneId), eq(revisions.id, id)))
    .get();

/** The newest state made from a revision: what redo brings back. */
export const newestChild = (db: Db, tuneId: number, parent: number) =>
  db
    .select({ id: revisions.id, work: revisions.work })
    .from(revisions)
    .where(and(eq(revisions.tuneId, tuneId), eq(revisions.parent, parent)))
    .orderBy(desc(revisions.id))
    .get();

/** All states of a tune, newest first, at most so many; named ones always. */
export function history(db: Db, tuneId: number, limit = 60) {
  const columns = {
    id: revisions.id,
    parent: revisions.parent,
    step: revisions.step,
    name: revisions.name,
    created: revisions.created,
  };
  const newest = db
    .select(columns)
    .from(revisions)
    .where(eq(revisions.tuneId, tuneId))
    .orderBy(desc(revisions.id))
    .limit(limit)
    .all();
  const named = db
    .select(columns)
    .from(revisions)
    .where(and(eq(revisions.tuneId, tuneId), sql`${revisions.name} IS NOT NULL`))
    .orderBy(desc(revisions.id))
    .all();
  return [...newest, ...named.filter((n) => !newest.some((r) => r.id === n.id))];
}

/** Names a state, or takes its name away. */
export const nameRevision = (db: Db, tuneId: number, id: number, name: string | null): void =>
  void db
    .update(revisions)
    .set({ name })
    .where(and(eq(revisions.tuneId, tuneId), eq(revisions.id, id)))
    .run();

/** Puts a tag on tunes, or takes it off. */
export function tagTunes(db: Db, ids: readonly number[], name: string, on: boolean): void {
  db.transaction((tx) => {
    for (const id of ids) {
      const found = tx.select({ title: tunes.title }).from(tunes).where(eq(tunes.id, id)).get();
      if (!found) continue;
      if (on) tx.insert(tags).values({ tuneId: id, name }).onConflictDoNothing().run();
      else
        tx.delete(tags)
          .where(and(eq(tags.tuneId, id), eq(tags.name, name)))
          .run();
      tx.run(sql`UPDATE tunes_words SET tags = ${filed(id)} WHERE rowid = ${id}`);
    }
  });
}

/** Puts tunes aside, or brings them back. */
export const setAside = (db: Db, ids: readonly number[], aside: boolean): void =>
  void db
    .update(tunes)
    .set({ removed: aside ? new Date() : null })
    .where(inArray(tunes.id, [...ids]))
    .run();

export type Tally = { asked: number; right: number };

/** Keeps one answer to “third or fourth?”. False when the tune is gone. */
export function keepAnswer(db: Db, tuneId: number, answer: { bar: number; at: number; right: boolean }): boolean {
  if (!db.select({ id: tunes.id }).from(tunes).where(eq(tunes.id, tuneId)).get()) return false;
  db.insert(answers)
    .values({ tuneId, ...answer, created: new Date() })
    .run();
  return true;
}

/** How many questions were asked on a tune, and how many answered right. */
export const tallyOf = (db: Db, tuneId: number): Tally =>
  db
    .select({ asked: count(), right: sql<number>`coalesce(sum(${answers.right}), 0)` })
    .from(answers)
    .where(eq(answers.tuneId, tuneId))
    .get() ?? { asked: 0, right: 0 };
