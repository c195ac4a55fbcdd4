import { parsePitch } from "../theory";
import { type Fret, type Hand, Instrument, type OpenString } from "./model";

const CHROMATIC: Fret[] = Array.from({ length: 13 }, (_, i) => ({ label: String(i), semitones: i }));
const frets = (text: string): Fret[] =>
  text.split(" ").map((pair) => {
    const [label = "", semitones] = pair.split("=");
    return { label, semitones: Number(semitones) };
  });
/** The mountain dulcimer's diatonic frets, with the half fret that most have. */
const DIATONIC = frets("0=0 1=2 2=4 3=5 4=7 5=9 6=10 6+=11 7=12 8=14 9=16 10=17");

/** Strings from the player's lowest course to the highest; "G4@5" is a short string that begins at the fifth fret. */
const stringsOf = (text: string): OpenString[] => {
  const names = text.split(" ").filter(Boolean);
  return names.map((name, i) => {
    const [open = "", short] = name.split("@");
    return { number: names.length - i, open: parsePitch(open), ...(short ? { shortFrom: Number(short) } : {}) };
  });
};

type Row = {
  name: string;
  family: Instrument["family"];
  range: [string, string];
  clef: Instrument["clef"];
  program: number;
  /** Octaves from the written to the sounding pitch. */
  octaves?: number;
  strings?: string;
  hand?: Hand;
  frets?: Fret[];
};

const entry = ({ name, family, range, clef, program, octaves = 0, strings = "", hand, frets }: Row): Instrument => {
  const usual = stringsOf(strings);
  return Instrument.parse({
    name,
    family,
    lowest: parsePitch(range[0]),
    highest: parsePitch(range[1]),
    clef,
    transposition: 12 * octaves,
    program,
    tunings: usual.length > 0 ? [{ name: "usual", strings: usual }] : [],
    strings: usual,
    hand,
    frets,
  });
};

const FIFTHS = { family: "bowed", hand: "violin" } as const;
const FRETTED = { family: "plucked", hand: "frets", clef: "treble" } as const;

/**
 * Sounding ranges in first position or its like; strings in the usual tuning. Programs are those of
 * `workers/sound/presets`.
 */
const ROWS: readonly Row[] = [
  { ...FIFTHS, name: "fiddle", range: ["G3", "B5"], clef: "treble", program: 40, strings: "G3 D4 A4 E5" },
  { ...FIFTHS, name: "viola", range: ["C3", "E5"], clef: "alto", program: 41, strings: "C3 G3 D4 A4" },
  { ...FIFTHS, name: "cello", hand: "cello", range: ["C2", "D4"], clef: "bass", program: 42, strings: "C2 G2 D3 A3" },
  { ...FRETTED, name: "mandolin", range: ["G3", "B5"], program: 26, strings: "G3 D4 A4 E5", frets: CHROMATIC },
  {
    ...FRETTED,
    name: "guitar",
    range: ["E2", "E5"],
    program: 25,
    octaves: -1,
    strings: "E2 A2 D3 G3 B3 E4",
    frets: CHROMATIC,
  },
  {
    ...FRETTED,
    name: "banjo",
    range: ["D3", "D5"],
    program: 105,
    octaves: -1,
    strings: "G4@5 D3 G3 B3 D4",
    frets: CHROMATIC,
  },
  { ...FRETTED, name: "mountain dulcimer", range: ["D3", "D5"], program: 15, strings: "D3 A3 D4", frets: DIATONIC },
  { ...FRETTED, name: "small lute", range: ["C4", "A5"], program: 27, strings: "G4 C4 E4 A4", frets: CHROMATIC },
  { name: "whistle", family: "wind", range: ["D5", "B6"], clef: "treble", program: 74, octaves: 1 },
  { name: "flute", family: "wind", range: ["D4", "B5"], clef: "treble", program: 73 },
  { name: "accordion", family: "box", range: ["G3", "C6"], clef: "treble", program: 21 },
  { name: "piano", family: "keyboard", range: ["A0", "C8"], clef: "treble", program: 0 },
  { name: "voice", family: "voice", range: ["A3", "D5"], clef: "treble", program: 52 },
];

export const INSTRUMENTS: readonly Instrument[] = ROWS.map(entry);

export const FIDDLE = INSTRUMENTS[0] as Instrument;

const byName = new Map(INSTRUMENTS.map((i) => [i.name, i]));

/** Finds an instrument by name, whatever its capitals. */
export const instrument = (name: string): Instrument | undefined => byName.get(name.trim().toLowerCase());

/** An instrument in one of its tunings; undefined where it has none of that name. */
export function tuned(on: Instrument, tuning: string | null): Instrument | undefined {
  if (tuning === null) return on;
  const found = on.tunings.find((t) => t.name === tuning);
  return found && { ...on, strings: found.strings };
}
