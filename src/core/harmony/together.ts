import type { ChordPlan } from "../chords";
import { beatTicks, type Event, type Place, rest } from "../score";
import { midi, parseChord, parseClass, type Pitch } from "../theory";

/** One voice of several: a name and its bars. */
export type Voice = { name: string; bars: readonly (readonly Event[])[] };
const FAULTS = ["semitone", "tritone", "running fifths", "running octaves"] as const;
/** Something two voices do to each other in a bar (index). */
export type Fault = { bar: number; voices: [string, string]; what: (typeof FAULTS)[number] };

type Sounding = { at: number; end: number; number: number };

/** Notes of a voice in time order, ties joined; of a double stop the lowest or the highest. */
function soundings({ bars }: Voice, places: readonly Place[]): Sounding[] {
  const notes: Sounding[] = [];
  let tied = false;
  places.forEach((place) => {
    let at = place.at;
    for (const event of bars[place.index] ?? []) {
      const last = notes[notes.length - 1];
      const number = event.pitches.length ? Math.max(...event.pitches.map(midi)) : -1;
      if (tied && last && number === last.number) last.end = at + event.ticks;
      else if (number >= 0) notes.push({ at, end: at + event.ticks, number });
      tied = event.tie === true;
      at += event.ticks;
    }
  });
  return notes;
}

/**
 * Checks every pair of voices against each other: semitones (and ninths, sevenths) and tritones on felt beats, fifths
 * and octaves that run where both voices move at once.
 * Pairs in `octaves` are meant to run in octaves. In time order, each fault once a bar.
 */
export function together(voices: readonly Voice[], places: readonly Place[], octaves: readonly string[] = []): Fault[] {
  const heard = voices.map((v) => soundings(v, places));
  const faults = new Map<string, Fault>();
  for (const [i, a] of voices.entries())
    for (const [k, b] of voices.slice(i + 1).entries()) {
      const [first, second] = [heard[i] as Sounding[], heard[i + 1 + k] as Sounding[]];
      const say = (bar: number, what: Fault["what"]) =>
        void faults.set(`${bar} ${a.name} ${b.name} ${what}`, { bar, voices: [a.name, b.name], what });
      const at = (list: readonly Sounding[], t: number) => list.find((s) => s.at <= t && t < s.end);
      for (const place of places) {
        const beat = beatTicks(place.metre);
        for (let t = place.at + ((beat - (place.offset % beat)) % beat); t < place.at + place.ticks; t += beat) {
          const [x, y] = [at(first, t), at(second, t)];
          const gap = x && y ? Math.abs(x.number - y.number) % 12 : -1;
          if (gap === 1 || gap === 11) say(place.index, "semitone");
          if (gap === 6) say(place.index, "tritone");
        }
      }
      for (const note of first) {
        const [x, y] = [first[first.indexOf(note) - 1], second.findIndex((s) => s.at === note.at)];
        const [before, now] = [second[y - 1], second[y]];
        if (
          !x ||
          !before ||
          !now ||
          x.end !== note.at ||
          before.end !== note.at ||
          x.number === note.number ||
          before.number === now.number
        )
          continue;
        const [was, is] = [Math.abs(x.number - before.number) % 12, Math.abs(note.number - now.number) % 12];
        const bar = places.findLast((p) => p.at <= note.at)?.index ?? 0;
        if (was === is && is === 7) say(bar, "running fifths");
        if (was === is && is === 0 && !octaves.includes(b.name) && !octaves.includes(a.name))
          say(bar, "running octaves");
      }
    }
  return [...faults.values()].sort((x, y) => x.bar - y.bar);
}

const LOWEST_ROOT = 40;

/** The root of a chord, or its slashed bass, in the octave from E2; nothing for text that is no chord. */
function lowRoot(symbol: string): Pitch[] {
  const chord = parseChord(symbol);
  const own = chord && parseClass(chord.bass ?? chord.root);
  return own
    ? [1, 2, 3]
        .map((octave) => ({ ...own, octave }))
        .filter((p) => midi(p) >= LOWEST_ROOT)
        .slice(0, 1)
    : [];
}

/**
 * The roots of a plan as a bass voice, each as long as its chord, in the octave from E2; rests where no chord stands.
 */
export function rootBass({ chords }: ChordPlan, places: readonly Place[]): Voice {
  return {
    name: "bass",
    bars: places.map((place) => {
      const events: Event[] = [];
      let at = 0;
      for (const c of chords.filter((c) => c.bar === place.index)) {
        if (c.at > at) events.push(rest(c.at - at));
        events.push({ ticks: c.ticks, pitches: lowRoot(c.symbol) });
        at = c.at + c.ticks;
      }
      if (at < place.ticks) events.push(rest(place.ticks - at));
      return events;
    }),
  };
}
