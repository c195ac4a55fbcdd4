import type { Instrument } from "../instruments";
import { barLabelAt, isCompound, type Place } from "../score";
import { midi } from "../theory";
import type { Limits } from "./limits";
import { ROLE_RULES, type RoleName } from "./roles";
import type { PartNote } from "./write";

type Told = {
  on: Instrument;
  role: RoleName;
  notes: readonly PartNote[];
  places: readonly Place[];
  limits: Limits;
  tick: number;
  /** Whether there is a drum in the room. */
  drum: boolean;
};

/** Something to say, where it is true: the sentence, or nothing. */
type Note = (told: Told) => string | undefined;

/** A bar by its number; of a pickup the bar it leads into. */
const bar = ({ places }: Told, index: number): string => barLabelAt(places, places[index]?.pickup ? index + 1 : index);
const restOf = ({ notes, places }: Told): number | undefined =>
  places.find((p) => !p.pickup && !notes.some((n) => n.bar === p.index))?.index;
const longest = ({ notes }: Told): PartNote | undefined =>
  notes.reduce<PartNote | undefined>((a, b) => (a && a.ticks >= b.ticks ? a : b), undefined);
/** The first note that is as it says, in words with its bar. */
const first =
  (is: (note: PartNote, told: Told, before: PartNote | undefined) => boolean, say: (bar: string) => string): Note =>
  (told) => {
    const found = told.notes.find((n, i) => is(n, told, told.notes[i - 1]));
    return found && say(bar(told, found.bar));
  };
/** Semitones of a note above the string it lies on. */
function above({ pitches, strings }: PartNote, { on }: Told): number {
  const string = on.strings.find((s) => s.number === strings?.[0]);
  return string ? (pitches[0] ?? 0) - midi(string.open) : -1;
}
/** Semitones above the lowest note: under it one blows gently, over it with more air. */
const LOW = 2;
const HIGH = 14;
const fromLowest = ({ pitches }: PartNote, { on }: Told): number => (pitches[0] ?? 0) - midi(on.lowest);
const isStruck = ({ notes }: Told): boolean => notes.some((n) => n.stroke === "brush" || n.stroke === "chop");
const compound = ({ places }: Told): boolean => places[0] !== undefined && isCompound(places[0].metre);
/** A bar of rest among those that sound. */
const counted: Note = (t) => {
  const rest = restOf(t);
  return rest === undefined ? undefined : `Rest in bar ${bar(t, rest)}, and keep counting.`;
};

const FAMILY: Readonly<Record<Instrument["family"], readonly Note[]>> = {
  bowed: [
    (t) => {
      const note = longest(t);
      return note && note.ticks * t.tick >= 1 ? `A long bow on the note of bar ${bar(t, note.bar)}.` : undefined;
    },
    first(
      (n, t) => above(n, t) === 3,
      (at) => `Low second finger in bar ${at}.`,
    ),
    first(
      (n) => n.fingers?.[0] === 1,
      (at) => `Keep the first finger down from bar ${at}.`,
    ),
    first(
      (n, _, before) => before?.bar === n.bar && n.strings?.[0] !== before.strings?.[0],
      (at) => `Cross with the arm in bar ${at}.`,
    ),
    counted,
  ],
  wind: [
    (t) => {
      const rest = restOf(t);
      return rest === undefined ? "Breathe where the phrase ends." : `Breathe in bar ${bar(t, rest)}.`;
    },
    first(
      (n, t) => fromLowest(n, t) <= LOW,
      (at) => `Blow gently for the low note of bar ${at}.`,
    ),
    first(
      (n, t) => fromLowest(n, t) >= HIGH,
      (at) => `Faster air for the high note of bar ${at}.`,
    ),
    (t) => (ROLE_RULES[t.role].group === "tune" ? "Tongue the beats." : "Cover the holes softly."),
  ],
  plucked: [
    (t) => {
      const down = compound(t) ? "Down on one and four." : "Down on the beats.";
      return t.notes.some((n) => n.pitches.length > 1) ? "Brush only the strings of the shape." : down;
    },
    (t) => (isStruck(t) ? "Damp each brush." : undefined),
    (t) => {
      const rest = restOf(t);
      const shapes = t.notes.some((n) => n.pitches.length > 1);
      return rest !== undefined && shapes
        ? `Change in the rest of bar ${bar(t, rest)}. Missed it? Keep the beat.`
        : undefined;
    },
    counted,
  ],
  box: [
    () => "Turn the bellows between phrases.",
    (t) => (t.role === "bass" ? "The left hand quieter." : undefined),
    (t) => (isStruck(t) ? "Lift between the chords." : undefined),
  ],
  keyboard: [
    (t) => (ROLE_RULES[t.role].kind === "chords" ? "Lift between the chords." : undefined),
    (t) => (t.role === "bass" ? "The left hand quieter." : "Let the fingers rest on the keys."),
  ],
  voice: [
    () => "Hear your note first.",
    (t) => (ROLE_RULES[t.role].group === "tune" ? "Say the words before you sing them." : undefined),
    counted,
  ],
  drum: [() => "Stay under the tune.", () => "Listen once before you come in."],
};

const ROLE: Partial<Record<RoleName, readonly Note[]>> = {
  melody: [() => "Everyone listens to you for the pulse."],
  "simple melody": [() => "Your notes stand where the tune’s stand: you sound together."],
  bass: [(t) => `${t.drum ? "Land with the drum on one" : "Land on one"}, from bar ${bar(t, t.notes[0]?.bar ?? 0)}.`],
  drone: [() => "Quieter than the tune, and still."],
  "off-beats": [() => "Short, and never on the beat."],
  "counter-figure": [() => "Hold while the tune moves, move while it holds."],
};

/** Most things that are said at once. */
const SAID = 3;
/** A few things to say to a player, only where they are true, with the bar: what the role is first. */
export function coachingOf(told: Told): string[] {
  const notes = [...(ROLE[told.role] ?? []), ...FAMILY[told.on.family]].flatMap((note) => note(told) ?? []);
  return [...new Set(notes)].slice(0, SAID);
}
