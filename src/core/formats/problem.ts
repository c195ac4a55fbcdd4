/** A place in a text, both counted from 1. */
export type Spot = { line: number; column: number };

/**
 * Something noticed while reading: where, what, and what was done about it. What was left out of the music, or may be,
 * is `left`: that is told without being asked for.
 */
export type Remark = Spot & { message: string; left?: true };

/** A file or tune that cannot be read. The message says what is wrong and what to do; the spot says where. */
export class FormatError extends Error {
  override name = "FormatError";
  constructor(
    message: string,
    readonly spot: Spot,
  ) {
    super(message);
  }
}

/** The first thing a schema has against data: its field and what is wrong with it. */
export const firstIssue = ({
  issues: [first],
}: {
  issues: readonly { path: PropertyKey[]; message: string }[];
}): string => `${first?.path.map(String).join(".")}: ${first?.message}`;
