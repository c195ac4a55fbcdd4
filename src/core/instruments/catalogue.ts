import { midi, parsePitch, type Pitch } from "../theory";

export type Instrument = {
  name: string;
  /** Sounding range a player in the group can be asked for. */
  lowest: Pitch;
  highest: Pitch;
  clef: "treble" | "alto" | "bass";
  /** General MIDI program from 0. */
  program: number;
  /** Open strings from low to high, where it has them. */
  strings: readonly Pitch[];
};

const row = (name: string, range: [string, string], clef: Instrument["clef"], program: number, strings = ""): Instrument => ({
  name, lowest: parsePitch(range[0]), highest: parsePitch(range[1]), clef, program, strings: strings.split(" ").filter(Boolean).map(parsePitch),
});

/** Sounding ranges in first position or its like; strings in the usual tuning. */
export const INSTRUMENTS: readonly Instrument[] = [
  row("fiddle", ["G3", "B5"], "treble", 40, "G3 D4 A4 E5"),
  row("viola", ["C3", "E5"], "alto", 41, "C3 G3 D4 A4"),
  row("cello", ["C2", "D4"], "bass", 42, "C2 G2 D3 A3"),
  row("mandolin", ["G3", "B5"], "treble", 25, "G3 D4 A4 E5"),
  row("whistle", ["D5", "B6"], "treble", 74),
  row("flute", ["D4", "B5"], "treble", 73),
  row("accordion", ["G3", "C6"], "treble", 21),
  row("piano", ["A0", "C8"], "treble", 0),
  row("voice", ["A3", "D5"], "treble", 52),
];

export const FIDDLE = INSTRUMENTS[0] as Instrument;

/** Finds an instrument by name, whatever its capitals. */
export const instrument = (name: string): Instrument | undefined => INSTRUMENTS.find((i) => i.name === name.trim().toLowerCase());

/** Where a note lies in first position on a bowed string of the violin family. */
export type Placement = { string: number; finger: number; low: boolean };

/** Semitones above the open string to finger: 1 low first, 2 first, 3 low second, 4 second, 5 third, 6 high third, 7 fourth. */
const FINGERS: Record<number, Omit<Placement, "string">> = {
  0: { finger: 0, low: false }, 1: { finger: 1, low: true }, 2: { finger: 1, low: false }, 3: { finger: 2, low: true }, 4: { finger: 2, low: false },
  5: { finger: 3, low: false }, 6: { finger: 3, low: false }, 7: { finger: 4, low: false },
};

/** String and finger of a note in first position, an open string before a fourth finger; undefined where no finger reaches. */
export function firstPosition(on: Instrument, sound: number): Placement | undefined {
  const ways = on.strings.flatMap((open, string) => {
    const above = sound - midi(open);
    const finger = FINGERS[above];
    return finger ? [{ string, ...finger }] : [];
  });
  return ways.sort((a, b) => a.finger - b.finger)[0];
}
