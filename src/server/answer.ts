import { z } from "zod";
import { databasePath, DatabaseTrouble, troubleOf } from "../db";

/**
 * What an action answers: its value; or what is wrong and what to do, in words, and whether the very same may be asked
 * again once that is mended.
 */
export type Answer<T> = { ok: true; value: T } | { ok: false; problem: string; again: boolean };

/** Something was asked that cannot be; the words say what to do. */
export class Refusal extends Error {}

/**
 * What went wrong, where and what to do. An input is told by its field, the database by its path and remedy, anything
 * else by its own words.
 */
export function problemOf(error: unknown): { problem: string; again: boolean } {
  if (error instanceof z.ZodError) {
    const issue = error.issues[0];
    const field = issue?.path.map(String).join(".") || "what was sent";
    const problem = `${field}: ${issue?.message ?? "not as expected"}. Reload the page and do this once more.`;
    return { problem, again: false };
  }
  const trouble = error instanceof DatabaseTrouble ? error : troubleOf(error, databasePath());
  if (trouble) return { problem: `Nothing was saved. ${trouble.message}`, again: true };
  const words = (error instanceof Error ? error.message : String(error)).slice(0, 300);
  if (error instanceof Refusal) return { problem: words, again: false };
  return { problem: `Something went wrong inside (${words}). Nothing was changed; try again.`, again: false };
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
    return { ok: false, ...problemOf(error) };
  }
}
