import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from "drizzle-orm/sqlite-core";

/** A tune of the collection. Columns for what is listed and searched; the work itself is in its revisions. */
export const tunes = sqliteTable(
  "tunes",
  {
    id: integer("id").primaryKey({ autoIncrement: true }),
    title: text("title").notNull(),
    key: text("key").notNull(),
    metre: text("metre").notNull(),
    dance: text("dance").notNull(),
    bars: integer("bars").notNull(),
    /** Lowest and highest note as MIDI numbers, and how many different ones. */
    lowest: integer("lowest").notNull().default(0),
    highest: integer("highest").notNull().default(0),
    pitches: integer("pitches").notNull().default(0),
    source: text("source").notNull().default(""),
    rights: text("rights").notNull().default("unknown"),
    /** The music without its key and spelling, for finding the same tune again. */
    fingerprint: text("fingerprint").notNull().default(""),
    /** The melody's notes, a letter each, for finding the tune by a few of them; empty until they have been written. */
    melody: text("melody").notNull().default(""),
    /**
     * One sentence on key and form, and the woven picture as JSON, so that a list of thousands need not derive them.
     */
    sentence: text("sentence").notNull(),
    weave: text("weave").notNull(),
    /** The revision shown; undo and redo move it. */
    head: integer("head").notNull(),
    created: integer("created", { mode: "timestamp_ms" }).notNull(),
    changed: integer("changed", { mode: "timestamp_ms" }).notNull(),
    /** When it was put aside; it can be brought back. */
    removed: integer("removed", { mode: "timestamp_ms" }),
  },
  (t) => [
    index("tunes_title").on(t.title),
    index("tunes_fingerprint").on(t.fingerprint),
    index("tunes_melody").on(t.removed, t.melody),
  ],
);

/** Words a teacher files tunes under. */
export const tags = sqliteTable(
  "tags",
  {
    tuneId: integer("tune_id")
      .notNull()
      .references(() => tunes.id, { onDelete: "cascade" }),
    name: text("name").notNull(),
  },
  (t) => [primaryKey({ columns: [t.tuneId, t.name] }), index("tags_name").on(t.name)],
);

/** Every saved state of a tune's work. None is ever overwritten; each knows the one it came from. */
export const revisions = sqliteTable(
  "revisions",
  {
    id: integer("id").primaryKey({ autoIncrement: true }),
    tuneId: integer("tune_id")
      .notNull()
      .references(() => tunes.id, { onDelete: "cascade" }),
    parent: integer("parent"),
    /** What was done, in words. */
    step: text("step").notNull(),
    /** A version's own name, where a teacher gave it one. */
    name: text("name"),
    /** The work as validated JSON with its own version. */
    work: text("work").notNull(),
    /** The page's own name for this save: one that is sent twice is kept once. */
    token: text("token"),
    created: integer("created", { mode: "timestamp_ms" }).notNull(),
  },
  (t) => [
    index("revisions_tune").on(t.tuneId),
    index("revisions_parent").on(t.parent),
    uniqueIndex("revisions_token").on(t.token),
  ],
);

/** Answers to “third or fourth?”: a place of a tune, and whether the right note was chosen there. */
export const answers = sqliteTable(
  "answers",
  {
    id: integer("id").primaryKey({ autoIncrement: true }),
    tuneId: integer("tune_id")
      .notNull()
      .references(() => tunes.id, { onDelete: "cascade" }),
    bar: integer("bar").notNull(),
    at: integer("at").notNull(),
    right: integer("right", { mode: "boolean" }).notNull(),
    created: integer("created", { mode: "timestamp_ms" }).notNull(),
  },
  (t) => [index("answers_tune").on(t.tuneId)],
);

/** A teacher's own instruments; one of the name of the catalogue's takes its place. */
export const instruments = sqliteTable("instruments", {
  name: text("name").primaryKey(),
  /** The instrument as validated JSON. */
  made: text("made").notNull(),
  changed: integer("changed", { mode: "timestamp_ms" }).notNull(),
});

/** Groups of learners, each with who is in it. */
export const groups = sqliteTable("groups", {
  name: text("name").primaryKey(),
  /** The learners as validated JSON. */
  learners: text("learners").notNull(),
  changed: integer("changed", { mode: "timestamp_ms" }).notNull(),
});
