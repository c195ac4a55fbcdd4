// Db: one SQLite file. In: rows. Out: rows. Knows tables, transactions and backups, nothing of music.
export * from "./backup";
export * from "./groups";
export * from "./instruments";
export * from "./open";
export * from "./queries";
export * from "./restore";
export * from "./trouble";
