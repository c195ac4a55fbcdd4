import { midi, parsePitch, type Pitch } from "../theory";

/** How a hand finds notes on strings: fingers of the violin family, fingers of the cello, or frets. */
export type Hand = "violin" | "cello" | "frets";

export type Instrument = {
  name: string;
  /** Sounding range a player in the group can be asked for. */
  lowest: Pitch;
  highest: Pitch;
  clef: "treble" | "alto" | "bass";
  /** General MIDI program from 0. */
  program: number;
  /** Open strings as they lie, from the player's lowest course to the highest, where it has them. */
  strings: readonly Pitch[];
  hand?: Hand;
  /** Frets by name with their semitones above the open string. */
  frets?: readonly { name: string; semitones: number }[];
};

const CHROMATIC = Array.from({ length: 13 }, (_, i) => ({ name: String(i), semitones: i }));
/** The mountain dulcimer's diatonic frets, with the half fret that most have. */
const DIATONIC = [
  ["0", 0],
  ["1", 2],
  ["2", 4],
  ["3", 5],
  ["4", 7],
  ["5", 9],
  ["6", 10],
  ["6+", 11],
  ["7", 12],
  ["8", 14],
  ["9", 16],
  ["10", 17],
].map(([name, semitones]) => ({ name: name as string, semitones: semitones as number }));

const row = (
  name: string,
  range: [string, string],
  clef: Instrument["clef"],
  program: number,
  strings = "",
  hand?: Hand,
  frets?: Instrument["frets"],
): Instrument => ({
  name,
  lowest: parsePitch(range[0]),
  highest: parsePitch(range[1]),
  clef,
  program,
  strings: strings.split(" ").filter(Boolean).map(parsePitch),
  ...(hand ? { hand } : {}),
  ...(frets ? { frets } : {}),
});

/** Sounding ranges in first position or its like; strings in the usual tuning. */
export const INSTRUMENTS: readonly Instrument[] = [
  row("fiddle", ["G3", "B5"], "treble", 40, "G3 D4 A4 E5", "violin"),
  row("viola", ["C3", "E5"], "alto", 41, "C3 G3 D4 A4", "violin"),
  row("cello", ["C2", "D4"], "bass", 42, "C2 G2 D3 A3", "cello"),
  row("mandolin", ["G3", "B5"], "treble", 25, "G3 D4 A4 E5", "frets", CHROMATIC),
  row("guitar", ["E2", "E5"], "treble", 25, "E2 A2 D3 G3 B3 E4", "frets", CHROMATIC),
  row("banjo", ["D3", "D5"], "treble", 105, "G4 D3 G3 B3 D4", "frets", CHROMATIC),
  row("mountain dulcimer", ["D3", "D5"], "treble", 15, "D3 A3 D4", "frets", DIATONIC),
  row("small lute", ["C4", "A5"], "treble", 24, "G4 C4 E4 A4", "frets", CHROMATIC),
  row("whistle", ["D5", "B6"], "treble", 74),
  row("flute", ["D4", "B5"], "treble", 73),
  row("accordion", ["G3", "C6"], "treble", 21),
  row("piano", ["A0", "C8"], "treble", 0),
  row("voice", ["A3", "D5"], "treble", 52),
];

export const FIDDLE = INSTRUMENTS[0] as Instrument;

/** Finds an instrument by name, whatever its capitals. */
export const instrument = (name: string): Instrument | undefined =>
  INSTRUMENTS.find((i) => i.name === name.trim().toLowerCase());

/**
 * Where a note lies in first position: its string, and the finger, or the fret's name. `low` is a finger drawn back a
 * semitone, `high` one stretched up.
 */
export type Placement = { string: number; finger: number; low: boolean; high?: boolean; fret?: string };

/**
 * Semitones above the open string to finger, the violin family: 1 low first, 2 first, 3 low second, 4 second, 5 third,
 * 6 high third, 7 fourth.
 */
const VIOLIN: readonly Omit<Placement, "string">[] = [
  { finger: 0, low: false },
  { finger: 1, low: true },
  { finger: 1, low: false },
  { finger: 2, low: true },
  { finger: 2, low: false },
  { finger: 3, low: false },
  { finger: 3, low: false, high: true },
  { finger: 4, low: false },
];

/** The cello's first position: a finger a semitone, the first stretched back, the fourth stretched up. */
const CELLO: readonly Omit<Placement, "string">[] = [
  { finger: 0, low: false },
  { finger: 1, low: true },
  { finger: 1, low: false },
  { finger: 2, low: false },
  { finger: 3, low: false },
  { finger: 4, low: false },
  { finger: 4, low: false, high: true },
];

/** Placement so many semitones above an open string; undefined out of reach. */
export function placeAbove(on: Instrument, above: number): Omit<Placement, "string"> | undefined {
  if (on.hand === "frets") {
    const fret = on.frets?.find((f) => f.semitones === above);
    return fret && { finger: 0, low: false, fret: fret.name };
  }
  return (on.hand === "cello" ? CELLO : VIOLIN)[above];
}

/**
 * Semitones above the open string of a finger as teachers say it: 2, L2 (low), H3 (high). Undefined where there is no
 * such finger.
 */
export function semitonesOf(on: Instrument, finger: number, shade: "" | "L" | "H"): number | undefined {
  const table = on.hand === "cello" ? CELLO : VIOLIN;
  const found = table.findIndex(
    (p) => p.finger === finger && p.low === (shade === "L") && Boolean(p.high) === (shade === "H"),
  );
  return found < 0 ? undefined : found;
}

/**
 * String and finger (or fret) of a note in first position, an open string before a fourth finger; undefined where no
 * finger reaches.
 */
export function firstPosition(on: Instrument, sound: number): Placement | undefined {
  const ways = on.strings.flatMap((open, string) => {
    const place = placeAbove(on, sound - midi(open));
    return place ? [{ string, ...place, reach: sound - midi(open) }] : [];
  });
  const best = ways.sort((a, b) => a.reach - b.reach || b.string - a.string)[0];
  if (!best) return undefined;
  const { reach: _, ...place } = best;
  return place;
}
