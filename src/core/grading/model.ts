import type { Staff } from "../score";

/** Who a part is for, from the surest player to the newest. */
export const LEVELS = ["Leading", "Moving", "First sounds"] as const;
export type Level = (typeof LEVELS)[number];

/** What one group of players plays. */
export type Part = {
  level: Level;
  role: "melody" | "low harmony" | "high harmony" | "one-note line";
  instrument: string;
  staff: Staff;
  /** One or two sentences for the players. */
  coaching: string;
  /** What the part leaves to others, and why. */
  leftOut: string[];
};
