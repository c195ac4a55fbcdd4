import type { Answer } from "../server/answer";

export const SILENT = "The application does not answer. Start it again, and try once more.";

/** The value of an action. Throws what it says is wrong; where the application is gone altogether, says that. */
export async function answered<T>(asked: Promise<Answer<T>>): Promise<T> {
  const answer = await asked.catch(() => {
    throw new Error(SILENT);
  });
  if (!answer.ok) throw new Error(answer.problem);
  return answer.value;
}

/** What is wrong, in words. */
export const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
