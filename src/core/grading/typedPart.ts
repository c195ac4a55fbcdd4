import { type Place, QUARTER } from "../score";
import { type Key, midi, parsePitch, pitchName, spell } from "../theory";
import type { PartNote } from "./write";

// One bar of a part as a hand types it: sounding pitches or z for a rest, two at once with a plus, each with its length
// in quarters: "D4:1 z:1/2 A4+D5:3/2". A drum has h and l, heavy and light.

const TENTH = 1e-9;
const fraction = (ticks: number): string => {
  for (const under of [1, 2, 3, 4, 6, 8, 12, 16]) {
    const over = (ticks / QUARTER) * under;
    if (Math.abs(over - Math.round(over)) < TENTH) return under === 1 ? String(over) : `${Math.round(over)}/${under}`;
  }
  return String(ticks / QUARTER);
};

/** A bar's notes as they would be typed. */
export function barText(notes: readonly PartNote[], place: Place, key: Key): string {
  let at = 0;
  const words: string[] = [];
  for (const n of notes) {
    if (n.at > at) words.push(`z:${fraction(n.at - at)}`);
    const drum = n.stroke === "heavy" ? "h" : "l";
    const name = n.pitches.length > 0 ? n.pitches.map((p) => pitchName(spell(p, key))).join("+") : drum;
    words.push(`${name}:${fraction(n.ticks)}`);
    at = n.at + n.ticks;
  }
  if (at < place.ticks) words.push(`z:${fraction(place.ticks - at)}`);
  return words.join(" ");
}

/** Reads one bar, or says what is wrong with it and what to do. */
export function readBar(text: string, place: Place): { notes: PartNote[] } | { fault: string } {
  const notes: PartNote[] = [];
  let at = 0;
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const [, name = "", over = "", under = "1"] = /^([^:]+):(\d+(?:\.\d+)?)(?:\/(\d+))?$/.exec(word) ?? [];
    if (!name) return { fault: `"${word.slice(0, 20)}" is no note. Write pitch and length in quarters: D4:1, z:1/2.` };
    const ticks = Math.round((Number(over) / Number(under)) * QUARTER);
    if (!(ticks > 0)) return { fault: `"${word}" has no length.` };
    if (name !== "z") {
      const sound = soundOf(name);
      if (!sound) return { fault: `"${name.slice(0, 20)}" is no pitch. Write a letter, its sign and the octave: F#4.` };
      notes.push({ bar: place.index, at, ticks, ...sound });
    }
    at += ticks;
  }
  if (at !== place.ticks) {
    const off = fraction(Math.abs(at - place.ticks));
    const words = at > place.ticks ? `are ${off} too many` : `${off} are missing`;
    return { fault: `The bar has ${fraction(place.ticks)} quarters; here ${words}.` };
  }
  return { notes };
}

function soundOf(name: string): Pick<PartNote, "pitches" | "stroke"> | undefined {
  if (name === "h") return { pitches: [], stroke: "heavy" };
  if (name === "l") return { pitches: [], stroke: "light" };
  const names = name.split("+");
  if (!names.every((n) => /^[A-G](#|b)?\d$/.test(n))) return undefined;
  return { pitches: names.map((n) => midi(parsePitch(n))).sort((a, b) => a - b) };
}
