import { type Place, type Timed, timeline } from "../score";
import { type Choice, choiceName } from "./choice";
import type { HarmonyLock, HarmonyNote } from "./model";
import type { School } from "./school";
import type { Slot } from "./slots";

/**
 * First and last slot of every note of the line. Beats of a drone with the same note in one bar are one long note.
 * Where that would set a fifth or octave beside the next note's as they are counted, from start to start, its last
 * beat is struck anew.
 */
export function groupsOf(
  slots: readonly Slot[],
  path: readonly Choice[],
  held: readonly (HarmonyLock | undefined)[],
): [number, number][] {
  const groups: [number, number][] = [];
  slots.forEach((slot, i) => {
    const last = groups.at(-1);
    const before = slots[i - 1];
    const goesOn =
      before !== undefined &&
      slot.school.pace === "beat" &&
      slot.school === before.school &&
      slot.place === before.place &&
      before.at + before.ticks === slot.at &&
      held[i] === held[i - 1] &&
      choiceName(path[i] as Choice) === choiceName(path[i - 1] as Choice);
    if (goesOn && last) last[1] = i;
    else groups.push([i, i]);
  });
  return groups.flatMap(([from, to], g): [number, number][] => {
    const next = groups[g + 1]?.[0];
    const struck = from < to && next !== undefined && beside(slots, path, from, next);
    return struck
      ? [
          [from, to - 1],
          [to, to],
        ]
      : [[from, to]];
  });
}

/** Whether two notes make the same fifth, octave or unison with the melody as each begins. */
function beside(slots: readonly Slot[], path: readonly Choice[], first: number, second: number): boolean {
  const gap = (i: number) => {
    const [under, choice] = [slots[i]?.unders[0], path[i]];
    return slots[i]?.melody && under && choice?.pitch ? Math.abs(choice.number - under.number) % 12 : undefined;
  };
  const [a, b] = [gap(first), gap(second)];
  return a === b && (a === 0 || a === 7);
}

const rest = (bar: number, event: number, at: number, ticks: number, reason: string): HarmonyNote => ({
  bar,
  event,
  at,
  ticks,
  pitch: null,
  melody: null,
  interval: null,
  chord: null,
  rule: "rest",
  reason,
  locked: false,
  costs: [],
  alternatives: [],
});

/**
 * Rests where the line has no note: the melody's own rests in a bar that goes with it, and every gap in the others,
 * whose notes are then counted through the bar.
 */
export function filled(
  line: readonly HarmonyNote[],
  places: readonly Place[],
  schoolAt: (bar: number) => School,
): HarmonyNote[] {
  const melodyRests = timeline(places).filter((t) => t.event.pitches.length === 0);
  const byBar = places.map((): HarmonyNote[] => []);
  for (const note of line) byBar[note.bar]?.push(note);
  return places.flatMap((place) => {
    const own = byBar[place.index] ?? [];
    if (schoolAt(place.index).pace === "melody") {
      const rests = melodyRests
        .filter((t) => t.place === place)
        .map((t: Timed) => rest(place.index, t.index, t.at, t.event.ticks, "The melody rests."));
      return [...own, ...rests].sort((a, b) => a.at - b.at);
    }
    return gapsFilled(own, place);
  });
}

const WAITS = "The line rests while the melody moves.";
function gapsFilled(own: readonly HarmonyNote[], place: Place): HarmonyNote[] {
  const all: HarmonyNote[] = [];
  let at = place.at;
  for (const note of own) {
    if (note.at > at) all.push(rest(place.index, 0, at, note.at - at, WAITS));
    all.push(note);
    at = note.at + note.ticks;
  }
  const end = place.at + place.ticks;
  if (at < end) all.push(rest(place.index, 0, at, end - at, WAITS));
  return all.map((note, event) => ({ ...note, event }));
}
