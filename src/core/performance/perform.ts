import { type Backing, backed, CHORD_LINE } from "./backing";
import {
  beatTicks,
  type Line,
  type Performance,
  type Place,
  playingOrder,
  QUARTER,
  type Sheet,
  type PlayedNote,
  strength,
  tempoOf,
  type Tune,
} from "../score";
import { midi, signature } from "../theory";

/** Loudness by metrical weight: off the beat, beat, half bar, downbeat. */
const VELOCITY = [74, 84, 90, 98];
/** Share of its length a note sounds before the next begins, tied notes excepted. */
const LENGTH = 0.94;

/**
 * A sheet as timed sounds, repeats and endings unfolded: every staff a line, and the chords as their backing.
 * `straight` gives exact written lengths and even loudness, for files that are to be read back.
 */
export function perform(
  tune: Tune,
  sheet: Sheet,
  { straight = false, chords = true, backing = "bass and chord" as Backing } = {},
): Performance {
  const order = playingOrder(sheet.places);
  const notes: PlayedNote[] = [];
  const bars: Performance["bars"][number][] = [];
  let at = 0;
  let hand: readonly number[] = [];
  const held = new Map<string, Map<number, PlayedNote>>();
  for (const index of order) {
    const place = sheet.places[index] as Place;
    bars.push({ index, at, ticks: place.ticks, beats: Math.max(1, Math.round(place.ticks / beatTicks(place.metre))) });
    for (const staff of sheet.staves) {
      let inBar = 0;
      let open = held.get(staff.id) ?? new Map<number, PlayedNote>();
      for (const event of staff.bars[index] ?? []) {
        const next = new Map<number, PlayedNote>();
        for (const pitch of event.pitches) {
          const noteNumber = midi(pitch);
          const going = open.get(noteNumber);
          const note: PlayedNote = going ?? {
            line: staff.id,
            at: at + inBar,
            ticks: 0,
            noteNumber,
            cents: 0,
            velocity: straight
              ? 90
              : Math.round((VELOCITY[strength(place, place.at + inBar)] as number) * (staff.loudness ?? 1)),
          };
          note.ticks += event.ticks;
          if (!going) notes.push(note);
          if (event.tie) next.set(noteNumber, note);
        }
        open = next;
        inBar += event.ticks;
      }
      held.set(staff.id, open);
    }
    if (chords) {
      const under = backed(sheet.chords, place, at, backing, hand);
      notes.push(...under.notes);
      hand = under.voicing;
    }
    at += place.ticks;
  }
  if (!straight) for (const s of notes) s.ticks = Math.max(1, Math.round(s.ticks * LENGTH));
  const lines: Line[] = [
    ...sheet.staves.map((s) => ({ id: s.id, name: s.name, program: s.program })),
    ...(chords && sheet.chords.length ? [CHORD_LINE] : []),
  ];
  return {
    title: sheet.title,
    lines,
    notes: notes.sort((a, b) => a.at - b.at || a.line.localeCompare(b.line) || a.noteNumber - b.noteNumber),
    bars,
    ticks: at,
    metres: withPickup(
      changes(bars, (b) => metreFact(sheet.places[b.index] as Place)),
      sheet.places[order[0] ?? 0],
    ),
    keys: changes(bars, (b) => keyFact(sheet.places[b.index] as Place)),
    tempos: [{ at: 0, ...tempoOf(tune) }],
  };
}

const metreFact = (place: Place) => ({ beats: place.metre.beats, unit: place.metre.unit });
/** A pickup stands under a short metre of its own, so that bar lines in a file fall where the tune has them. */
function withPickup(metres: Performance["metres"], first: Place | undefined): Performance["metres"] {
  const unit = first?.pickup
    ? [4, 8, 16, 32].find((u) => Number.isInteger((first.ticks * u) / (4 * QUARTER)))
    : undefined;
  const [start, ...later] = metres;
  if (!first || !unit || !start) return metres;
  return [{ at: 0, beats: (first.ticks * unit) / (4 * QUARTER), unit }, { ...start, at: first.ticks }, ...later];
}

const keyFact = (place: Place) => ({
  sharps: Math.max(-7, Math.min(7, signature(place.key))),
  minor: ["minor", "dorian", "phrygian", "locrian"].includes(place.key.mode),
});

/** A fact of each played bar, kept where it differs from the bar before. */
function changes<T extends object>(
  bars: readonly { at: number; index: number }[],
  fact: (bar: { at: number; index: number }) => T,
): ({ at: number } & T)[] {
  const found: ({ at: number } & T)[] = [];
  let last = "";
  for (const bar of bars) {
    const now = fact(bar);
    if (JSON.stringify(now) !== last) found.push({ at: bar.at, ...now });
    last = JSON.stringify(now);
  }
  return found;
}

/**
 * Clicks that count in: so many full bars of felt beats before the first bar, with the pickup's missing beats counted.
 * Negative times.
 */
export function countIn(from: readonly Place[], firstBar: number, bars = 2): { at: number; strong: boolean }[] {
  const place = from[firstBar];
  if (!place) return [];
  const beat = beatTicks(place.metre);
  const full = place.offset + place.ticks > 0 ? Math.max(place.offset + place.ticks, beat) : beat;
  const perBar = Math.max(1, Math.round(full / beat));
  const total = bars * perBar + Math.floor(place.offset / beat);
  const start = -(bars * full + place.offset);
  return Array.from({ length: total }, (_, i) => ({ at: start + i * beat, strong: i % perBar === 0 }));
}
