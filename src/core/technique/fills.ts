import { type Level, LEVELS } from "../instruments";
import { beatTicks, isCompound, QUARTER } from "../score";
import type { Board } from "./board";
import type { Grip } from "./grips";
import type { ArrangedStroke, Moment } from "./moments";

/** A fill comes a beat after a note held longer than a beat and a half, and stops half a beat before the next. */
const HELD = 1.5;
const AFTER = 1;
const BEFORE = 0.5;
const MOST = 4;
/** The level from which fills are played. */
const FROM: Level = "Fluent";

/** Small strokes on the strings under a held melody note, one string at a time; the melody finger stays down. */
export function fillsUnder({ strings }: Board, { note }: Moment, { notes }: Grip, level: Level): ArrangedStroke[] {
  const beat = isCompound(note.place.metre) ? beatTicks(note.place.metre) : QUARTER;
  const under = notes.slice(1);
  if (LEVELS.indexOf(level) < LEVELS.indexOf(FROM) || note.ticks <= HELD * beat || under.length === 0) return [];
  const room = note.ticks - (AFTER + BEFORE) * beat;
  const running = isCompound(note.place.metre) ? beat / 3 : beat / 2;
  // Two strokes make a fill: where there is no room for two, they go twice as quick.
  const step = room >= 2 * running ? running : running / 2;
  const count = Math.min(MOST, Math.floor(room / step));
  if (count < 2) return [];
  return Array.from({ length: count }, (_, i): ArrangedStroke => {
    const own = under[(under.length - 1 - (i % under.length) + under.length) % under.length] as (typeof under)[number];
    return {
      place: note.place,
      at: note.at + AFTER * beat + i * step,
      ticks: step,
      notes: [
        {
          string: strings[own.string]?.number ?? 0,
          fret: own.stop.label,
          finger: own.finger,
          noteNumber: own.noteNumber,
          role: "fill",
        },
      ],
      hold: [...new Set(notes.filter((n) => n.finger > 0).map((n) => n.finger))].sort(),
      move: null,
      reason: "A small figure on the strings below, while the melody holds.",
      locked: false,
      alternatives: [],
    };
  });
}
