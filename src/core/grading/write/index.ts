import { limitsOf } from "../limits";
import { knows } from "../learner";
import { ROLE_RULES, refusal, type RoleName } from "../roles";
import type { Instrument } from "../../instruments";
import type { Learner } from "../learner";
import { writeDrum, writeOffBeats, writeStrum } from "./chords";
import { writeBass } from "./bass";
import { writeCounter } from "./counter";
import { writeDrone, writeOneNote } from "./long";
import { writeShuffle } from "./shuffle";
import { type Draft, type Material, type Request, topOf } from "./material";
import { writeHarmony, writeTune } from "./tune";

export * from "./material";

const WRITERS: Readonly<Record<RoleName, (material: Material, request: Request) => Draft>> = {
  melody: writeTune,
  "simple melody": writeTune,
  "low harmony": writeHarmony,
  "high harmony": writeHarmony,
  "one-note harmony": writeOneNote,
  drone: writeDrone,
  bass: writeBass,
  strum: writeStrum,
  "off-beats": writeOffBeats,
  "shuffle drone": writeShuffle,
  "counter-figure": writeCounter,
  "hand drum": writeDrum,
};

/** A part as a learner could have it, with its limits; or why there is none, and the nearest way out. */
export type Written = (Draft & { request: Request }) | { refused: string };

/** Octaves that a page is tried in for what a hand would like to reach. */
const OCTAVES = [0, 12, -12, 24, -24];

/** Writes the part of a learner in a role: within the limits always; refused where nothing is left. */
export function writeRole(material: Material, who: Learner, on: Instrument, role: RoleName): Written {
  const refused = refusal(role, on, who.level, (word) => knows(who, word));
  if (refused) return { refused };
  const { kind } = ROLE_RULES[role];
  const pitches = [...new Set(material.melody.map((n) => topOf(n.pitches)))];
  const wanted = pitches.flatMap((p) => OCTAVES.map((o) => p + on.transposition + o));
  const limits = limitsOf({ who, on, key: material.key, kind, wanted });
  if (limits.pitches?.size === 0)
    return { refused: `No note of the ${on.name} is left. Take one word out of the record, or another role.` };
  const request: Request = { who, on, role, limits };
  const draft = WRITERS[role](material, request);
  if (draft.notes.length === 0)
    return { refused: `No ${role} lies within ${who.level} here: another role, or another key.` };
  return { ...draft, request };
}
