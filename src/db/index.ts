// Db: one SQLite file. In: rows. Out: rows. Knows tables and transactions, nothing of music.
export * from "./open";
export * from "./queries";
