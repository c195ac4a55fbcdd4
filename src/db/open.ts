import { mkdirSync } from "node:fs";
import { dirname, resolve } from "node:path";
import Database from "better-sqlite3";
import { type BetterSQLite3Database, drizzle } from "drizzle-orm/better-sqlite3";
import { migrate } from "drizzle-orm/better-sqlite3/migrator";
import * as schema from "./schema";

export type Db = BetterSQLite3Database<typeof schema> & { $client: Database.Database };

/** Where the data lives: SYMPHONOS_DB, or data/symphonos.db beside the application. */
export const databasePath = (): string => process.env.SYMPHONOS_DB ?? resolve(process.cwd(), "data/symphonos.db");

/**
 * Opens a database file, making it and its folder when missing, and brings it up to date.
 * Foreign keys are off while migrations run, since SQLite cannot switch them inside a transaction and a rebuilt table
 * would
 * take its children with it; they are checked before they go on again. Throws when the check finds a broken row.
 */
export function openDatabase(path: string, migrations = resolve(process.cwd(), "src/db/migrations")): Db {
  if (path !== ":memory:") mkdirSync(dirname(path), { recursive: true });
  const client = new Database(path);
  client.pragma("journal_mode = WAL");
  client.pragma("busy_timeout = 5000");
  client.pragma("foreign_keys = OFF");
  const db = drizzle(client, { schema });
  migrate(db, { migrationsFolder: migrations });
  const broken = client.pragma("foreign_key_check") as unknown[];
  if (broken.length > 0)
    throw new Error(`The database ${path} has ${broken.length} rows that point to nothing. Restore a backup.`);
  client.pragma("foreign_keys = ON");
  return db;
}

const shared = globalThis as typeof globalThis & { symphonosDb?: Db };

/** The application's one connection, opened when first asked for. */
export function database(): Db {
  shared.symphonosDb ??= openDatabase(databasePath());
  return shared.symphonosDb;
}
