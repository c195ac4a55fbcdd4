import type { ChordPlan } from "../chords";
import { beatTicks, isCompound, type Place, type Timed, timeline } from "../score";
import { type Chord, diatonic, midi, parseChord, type Pitch, semitoneOf } from "../theory";
import type { Scene, School } from "./school";

/** A melody note that sounds during a slot; `strong` where a felt beat falls into their time together. */
export type Under = { pitch: Pitch; number: number; at: number; ticks: number; strong: boolean };

/** A note of the melody as it is spelled, in ticks from the start of the tune. */
export type Spelled = Pick<Pitch, "step" | "alter"> & { at: number; ticks: number };

/**
 * A moment for which a line chooses one note, and all the schools want to know about it. Times in ticks from the start
 * of the tune.
 */
export type Slot = Scene & {
  school: School;
  place: Place;
  /** Order of the melody's event, for lines that go with it. */
  event: number;
  at: number;
  ticks: number;
  /** Melody notes that sound in it, in order. */
  unders: readonly Under[];
  /** All notes of the melody in its bar. */
  around: readonly Spelled[];
  /** An independent line's last note before the next downbeat, and the chord it leads to. */
  leadsTo: Chord | null;
};

/** Joins tied notes; rests come as lists of one with no melody. */
function joined(from: readonly Place[]): Timed[][] {
  const groups: Timed[][] = [];
  for (const timed of timeline(from)) {
    const last = groups[groups.length - 1];
    if (last?.[last.length - 1]?.event.tie && timed.event.pitches.length > 0) last.push(timed);
    else groups.push([timed]);
  }
  return groups;
}

/** The chord in force at each moment of the tune, by a plan. */
export function chordAt(plan: ChordPlan, from: readonly Place[]): (at: number) => Chord | null {
  const spans = plan.chords.map((c) => ({
    at: (from[c.bar] as Place).at + c.at,
    ticks: c.ticks,
    chord: parseChord(c.symbol),
  }));
  return (at) => {
    let [low, high] = [0, spans.length - 1];
    while (low <= high) {
      const middle = (low + high) >> 1;
      const span = spans[middle] as (typeof spans)[number];
      if (at < span.at) high = middle - 1;
      else if (at >= span.at + span.ticks) low = middle + 1;
      else return span.chord;
    }
    return null;
  };
}

/** Every note of a bar's melody, by its spelling. */
function spelledIn(place: Place): Spelled[] {
  let at = place.at;
  return place.bar.events.flatMap(({ pitches, ticks }) => {
    const own = pitches.map(({ step, alter }) => ({ step, alter, at, ticks }));
    at += ticks;
    return own;
  });
}

/** Whether a felt beat falls into a stretch of a bar. */
const holdsBeat = (place: Place, at: number, ticks: number): boolean => {
  const beat = beatTicks(place.metre);
  const into = (((place.offset + at - place.at) % beat) + beat) % beat;
  return into === 0 || into + ticks > beat;
};

type Melody = {
  place: Place;
  event: number;
  at: number;
  ticks: number;
  pitch: Pitch;
  steps: boolean;
  cadence: boolean;
};

const topOf = (pitches: readonly Pitch[]) => pitches.reduce((a, b) => (diatonic(b) > diatonic(a) ? b : a));
const lowestOf = (pitches: readonly Pitch[]) => pitches.reduce((a, b) => (diatonic(b) < diatonic(a) ? b : a));

/** The melody, ties joined; of a double stop the note that lies on the line's side. */
function melodyOf(from: readonly Place[], side: Scene["side"], phraseEnds: ReadonlySet<number>): Melody[] {
  const notes = joined(from).filter((g) => (g[0] as Timed).event.pitches.length > 0);
  const position = (g: Timed[] | undefined) => g && diatonic(topOf((g[0] as Timed).event.pitches));
  return notes.map((group, i) => {
    const { place, at, index, event } = group[0] as Timed;
    const next = notes[i + 1]?.[0];
    const own = position(group) as number;
    return {
      place,
      event: index,
      at,
      ticks: group.reduce((sum, e) => sum + e.event.ticks, 0),
      pitch: (side === "below" ? lowestOf : topOf)(event.pitches),
      steps: [notes[i - 1], notes[i + 1]].some((g) => g && Math.abs((position(g) as number) - own) === 1),
      cadence: phraseEnds.has(place.index) && (next === undefined || next.place.index !== place.index),
    };
  });
}

/** Fewest notes of a figure: one alone says nothing. */
const FIGURE = 2;

/**
 * Where a line's notes start and end, by what its school goes with. Independent lines stay inside their bar, and so
 * does a tied note where the next bar is one (`goesOn` false). The
 * bar that `ends` the tune leads nowhere.
 */
function spans(
  pace: School["pace"],
  goesOn: boolean,
  closing: boolean,
  ends: boolean,
  melody: readonly Melody[],
  plan: ChordPlan,
  place: Place,
): { at: number; ticks: number; event: number }[] {
  const beat = beatTicks(place.metre);
  const end = place.at + place.ticks;
  const beats = (from: number, unit: number) =>
    Array.from({ length: Math.max(0, Math.ceil((end - from) / unit)) }, (_, i) => ({
      at: from + i * unit,
      ticks: Math.min(unit, end - from - i * unit),
      event: i,
    }));
  const byPace: Record<School["pace"], () => ReturnType<typeof spans>> = {
    melody: () =>
      melody
        .filter((m) => m.place === place)
        .map((m) => ({ at: m.at, ticks: goesOn ? m.ticks : Math.min(m.ticks, end - m.at), event: m.event })),
    chord: () =>
      plan.chords
        .filter((c) => c.bar === place.index)
        .map((c, i) => ({ at: place.at + c.at, ticks: c.ticks, event: i })),
    // A pickup's first beat is not a whole one.
    beat: () => {
      const first = place.offset % beat === 0 ? 0 : beat - (place.offset % beat);
      return [
        ...(first && first < place.ticks ? [{ at: place.at, ticks: first, event: 0 }] : []),
        ...beats(place.at + (first < place.ticks ? first : 0), beat),
      ];
    },
    // Where the melody holds or rests up to the bar line, or to a lead-in that starts on a beat: it waits for a beat,
    // of a compound one for its first third; then two small notes or more lead on.
    held: () => {
      const unit = isCompound(place.metre) ? beat / 3 : beat / 2;
      const isLeadIn = (m: Melody) => closing && m.at > place.at && (m.at - place.at + place.offset) % beat === 0;
      const heard = melody.filter((m) => m.at < end && m.at + m.ticks > place.at);
      const gaps = [place.at, ...heard.map((m) => m.at + m.ticks)].map((from, i) => ({
        from: heard[i - 1]?.at ?? from,
        to: heard[i]?.at ?? end,
      }));
      const open = gaps.findLast(({ to }, i) => to >= end || isLeadIn(heard[i] as Melody));
      if (!open || ends) return [];
      const from = Math.max(place.at, open.from);
      const to = Math.min(end, open.to);
      const started = open.from;
      const ready = Math.max(from, started + (isCompound(place.metre) ? unit : beat));
      const first = place.at - place.offset + Math.ceil((ready - place.at + place.offset) / unit) * unit;
      const many = Math.floor((to - first) / unit);
      if (many < FIGURE) return [];
      return Array.from({ length: many }, (_, k) => ({ at: first + k * unit, ticks: unit, event: k }));
    },
  };
  return byPace[pace]();
}

/** Every slot of a line, in time order. `schoolAt` gives each bar's school. */
export function slotsOf(
  from: readonly Place[],
  plan: ChordPlan,
  side: Scene["side"],
  phraseEnds: ReadonlySet<number>,
  schoolAt: (bar: number) => School,
): Slot[] {
  const chords = chordAt(plan, from);
  const melody = melodyOf(from, side, phraseEnds);
  let first = 0;
  const made: Slot[] = [];
  for (const place of from) {
    const school = schoolAt(place.index);
    const around = spelledIn(place);
    const tonic = semitoneOf(place.key.tonic);
    while (first < melody.length && (melody[first] as Melody).at + (melody[first] as Melody).ticks <= place.at)
      first += 1;
    const near = melody.slice(first, melody.findLastIndex((m) => m.at < place.at + place.ticks) + 1);
    const last = made[made.length - 1];
    for (const span of spans(
      school.pace,
      schoolAt(place.index + 1).pace === "melody",
      phraseEnds.has(place.index),
      place === from[from.length - 1] && !place.bar.repeatEnd,
      near,
      plan,
      place,
    )) {
      // A tied melody note of a line that goes with it may reach into this bar.
      const at = Math.max(span.at, last && last.at + last.ticks > span.at ? last.at + last.ticks : span.at);
      const ticks = span.at + span.ticks - at;
      if (ticks <= 0) continue;
      const unders = near
        .filter((m) => m.at < at + ticks && m.at + m.ticks > at)
        .map((m): Under => {
          const [start, end] = [Math.max(at, m.at), Math.min(at + ticks, m.at + m.ticks)];
          return {
            pitch: m.pitch,
            number: midi(m.pitch),
            at: m.at,
            ticks: m.ticks,
            strong: holdsBeat(place, start, end - start),
          };
        });
      const own =
        near.find((m) => m.at === span.at && school.pace === "melody") ??
        near.find((m) => m.at <= at && m.at + m.ticks > at);
      const beat = beatTicks(place.metre);
      made.push({
        school,
        place,
        event: span.event,
        at,
        ticks,
        unders,
        around,
        leadsTo: at + ticks === place.at + place.ticks ? chords(at + ticks) : null,
        side,
        key: place.key,
        melody: own?.pitch ?? null,
        leading: own !== undefined && (tonic - midi(own.pitch) + 120) % 12 === 1,
        chord: chords(at) ?? (school.pace === "melody" ? null : chords(place.at)),
        weighty: holdsBeat(place, at, ticks) || ticks * 2 > beat || !own?.steps,
        cadence:
          school.pace === "melody"
            ? own?.cadence === true
            : phraseEnds.has(place.index) && at + ticks >= place.at + place.ticks - beat,
        closing: phraseEnds.has(place.index),
        start: at === place.at,
      });
    }
  }
  return made;
}
