import type { ChordPlan } from "../chords";
import { firstPosition, type Instrument, type Placement } from "../instruments";
import { type Event, type Mark, type Place, rest } from "../score";
import { solved } from "../search";
import { chord, chordNoteName, midi, parseClass, type Pitch } from "../theory";

/** A note under the hand: the pitch and where it lies. */
type Held = { pitch: Pitch; placement: Placement };

/**
 * Points for what a beginner must do. Open strings are free, the first finger is nearly so, later fingers only where
 * nothing else fits.
 */
const FINGER = [0, 0.35, 4, 6, 9];
const LOW_FIRST = 1.2;
const CHORD_NOTE: Record<string, number> = { root: 0, fifth: 0.25, third: 0.45 };
const OTHER_NOTE = 1.5;
const CROSSING = 0.3;
const JUMP = 0.9;
/** A new note for less than half a bar: too quick, where the chords have a note in common. */
const HURRY = 1.6;

/** Every chord note that lies in first position. */
function reachable(symbol: string, on: Instrument): Held[] {
  const tones = chord(symbol).tones.map(parseClass);
  return [2, 3, 4, 5, 6]
    .flatMap((octave) => tones.map((t): Pitch => ({ ...t, alter: t.alter, octave })))
    .flatMap((pitch) => {
      const placement =
        midi(pitch) >= midi(on.lowest) && midi(pitch) <= midi(on.highest) ? firstPosition(on, midi(pitch)) : undefined;
      return placement ? [{ pitch, placement }] : [];
    });
}

/**
 * One long note per chord, a note that two chords of a bar have in common held through both, open strings or first
 * finger wherever the chord has one; the path that crosses fewest strings.
 * Gives one event list per bar, chords' lengths filled exactly, rests where no chord is set.
 */
export function firstSounds(places: readonly Place[], plan: ChordPlan, on: Instrument): Event[][] {
  const states = plan.chords.map((c) => reachable(c.symbol, on));
  const { path } = solved<Held>({
    states,
    local: [
      {
        name: "finger",
        at: (_, s) =>
          (FINGER[s.placement.finger] as number) + (s.placement.finger === 1 && s.placement.low ? LOW_FIRST : 0),
      },
      {
        name: "chord note",
        at: (i, s) =>
          CHORD_NOTE[chordNoteName(chord(plan.chords[i]?.symbol as string), midi(s.pitch)) ?? ""] ?? OTHER_NOTE,
      },
    ],
    moves: [
      { name: "string crossing", into: (_, a, b) => crossing(Math.abs(a.placement.string - b.placement.string)) },
      { name: "hurry", into: (i, a, b) => (midi(a.pitch) !== midi(b.pitch) && hurried(places, plan, i) ? HURRY : 0) },
    ],
  });
  return places.map((place) => {
    const events: Event[] = [];
    let at = 0;
    plan.chords.forEach((c, i) => {
      if (c.bar !== place.index) return;
      if (c.at > at) events.push(rest(c.at - at));
      const { pitch, placement } = path[i] as Held;
      const last = events[events.length - 1];
      if (c.at === at && last?.pitches[0] && midi(last.pitches[0]) === midi(pitch)) last.ticks += c.ticks;
      else
        events.push({
          ticks: c.ticks,
          pitches: [pitch],
          marks: [placement.finger === 0 ? "open" : (`finger ${placement.finger}` as Mark)],
        });
      at = c.at + c.ticks;
    });
    if (at < place.ticks) events.push(rest(place.ticks - at));
    return events;
  });
}

/** Whether a chord and the one before it share a bar, and one of them lasts less than half of it. */
function hurried(places: readonly Place[], plan: ChordPlan, i: number): boolean {
  const [before, here] = [plan.chords[i - 1], plan.chords[i]];
  return (
    before?.bar === here?.bar &&
    Math.min(before?.ticks ?? 0, here?.ticks ?? 0) * 2 < (places[here?.bar ?? 0]?.ticks ?? 0)
  );
}

const crossing = (strings: number) => (strings === 0 ? 0 : CROSSING * strings + (strings > 1 ? JUMP : 0));
