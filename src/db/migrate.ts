import { resolve } from "node:path";
import type Database from "better-sqlite3";
import { readMigrationFiles } from "drizzle-orm/migrator";
import { DatabaseTrouble } from "./trouble";

const FOLDER = "src/db/migrations";
const TABLE = "__drizzle_migrations";

const all = () => readMigrationFiles({ migrationsFolder: resolve(/* turbopackIgnore: true */ FOLDER) });

/** When a file's newest migration was written; undefined where none has run. Throws for a file that is not ours. */
function newest(client: Database.Database): number | undefined {
  const tables = client.prepare("SELECT name FROM sqlite_master WHERE type = 'table'").pluck().all() as string[];
  if (tables.length === 0) return undefined;
  if (!tables.includes(TABLE)) throw new DatabaseTrouble("foreign", client.name);
  const found = client.prepare(`SELECT max(created_at) FROM ${TABLE}`).pluck().get() as number | null;
  return found === null ? undefined : Number(found);
}

/** How a file stands to this version. Throws for a file that is not ours, or that a newer version has written. */
export function stage(client: Database.Database): "new" | "older" | "ours" {
  const ours = all().at(-1)?.folderMillis ?? 0;
  const theirs = newest(client);
  if (theirs === undefined) return "new";
  if (theirs > ours) throw new DatabaseTrouble("newer", client.name);
  return theirs < ours ? "older" : "ours";
}

/**
 * Brings a file up to date, in one transaction that holds every other process off. Foreign keys are off meanwhile,
 * since SQLite cannot switch them inside a transaction and a rebuilt table would take its children with it; they are
 * checked before anything counts.
 */
export function migrateFile(client: Database.Database): void {
  if (stage(client) === "ours") return;
  client.pragma("foreign_keys = OFF");
  const run = client.transaction(() => {
    const done = newest(client) ?? 0;
    client.exec(`CREATE TABLE IF NOT EXISTS ${TABLE} (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric)`);
    const note = client.prepare(`INSERT INTO ${TABLE} (hash, created_at) VALUES (?, ?)`);
    for (const { sql, hash, folderMillis } of all().filter((m) => m.folderMillis > done)) {
      for (const statement of sql) client.exec(statement);
      note.run(hash, folderMillis);
    }
    if ((client.pragma("foreign_key_check") as unknown[]).length > 0) throw new DatabaseTrouble("damaged", client.name);
  });
  run.exclusive();
}
