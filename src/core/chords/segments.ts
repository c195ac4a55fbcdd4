import { barTicks, beatTicks, type Place, type Timed, timeline } from "../score";
import { midi } from "../theory";
import type { ChordLock, NoteRole } from "./model";

/**
 * A melody note (or the part of it) inside a segment: its pitch class, length in beats, and what it would be outside
 * a chord.
 */
export type Heard = {
  timed: Timed;
  pitchClass: number;
  beats: number;
  outside: Exclude<NoteRole, "root" | "third" | "fifth" | "seventh">;
};

/** The smallest piece that can take a chord of its own: one felt beat. */
export type Segment = {
  place: Place;
  at: number;
  ticks: number;
  /** Place of change when a new chord starts here. */
  start: "bar" | "half" | "beat";
  notes: Heard[];
  phraseEnd: boolean;
};

const topNumber = (timed: Timed) => midi(timed.event.pitches[timed.event.pitches.length - 1] as never);

/** What a note would be if it were foreign to the chord, by how it is approached and left (Piston, Harmony, ch. 8). */
function foreignRole(notes: readonly Timed[], i: number): Heard["outside"] {
  const [before, here, after] = [notes[i - 1], notes[i] as Timed, notes[i + 1]];
  const into = before ? topNumber(here) - topNumber(before) : undefined;
  const out = after ? topNumber(after) - topNumber(here) : undefined;
  const step = (move: number | undefined) => move !== undefined && move !== 0 && Math.abs(move) <= 2;
  if (into === 0 && out !== undefined && out < 0 && out >= -2) return "suspension";
  if (out === 0) return "anticipation";
  if (step(into) && step(out)) return Math.sign(into as number) === Math.sign(out as number) ? "passing" : "neighbour";
  if (step(out)) return "appoggiatura";
  if (step(into)) return "escape";
  return "free";
}

/** Starts and ends of a bar's segments: every beat, and wherever a lock begins or ends. */
function boundaries(place: Place, locks: readonly ChordLock[]): number[] {
  const beat = beatTicks(place.metre);
  const own = locks.filter((l) => l.bar === place.index);
  const beats = place.pickup ? [] : Array.from({ length: Math.ceil(place.ticks / beat) }, (_, i) => i * beat);
  const edges = own.flatMap((l) => [l.at, l.at + l.ticks]).filter((t) => t >= 0 && t < place.ticks);
  return [...new Set([...beats, ...edges])].sort((x, y) => x - y);
}

/**
 * Cuts bars into beats with the melody that sounds in each. Pickups are left bare unless a lock stands there.
 * `phraseEnds` are bar indexes.
 */
export function segments(
  from: readonly Place[],
  phraseEnds: ReadonlySet<number>,
  locks: readonly ChordLock[] = [],
): Segment[] {
  const notes = timeline(from).filter((t) => t.event.pitches.length > 0);
  const roles = notes.map((_, i) => foreignRole(notes, i));
  const cut: Segment[] = [];
  let next = 0;
  for (const place of from) {
    const beat = beatTicks(place.metre);
    const half = barTicks(place.metre) / 2;
    const inside = (at: number) => (at === half ? "half" : "beat");
    const starts = boundaries(place, locks);
    starts.forEach((at, i) => {
      const ticks = (starts[i + 1] ?? place.ticks) - at;
      const [start, end] = [place.at + at, place.at + at + ticks];
      while (next < notes.length && (notes[next] as Timed).at + (notes[next] as Timed).event.ticks <= start) next += 1;
      const heard: Heard[] = [];
      for (let n = next; n < notes.length && (notes[n] as Timed).at < end; n++) {
        const timed = notes[n] as Timed;
        const beats = (Math.min(end, timed.at + timed.event.ticks) - Math.max(start, timed.at)) / beat;
        heard.push({ timed, pitchClass: topNumber(timed) % 12, beats, outside: roles[n] as Heard["outside"] });
      }
      cut.push({
        place,
        at,
        ticks,
        start: at === 0 ? "bar" : inside(at),
        notes: heard,
        phraseEnd: phraseEnds.has(place.index) && at + ticks >= place.ticks,
      });
    });
  }
  return cut;
}
