import type { Analysis } from "../../analysis";
import type { ChordPlan } from "../../chords";
import {
  breaches,
  coachingOf,
  type Difficulty,
  difficultyOf,
  type Learner,
  type Limits,
  isWithin,
  lieOn,
  limitsOf,
  type Material,
  type PartNote,
  PLAYED_ROLES,
  refusal,
  ROLE_RULES,
  type RoleName,
  writeRole,
  type Written,
} from "../../grading";
import { knows } from "../../grading";
import { type Instrument, instrument, LEVELS, tuned } from "../../instruments";
import { type Event, laidEvents, lineNotes, type Place, rest, type Staff } from "../../score";
import { midi, spell } from "../../theory";
import { assign, type Candidate, roleCost } from "./assign";
import { type Fitted, fitOf, type Misfit, settled } from "./fit";
import { materialOf } from "./material";
import { type Pass, roadmapOf } from "./roadmap";

/** The part of one learner for tonight. */
export type GroupPart = {
  id: string;
  learner: Learner;
  on: Instrument;
  role: RoleName;
  notes: PartNote[];
  limits: Limits;
  difficulty: Difficulty;
  leftOut: string[];
  coaching: string[];
  reason: string;
  /** Limits that bars written by hand break: they stand, and are named. */
  broken: { bar: number; words: string }[];
  /** Share of the tune's beats it has; of parts that carry the tune. */
  kept: number | null;
};

/** What was asked for and could not be had: what, in which bars (indexes), and the nearest way out. */
export type Unmet = { must: string; bars: number[]; wayOut: string };

export type Evening = {
  parts: GroupPart[];
  unmet: Unmet[];
  roadmap: Pass[];
  fit: { total: number; worst: Misfit[] };
  /** Seconds of the whole, as the roadmap has it. */
  seconds: number;
};

export type EveningRequest = {
  analysis: Analysis;
  plan: ChordPlan;
  /** Seconds of a tick at tonight's quickest. */
  tick: number;
  dance: string | null;
  learners: readonly Learner[];
  /** Roles settled by hand, by the learner's name. */
  settled?: ReadonlyMap<string, RoleName>;
  /** Bars (indexes) of someone's part that were written by hand. */
  edits?: readonly { name: string; bar: number; notes: readonly Omit<PartNote, "bar">[] }[];
  /** Bars (indexes) that someone plays otherwise, to make room. */
  changes?: readonly { name: string; bar: number; what: "rest" | "octave higher" | "octave lower" }[];
  /** What each played in the last tunes, the latest first. */
  before?: ReadonlyMap<string, readonly RoleName[]>;
  own?: readonly Instrument[];
};

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
      const { learner, on } = candidate;
      const name = `${learner.name} ${role}`;
      const part = made.get(name) ?? writeRole(material, learner, on, role);
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
  const apart = settled(
    material,
    written.map(({ candidate, role, part }, i): Fitted => {
      const notes = withChanges(part.notes, candidate.learner.name, part.request.limits, request.changes ?? []);
      return { id: ids[i] as string, role, notes };
    }),
    (p) => Math.ceil((written[ids.indexOf(p.id)]?.part.request.limits.shortest ?? 0) / tick),
  );
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
    const told = { on, role, notes, places: analysis.places, limits, tick };
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
      coaching: [...(part.remarks ?? []), ...coachingOf(told)],
      reason: reasonOf(candidate, role, written, request.before?.get(learner.name) ?? []),
      broken,
      kept: part.kept ?? null,
    };
  });
  const fit = fitOf(
    material,
    parts.map((p) => ({ id: p.id, role: p.role, notes: p.notes })),
  );
  const strains = strainsOf(analysis);
  const roadmap = roadmapOf(
    strains.map((s) => s.label),
    parts.map((p) => ({ id: p.id, role: p.role, level: p.learner.level })),
  );
  const once = strains.reduce((sum, s) => sum + s.ticks, 0) * tick;
  return {
    parts,
    unmet: [
      ...unmet
        .filter((must) => !must.startsWith("a part for"))
        .map((must): Unmet => ({ must, bars: [], wayOut: wayOutOf(must) })),
      ...silent.map(
        (c): Unmet => ({
          must: `a part for ${c.learner.name} on the ${c.on.name}`,
          bars: [],
          wayOut: wayOutOf("a part for"),
        }),
      ),
    ],
    roadmap,
    fit: { total: Math.round(fit.reduce((sum, f) => sum + f.score, 0)), worst: fit.slice(0, WORST) },
    seconds: once * (roadmap.at(-1)?.pass ?? 1),
  };
}

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

/** A part with what was changed in it to make room: bars it rests in, or plays in another octave where it has that. */
function withChanges(
  notes: readonly PartNote[],
  name: string,
  limits: Limits,
  changes: NonNullable<EveningRequest["changes"]>,
): PartNote[] {
  const own = new Map(changes.filter((c) => c.name === name).map((c) => [c.bar, c.what]));
  if (own.size === 0) return [...notes];
  return notes.flatMap((n): PartNote[] => {
    const what = own.get(n.bar);
    if (what === undefined) return [n];
    if (what === "rest") return [];
    const by = what === "octave higher" ? 12 : -12;
    const pitches = n.pitches.map((p) => p + by);
    const { strings: _s, frets: _f, fingers: _n, ...free } = n;
    return pitches.every((p) => isWithin(limits, p)) ? [{ ...free, pitches }] : [n];
  });
}

/** A part with the bars that were written by hand in the place of its own. */
function byHand(notes: readonly PartNote[], edits: NonNullable<EveningRequest["edits"]>): PartNote[] {
  if (edits.length === 0) return [...notes];
  const bars = new Map(edits.map((e) => [e.bar, e.notes.map((n): PartNote => ({ ...n, bar: e.bar }))]));
  const others = notes.filter((n) => !bars.has(n.bar));
  return [...others, ...[...bars.values()].flat()].sort((a, b) => a.bar - b.bar || a.at - b.at);
}

/** Notes that are taken out at most until nothing is broken. */
const MENDS = 60;

/**
 * A part without the notes that break a limit, since one between them is no longer there: what rubbed has gone, and its
 * neighbours may be too far apart or too soon.
 */
function mended(part: Parameters<typeof breaches>[0], hands: ReadonlySet<number>): PartNote[] {
  let notes = [...part.notes];
  for (let i = 0; i < MENDS; i++) {
    // What was written by hand stands, whatever it breaks.
    const worst = breaches({ ...part, notes }).find((b) => !hands.has(b.bar));
    if (!worst) return notes;
    const { leap } = part.limits;
    const far = notes.findIndex((n, k) => {
      const [a, b] = [notes[k - 1]?.pitches[0], n.pitches[0]];
      return n.bar === worst.bar && a !== undefined && b !== undefined && leap !== null && Math.abs(a - b) > leap;
    });
    const out = worst.limit === "leap" && far >= 0 ? far : notes.findIndex((n) => n.bar === worst.bar);
    if (out < 0) return notes;
    notes = notes.filter((_, k) => k !== out);
  }
  return notes;
}

/** A part's notes as bars of events: sounding pitches, rests between. */
export function barsOf(
  places: readonly Place[],
  notes: readonly PartNote[],
  on: Instrument,
  { key }: Pick<Material, "key">,
): Event[][] {
  const byBar = new Map<number, PartNote[]>();
  for (const n of notes) byBar.set(n.bar, [...(byBar.get(n.bar) ?? []), n]);
  const drum = on.family === "drum";
  return places.map((place) => {
    const events: Event[] = [];
    let at = 0;
    for (const n of byBar.get(place.index) ?? []) {
      if (n.at > at) events.push(rest(n.at - at));
      const pitches = drum ? [n.stroke === "heavy" ? on.lowest : on.highest] : n.pitches.map((p) => spell(p, key));
      const marks = n.stroke === "heavy" ? { marks: ["accent" as const] } : {};
      const technique = n.strings
        ? {
            technique: {
              notes: n.strings.map((string, i) => ({
                string,
                ...(n.frets?.[i] !== undefined ? { fret: n.frets[i] as string } : {}),
                ...(n.fingers?.[i] !== undefined ? { finger: n.fingers[i] as number } : {}),
              })),
            },
          }
        : {};
      events.push({ ticks: n.ticks, pitches, ...marks, ...technique });
      at = n.at + n.ticks;
    }
    if (at < place.ticks) events.push(rest(place.ticks - at));
    return laidEvents(events, place.metre, place.offset);
  });
}

/** A learner's part as a staff. */
export const groupStaff = (places: readonly Place[], part: GroupPart, material: Pick<Material, "key">): Staff => ({
  id: part.id,
  name: part.learner.name,
  bars: barsOf(places, part.notes, part.on, material),
  clef: part.on.clef,
  program: part.on.program,
  ...(part.on.transposition ? { transposition: part.on.transposition } : {}),
  loudness: LOUD[ROLE_RULES[part.role].group],
});
/** How loud a part is beside the tune, by what it does. */
const LOUD = { tune: 1, harmony: 0.75, "long notes": 0.55, chords: 0.6, bass: 0.8, drum: 0.5 } as const;

/** The strains as they are played: label, and ticks with their repeats. */
function strainsOf({ places, form }: Analysis): { label: string; ticks: number }[] {
  const labels = [...new Set(form.phrases.map((p) => p.label))];
  const whole = lineNotes(places).length > 0;
  return labels.map((label) => {
    const own = form.phrases.filter((p) => p.label === label);
    const ticks = own.reduce(
      (sum, p) => sum + places.slice(p.from, p.to + 1).reduce((s, place) => s + place.ticks, 0),
      0,
    );
    const times = Math.max(1, [...form.sequence].filter((c) => c === label).length);
    return { label, ticks: whole ? ticks * times : 0 };
  });
}

const labels = (places: readonly Place[], bars: readonly number[]): string =>
  [...bars]
    .sort((a, b) => a - b)
    .map((b) => String(places[b]?.number ?? b + 1))
    .join(", ");

function reasonOf(
  { learner, on, settled: hand }: Candidate,
  role: RoleName,
  all: readonly { candidate: Candidate; role: RoleName }[],
  before: readonly RoleName[],
): string {
  if (hand === role) return `You set this: ${role}.`;
  const level = LEVELS.indexOf(learner.level);
  const beside = all.find(
    (o) =>
      o.candidate.learner !== learner &&
      ROLE_RULES[o.role].group === ROLE_RULES[role].group &&
      LEVELS.indexOf(o.candidate.learner.level) > level,
  );
  const [last] = before;
  const other = last && last !== role ? `; last time it was ${last}` : "";
  const suits = `${role[0]?.toUpperCase()}${role.slice(1)} suits ${learner.level} on the ${on.name}${other}`;
  if (level < 2 && beside) return `${suits}; ${beside.candidate.learner.name} leads it.`;
  return ROLE_RULES[role].group === "tune" && level >= 2 ? `${suits}, and the tune needs carrying.` : `${suits}.`;
}

const WAYS: readonly (readonly [RegExp, string])[] = [
  [/tune is carried/, "Take the melody yourself, or an easier tune for tonight."],
  [/someone stronger/, "Play beside them yourself, or move someone stronger there by hand."],
  [/a part for/, "Another key, another octave, or one limit less."],
];
const wayOutOf = (must: string): string => WAYS.find(([test]) => test.test(must))?.[1] ?? "Change one role by hand.";
