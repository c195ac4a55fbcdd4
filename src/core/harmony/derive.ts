import type { ChordPlan } from "../chords";
import { FIDDLE, type Instrument } from "../instruments";
import { type Place, type Timed, timeline } from "../score";
import { type LocalCost, type MoveCost, solve } from "../search";
import { degreeOf, diatonic, intervalName, intervalNumber, midi, type Pitch, pitchName } from "../theory";
import { type Choice, choices, holds, plainThird, REST } from "./choices";
import { clashOf } from "./clash";
import type { HarmonyLine, HarmonyLock, HarmonyNote, Side } from "./model";
import { CHORD_FIT, type School } from "./schools";
import { type Slot, slotsOf } from "./slots";

const REST_COST = 9;
const CHROMATIC = 0.3;

export type HarmonyRequest = {
  places: readonly Place[];
  plan: ChordPlan;
  phraseEnds: ReadonlySet<number>;
  school?: School;
  side?: Side;
  instrument?: Instrument;
  /** Bars (indexes) that follow another school. */
  bars?: ReadonlyMap<number, School>;
  /** Notes the teacher has settled; the others are planned around them. */
  locks?: readonly HarmonyLock[];
};

/**
 * A second line to the tune by one school, or by several from bar to bar: the cheapest path over its notes.
 * Holds always, but for what the teacher has locked: every note in the instrument's range; in the key, or in the chord
 * when that asks for another note; never across the
 * melody; no semitone or tritone against it on a beat; no two fifths, octaves or unisons running, but for octaves in
 * the school that wants them. Where nothing keeps all of that, a rest.
 */
export function deriveHarmony({
  places,
  plan,
  phraseEnds,
  school = CHORD_FIT,
  side = "below",
  instrument = FIDDLE,
  bars = new Map(),
  locks = [],
}: HarmonyRequest): HarmonyLine {
  const slots = slotsOf(places, plan, side, phraseEnds, (bar) => bars.get(bar) ?? school);
  const lockOf = (slot: Slot) => locks.find((l) => l.bar === slot.place.index && l.at === slot.at - slot.place.at);
  const open = slots.map((slot) => choices(slot, instrument));
  const states = slots.map((slot, i) => {
    const lock = lockOf(slot);
    return lock ? [settled(lock.pitch, slot, open[i] as Choice[])] : [...(open[i] as Choice[]), REST];
  });
  const free = (i: number) => states[i]?.length !== 1 || states[i]?.[0] === REST;
  const local: LocalCost<Choice>[] = [
    {
      name: "the note",
      at: (i, s) => (s.pitch ? (free(i) ? (slots[i] as Slot).school.cost(s, slots[i] as Slot) : 0) : REST_COST),
    },
    { name: "note outside the key", at: (_, s) => (s.chromatic ? CHROMATIC : 0) },
  ];
  const moves: MoveCost<Choice>[] = [
    {
      name: "running fifths or octaves",
      into: (i, a, b) =>
        runs(slots[i - 1] as Slot, a, slots[i] as Slot, b)
          ? free(i) || free(i - 1)
            ? Number.POSITIVE_INFINITY
            : 0
          : 0,
    },
    { name: "the line", into: (i, a, b) => moved(slots[i - 1] as Slot, a, slots[i] as Slot, b) },
  ];
  const { path, marginals } = solve({ states, local, moves });
  const played = path.map((choice, i): HarmonyNote => {
    const slot = slots[i] as Slot;
    const note = described(slot, choice, instrument, open[i] as Choice[], lockOf(slot) !== undefined);
    const others = (states[i] as Choice[]).map((s, k) => ({
      pitch: s.pitch,
      interval: s.pitch && s.interval ? s.interval : null,
      cost: marginals[i]?.[k] as number,
    }));
    const figure = figureOf(path, slots, i);
    return {
      ...note,
      ...(figure ? { figure, reason: `${note.reason} Outside the chord it is ${FIGURES[figure]}.` } : {}),
      alternatives: others
        .filter((o) => Number.isFinite(o.cost) && name(o.pitch) !== name(choice.pitch))
        .sort((a, b) => a.cost - b.cost)
        .slice(0, 6),
    };
  });
  const notes = filled(merged(played, slots), places, (bar) => bars.get(bar) ?? school);
  const clashes = clashOf(slots, path, places);
  return {
    school: school.name,
    side,
    instrument: instrument.name,
    notes,
    own: places.map((p) => (bars.get(p.index) ?? school).pace !== "melody"),
    clashes,
    clash: clashes.length ? Math.round((10 * clashes.reduce((a, b) => a + b, 0)) / clashes.length) / 10 : 0,
  };
}

const name = (pitch: Pitch | null) => (pitch ? pitchName(pitch) : "rest");

/** A locked note as a choice, whether or not the search would have offered it. */
function settled(pitch: Pitch | null, { melody, chord }: Slot, open: readonly Choice[]): Choice {
  if (!pitch) return { ...REST };
  return (
    open.find((c) => name(c.pitch) === name(pitch)) ?? {
      ...REST,
      pitch,
      sound: midi(pitch),
      place: diatonic(pitch),
      interval: melody ? intervalNumber(pitch, melody) : 0,
      fits: holds(chord, pitch),
    }
  );
}

/**
 * Whether two voices go from one fifth, octave or unison to another of the same kind: counted from note start to note
 * start, and where one note hands over to the next.
 */
function runs(before: Slot, a: Choice, after: Slot, b: Choice): boolean {
  if (!a.pitch || !b.pitch) return false;
  const [first, next] = [before.unders[0], after.unders[0]];
  const last = before.unders[before.unders.length - 1];
  const kind = (line: number, melody: number) => {
    const gap = Math.abs(line - melody) % 12;
    return gap === 0 || gap === 7 ? gap : -1;
  };
  const allowed = (gap: number) =>
    gap < 0 || (gap === 0 && before.school.octaves === true && after.school.octaves === true);
  return [first, last].some((from) => {
    if (!from || !next) return false;
    const gap = kind(a.sound, from.sound);
    // Over a held note of an independent line the melody may leap from octave to octave.
    const moves =
      after.school.pace === "melody"
        ? a.sound !== b.sound || from.sound !== next.sound
        : a.sound !== b.sound && from.sound !== next.sound;
    return !allowed(gap) && gap === kind(b.sound, next.sound) && moves;
  });
}

/** Points for going on, by the school of the later note. */
function moved(before: Slot, a: Choice, after: Slot, b: Choice): number {
  if (!a.pitch || !b.pitch) return a.pitch === b.pitch ? 0 : 0.4;
  const [from, to] = [before.melody, after.melody];
  const melody = from && to ? diatonic(to) - diatonic(from) : 0;
  return after.school.move({
    own: b.place - a.place,
    melody,
    same: a.interval === b.interval,
    weighty: after.weighty,
    near: Math.abs(melody) <= 1,
    closing: after.closing,
    repeated: a.sound === b.sound,
  });
}

/** What a note outside the chord does in the line, by how it is reached and left (Piston, Harmony, ch. 8). */
function figureOf(path: readonly Choice[], slots: readonly Slot[], i: number): HarmonyNote["figure"] {
  const [here, slot] = [path[i] as Choice, slots[i] as Slot];
  if (!here.pitch || here.fits || !slot.chord) return undefined;
  const by = (other: Choice | undefined, sign: number) =>
    other?.pitch ? sign * (other.place - here.place) : undefined;
  const [into, out] = [by(path[i - 1], -1), by(path[i + 1], 1)];
  const step = (move: number | undefined) => move === 1 || move === -1;
  if (into === 0 && out === -1) return "suspension";
  if (out === 0) return "anticipation";
  if (step(into) && step(out)) return into === out ? "passing" : "neighbour";
  if (step(out)) return "appoggiatura";
  return step(into) ? "escape" : "free";
}

const FIGURES: Record<NonNullable<HarmonyNote["figure"]>, string> = {
  passing: "passing",
  neighbour: "a neighbour note",
  suspension: "suspended",
  appoggiatura: "leaning in",
  anticipation: "early",
  escape: "escaping",
  free: "free, moving with the melody",
};

function described(slot: Slot, choice: Choice, on: Instrument, open: readonly Choice[], locked: boolean): HarmonyNote {
  const { place, chord, melody, side } = slot;
  const base = {
    bar: place.index,
    event: slot.event,
    at: slot.at,
    ticks: slot.ticks,
    melody,
    chord: chord?.symbol ?? null,
    locked,
    alternatives: [],
  };
  if (!choice.pitch) {
    const words = locked
      ? "you chose one here"
      : open.length > 0
        ? "every note in reach would run in fifths or octaves with the melody, or leave the school’s chord"
        : `no note ${side} the melody lies in the range of the ${on.name} without a clash`;
    return { ...base, pitch: null, interval: null, rule: "rest", reason: `A rest: ${words}.` };
  }
  const { rule, words } = locked
    ? { rule: "yours", words: "you chose it; the notes around it are planned to suit" }
    : slot.school.because(choice, slot);
  const foreign = choice.chromatic
    ? ` ${pitchName(choice.pitch).slice(0, -1)} is outside the key; the chord of ${chord?.symbol} asks for it.`
    : "";
  const plain =
    melody && choice.interval !== 3 && slot.school.pace === "melody" ? ` ${whyNotThird(slot, melody, on)}` : "";
  const title =
    choice.interval === 0
      ? "While the melody rests"
      : choice.interval === 1
        ? "The same note as the melody"
        : `A ${intervalName(choice.interval)} ${side}`;
  return {
    ...base,
    pitch: choice.pitch,
    interval: choice.interval || null,
    rule,
    reason: `${title}: ${words}.${foreign}${plain}`,
  };
}

function whyNotThird(slot: Slot, melody: Pitch, on: Instrument): string {
  const third = plainThird(melody, slot.side, slot.key);
  const name = pitchName(third);
  if (midi(third) < midi(on.lowest)) return `The plain third, ${name}, lies below the ${on.name}.`;
  if (midi(third) > midi(on.highest)) return `The plain third, ${name}, lies above the ${on.name}’s range here.`;
  if (slot.chord && !holds(slot.chord, third))
    return `The plain third would be ${name}, degree ${degreeOf(third, slot.key)}, which is not in ${slot.chord.symbol}.`;
  return `The plain third would be ${name}.`;
}

/**
 * Held notes of drones: beats of one bar with the same note become one long note. Where that would set a fifth or
 * octave beside the next note's as the ear counts them,
 * from start to start, its last beat is struck anew.
 */
function merged(notes: readonly HarmonyNote[], slots: readonly Slot[]): HarmonyNote[] {
  const groups: HarmonyNote[][] = [];
  notes.forEach((note, i) => {
    const last = groups.at(-1)?.at(-1);
    const goes =
      slots[i]?.school.pace === "beat" &&
      last?.bar === note.bar &&
      last.at + last.ticks === note.at &&
      name(last.pitch) === name(note.pitch) &&
      slots[i - 1]?.school === slots[i]?.school &&
      !note.locked &&
      !last.locked;
    if (goes) groups.at(-1)?.push(note);
    else groups.push([note]);
  });
  const long = (group: readonly HarmonyNote[]): HarmonyNote[] =>
    group[0] ? [{ ...group[0], ticks: group.reduce((sum, n) => sum + n.ticks, 0) }] : [];
  return groups.flatMap((group, i) =>
    group.length > 1 && beside(group[0], groups[i + 1]?.[0])
      ? [...long(group.slice(0, -1)), group.at(-1) as HarmonyNote]
      : long(group),
  );
}

function beside(a: HarmonyNote | undefined, b: HarmonyNote | undefined): boolean {
  if (!a?.pitch || !a.melody || !b?.pitch || !b.melody) return false;
  const gap = Math.abs(midi(a.pitch) - midi(a.melody)) % 12;
  return (gap === 0 || gap === 7) && gap === Math.abs(midi(b.pitch) - midi(b.melody)) % 12;
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
  alternatives: [],
});

/**
 * Rests where the line has no note: the melody's own rests in a bar that goes with it, and every gap in the others,
 * whose notes are then counted through the bar.
 */
function filled(
  line: readonly HarmonyNote[],
  places: readonly Place[],
  schoolAt: (bar: number) => School,
): HarmonyNote[] {
  const melodyRests = timeline(places).filter((t) => t.event.pitches.length === 0);
  return places.flatMap((place) => {
    const own = line.filter((n) => n.bar === place.index);
    if (schoolAt(place.index).pace === "melody") {
      const rests = melodyRests
        .filter((t) => t.place === place)
        .map((t: Timed) => rest(place.index, t.index, t.at, t.event.ticks, "The melody rests."));
      return [...own, ...rests].sort((a, b) => a.at - b.at);
    }
    let at = place.at;
    const all: HarmonyNote[] = [];
    for (const note of own) {
      if (note.at > at) all.push(rest(place.index, 0, at, note.at - at, "The line rests while the melody moves."));
      all.push(note);
      at = note.at + note.ticks;
    }
    if (at < place.at + place.ticks)
      all.push(rest(place.index, 0, at, place.at + place.ticks - at, "The line rests while the melody moves."));
    return all.map((note, event) => ({ ...note, event }));
  });
}
