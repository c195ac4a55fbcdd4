import type { Instrument } from "../instruments";
import { barLabelAt, type Place } from "../score";
import type { Limits } from "./limits";
import type { RoleName } from "./roles";
import type { PartNote } from "./write";

type Told = {
  on: Instrument;
  role: RoleName;
  notes: readonly PartNote[];
  places: readonly Place[];
  limits: Limits;
  tick: number;
};

/** Something to say, where it is true: the sentence, or nothing. */
type Note = (told: Told) => string | undefined;

/** A bar by its number; of a pickup the bar it leads into. */
const bar = ({ places }: Told, index: number): string => barLabelAt(places, places[index]?.pickup ? index + 1 : index);
const restOf = ({ notes, places }: Told): number | undefined =>
  places.find((p) => !p.pickup && !notes.some((n) => n.bar === p.index))?.index;
const longest = ({ notes }: Told): PartNote | undefined =>
  notes.reduce<PartNote | undefined>((a, b) => (a && a.ticks >= b.ticks ? a : b), undefined);
const low =
  ({ on }: Told) =>
  (n: PartNote) =>
    on.lowest.octave * 12 + 12 >= (n.pitches[0] ?? 0) - 14;

const FAMILY: Readonly<Record<Instrument["family"], readonly Note[]>> = {
  bowed: [
    (t) => {
      const note = longest(t);
      return note && note.ticks * t.tick >= 1 ? `A long bow on the note of bar ${bar(t, note.bar)}.` : undefined;
    },
    (t) => {
      const first = t.notes.find((n) => n.fingers?.[0] === 1);
      return first ? `Keep the first finger down from bar ${bar(t, first.bar)}.` : undefined;
    },
    (t) => {
      const crossing = t.notes.find(
        (n, i) => i > 0 && n.bar === t.notes[i - 1]?.bar && n.strings?.[0] !== t.notes[i - 1]?.strings?.[0],
      );
      return crossing ? `Cross with the arm in bar ${bar(t, crossing.bar)}.` : undefined;
    },
  ],
  wind: [
    (t) => {
      const rest = restOf(t);
      return rest === undefined ? "Breathe where the phrase ends." : `Breathe in bar ${bar(t, rest)}.`;
    },
    (t) => {
      const note = t.notes.find(low(t));
      return note ? `Blow gently for the low note of bar ${bar(t, note.bar)}.` : "Cover the holes softly.";
    },
  ],
  plucked: [
    (t) => (t.notes.some((n) => n.stroke) ? "Brush only the strings of the shape." : "Down on the beats."),
    (t) => {
      const rest = restOf(t);
      return rest !== undefined && t.notes.some((n) => n.stroke)
        ? `Missed a shape? Keep the beat. Bar ${bar(t, rest)} is silent.`
        : undefined;
    },
  ],
  box: [() => "Turn the bellows between phrases.", (t) => (t.role === "bass" ? "The left hand quieter." : undefined)],
  keyboard: [
    (t) => (t.role === "strum" || t.role === "off-beats" ? "Lift between the chords." : undefined),
    (t) => (t.role === "bass" ? "The left hand quieter." : "Let the fingers rest on the keys."),
  ],
  voice: [
    () => "Hear your note first.",
    (t) => (t.role === "melody" || t.role === "simple melody" ? "Say the words before you sing them." : undefined),
  ],
  drum: [() => "Stay under the tune.", () => "Listen once before you come in."],
};

const ROLE: Partial<Record<RoleName, readonly Note[]>> = {
  melody: [() => "Everyone listens to you for the pulse."],
  "simple melody": [() => "Your notes stand where the tune’s stand: you sound together."],
  bass: [(t) => `Land with the drum on one, from bar ${bar(t, t.notes[0]?.bar ?? 0)}.`],
  drone: [() => "Quieter than the tune, and still."],
  "off-beats": [() => "Short, and never on the beat."],
  "counter-figure": [() => "Rest while the tune moves."],
};

/** One or two things to say to a player, only where they are true, with the bar. */
export function coachingOf(told: Told): string[] {
  const notes = [...FAMILY[told.on.family], ...(ROLE[told.role] ?? [])].flatMap((note) => note(told) ?? []);
  return [...new Set(notes)].slice(0, 3);
}
