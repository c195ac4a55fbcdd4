import { asc, eq, sql } from "drizzle-orm";
import type { Db } from "./open";
import { groups } from "./schema";

/** Groups by name, each with its learners as stored text. */
export const storedGroups = (db: Db): { name: string; learners: string }[] =>
  db
    .select({ name: groups.name, learners: groups.learners })
    .from(groups)
    .orderBy(asc(sql`lower(${groups.name})`))
    .all();

/** Keeps a group under its name, in the place of the one that was called `before`, where that is another. */
export function keepGroup(db: Db, name: string, learners: string, before: string | null): void {
  db.transaction((tx) => {
    tx.delete(groups).where(sql`lower(${groups.name}) = lower(${name})`).run();
    if (before !== null && before !== name) tx.delete(groups).where(eq(groups.name, before)).run();
    tx.insert(groups).values({ name, learners, changed: new Date() }).run();
  });
}

/** Takes a group away. */
export const dropGroup = (db: Db, name: string): void => void db.delete(groups).where(eq(groups.name, name)).run();
