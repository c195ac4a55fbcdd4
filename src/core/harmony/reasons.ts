import type { Instrument } from "../instruments";
import { anInterval, degreeOf, midi, type Pitch, pitchName } from "../theory";
import type { Choice } from "./choice";
import { holds, plainThird } from "./choices";
import type { HarmonyNote } from "./model";
import { adjoin } from "./promises";
import type { Paid } from "./school";
import type { Slot } from "./slots";

type Told = {
  slots: readonly Slot[];
  path: readonly Choice[];
  /** First and last slot of the note. */
  at: number;
  to: number;
  /** Everything that could have stood here, the rest included. */
  open: readonly Choice[];
  locked: boolean;
  paid: Paid;
  figure: HarmonyNote["figure"];
  on: Instrument;
};
type Description = Omit<HarmonyNote, "costs" | "alternatives" | "broken">;

/** What a note is and why, in one sentence or two: read off what the search paid for it. */
export function described(told: Told): Description {
  const { slots, path, at, locked, paid, figure, on } = told;
  const [slot, choice] = [slots[at] as Slot, path[at] as Choice];
  const { place, chord, melody, event, ticks } = slot;
  const base = {
    bar: place.index,
    event,
    at: slot.at,
    ticks,
    pitch: choice.pitch,
    melody,
    chord: chord?.symbol ?? null,
    locked,
  };
  if (!choice.pitch) return { ...base, interval: null, rule: "rest", reason: `A rest: ${restWords(told)}.` };
  const { rule, words } = locked
    ? { rule: "yours", words: "you chose it; the notes around it are planned to suit" }
    : slot.school.because(choice, slot, paid);
  const sentences = [
    `${titleOf(choice, slot)}: ${words}.`,
    choice.chromatic && choice.fits
      ? `${pitchName(choice.pitch).slice(0, -1)} is outside the key; the chord of ${chord?.symbol} asks for it.`
      : "",
    choice.chromatic && !choice.fits && choice.sounded
      ? `${pitchName(choice.pitch).slice(0, -1)} is outside the key; the melody has it so in this bar.`
      : "",
    melody && choice.interval !== 3 && slot.school.pace === "melody" ? whyNotThird(slot, melody, on) : "",
    figure && figure !== rule ? `Outside the chord it is ${FIGURES[figure]}.` : "",
  ];
  return {
    ...base,
    interval: choice.interval || null,
    rule,
    reason: sentences.filter(Boolean).join(" "),
    ...(figure ? { figure } : {}),
  };
}

function restWords({ slots, at, open, locked, on }: Told): string {
  if (locked) return "you chose one here";
  return open.length > 1
    ? "every note in reach would run in fifths or octaves with the melody, or cost the line more than a rest"
    : `no note ${slots[at]?.side} the melody lies in the range of the ${on.name} without a clash`;
}

function titleOf({ interval }: Choice, { side }: Slot): string {
  if (interval === 0) return "While the melody rests";
  if (interval === 1) return "The same note as the melody";
  const name = anInterval(interval);
  return `${name[0]?.toUpperCase()}${name.slice(1)} ${side}`;
}

function whyNotThird(slot: Slot, melody: Pitch, on: Instrument): string {
  const third = plainThird(melody, slot.side, slot.key);
  const name = pitchName(third);
  if (midi(third) < midi(on.lowest)) return `The plain third, ${name}, lies below the ${on.name}.`;
  if (midi(third) > midi(on.highest)) return `The plain third, ${name}, lies above the ${on.name}’s range here.`;
  if (slot.chord && !holds(slot.chord, third)) {
    const degree = degreeOf(third, slot.key);
    return `The plain third would be ${name}, degree ${degree}, which is not in ${slot.chord.symbol}.`;
  }
  return `The plain third would be ${name}.`;
}

/** What a note outside the chord does in the line, by how it is reached and left (Piston, Harmony, ch. 8). */
export function figureOf(
  path: readonly Choice[],
  slots: readonly Slot[],
  from: number,
  to: number,
): HarmonyNote["figure"] {
  const [here, slot] = [path[from] as Choice, slots[from] as Slot];
  if (!here.pitch || here.fits || !slot.chord) return undefined;
  const by = (other: Choice | undefined, sign: number) =>
    other?.pitch ? sign * (other.place - here.place) : undefined;
  const before = adjoin(slots[from - 1], slots[from]) ? path[from - 1] : undefined;
  const after = adjoin(slots[to], slots[to + 1]) ? path[to + 1] : undefined;
  const [into, out] = [by(before, -1), by(after, 1)];
  const step = (move: number | undefined) => move === 1 || move === -1;
  if (into === 0 && out === -1) return "suspension";
  if (out === 0) return "anticipation";
  if (step(into) && step(out)) return into === out ? "passing" : "neighbour";
  if (step(out)) return "appoggiatura";
  return step(into) ? "escape" : "free";
}

const FIGURES: Record<NonNullable<HarmonyNote["figure"]>, string> = {
  passing: "passing",
  neighbour: "a neighbour note",
  suspension: "suspended",
  appoggiatura: "leaning in",
  anticipation: "early",
  escape: "escaping",
  free: "free",
};
