import {
  beatTicks,
  type Event,
  type Line,
  type Performance,
  type Place,
  type PlayedBar,
  type PlayedNote,
  playingOrder,
  QUARTER,
  type Sheet,
  type Staff,
  strength,
  type Tempo,
  type Tune,
  tempoOf,
} from "../score";
import { midi, signature } from "../theory";
import { type Backing, backed, CHORD_LINE } from "./backing";

/** Loudness by metrical weight: off the beat, beat, half bar, downbeat. */
const VELOCITY = [74, 84, 90, 98];
/** Loudness of every note where it is to be even. */
const EVEN = 90;
/** Share of its length a note sounds before the next begins, tied notes excepted. */
const LENGTH = 0.94;

type Options = {
  straight?: boolean;
  chords?: boolean;
  backing?: Backing;
  /** Where off-beats fall: ticks into the full bar. */
  offBeats?: (place: Place) => readonly number[];
  /** What a staff has in a bar by its order in the playing, where that is not what is written. */
  events?: (staff: Staff, order: number) => readonly Event[];
};

/**
 * A sheet as timed sounds, repeats and endings unfolded: every staff a line, and the chords as their backing.
 * `straight` gives exact written lengths and even loudness, for files that are to be read back.
 */
export function perform(
  tune: Tune,
  sheet: Sheet,
  { straight = false, chords = true, backing = "bass and chord", offBeats, events }: Options = {},
): Performance {
  const bars = played(sheet.places);
  const place = (bar: PlayedBar) => sheet.places[bar.index] as Place;
  const sung = sheet.staves.flatMap((staff) => {
    const own = (order: number) => events?.(staff, order) ?? staff.bars[bars[order]?.index ?? 0] ?? [];
    return staffNotes(staff, bars, sheet.places, straight, own);
  });
  const notes = chords ? [...sung, ...backingNotes(sheet, bars, backing, offBeats)] : sung;
  const lines: Line[] = sheet.staves.map((s) => ({ id: s.id, name: s.name, program: s.program }));
  const last = bars[bars.length - 1];
  return {
    title: sheet.title,
    lines: chords && sheet.chords.length ? [...lines, CHORD_LINE] : lines,
    notes: (straight ? notes : notes.map(withAir)).sort(inOrder),
    bars,
    ticks: last ? last.at + last.ticks : 0,
    metres: withPickup(
      changes(bars, (b) => metreFact(place(b))),
      bars[0] && place(bars[0]),
    ),
    keys: changes(bars, (b) => keyFact(place(b))),
    tempos: temposOf(tune, bars, sheet.places),
  };
}

const withAir = (note: PlayedNote): PlayedNote => ({ ...note, ticks: Math.max(1, Math.round(note.ticks * LENGTH)) });
const inOrder = (a: PlayedNote, b: PlayedNote) =>
  a.at - b.at || a.line.localeCompare(b.line) || a.noteNumber - b.noteNumber;

/** The bars in the order they are played, each with its start. */
function played(places: readonly Place[]): PlayedBar[] {
  let at = 0;
  return playingOrder(places).map((index) => {
    const { ticks, metre } = places[index] as Place;
    const bar = { index, at, ticks, beats: Math.max(1, Math.round(ticks / beatTicks(metre))) };
    at += ticks;
    return bar;
  });
}

/** The notes of a staff. A tied note sounds on, over bar lines and repeats too, where the next note takes it up. */
function staffNotes(
  staff: Staff,
  bars: readonly PlayedBar[],
  places: readonly Place[],
  even: boolean,
  eventsAt: (order: number) => readonly Event[],
): PlayedNote[] {
  const notes: PlayedNote[] = [];
  let open = new Map<number, PlayedNote>();
  const velocity = (place: Place, inBar: number) =>
    even ? EVEN : Math.round((VELOCITY[strength(place, place.at + inBar)] as number) * (staff.loudness ?? 1));
  const sound = (event: Event, bar: PlayedBar, inBar: number) => {
    const tied = new Map<number, PlayedNote>();
    for (const pitch of event.pitches) {
      const noteNumber = midi(pitch);
      const note = open.get(noteNumber) ?? {
        line: staff.id,
        at: bar.at + inBar,
        ticks: 0,
        noteNumber,
        cents: 0,
        velocity: velocity(places[bar.index] as Place, inBar),
      };
      if (note.ticks === 0) notes.push(note);
      note.ticks += event.ticks;
      if (event.tie) tied.set(noteNumber, note);
    }
    open = tied;
  };
  bars.forEach((bar, order) => {
    let inBar = 0;
    for (const event of eventsAt(order)) {
      sound(event, bar, inBar);
      inBar += event.ticks;
    }
  });
  return notes;
}

/** The chords under the tune, the hand moving as little as it can from bar to bar. */
function backingNotes(
  sheet: Sheet,
  bars: readonly PlayedBar[],
  backing: Backing,
  offBeats: Options["offBeats"],
): PlayedNote[] {
  let hand: readonly number[] = [];
  return bars.flatMap((bar) => {
    const place = sheet.places[bar.index] as Place;
    const under = backed(sheet.chords, place, bar.at, backing, hand, offBeats?.(place));
    hand = under.voicing;
    return under.notes;
  });
}

/** The tempos as they are played: a bar that is played again has the tempo it was written under. */
function temposOf(tune: Tune, bars: readonly PlayedBar[], places: readonly Place[]): Performance["tempos"] {
  let written: Tempo = tempoOf(tune);
  const inside = places.map(({ bar }) => {
    const before = written;
    const here = bar.changes.flatMap(({ at, tempo }) => (tempo ? [{ at, ...tempo }] : []));
    const last = here[here.length - 1];
    if (last) written = { beat: last.beat, bpm: last.bpm };
    return here[0]?.at === 0 ? here : [{ at: 0, ...before }, ...here];
  });
  const all = bars.flatMap((bar) => (inside[bar.index] ?? []).map((t) => ({ ...t, at: bar.at + t.at })));
  const same = (a: Tempo | undefined, b: Tempo) => a?.beat === b.beat && a.bpm === b.bpm;
  const heard = all.filter((t, i) => !same(all[i - 1], t));
  return heard.length ? heard : [{ at: 0, ...written }];
}

const metreFact = (place: Place) => ({ beats: place.metre.beats, unit: place.metre.unit });
/** A pickup stands under a short metre of its own, so that bar lines in a file fall where the tune has them. */
function withPickup(metres: Performance["metres"], first: Place | undefined): Performance["metres"] {
  const fits = (unit: number) => Number.isInteger(((first?.ticks ?? 0) * unit) / (4 * QUARTER));
  const unit = first?.pickup ? [4, 8, 16, 32].find(fits) : undefined;
  const [start, ...later] = metres;
  if (!first || !unit || !start) return metres;
  return [{ at: 0, beats: (first.ticks * unit) / (4 * QUARTER), unit }, { ...start, at: first.ticks }, ...later];
}

const keyFact = (place: Place) => ({
  sharps: Math.max(-7, Math.min(7, signature(place.key))),
  minor: ["minor", "dorian", "phrygian", "locrian"].includes(place.key.mode),
});

/** A fact of each played bar, kept where it differs from the bar before. */
function changes<T extends object>(bars: readonly PlayedBar[], fact: (bar: PlayedBar) => T): ({ at: number } & T)[] {
  let last = "";
  return bars.flatMap((bar) => {
    const now = fact(bar);
    const changed = JSON.stringify(now) !== last;
    last = JSON.stringify(now);
    return changed ? [{ at: bar.at, ...now }] : [];
  });
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
