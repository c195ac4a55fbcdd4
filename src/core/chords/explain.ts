import { beatsWords } from "../score";
import { chord, chordWords, type Key, keyName } from "../theory";
import type { Added, PlannedChord } from "./model";

type Scene = {
  beats: number;
  whole: boolean;
  key: Key;
  opening: boolean;
  closing: boolean;
  rival: { symbol: string; cost: number } | undefined;
  before: string | undefined;
  by: "teacher" | "file" | undefined;
};

const list = (words: readonly string[]) =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}`;
const CHORD_NOTES = ["root", "third", "fifth", "seventh"];

/** One plain sentence for a chord: what the melody does in it, and what tipped the balance. */
export function reasonFor(
  planned: Omit<PlannedChord, "reason">,
  { beats, whole, key, opening, closing, rival, before, by }: Scene,
): string {
  const name = chordWords(chord(planned.symbol));
  if (by === "file") return `The file gives ${name} here.`;
  if (planned.locked) return `You chose ${name} here; the chords around it are planned to suit.`;
  const inside = planned.notes.filter((n) => CHORD_NOTES.includes(n.role));
  const foreign = planned.notes.filter((n) => !CHORD_NOTES.includes(n.role));
  const extraWords = foreign.map((n) => `${n.name} is ${ARTICLE[n.role] ?? n.role}`);
  const rest = foreign.length > 0 && inside.length > 0 ? `; ${list(extraWords)}` : "";
  const fit = inside.length > 0 ? takes(inside, beats, whole) : without(planned, name);
  const place = placeWords({ planned, key, opening, closing, before });
  const extra = planned.added ? ` ${ADDED[planned.added.what](planned)}` : "";
  const close = rival && rival.cost < 0.5 ? ` ${rival.symbol} is nearly as good (${rival.cost.toFixed(1)} more).` : "";
  return `${fit[0]?.toUpperCase()}${fit.slice(1)}${rest}${place}.${extra}${close}`;
}

/** Which notes of the melody belong to the chord, and for how much of it. */
function takes(inside: PlannedChord["notes"], beats: number, whole: boolean): string {
  const held = inside.reduce((sum, n) => sum + n.beats, 0);
  const share = held > 0.99 * beats ? allOf(beats, whole) : partOf(held, beats, whole);
  return `${list(inside.map((n) => n.name))} ${inside.length > 1 ? "take" : "takes"} ${share}`;
}

function allOf(beats: number, whole: boolean): string {
  if (beats <= 1) return "the whole beat";
  if (whole) return "the whole bar";
  return beats === 2 ? "both beats" : `all ${beatsWords(beats)} beats`;
}

function partOf(held: number, beats: number, whole: boolean): string {
  if (beats <= 1) return `${beatsWords(held)} of the beat`;
  return `${beatsWords(held)} of ${whole ? "the bar’s" : "these"} ${beatsWords(beats)} beats`;
}

/** Why a chord stands under which the melody has none of its notes. */
const without = ({ notes }: Pick<PlannedChord, "notes">, name: string): string =>
  notes.length === 0 ? "the melody rests here" : `no melody note belongs to ${name}, and its neighbours want it`;

type Standing = Pick<Scene, "key" | "opening" | "closing" | "before"> & { planned: Omit<PlannedChord, "reason"> };
/** What the chord is to its place in the tune. */
function placeWords({ planned, key, opening, closing, before }: Standing): string {
  const tonic = planned.roman.toUpperCase() === "I";
  if (tonic && closing) return `, and the tune comes home to ${keyName(key)}`;
  if (tonic && opening) return ", and the tune opens on its tonic";
  return before === planned.symbol ? ", so the chord stays" : "";
}

/** Why something was added, and what the chord is without it. */
const ADDED: Record<Added["what"], (p: Omit<PlannedChord, "reason">) => string> = {
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

const ARTICLE: Record<string, string> = {
  passing: "passing",
  neighbour: "a neighbour note",
  suspension: "suspended",
  appoggiatura: "leaning in",
  anticipation: "early",
  escape: "escaping",
  free: "foreign",
};
