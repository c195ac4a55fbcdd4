import { chord, chordWords, type Key, keyName, semitoneOf } from "../theory";
import type { Added, PlannedChord } from "./model";

/** Where a chord stands: in which line of which part of the tune, and at which edge of it. */
export type Standing = {
  opening: boolean;
  closing: boolean;
  /** "first line", "second line of the B part". */
  line: string;
  lineStarts: boolean;
  lineEnds: boolean;
  /** The line is the last of its strain. */
  strainEnds: boolean;
  /** Where a line ends: the melody comes to rest on a note of the chord, and does not run on. */
  rests: boolean;
  before: string | undefined;
  next: string | undefined;
};

/**
 * The chord that comes nearest: its price, the melody notes it takes and leaves, and what tells most against it.
 */
export type Rival = {
  symbol: string;
  cost: number;
  /** Where it would stand, for a part of the place: "On beat 3". Empty for all of it. */
  where: string;
  gained: readonly string[];
  lost: readonly string[];
  tipped: string | undefined;
};

/** Another bar with the same melody that took another chord; the chord that follows here, where it is another. */
export type Unlike = { bar: string; symbol: string; next: string | undefined };

type Scene = {
  key: Key;
  standing: Standing;
  rival: Rival | undefined;
  by: "teacher" | "file" | undefined;
  unlike: Unlike | undefined;
};

type Planned = Omit<PlannedChord, "reason">;

/**
 * A few plain sentences for a chord: its function and place; what the melody does in it; what the nearest other chord
 * would do differently here.
 */
export function reasonFor(planned: Planned, { key, standing, rival, by, unlike }: Scene): string {
  const name = chordWords(chord(planned.symbol));
  if (by === "file") return `The file gives ${name} here.`;
  if (planned.kept) return `${name} as you chose it, unlocked: it stays until chords are worked out anew.`;
  if (planned.locked) return `You chose ${name} here; the chords around it suit it.`;
  return [
    placed(planned, key, standing),
    melodyWords(planned),
    planned.added ? ADDED[planned.added.what](planned) : "",
    unlike ? unlikeWords(unlike) : "",
    rival ? rivalWords(planned.symbol, rival) : "",
  ]
    .filter(Boolean)
    .join(" ");
}

const unlikeWords = ({ bar, symbol, next }: Unlike): string =>
  `Bar ${bar} has the same notes over ${symbol}${next ? `; here ${next} follows` : ""}.`;

const list = (words: readonly string[]) =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}`;
const capital = (text: string) => `${text[0]?.toUpperCase()}${text.slice(1)}`;

const DEGREES = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh"];
const MAJOR_LIKE = ["major", "lydian", "mixolydian"];
const isMinor = (symbol: string) => {
  const { root, classes } = chord(symbol);
  return classes.includes((semitoneOf(root) + 3) % 12) && !classes.includes((semitoneOf(root) + 4) % 12);
};

/** What a chord is in its key: "the dominant", "the relative minor", "the chord on the second degree". */
export function functionOf(symbol: string, key: Key): string {
  const { root } = chord(symbol);
  const above = (semitoneOf(root) - semitoneOf(key.tonic) + 12) % 12;
  const degree = ("CDEFGAB".indexOf(root[0] as string) - "CDEFGAB".indexOf(key.tonic[0] as string) + 7) % 7;
  const bright = MAJOR_LIKE.includes(key.mode);
  if (above === 0) return "the tonic";
  if (above === 7) return isMinor(symbol) ? "the minor dominant" : "the dominant";
  if (above === 5) return "the subdominant";
  if (bright && above === 9 && isMinor(symbol)) return "the relative minor";
  if (!bright && above === 3 && !isMinor(symbol)) return "the relative major";
  if (above === 10) return "the flat seventh";
  return `the chord on the ${DEGREES[degree]} degree`;
}

/** Function and place, the first thing a teacher says. */
function placed({ symbol }: Planned, key: Key, standing: Standing): string {
  const role = functionOf(symbol, key);
  const { line, before, next } = standing;
  const isTonic = role === "the tonic";
  const isDominant = role === "the dominant";
  if (standing.closing) {
    if (!standing.rests) return `The tune ends on ${role} and runs on.`;
    return isTonic ? `The tune comes home: the tonic of ${keyName(key)}.` : `The tune ends on ${role}, away from home.`;
  }
  if (standing.opening) return `The opening: ${role}.`;
  if (standing.lineEnds) {
    if (!standing.rests) return `At the end of the ${line}, which runs on: ${role}${leads(next, symbol, role)}.`;
    if (isDominant) return `Half close at the end of the ${line}: the dominant, so that the answer can come.`;
    if (isTonic) return `${standing.strainEnds ? "Full close" : "Close"} at the end of the ${line}: the tonic.`;
    return `The ${line} comes to rest on ${role}.`;
  }
  if (standing.lineStarts) return `The ${line} starts on ${role}.`;
  if (before === symbol) return `Still ${role}${leads(next, symbol, role)}.`;
  return `${capital(role)}${leads(next, symbol, role)}.`;
}

/** Where a chord goes on to; dominants fall a fifth. */
function leads(next: string | undefined, symbol: string, role: string): string {
  if (next === undefined || chord(next).root === chord(symbol).root) return "";
  const fifth = (semitoneOf(chord(symbol).root) - semitoneOf(chord(next).root) + 12) % 12 === 7;
  return fifth && role !== "the tonic" && !isMinor(symbol) ? `, which falls to ${next}` : `, on the way to ${next}`;
}

const CHORD_NOTES = ["root", "third", "fifth", "seventh"];
/** Kinds of foreign notes that are told; more are summed up. */
const TOLD = 2;

/** What the melody does in the chord. */
function melodyWords({ notes, symbol }: Planned): string {
  if (notes.length === 0) return "The melody rests here.";
  const inside = [...new Set(notes.filter((n) => CHORD_NOTES.includes(n.role)).map((n) => n.name))];
  const foreign = notes.filter((n) => !CHORD_NOTES.includes(n.role) && !inside.includes(n.name));
  const others = foreignWords(foreign);
  if (inside.length === 0) return `No note of the melody belongs to ${symbol}: ${others}.`;
  return `${list(inside)} ${belonging(inside.length, foreign.length > 0)} to it${others ? `; ${others}` : ""}.`;
}

function belonging(inside: number, foreign: boolean): string {
  if (inside === 1) return "belongs";
  if (foreign) return "belong";
  return inside === 2 ? "both belong" : "all belong";
}

/** Foreign notes by what they do, the longest first. */
function foreignWords(foreign: Planned["notes"]): string {
  const byRole = new Map<string, string[]>();
  for (const { name, role } of foreign) {
    const names = byRole.get(role) ?? [];
    if (!names.includes(name)) byRole.set(role, [...names, name]);
  }
  const told = [...byRole].slice(0, TOLD).map(([role, names]) => {
    const [one, several] = DOES[role] ?? OUTSIDE;
    return `${list(names)} ${names.length === 1 ? one : several}`;
  });
  return list(byRole.size > TOLD ? [...told, "the rest go by"] : told);
}

/** What a foreign note does: one of them, several of them. */
const OUTSIDE = ["stands outside it", "stand outside it"] as const;
const DOES: Record<string, readonly [one: string, several: string]> = {
  passing: ["passes", "pass"],
  neighbour: ["is a neighbour note", "are neighbour notes"],
  suspension: ["is held over and falls", "are held over and fall"],
  appoggiatura: ["leans in", "lean in"],
  anticipation: ["comes early", "come early"],
  escape: ["escapes", "escape"],
};

/** Prices in words; the exact ones stay with the figures. */
const NEAR = 0.5;
const CLOSE = 1.5;
const nearness = (cost: number): string => {
  if (cost < NEAR) return " Nearly as good.";
  return cost < CLOSE ? " A close second." : "";
};

/** What the nearest other chord would do with the melody, and what tells against it. */
function rivalWords(own: string, { symbol, cost, where, gained, lost, tipped }: Rival): string {
  const takes = gained.length > 0 ? `take ${list(gained.slice(0, TOLD))}` : "";
  const leaves = lost.length > 0 ? `leave ${list(lost.slice(0, TOLD))} outside` : "";
  const does = [takes, leaves].filter(Boolean).join(" and ");
  const same = chord(symbol).root === chord(own).root ? "be the same chord in another form" : "hold the same notes";
  const against =
    tipped !== undefined && (does === "" || lost.length === 0) ? `, but ${tipped.replace("{own}", own)}` : "";
  return `${where ? `${where}, ` : ""}${symbol} would ${does || same}${against}.${nearness(cost)}`;
}

/** What a named cost says against a chord, as the end of a sentence that began with it. */
export const AGAINST: Readonly<Record<string, string>> = {
  "melody notes in the chord": "the notes it takes say less for it",
  "melody notes outside the chord": "the others clash more with it",
  "the notes around it": "the notes around speak for the other",
  "how much of the chord is heard": "less of it is heard",
  "habit of the mode": "it seldom stands there in this mode",
  "what players put under these notes": "players seldom put it under these notes",
  "place in the phrase": "it is rarer at this place in the line",
  "how such a phrase is heard": "such a line is seldom chorded so",
  progression: "it follows less well on the chord before",
  cadence: "it closes less well",
  "change of chord": "the chord would change where nothing asks for it",
  "another form of the same chord": "one form to a bar is enough",
  "same music, other chord": "the same music has {own} elsewhere",
  "a note the melody has in another form": "the melody sings one of its notes otherwise",
  "the leading note asks for its dominant": "the leading note asks for the dominant",
  "the dominant that a leaning note delays": "the leaning note delays the dominant",
  "a change under a lead-in": "the chord would change under the lead-in",
  "a seventh the melody does not sound": "the melody does not sound its seventh",
  "what is added": "the addition earns less here",
  "where it leads": "it leads on less well",
};

/** Why something was added, and what the chord is without it. */
const ADDED: Record<Added["what"], (p: Planned) => string> = {
  seventh: (p) =>
    p.notes.some((n) => n.role === "seventh")
      ? "The melody itself sounds the seventh."
      : "The seventh leads on to the next chord.",
  suspension: () =>
    "The melody holds its fourth over into the chord and lets it fall to the third, so the third waits.",
  "secondary dominant": () =>
    "It is the dominant of the chord it leads to, borrowed for a moment; the melody has nothing against it.",
  "walking bass": (p) => `The bass takes ${chord(p.symbol).bass}, so that it walks by step.`,
  "augmented dominant": () => "The one augmented chord: its raised fifth leans into the tonic’s third.",
  "closing chord": () => "The style closes on it.",
};
