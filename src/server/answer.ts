import { z } from "zod";

/** What an action answers: its value, or what is wrong and what to do, in words. */
export type Answer<T> = { ok: true; value: T } | { ok: false; problem: string };

/** What the database says and a teacher can do about it, by the code SQLite gives. */
const REMEDIES: readonly [RegExp, string][] = [
  [/^SQLITE_FULL/, "The disk is full, so nothing was saved. Make room on it and do this once more."],
  [
    /^SQLITE_(READONLY|PERM|CANTOPEN)/,
    "The file with your tunes cannot be written. Check that it may be changed, and try again.",
  ],
  [/^SQLITE_(BUSY|LOCKED)/, "Another program holds the file with your tunes. Close it there and try again."],
  [/^SQLITE_(CORRUPT|NOTADB)/, "The file with your tunes is damaged. Restore a backup of it."],
];

/**
 * What went wrong, where and what to do. An input is told by its field, the database by its remedy, anything else by
 * its own words.
 */
export function problemOf(error: unknown): string {
  if (error instanceof z.ZodError) {
    const issue = error.issues[0];
    const field = issue?.path.map(String).join(".") || "what was sent";
    return `${field}: ${issue?.message ?? "not as expected"}. Reload the page and do this once more.`;
  }
  const code = error instanceof Error && "code" in error ? String(error.code) : "";
  const remedy = REMEDIES.find(([pattern]) => pattern.test(code))?.[1];
  if (remedy) return remedy;
  const words = error instanceof Error ? error.message : String(error);
  return `Something went wrong inside (${words.slice(0, 300)}). Nothing was changed; try again.`;
}

/** Runs an action on input checked by its schema. Nothing is thrown: whatever goes wrong is answered in words. */
export async function answer<S extends z.ZodType, T>(
  schema: S,
  input: unknown,
  run: (input: z.infer<S>) => T | Promise<T>,
): Promise<Answer<T>> {
  try {
    return { ok: true, value: await run(schema.parse(input)) };
  } catch (error) {
    return { ok: false, problem: problemOf(error) };
  }
}
