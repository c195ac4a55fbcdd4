import type { Instrument } from "../instruments";
import type { Bar, Tune } from "../score";
import {
  diatonic,
  fifthsOf,
  fifthsName,
  type Key,
  midi,
  naturalAt,
  parseChord,
  parseClass,
  type Pitch,
  semitoneOf,
  stepIndex,
} from "../theory";

/** A move of every note: steps of the staff and semitones, up positive. */
export type Move = { steps: number; semitones: number };

/**
 * A pitch moved, its spelling kept in step with the move. Alterations past three signs are respelled by the
 * neighbouring step.
 */
export function movePitch(pitch: Pitch, { steps, semitones }: Move): Pitch {
  for (const nudge of [0, 1, -1]) {
    const natural = naturalAt(diatonic(pitch) + steps + nudge);
    const alter = midi(pitch) + semitones - midi(natural);
    if (Math.abs(alter) <= 2 && natural.octave >= -2 && natural.octave <= 11) return { ...natural, alter };
  }
  return pitch;
}

const moveName = (name: string, { steps, semitones }: Move): string => {
  const { step, alter } = parseClass(name);
  const moved = movePitch({ step, alter, octave: 4 }, { steps, semitones });
  return moved.step + (moved.alter < 0 ? "b".repeat(-moved.alter) : "#".repeat(moved.alter));
};

/** The nearest move that brings one tonic to another; `up` or `down` asks for a direction. */
export function moveBetween(from: string, to: string, way: "nearest" | "up" | "down" = "nearest"): Move {
  const semitones = (semitoneOf(to) - semitoneOf(from) + 12) % 12;
  const letters = (stepIndex(parseClass(to).step) - stepIndex(parseClass(from).step) + 7) % 7;
  // B to B flat is no step down a semitone, or seven steps up eleven: the letters alone do not say which octave is
  // meant.
  const steps = [letters - 7, letters, letters + 7].reduce((best, s) =>
    Math.abs(s - (semitones * 7) / 12) < Math.abs(best - (semitones * 7) / 12) ? s : best,
  );
  const up = { steps, semitones };
  if (way === "up" || (way === "nearest" && up.semitones <= 6)) return up;
  return up.semitones === 0 && up.steps === 0 ? up : { steps: up.steps - 7, semitones: up.semitones - 12 };
}

const moveKey = (key: Key, move: Move): Key => {
  const tonic = moveName(key.tonic, move);
  if (!key.extra) return { ...key, tonic };
  // Steps the signature bends on their own are bent again where they come to lie.
  const extra = Object.fromEntries(
    Object.entries(key.extra).map(([step, alter]) => {
      const p = movePitch({ step: step as Pitch["step"], alter: alter as number, octave: 4 }, move);
      return [p.step, Math.max(-2, Math.min(2, p.alter))];
    }),
  );
  return { tonic, mode: key.mode, extra };
};

/** A tune moved as a whole: notes, grace notes, keys and printed chords. */
export function transpose(tune: Tune, move: Move): Tune {
  const bar = (b: Bar): Bar => ({
    ...b,
    events: b.events.map((e) => ({
      ...e,
      pitches: e.pitches.map((p) => movePitch(p, move)),
      ...(e.grace ? { grace: e.grace.map((g) => ({ ...g, pitches: g.pitches.map((p) => movePitch(p, move)) })) } : {}),
    })),
    chords: b.chords.map((c) => ({ ...c, symbol: moveChord(c.symbol, move) })),
    changes: b.changes.map((c) => (c.key ? { ...c, key: moveKey(c.key, move) } : c)),
  });
  return { ...tune, key: moveKey(tune.key, move), strains: tune.strains.map((s) => ({ ...s, bars: s.bars.map(bar) })) };
}

/** A chord symbol moved; text that is no chord stays. */
export function moveChord(symbol: string, move: Move): string {
  const chord = parseChord(symbol);
  return chord
    ? moveName(chord.root, move) + chord.suffix + (chord.bass ? `/${moveName(chord.bass, move)}` : "")
    : symbol;
}

/**
 * The move that lays the same fingers one string over (to a higher or lower one), as instruments in fifths allow.
 * Undefined where strings are uneven.
 */
export function stringMove(on: Instrument, way: "up" | "down"): Move | undefined {
  const open = on.strings.map((s) => s.open);
  const gaps = open.slice(1).map((p, i) => midi(p) - midi(open[i] as Pitch));
  const [gap] = gaps;
  if (gap === undefined || gap <= 0 || gaps.some((g) => g !== gap)) return undefined;
  const steps = diatonic(open[1] as Pitch) - diatonic(open[0] as Pitch);
  return way === "up" ? { steps, semitones: gap } : { steps: -steps, semitones: -gap };
}

/**
 * Tonics offered for a key's mode, nearest in the circle of fifths first. `tonics("D") // => ["D", "A", "G", "E", "C",
 * ...]`
 */
export const tonics = (from: string): string[] =>
  Array.from({ length: 12 }, (_, i) => fifthsName(i - 5)).sort(
    (a, b) => Math.abs(fifthsOf(a) - fifthsOf(from)) - Math.abs(fifthsOf(b) - fifthsOf(from)),
  );
