import {
  alike,
  breaches,
  coachingOf,
  difficultyOf,
  type Learner,
  type Limits,
  knows,
  lieOn,
  limitsOf,
  type Material,
  type PartNote,
  PLAYED_ROLES,
  refusal,
  ROLE_RULES,
  type RoleName,
  writeRole,
  type Writing,
  type Written,
} from "../../grading";
import { type Instrument, instrument, LEVELS, tuned } from "../../instruments";
import { midi } from "../../theory";
import { roadmapOf, secondsOf, type Voice } from "../roadmap";
import { assign, type Candidate, roleCost } from "./assign";
import { byHand, mended, withChanges } from "./changed";
import { type Fitted, fitOf, settled } from "./fit";
import { materialOf } from "./material";
import type { Evening, EveningRequest, GroupPart } from "./model";
import { helpFor, labels, reasonOf } from "./says";
import { barsOf } from "./staff";
import { unmetIn } from "./unmet";

/** Misfits that are told. */
const WORST = 20;
/** Times that roles are given anew when a part turns out not to exist. */
const TRIES = 4;
/** Share of the tune's notes within reach from which someone can carry it, and can have it at all. */
const CARRIES = 0.85;
const CATCHES = 0.35;
const UNREACHED = 30;

/** Parts for everyone who is there: who plays what, every part within its limits, who plays when, how it fits. */
export function planEvening(request: EveningRequest): Evening {
  const { analysis, plan, tick, dance, learners } = request;
  const material = materialOf(analysis, plan, tick, dance);
  const refused = new Map<string, Set<RoleName>>();
  let written: { candidate: Candidate; role: RoleName; part: Exclude<Written, { refused: string }> }[] = [];
  let unmet: string[] = [];
  let silent: Candidate[] = [];
  const players = learners.flatMap((learner) => {
    const on = playedBy(learner, request.own);
    return on ? [{ learner, on }] : [];
  });
  const made = new Map<string, Written>();
  for (let round = 0; round < TRIES; round++) {
    const candidates = players.map((p) => candidateOf(material, p, request, refused.get(p.learner.name)));
    const found = assign(candidates);
    unmet = found.unmet;
    written = [];
    silent = [];
    let again = false;
    candidates.forEach((candidate, i) => {
      const role = found.roles[i];
      if (!role) {
        silent.push(candidate);
        return;
      }
      const { learner } = candidate;
      const name = `${learner.name} ${role}`;
      const part = made.get(name) ?? drafted(material, candidate, role, request.writings?.get(learner.name));
      made.set(name, part);
      if ("refused" in part) {
        refused.set(learner.name, new Set([...(refused.get(learner.name) ?? []), role]));
        silent.push(candidate);
        again = true;
      } else written.push({ candidate, role, part });
    });
    if (!again) break;
  }
  const ids = idsOf(written.map((w) => w.candidate.learner.name));
  const apart = together(
    material,
    written.map(({ candidate: { learner, on }, role, part }, i): Sitting => {
      const { limits } = part.request;
      const notes = withChanges(material, part.notes, { name: learner.name, limits }, request.changes ?? []);
      return { id: ids[i] as string, role, notes, level: LEVELS.indexOf(learner.level), on, limits };
    }),
  );
  const drum = written.some((w) => w.role === "hand drum");
  const strains = [...new Set(analysis.form.phrases.map((p) => p.label))];
  const parts = written.map(({ candidate, role, part }, i): GroupPart => {
    const id = ids[i] as string;
    const { learner, on } = candidate;
    const { limits } = part.request;
    const bars = apart.changed.get(id) ?? [];
    const edits = (request.edits ?? []).filter((e) => e.name === learner.name);
    const own = byHand(apart.parts[i]?.notes ?? part.notes, edits).map((n) => placed(on, n, limits));
    const whole = { role, on, limits, notes: own, places: analysis.places, tick };
    const hands = new Set(edits.map((e) => e.bar));
    const notes = mended(whole, hands);
    const broken = breaches({ ...whole, notes }).map(({ bar, words }) => ({ bar, words }));
    const difficulty = difficultyOf(
      analysis.places,
      barsOf(analysis.places, notes, on, material),
      on,
      tick,
      "sounding",
      kindOf(role),
    );
    const told = { on, role, notes, places: analysis.places, limits, tick, drum };
    return {
      id,
      learner,
      on,
      role,
      notes,
      limits,
      difficulty,
      leftOut: [
        ...part.leftOut,
        ...(bars.length > 0
          ? [`A note in bar ${labels(analysis.places, bars)}, which rubbed against another part.`]
          : []),
      ],
      coaching: [...(part.remarks ?? []), ...coachingOf(told), ...helpFor(candidate, role, written, strains)],
      reason: reasonOf(candidate, role, written, request.before?.get(learner.name) ?? []),
      broken,
      kept: part.kept ?? null,
    };
  });
  const fit = fitOf(
    material,
    parts.map((p) => ({ id: p.id, role: p.role, notes: p.notes, level: LEVELS.indexOf(p.learner.level) })),
  );
  const strain = (bar: number) => analysis.form.phrases.find((p) => p.to >= bar)?.label ?? "";
  const roadmap = roadmapOf(
    analysis.places,
    strain,
    parts.map(voiceOf),
    request.roadmap,
    dance === null || dance === AIR ? "concert" : "dance",
  );
  return {
    parts,
    unmet: unmetIn(material, { musts: unmet, silent, parts, own: request.own }),
    roadmap,
    fit: { total: Math.round(fit.reduce((sum, f) => sum + f.score, 0)), worst: fit.slice(0, WORST) },
    seconds: secondsOf(analysis.places, roadmap, tick),
  };
}

/** The part of someone in a role, like phrases alike; or why there is none. */
function drafted(material: Material, { learner, on }: Candidate, role: RoleName, writing?: Writing): Written {
  const draft = writeRole(material, learner, on, role, writing);
  return "refused" in draft ? draft : { ...draft, notes: alike(material, draft.request, draft.notes) };
}

type Sitting = Fitted & { on: Instrument; limits: Limits };
/** Times that parts are settled and mended in turn: what is mended may rub anew. */
const SETTLES = 5;

/** Parts that rub nowhere severely, each within its limits; and in which bars each gave something up. */
function together(material: Material, sitting: readonly Sitting[]) {
  const { places, tick } = material;
  const changed = new Map<string, number[]>();
  const shortest = new Map(sitting.map((p) => [p.id, Math.ceil(p.limits.shortest / tick)]));
  let parts = [...sitting];
  for (let round = 0; round < SETTLES; round++) {
    const apart = settled(material, parts, ({ id }) => shortest.get(id) ?? 0);
    for (const [id, bars] of apart.changed) changed.set(id, [...new Set([...(changed.get(id) ?? []), ...bars])]);
    const mends = apart.parts.map(({ notes }, i): Sitting => {
      const own = sitting[i] as Sitting;
      const lying = notes.map((n) => placed(own.on, n, own.limits));
      return { ...own, notes: mended({ ...own, notes: lying, places, tick }, NO_HANDS) };
    });
    const calm = mends.every((p, i) => p.notes.length === apart.parts[i]?.notes.length);
    parts = mends;
    if (calm) break;
  }
  return { parts, changed };
}
const NO_HANDS: ReadonlySet<number> = new Set();

const playedBy = ({ instrument: name, tuning }: Learner, own: readonly Instrument[] = []): Instrument | undefined => {
  const on = instrument(name, own);
  return on && (tuned(on, tuning) ?? on);
};

/** The roles there are for someone, with what each costs. */
function candidateOf(
  material: Material,
  { learner, on }: { learner: Learner; on: Instrument },
  { settled: hand, before }: EveningRequest,
  not: ReadonlySet<RoleName> = new Set(),
): Candidate {
  const roles = new Map<RoleName, number>();
  const share = tuneShare(material, learner, on);
  for (const role of PLAYED_ROLES) {
    if (not.has(role) || refusal(role, on, learner.level, (word) => knows(learner, word)) !== "") continue;
    const tune = ROLE_RULES[role].group === "tune";
    if (tune && (share < CATCHES || (role === "melody" && share < CARRIES))) continue;
    const far = tune ? (1 - share) * UNREACHED : 0;
    roles.set(role, roleCost(role, { learner, on }, before?.get(learner.name) ?? []) + far);
  }
  const wish = hand?.get(learner.name) ?? null;
  return { learner, on, roles, settled: wish && roles.has(wish) ? wish : null };
}

const OCTAVES = [0, 12, -12, 24, -24];
/** How much of the tune lies within someone's reach, in the octave that suits best. */
function tuneShare({ melody, key }: Material, who: Learner, on: Instrument): number {
  if (on.family === "drum" || melody.length === 0) return 0;
  const pitches = melody.map((n) => midi(n.pitches.at(-1) as NonNullable<(typeof n.pitches)[number]>));
  const wanted = OCTAVES.flatMap((o) => [...new Set(pitches)].map((p) => p + on.transposition + o));
  const limits = limitsOf({ who, on, key, kind: "line", wanted });
  const fits = (p: number) => (limits.pitches ? limits.pitches.has(p) : p >= limits.lowest && p <= limits.highest);
  return Math.max(...OCTAVES.map((o) => pitches.filter((p) => fits(p + on.transposition + o)).length / pitches.length));
}

const kindOf = (role: RoleName) => {
  const { kind } = ROLE_RULES[role];
  return kind === "chords" || kind === "drum" ? kind : "line";
};

/** Ids of names: small letters, each once. */
function idsOf(names: readonly string[]): string[] {
  const used = new Map<string, number>();
  return names.map((name) => {
    const plain =
      name
        .normalize("NFKD")
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, "-")
        .replace(/^-|-$/g, "")
        .slice(0, 30) || "player";
    const count = (used.get(plain) ?? 0) + 1;
    used.set(plain, count);
    return count === 1 ? plain : `${plain}-${count}`;
  });
}

/** A note on its strings and under its fingers, where the instrument has strings and the note names none. */
function placed(on: Instrument, note: PartNote, { strings }: Limits): PartNote {
  if (on.strings.length === 0 || note.pitches.length === 0 || note.strings) return note;
  const places = note.pitches.map((p) => lieOn(on, p, strings));
  // Two notes that would share a string are left without: the hand finds them.
  if (places.some((p) => !p) || new Set(places.map((p) => p?.order)).size < places.length) return note;
  const named = { ...note, strings: places.map((p) => p?.number ?? 0) };
  if (on.frets) return { ...named, frets: places.map((p) => p?.fret ?? "0") };
  return { ...named, fingers: places.map((p) => p?.finger ?? 0) };
}

/** What nobody dances to. */
const AIR = "air";
/** Level (from 1) from which someone may be alone. */
const ALONE_FROM = 3;

/** A part as the roadmap sees it. */
const voiceOf = ({ id, learner, role, on }: GroupPart): Voice => ({
  id,
  name: learner.name,
  role,
  level: learner.level,
  plucked: on.family === "plucked",
  alone: knows(learner, "alone") ?? LEVELS.indexOf(learner.level) + 1 >= ALONE_FROM,
});
