import type { Instrument } from "../instruments";
import type { Place } from "../score";
import { midi } from "../theory";
import type { Limits } from "./limits";
import { ROLE_RULES, type RoleName } from "./roles";
import type { PartNote } from "./write";

// Looks at a part as it stands and says which limits it breaks. It knows nothing of how parts are written.

/** A limit that a part breaks: its name, the bar (index), and what to do. */
export type Breach = { limit: keyof Limits | "bar"; bar: number; words: string };

type Checked = {
  role: RoleName;
  on: Instrument;
  limits: Limits;
  notes: readonly PartNote[];
  places: readonly Place[];
  tick: number;
};

const CLOSE = 1e-6;
const OCTAVE = 12;

/** Every limit a part breaks, in order of its bars. */
export function breaches(part: Checked): Breach[] {
  const found = [...barsOf(part), ...notesOf(part), ...motionOf(part), ...bowsOf(part), ...chordsOf(part)];
  return found.sort((a, b) => a.bar - b.bar);
}

/** Notes lie in their bars, one after another, few enough and long enough. */
function barsOf({ notes, places, limits, tick }: Checked): Breach[] {
  const byBar = new Map<number, PartNote[]>();
  for (const n of notes) {
    const own = byBar.get(n.bar);
    if (own) own.push(n);
    else byBar.set(n.bar, [n]);
  }
  return places.flatMap((place): Breach[] => {
    const own = byBar.get(place.index) ?? [];
    const found: Breach[] = [];
    let end = 0;
    for (const n of own) {
      if (n.at < end || n.at + n.ticks > place.ticks)
        found.push({ limit: "bar", bar: place.index, words: "Notes overlap, or go beyond their bar." });
      end = n.at + n.ticks;
      if (n.ticks * tick < limits.shortest - CLOSE)
        found.push({ limit: "shortest", bar: place.index, words: "A note is shorter than this level plays." });
      if (limits.bow !== null && n.ticks * tick > limits.bow + CLOSE)
        found.push({
          limit: "bow",
          bar: place.index,
          words: "A note is longer than a bow or a breath. Strike it anew.",
        });
    }
    if (own.length > place.ticks * tick * limits.perSecond + CLOSE)
      found.push({ limit: "perSecond", bar: place.index, words: "More notes than this level plays in the time." });
    return found;
  });
}

/** Pitches, strings, double stops. */
function notesOf({ notes, limits, on, role }: Checked): Breach[] {
  const struck = ROLE_RULES[role].kind === "chords";
  return notes.flatMap((n): Breach[] => {
    const found: Breach[] = [];
    for (const p of struck ? [] : n.pitches) {
      if (limits.pitches ? !limits.pitches.has(p) && n.pitches.length === 1 : p < limits.lowest || p > limits.highest)
        found.push({ limit: "pitches", bar: n.bar, words: "A note this level does not have." });
    }
    if (!struck && n.pitches.length > 1) {
      const open = n.pitches.filter((p) => on.strings.some((s) => midi(s.open) === p)).length;
      const allowed = { none: false, open: open > 0, held: true, any: true }[limits.doubleStops];
      if (!allowed) found.push({ limit: "doubleStops", bar: n.bar, words: "Two notes at once are not known yet." });
    }
    const strings = n.strings ?? [];
    if (!struck && limits.strings && strings.some((s) => !limits.strings?.includes(s)))
      found.push({ limit: "strings", bar: n.bar, words: "A string this level does not play on." });
    return found;
  });
}

/** Leaps from note to note; crossings of a bar. */
function motionOf({ notes, limits, on }: Checked): Breach[] {
  const found: Breach[] = [];
  const lies = (n: PartNote): number => {
    if (on.family === "wind") return Math.floor(((n.pitches[0] ?? 0) - midi(on.lowest)) / OCTAVE);
    return n.strings?.[0] ?? -1;
  };
  const crossed = new Map<number, number>();
  notes.forEach((n, i) => {
    const before = notes[i - 1];
    const [a, b] = [before?.pitches[0], n.pitches[0]];
    if (before === undefined || a === undefined || b === undefined) return;
    if (limits.leap !== null && Math.abs(a - b) > limits.leap)
      found.push({ limit: "leap", bar: n.bar, words: "A leap that is too wide for this level." });
    if (before.bar === n.bar && lies(before) !== lies(n)) crossed.set(n.bar, (crossed.get(n.bar) ?? 0) + 1);
  });
  if (limits.crossings !== null)
    for (const [bar, count] of crossed)
      if (count > limits.crossings)
        found.push({ limit: "crossings", bar, words: "More crossings than this level makes in a bar." });
  return found;
}

/** Slurs: notes in one bow, and how long it lasts. */
function bowsOf({ notes, limits, tick }: Checked): Breach[] {
  const bows = new Map<number, PartNote[]>();
  for (const n of notes) if (n.slur !== undefined) bows.set(n.slur, [...(bows.get(n.slur) ?? []), n]);
  return [...bows.values()].flatMap((own): Breach[] => {
    const bar = own[0]?.bar ?? 0;
    const seconds = own.reduce((sum, n) => sum + n.ticks, 0) * tick;
    const found: Breach[] = [];
    if (own.length > limits.slur)
      found.push({ limit: "slur", bar, words: "More notes in one bow than this level slurs." });
    if (limits.bow !== null && seconds > limits.bow + CLOSE)
      found.push({ limit: "bow", bar, words: "A slur is longer than a bow." });
    return found;
  });
}

/** Chords: how many there are, and how soon one follows another. */
function chordsOf({ notes, limits, role, places, tick }: Checked): Breach[] {
  if (ROLE_RULES[role].kind !== "chords") return [];
  const found: Breach[] = [];
  const classes = (n: PartNote) => [...new Set(n.pitches.map((p) => p % OCTAVE))].sort((a, b) => a - b).join();
  const full = notes.filter((n) => n.pitches.length > 1);
  if (limits.shapes !== null && new Set(full.filter((n) => n.stroke !== "brush").map(classes)).size > limits.shapes)
    found.push({ limit: "shapes", bar: full[0]?.bar ?? 0, words: "More chord shapes than this level knows." });
  let last: { name: string; at: number } | undefined;
  for (const n of full) {
    const at = ((places[n.bar]?.at ?? 0) + n.at) * tick;
    const name = classes(n);
    if (last && last.name !== name && at - last.at < limits.gap - CLOSE)
      found.push({ limit: "gap", bar: n.bar, words: "The next chord comes too soon for this level." });
    if (!last || last.name !== name) last = { name, at };
  }
  return found;
}
