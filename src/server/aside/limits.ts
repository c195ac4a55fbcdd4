import type { JobName } from "./jobs";

/**
 * Where a job runs and how long it may take, in milliseconds. Pages have a thread of their own, so that none waits for
 * a book.
 */
export const LIMITS: Record<JobName, { lane: "pages" | "book"; most: number; long: string }> = {
  derive: { lane: "pages", most: 15_000, long: "This tune takes too long to work out. Split it into smaller ones." },
  chart: { lane: "pages", most: 15_000, long: "The chords of this tune take too long. Split it into smaller ones." },
  part: { lane: "pages", most: 15_000, long: "This part takes too long to write. Split the tune into smaller ones." },
  draw: { lane: "pages", most: 10_000, long: "These rows take too long to draw." },
  file: { lane: "pages", most: 20_000, long: "This file takes too long to write. Take fewer parts at a time." },
  intake: { lane: "book", most: 10_000, long: "These tunes take too long to read. Bring them in in smaller pieces." },
  add: { lane: "book", most: 10_000, long: "This tune takes too long to take in. Split it into smaller ones." },
  rights: { lane: "book", most: 120_000, long: "This takes too long. Choose fewer tunes at a time." },
  backups: { lane: "book", most: 120_000, long: "Opening the backups takes too long." },
  backup: { lane: "book", most: 300_000, long: "The backup takes too long. Look whether the disk still answers." },
  restore: { lane: "book", most: 300_000, long: "This takes too long. Nothing was brought back." },
};
