import { z } from "zod";
import { degreeOf, inKey } from "../theory";
import type { Going, Offer, Paid, Points, Scene, School, Step, Wish, Words } from "./school";

/** Names of wishes that several schools share, or that reasons ask for. */
export const INTERVAL = "the interval";
export const OUTSIDE = "outside the chord";
const BREAKS = "off the beat, out of the parallel";
export const AGAINST = "against the melody at a close";

/** Order in which a school without a choice of its own falls back when its interval is not to be had. */
const FALLBACK: Points = { 3: 0, 4: 3, 6: 3.4, 5: 4, 8: 4.6, 1: 5.2, 10: 5.5 };
const fallback = ({ interval }: Offer) => FALLBACK[interval] ?? 7;

/** Points for a leap of the line beyond what the melody itself leaps, and for one over a sixth. */
const LEAPS: readonly Going[] = [
  {
    name: "leaps more than the melody",
    of: ({ own, melody }) => 0.12 * Math.max(0, Math.abs(own) - Math.max(Math.abs(melody), 2)),
  },
  { name: "a wide leap", of: ({ own }) => (Math.abs(own) > 6 ? 0.6 : 0) },
];
const parallel = (points: number): readonly Going[] => [
  ...LEAPS,
  { name: BREAKS, of: ({ same, weighty, near }) => (!same && !weighty && near ? points : 0) },
];

const inChord = ({ chord }: Scene) => (chord ? `in the chord of ${chord.symbol}` : "in the key");
/** How much less another note would suit the line, in words; the exact price stays with the figures. */
const LESS: readonly [below: number, words: string][] = [
  [0.5, "hardly less"],
  [2, "a little less"],
  [6, "less"],
];
const less = (cost: number): string => LESS.find(([below]) => cost < below)?.[1] ?? "much less";

/** Why a school of thirds took something else: the third was not to be had, or would have cost the line more. */
const instead = ({ third }: Paid): Words => ({
  rule: "fallback",
  words: third === undefined ? "the third is not to be had here" : `the third would suit the line ${less(third)} here`,
});

/** A diatonic third throughout. Practice: rules 1 and 2. */
export const THIRDS: School = {
  name: "Thirds",
  rule: "a third all the way",
  pace: "melody",
  side: "below",
  plain: true,
  wishes: [{ name: INTERVAL, of: fallback }],
  goings: LEAPS,
  because: ({ interval }, _, paid) =>
    interval === 3 ? { rule: "third", words: "the school keeps a third throughout" } : instead(paid),
};

const turns = ({ melody, key, side }: Scene) =>
  melody !== null && inKey(melody, key) && degreeOf(melody, key) === (side === "below" ? 1 : 5);
const TURNED: Points = { 4: 0, 3: 2 };
const TURN_WORDS = {
  below: "the melody is on the tonic, and the fourth below is the fifth of the key",
  above: "the melody is on the fifth of the key, and the fourth above is the tonic",
};

/**
 * Thirds, but a fourth where the two notes are tonic and fifth: under the tonic for a low line, over the fifth degree
 * for a high one. Practice: rule 3.
 */
export const FOURTH_UNDER_TONIC: School = {
  name: "Fourth under the tonic",
  rule: "a third, but a fourth where the melody is on the tonic",
  pace: "melody",
  side: "below",
  plain: true,
  wishes: [
    {
      name: INTERVAL,
      of: (offer, scene) => (turns(scene) ? (TURNED[offer.interval] ?? fallback(offer)) : fallback(offer)),
    },
  ],
  goings: LEAPS,
  because: ({ interval }, scene, paid) => {
    if (turns(scene) && interval === 4) return { rule: "fourth under the tonic", words: TURN_WORDS[scene.side] };
    if (turns(scene)) return { rule: "fallback", words: "the fourth is not to be had here, or would cost more" };
    return interval === 3 ? { rule: "third", words: "a third, in the key" } : instead(paid);
  },
};

const IN_CHORD: Points = { 3: 0, 4: 0.2, 6: 0.9, 5: 1.1, 8: 1.9, 1: 2.4, 10: 2.4 };
const OUT_OF_CHORD: Points = { 3: 2.6, 4: 3.2, 6: 3.4, 5: 3.8, 8: 5, 1: 5.2, 10: 5 };
const PASSING: Points = { 3: 0.1, 4: 0.5, 6: 0.6, 5: 1.4, 8: 2.5, 1: 3, 10: 2.5 };
/** A passing note is a little better inside the chord; the last note of a phrase much worse outside it. */
const PASSING_FITS = -0.15;
/** Points for a fourth after a fourth: two or three in a row are a colour, more a habit. */
const FOURTHS = { moving: 0.6, held: 0.45 };
const fourths: Going = {
  name: "fourth after fourth",
  of: ({ same, interval, repeated }) => {
    if (!same || interval !== 4) return 0;
    return repeated ? FOURTHS.held : FOURTHS.moving;
  },
};
/** Points for doubling the melody's leading note. */
const doubled: Wish = {
  name: "a leading note doubled",
  of: ({ gap }, { leading }) => (leading && gap === 0 ? 1.5 : 0),
};

/** The reasoning of Chord-fit with its own liking for intervals, inside the chord and passing. */
const byChord = (inside: Points, passing: Points): readonly Wish[] => {
  const liking = (interval: number) => inside[interval] ?? 3;
  return [
    { name: INTERVAL, of: ({ interval }, { weighty }) => (weighty ? liking(interval) : (passing[interval] ?? 4)) },
    {
      name: OUTSIDE,
      of: ({ interval, fits }, { weighty }) => {
        if (!weighty) return fits ? PASSING_FITS : 0;
        return fits ? 0 : (OUT_OF_CHORD[interval] ?? 6) - liking(interval);
      },
    },
    doubled,
  ];
};

const FIT_RULES: Readonly<Record<number, string>> = { 3: "third", 4: "fourth" };
const FIGURE_WORDS: Readonly<Record<string, Words>> = {
  passing: { rule: "passing", words: "a passing note, reached and left by step" },
  neighbour: { rule: "neighbour", words: "a neighbour note, a step away and back" },
};
function fitReason({ interval, fits }: Offer, scene: Scene, { figure, inChord: best }: Paid): Words {
  const by = !fits && !scene.weighty ? FIGURE_WORDS[figure ?? ""] : undefined;
  if (by) return by;
  if (fits && scene.cadence) return { rule: "cadence", words: `the phrase ends here, on a note ${inChord(scene)}` };
  if (fits) return { rule: FIT_RULES[interval] ?? "nearest chord note", words: `it is ${inChord(scene)}` };
  if (!scene.chord) return { rule: "smooth line", words: "no chord is set here, so it stays in the key" };
  return {
    rule: "smooth line",
    words: best
      ? `${best.name}, the nearest note of ${scene.chord.symbol}, would suit the line ${less(best.cost)}`
      : `no note of ${scene.chord.symbol} is to be had here`,
  };
}

/**
 * Third or fourth, whichever is in the chord; sixth or fifth where neither is; passing notes keep the parallel.
 * Practice: rule 4.
 */
export const CHORD_FIT: School = {
  name: "Chord-fit",
  rule: "third or fourth, whichever is in the chord",
  pace: "melody",
  side: "below",
  wishes: byChord(IN_CHORD, PASSING),
  goings: [...parallel(0.7), fourths],
  because: fitReason,
};

const HIGH_IN: Points = { 3: 0, 6: 0.3, 4: 0.5, 5: 1.3, 8: 1.4, 10: 1.6, 1: 3, 2: 2.8 };
const HIGH_PASSING: Points = { 3: 0.1, 6: 0.2, 4: 0.6, 5: 1.4, 8: 2.2, 10: 1.2, 1: 3, 2: 2.4 };
/**
 * The same reasoning above the melody, where sixths ring as well as thirds and a calm line is kept out of the tune's
 * way.
 */
const HIGH_LINE: School = {
  name: "High line",
  rule: "the chord’s thirds and sixths, kept calm above the tune",
  pace: "melody",
  side: "above",
  seconds: true,
  wishes: byChord(HIGH_IN, HIGH_PASSING),
  goings: [
    ...parallel(0.3),
    fourths,
    { name: "a restless high line", of: ({ own }) => 0.16 * Math.max(0, Math.abs(own) - 2) },
  ],
  because: fitReason,
};

const NORDIC: Points = { 3: 0, 6: 0.5, 1: 0.9, 8: 0.7, 4: 1, 5: 1.2, 10: 0.8 };
/** Points for a beat outside the chord: before a close, and in it. */
const NORDIC_OUTSIDE = { before: 2, closing: 3.2 };
const NORDIC_CLOSE: Points = { 1: 0, 8: 0.1, 3: 2, 6: 2.4, 10: 2.6, 5: 2.2, 4: 3 };
const together = ({ own, melody }: Step) => own !== 0 && Math.sign(own) === Math.sign(melody);
const against = ({ own, melody }: Step) => own !== 0 && melody !== 0 && Math.sign(own) !== Math.sign(melody);
/**
 * A second voice with a shape of its own: thirds, unisons and octaves in turn, against the melody where a phrase
 * closes.
 */
const NORDIC_SECOND: School = {
  name: "Nordic second",
  rule: "a shape of its own; against the tune at closes, together at the end",
  pace: "melody",
  side: "below",
  wishes: [
    { name: INTERVAL, of: ({ interval }, { cadence }) => (cadence ? NORDIC_CLOSE : NORDIC)[interval] ?? 4 },
    {
      name: OUTSIDE,
      of: ({ fits }, { weighty, closing }) => {
        if (!weighty || fits) return 0;
        return closing ? NORDIC_OUTSIDE.closing : NORDIC_OUTSIDE.before;
      },
    },
    doubled,
    // Two voices do not meet on a note that has to go on.
    {
      name: "meeting on the leading note",
      of: ({ gap }, { cadence, leading }) => (cadence && leading && gap === 0 ? 3 : 0),
    },
  ],
  goings: [
    { name: "leaps", of: ({ own }) => 0.45 * Math.max(0, Math.abs(own) - 2) },
    { name: "the same interval again", of: ({ same, weighty }) => (same && weighty ? 0.35 : 0) },
    fourths,
    { name: "with the melody at a close", of: (step) => (step.closing && together(step) ? 0.45 : 0) },
    { name: AGAINST, of: (step) => (step.closing && against(step) ? -0.7 : 0) },
  ],
  because: ({ interval, fits }, scene, { points }) => {
    const meets = interval === 1 || interval === 8;
    if (scene.cadence && meets)
      return { rule: "meeting at the close", words: "the two voices meet where the phrase ends" };
    if (scene.cadence)
      return { rule: "close", words: "no unison or octave is to be had here, or it would cost the line more" };
    if (meets) return { rule: "own shape", words: "the voices touch, and part again" };
    if (points(AGAINST) < 0)
      return { rule: "contrary motion", words: "the second goes against the melody towards the close" };
    const words = fits
      ? `a note ${inChord(scene)}, with a shape of its own`
      : "it keeps a shape of its own between the chord notes";
    return { rule: "own shape", words };
  },
};

const OCTAVES: Points = { 8: 0, 1: 4 };
/**
 * The tune itself an octave away, in unison where the octave is out of reach. The one school that wants octaves to
 * run.
 */
const OCTAVE: School = {
  name: "Octave",
  rule: "the tune itself, an octave away",
  pace: "melody",
  side: "below",
  octaves: true,
  plain: true,
  wishes: [{ name: INTERVAL, of: (offer) => OCTAVES[offer.interval] ?? 6 + fallback(offer) }],
  goings: [],
  because: ({ interval }) => {
    if (interval === 8) return { rule: "octave", words: "the tune itself, an octave away" };
    if (interval === 1) return { rule: "unison", words: "it joins the tune where the octave is out of reach" };
    return { rule: "fallback", words: "octave and unison are out of reach here" };
  },
};

const LEFT_RINGING = "on an open string, left ringing";
const HELD_DOWN = "held down under one finger";

/** What a drone's note is in the key. */
const droneNote = ({ tonic, fifth, fits }: Offer, scene: Scene): string => {
  if (tonic) return "the tonic";
  if (fifth) return "the fifth of the key";
  return fits ? `a note ${inChord(scene)}` : "a note of the key";
};
const NEITHER = 0.8;
const FIFTH = 0.15;
/** Open strings or one held finger; changes only when it must. */
const DRONE: School = {
  name: "Drone and pedal",
  rule: "an open string or one held finger",
  pace: "beat",
  side: "below",
  drones: true,
  wishes: [
    { name: OUTSIDE, of: ({ fits }) => (fits ? 0 : 0.8) },
    { name: "a finger down", of: ({ open }) => (open ? 0 : 0.35) },
    {
      name: "neither tonic nor fifth",
      of: ({ tonic, fifth }) => {
        if (tonic) return 0;
        return fifth ? FIFTH : NEITHER;
      },
    },
    { name: "far from the melody", of: ({ interval }) => (interval > 12 ? 0.3 : 0) },
  ],
  goings: [
    { name: "another note", of: ({ repeated }) => (repeated ? 0 : 1.8) },
    { name: "how far it goes", of: ({ repeated, own }) => (repeated ? 0 : 0.03 * Math.abs(own)) },
  ],
  because: (offer, scene) => ({
    rule: offer.open ? "open string" : "held finger",
    words: `${droneNote(offer, scene)} ${offer.open ? LEFT_RINGING : HELD_DOWN}`,
  }),
};

const CHORD_NOTES = ["root", "third", "fifth"];
const CHORD_NOTE_POINTS = [0.1, 0, 0.15];
/** How a held line came to its note. */
const arrival = (step: Step | undefined): string => {
  if (!step) return "";
  if (step.repeated) return ", held over from the chord before";
  return Math.abs(step.own) === 1 ? ", a step from the note before" : "";
};
/** Points for a held line that does not move: it has reason to where its chord is still the same. */
const STAYS = { sameChord: 0.2, otherChord: 0.5 };
/** One note to each chord, along the smoothest path that moves. */
const ONE_NOTE: School = {
  name: "One note per chord",
  rule: "the nearest note of each chord, held",
  pace: "chord",
  side: "below",
  musts: [{ name: "a note of the chord", broken: ({ fits }, { chord }) => chord !== null && !fits }],
  wishes: [
    { name: "place in the chord", of: ({ fits, chordNote }) => (fits ? (CHORD_NOTE_POINTS[chordNote] ?? 0.5) : 0) },
    { name: "unison with the melody", of: ({ interval }) => (interval === 1 ? 0.6 : 0) },
    { name: "far from the melody", of: ({ interval }) => (interval > 10 ? 0.5 : 0) },
  ],
  goings: [
    { name: "leaps", of: ({ own, repeated }) => (repeated ? 0 : 0.3 * Math.max(0, Math.abs(own) - 1)) },
    { name: "a wide leap", of: ({ own, repeated }) => (!repeated && Math.abs(own) > 4 ? 0.6 : 0) },
    { name: "a step", of: ({ own }) => (Math.abs(own) === 1 ? 0.1 : 0) },
    {
      name: "the same note again",
      of: ({ repeated, sameChord }) => {
        if (!repeated) return 0;
        return sameChord ? STAYS.sameChord : STAYS.otherChord;
      },
    },
  ],
  because: ({ chordNote }, scene, { step }) => ({
    rule: "one note per chord",
    words: scene.chord
      ? `the ${CHORD_NOTES[chordNote] ?? "seventh"} of ${scene.chord.symbol}${arrival(step)}`
      : "a note of the key, held",
  }),
};

/** Points for a figure's last note that lies a step from the chord it leads to. */
const LEADS = -1.5;
/** Moves while the melody holds, rests while it moves; two notes or more, into the next downbeat. */
const COUNTER: School = {
  name: "Counter-figure",
  rule: "moves while the tune holds, rests while it moves",
  pace: "held",
  side: "below",
  wishes: [
    {
      name: OUTSIDE,
      of: ({ fits }, { weighty }) => {
        if (fits) return 0;
        return weighty ? 2.5 : 0.6;
      },
    },
    { name: "unison with the melody", of: ({ interval }) => (interval === 1 ? 1 : 0) },
    { name: "far from the melody", of: ({ interval }) => (interval > 10 ? 0.6 : 0) },
    { name: "leads on by step", of: ({ leads }) => (leads ? LEADS : 0) },
  ],
  goings: [
    { name: "the same note again", of: ({ repeated }) => (repeated ? 1.2 : 0) },
    { name: "leaps", of: ({ own, repeated }) => (repeated ? 0 : 0.2 * Math.max(0, Math.abs(own) - 2)) },
  ],
  because: ({ fits }, scene) => {
    const through = scene.chord ? `through the chord of ${scene.chord.symbol}` : "through the chord";
    const where = fits ? through : "between chord notes";
    return { rule: "answer", words: `the melody ${scene.melody ? "holds" : "rests"}, and the figure moves ${where}` };
  },
};

export const SCHOOLS: readonly School[] = [
  THIRDS,
  FOURTH_UNDER_TONIC,
  CHORD_FIT,
  HIGH_LINE,
  NORDIC_SECOND,
  OCTAVE,
  DRONE,
  ONE_NOTE,
  COUNTER,
];

/** The name of a school. */
export const SchoolName = z.enum(
  SCHOOLS.map((s) => s.name),
  {
    error: ({ input }) => `There is no school of harmony called “${String(input).slice(0, 40)}”`,
  },
);

/** A school by its name; undefined where there is none. */
export const schoolNamed = (name: string): School | undefined => SCHOOLS.find((s) => s.name === name);
