import { asc, eq, sql } from "drizzle-orm";
import type { Db } from "./open";
import { instruments } from "./schema";

/** A teacher's own instruments by name, each as stored text. */
export const ownInstruments = (db: Db): { name: string; made: string }[] =>
  db
    .select({ name: instruments.name, made: instruments.made })
    .from(instruments)
    .orderBy(asc(sql`lower(${instruments.name})`))
    .all();

/** Keeps an instrument under its name, in the place of the one that was called `before`, where that is another. */
export function keepInstrument(db: Db, name: string, made: string, before: string | null): void {
  db.transaction((tx) => {
    // Two that differ in capitals alone are one.
    const same = sql`lower(${instruments.name}) = lower(${name})`;
    tx.delete(instruments).where(same).run();
    if (before !== null && before !== name) tx.delete(instruments).where(eq(instruments.name, before)).run();
    tx.insert(instruments).values({ name, made, changed: new Date() }).run();
  });
}

/** Takes an own instrument away. */
export const dropInstrument = (db: Db, name: string): void =>
  void db.delete(instruments).where(eq(instruments.name, name)).run();
