import { limitsOf } from "../limits";
import { knows } from "../learner";
import { ROLE_RULES, refusal, type RoleName } from "../roles";
import { type Instrument, LEVELS } from "../../instruments";
import { semitoneOf } from "../../theory";
import type { Learner } from "../learner";
import { writeDrum, writeOffBeats, writeStrum } from "./chords";
import { writeBass } from "./bass";
import { writeCounter } from "./counter";
import { writeDrone, writeOneNote } from "./long";
import { writeShuffle } from "./shuffle";
import { bassClass, chordOf, type Draft, type Material, type Request, spotOf, topOf, type Writing } from "./material";
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

/** Pitches a part would like a hand to lie over: notes of the tune; roots; for what stands, the chords' notes. */
function wantedIn({ melody, chords, key }: Material, role: RoleName): number[] {
  const { group } = ROLE_RULES[role];
  if (group === "bass") return chords.map((c) => MIDDLE_C + bassClass(chordOf(c.symbol)));
  if (role === "one-note harmony") return chords.flatMap((c) => chordOf(c.symbol).classes.map((n) => MIDDLE_C + n));
  if (group === "long notes") {
    const tonic = semitoneOf(key.tonic);
    return [tonic, tonic + 7].map((n) => MIDDLE_C + n);
  }
  return [...new Set(melody.map((n) => topOf(n.pitches)))];
}
const MIDDLE_C = 60;

/** How much fewer and longer the notes of a plainer part are. */
const PLAINER = { perSecond: 0.6, shortest: 1.6 };

/** The level that strums the beats. */
const BEATS_ALONE = 1;

/** A request for less: written as for the level below, with fewer and longer notes; never beyond the learner's own. */
function plainer(request: Request): Request {
  const { who, limits } = request;
  // Bass and brush belong to three levels: plainer than them are the beats.
  const most = ROLE_RULES[request.role].kind === "chords" ? BEATS_ALONE : LEVELS.length;
  const level = LEVELS[Math.max(0, Math.min(most, LEVELS.indexOf(who.level) - 1))] ?? who.level;
  const fewer = { perSecond: limits.perSecond * PLAINER.perSecond, shortest: limits.shortest * PLAINER.shortest };
  return { ...request, who: { ...who, level }, limits: { ...limits, ...fewer } };
}

/**
 * Writes the part of a learner in a role: within the limits always; refused where nothing is left. A plainer part, or
 * another one, is the usual one where there is none.
 */
export function writeRole(
  material: Material,
  who: Learner,
  on: Instrument,
  role: RoleName,
  writing: Writing = "usual",
): Written {
  const refused = refusal(role, on, who.level, (word) => knows(who, word));
  if (refused) return { refused };
  const { kind } = ROLE_RULES[role];
  const wanted = wantedIn(material, role).flatMap((p) => OCTAVES.map((o) => p + on.transposition + o));
  const limits = limitsOf({ who, on, key: material.key, kind, wanted });
  if (limits.pitches?.size === 0)
    return { refused: `No note of the ${on.name} is left. Take one word out of the record, or another role.` };
  const request: Request = { who, on, role, limits };
  const usual = WRITERS[role](material, request);
  if (usual.notes.length === 0)
    return { refused: `No ${role} lies within ${who.level} here: another role, or another key.` };
  const draft = writing === "usual" ? usual : rewritten(material, request, usual, writing);
  return { ...(draft.notes.length > 0 ? draft : usual), request };
}

function rewritten(material: Material, request: Request, usual: Draft, writing: Writing): Draft {
  const { role } = request;
  if (writing === "plainer") return WRITERS[role](material, plainer(request));
  const avoid = new Map(usual.notes.map((n) => [spotOf(n.bar, n.at), n.pitches[0] ?? -1]));
  return WRITERS[role](material, { ...request, avoid });
}
