import { type Bar, beatTicks, type Place, places, timeline, type Tune } from "../score";
import { diatonic, midi, type Pitch } from "../theory";
import { withBars } from "./snaps";

/** A note that may be ghosted without the tune losing anything, by bar and event, and why. */
export type Ghost = { bar: number; event: number; why: string };

/**
 * Notes that are safe to ghost: off the beat, shorter than one, not the first or last of the tune, and either the note
 * before once more, on the way by step, or a step away and back. Two in a row are never both offered.
 */
export function safeGhosts(from: readonly Place[]): Ghost[] {
  const all = timeline(from);
  const found: Ghost[] = [];
  let before = -2;
  all.forEach((t, i) => {
    const [last, next] = [all[i - 1], all[i + 1]];
    const beat = beatTicks(t.place.metre);
    const off = (t.place.offset + t.at - t.place.at) % beat !== 0;
    const [a, b, c] = [last, t, next].map((x) => x?.event.pitches.at(-1));
    const plain = !t.event.tie && !last?.event.tie && !t.event.marks?.includes("accent") && !t.event.tuplet;
    if (!off || !plain || t.event.ticks >= beat || !a || !b || !c || before === i - 1) return;
    const why = whyGhost(a, b, c);
    if (!why) return;
    before = i;
    found.push({ bar: t.place.index, event: t.index, why });
  });
  return found;
}

/** A tune with the notes ghosted that are named, and no others. */
export function withGhosts(tune: Tune, ghosted: (bar: number, event: number) => boolean): Tune {
  const made = places(tune).map(({ bar, index }): [number, Bar] => {
    const events = bar.events.map((event, i) => {
      const { marks = [], ...plain } = event;
      const others = marks.filter((m) => m !== "ghost");
      const now = ghosted(index, i) ? [...others, "ghost" as const] : others;
      return now.length > 0 ? { ...plain, marks: now } : plain;
    });
    return [index, { ...bar, events }];
  });
  return withBars(tune, new Map(made));
}

function whyGhost(a: Pitch, b: Pitch, c: Pitch): string | undefined {
  if (midi(a) === midi(b)) return "it only repeats the note before";
  const [to, from] = [diatonic(b) - diatonic(a), diatonic(c) - diatonic(b)];
  if (Math.abs(to) !== 1 || Math.abs(from) !== 1) return undefined;
  return to === from ? "it passes by step" : "it goes a step away and back";
}
