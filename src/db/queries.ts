import { and, count, desc, eq, like } from "drizzle-orm";
import type { Db } from "./open";
import { revisions, tunes } from "./schema";

export type TuneRow = typeof tunes.$inferSelect;
export type Facts = Pick<TuneRow, "title" | "key" | "metre" | "dance" | "bars" | "sentence" | "weave">;

const titled = (query: string) => (query ? like(tunes.title, `%${query.replace(/[%_]/g, "")}%`) : undefined);

/** Tunes by title, those whose title holds the query, at most so many. */
export const listTunes = (db: Db, query: string, limit: number) => db.select().from(tunes).where(titled(query)).orderBy(tunes.title, tunes.id).limit(limit).all();

/** A tune with its head revision, or undefined. */
export const findTune = (db: Db, id: number) =>
  db.select({ tune: tunes, revision: revisions }).from(tunes).innerJoin(revisions, eq(revisions.id, tunes.head)).where(eq(tunes.id, id)).get();

/** Adds a tune with its first revision; gives its id. */
export function insertTune(db: Db, facts: Facts, step: string, work: string): number {
  return db.transaction((tx) => {
    const now = new Date();
    const { id } = tx.insert(tunes).values({ ...facts, head: 0, created: now, changed: now }).returning({ id: tunes.id }).get();
    const revision = tx.insert(revisions).values({ tuneId: id, parent: null, step, work, created: now }).returning({ id: revisions.id }).get();
    tx.update(tunes).set({ head: revision.id }).where(eq(tunes.id, id)).run();
    return id;
  });
}

/** Saves a new state on top of `parent`; gives the revision's id. What was undone before stays in the table. */
export function addRevision(db: Db, tuneId: number, parent: number, facts: Facts, step: string, work: string): number {
  return db.transaction((tx) => {
    const now = new Date();
    const { id } = tx.insert(revisions).values({ tuneId, parent, step, work, created: now }).returning({ id: revisions.id }).get();
    tx.update(tunes).set({ ...facts, head: id, changed: now }).where(eq(tunes.id, tuneId)).run();
    return id;
  });
}

/** Moves the head of a tune to one of its revisions. */
export function moveHead(db: Db, tuneId: number, head: number, facts: Facts): void {
  db.update(tunes).set({ ...facts, head, changed: new Date() }).where(eq(tunes.id, tuneId)).run();
}

export const findRevision = (db: Db, tuneId: number, id: number) =>
  db.select().from(revisions).where(and(eq(revisions.tuneId, tuneId), eq(revisions.id, id))).get();

/** The newest state made from a revision: what redo brings back. */
export const newestChild = (db: Db, tuneId: number, parent: number) =>
  db.select().from(revisions).where(and(eq(revisions.tuneId, tuneId), eq(revisions.parent, parent))).orderBy(desc(revisions.id)).get();

export const countTunes = (db: Db, query = ""): number => db.select({ n: count() }).from(tunes).where(titled(query)).get()?.n ?? 0;
