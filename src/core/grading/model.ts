import { z } from "zod";
import { Staff } from "../score";

/** What a player does in the group. */
export const ROLES = ["melody", "low harmony", "high harmony", "one-note harmony"] as const;
export const Role = z.enum(ROLES);
export type Role = z.infer<typeof Role>;

/** A short name that is unique within a work, fit for addresses and files. */
export const Id = z.string().regex(/^[a-z0-9-]{1,40}$/, "An id is made of small letters, digits and hyphens.");

/** What one player plays. Its id is the player's. */
export const Part = z.object({
  id: Id,
  name: z.string().max(80),
  role: Role,
  instrument: z.string().max(40),
  /** The harmony line it plays, by id. */
  line: Id.nullable(),
  staff: Staff,
  /** One or two sentences for the player. */
  coaching: z.string(),
  /** What the part leaves to others, and why. */
  leftOut: z.array(z.string()),
});
export type Part = z.infer<typeof Part>;
