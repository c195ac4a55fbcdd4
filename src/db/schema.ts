import { index, integer, sqliteTable, text } from "drizzle-orm/sqlite-core";

/** A tune of the collection. Columns for what is listed and searched; the work itself is in its revisions. */
export const tunes = sqliteTable("tunes", {
  id: integer("id").primaryKey({ autoIncrement: true }),
  title: text("title").notNull(),
  key: text("key").notNull(),
  metre: text("metre").notNull(),
  dance: text("dance").notNull(),
  bars: integer("bars").notNull(),
  /** One sentence on key and form, and the woven picture as JSON, so that a list of thousands need not derive them. */
  sentence: text("sentence").notNull(),
  weave: text("weave").notNull(),
  /** The revision shown; undo and redo move it. */
  head: integer("head").notNull(),
  created: integer("created", { mode: "timestamp_ms" }).notNull(),
  changed: integer("changed", { mode: "timestamp_ms" }).notNull(),
}, (t) => [index("tunes_title").on(t.title)]);

/** Every saved state of a tune's work. None is ever overwritten; each knows the one it came from. */
export const revisions = sqliteTable("revisions", {
  id: integer("id").primaryKey({ autoIncrement: true }),
  tuneId: integer("tune_id").notNull().references(() => tunes.id, { onDelete: "cascade" }),
  parent: integer("parent"),
  /** What was done, in words. */
  step: text("step").notNull(),
  /** The work as validated JSON with its own version. */
  work: text("work").notNull(),
  created: integer("created", { mode: "timestamp_ms" }).notNull(),
}, (t) => [index("revisions_tune").on(t.tuneId), index("revisions_parent").on(t.parent)]);
