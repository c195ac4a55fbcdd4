import { className, parsePitch } from "../theory";
import { type Fret, type Hand, Instrument, type OpenString, type Tuning } from "./model";

/** Frets a semitone apart, from the nut. */
const chromatic = (highest: number): Fret[] =>
  Array.from({ length: highest + 1 }, (_, i) => ({ label: String(i), semitones: i }));
const frets = (text: string): Fret[] =>
  text.split(" ").map((pair) => {
    const [label = "", semitones] = pair.split("=");
    return { label, semitones: Number(semitones) };
  });
/** The mountain dulcimer's diatonic frets, with the half frets that most have. */
const DIATONIC = frets("0=0 1=2 2=4 3=5 4=7 5=9 6=10 6+=11 7=12 8=14 9=16 10=17 11=19 12=21 13=22 13+=23 14=24");

/** Strings from the player's lowest course to the highest; "G4@5" is a short string that begins at the fifth fret. */
const stringsOf = (text: string): OpenString[] => {
  const names = text.split(" ").filter(Boolean);
  return names.map((name, i) => {
    const [open = "", short] = name.split("@");
    return { number: names.length - i, open: parsePitch(open), ...(short ? { shortFrom: Number(short) } : {}) };
  });
};

/** A tuning is called by the letters of its strings, with what tells it from another of the same letters. */
const tuningOf = (text: string): Tuning => {
  const [pitches = "", remark = ""] = text.split("|");
  const strings = stringsOf(pitches);
  const letters = strings.map(({ open }) => className(open)).join("");
  return { name: remark ? `${letters}, ${remark}` : letters, strings };
};

type Row = {
  name: string;
  family: Instrument["family"];
  range: [string, string];
  clef: Instrument["clef"];
  program: number;
  /** Octaves from the written to the sounding pitch. */
  octaves?: number;
  /** Its tunings, the usual one first. */
  tunings?: readonly string[];
  hand?: Hand;
  scale?: number;
  frets?: Fret[];
};

const entry = ({ name, family, range, clef, program, octaves = 0, tunings = [], ...strung }: Row): Instrument => {
  const known = tunings.map(tuningOf);
  return Instrument.parse({
    name,
    family,
    lowest: parsePitch(range[0]),
    highest: parsePitch(range[1]),
    clef,
    transposition: 12 * octaves,
    program,
    tunings: known,
    strings: known[0]?.strings ?? [],
    ...strung,
  });
};

const FIFTHS = { family: "bowed", hand: "violin" } as const;
const FRETTED = { family: "plucked", hand: "frets", clef: "treble" } as const;
const BASS = ["E1 A1 D2 G2"];
/** Whistles besides the one in D, by their lowest note; written an octave lower. */
const WHISTLES: readonly Row[] = (
  [
    ["C", "C5", "A6"],
    ["G", "G5", "E7"],
    ["F", "F5", "D7"],
    ["Bb", "Bb4", "G6"],
    ["Eb", "Eb5", "C7"],
  ] as const
).map(([tonic, low, high]) => ({
  name: `${tonic} whistle`,
  family: "wind",
  range: [low, high],
  clef: "treble",
  program: 74,
  octaves: 1,
}));
const MANDOLIN = ["G3 D4 A4 E5", "A3 E4 A4 E5", "G3 D4 G4 D5", "A3 D4 A4 E5"];

/**
 * Sounding ranges in first position or its like; tunings by teachers' judgement. Programs are those of
 * `workers/sound/presets`.
 */
const ROWS: readonly Row[] = [
  { ...FIFTHS, name: "fiddle", range: ["G3", "B5"], clef: "treble", program: 40, tunings: MANDOLIN },
  { ...FIFTHS, name: "viola", range: ["C3", "E5"], clef: "alto", program: 41, tunings: ["C3 G3 D4 A4"] },
  {
    ...FIFTHS,
    name: "cello",
    hand: "cello",
    range: ["C2", "D4"],
    clef: "bass",
    program: 42,
    tunings: ["C2 G2 D3 A3"],
  },
  {
    ...FRETTED,
    name: "mandolin",
    scale: 35,
    range: ["G3", "B5"],
    program: 26,
    tunings: MANDOLIN,
    frets: chromatic(20),
  },
  {
    ...FRETTED,
    name: "octave mandola",
    scale: 53,
    range: ["G2", "B4"],
    program: 25,
    octaves: -1,
    tunings: ["G2 D3 A3 E4", "A2 E3 A3 E4", "G2 D3 G3 D4", "A2 D3 A3 E4"],
    frets: chromatic(20),
  },
  {
    ...FRETTED,
    name: "guitar",
    scale: 65,
    range: ["E2", "E5"],
    program: 25,
    octaves: -1,
    tunings: ["E2 A2 D3 G3 B3 E4", "D2 A2 D3 G3 B3 E4", "D2 A2 D3 G3 A3 D4", "D2 G2 D3 G3 B3 D4", "D2 A2 D3 F#3 A3 D4"],
    frets: chromatic(20),
  },
  {
    ...FRETTED,
    name: "banjo",
    scale: 67,
    range: ["D3", "D5"],
    program: 105,
    octaves: -1,
    tunings: ["G4@5 D3 G3 B3 D4", "G4@5 C3 G3 C4 D4", "G4@5 C3 G3 B3 D4", "G4@5 D3 G3 C4 D4", "F#4@5 D3 F#3 A3 D4"],
    frets: chromatic(22),
  },
  {
    ...FRETTED,
    name: "tenor banjo",
    scale: 53,
    range: ["G2", "B4"],
    program: 25,
    octaves: -1,
    tunings: ["G2 D3 A3 E4", "C3 G3 D4 A4"],
    frets: chromatic(17),
  },
  {
    ...FRETTED,
    name: "mountain dulcimer",
    scale: 70,
    range: ["D3", "D5"],
    program: 15,
    tunings: ["D3 A3 D4", "D3 A3 A3", "D3 A3 C4", "D3 A3 G3"],
    frets: DIATONIC,
  },
  {
    ...FRETTED,
    name: "ukulele",
    scale: 35,
    range: ["C4", "A5"],
    program: 27,
    tunings: ["G4 C4 E4 A4", "G3 C4 E4 A4|low G", "A4 D4 F#4 B4", "D3 G3 B3 E4"],
    frets: chromatic(15),
  },
  {
    ...FRETTED,
    name: "small lute",
    scale: 34,
    range: ["D4", "A5"],
    program: 27,
    tunings: ["D4 G4 B4 D5", "D4 G4 B4 E5"],
    frets: chromatic(17),
  },
  {
    ...FIFTHS,
    name: "bass",
    hand: "cello",
    range: ["E1", "G3"],
    clef: "bass",
    program: 42,
    octaves: -1,
    tunings: BASS,
  },
  {
    ...FRETTED,
    name: "plucked bass",
    range: ["E1", "G3"],
    clef: "bass",
    program: 25,
    octaves: -1,
    scale: 86,
    tunings: BASS,
    frets: chromatic(20),
  },
  { name: "whistle", family: "wind", range: ["D5", "B6"], clef: "treble", program: 74, octaves: 1 },
  ...WHISTLES,
  { name: "soprano recorder", family: "wind", range: ["C5", "D7"], clef: "treble", program: 73, octaves: 1 },
  { name: "alto recorder", family: "wind", range: ["F4", "G6"], clef: "treble", program: 73 },
  { name: "flute", family: "wind", range: ["D4", "B5"], clef: "treble", program: 73 },
  { name: "accordion", family: "box", range: ["G3", "C6"], clef: "treble", program: 21 },
  { name: "button accordion B/C", family: "box", range: ["B3", "B5"], clef: "treble", program: 21 },
  { name: "button accordion D/G", family: "box", range: ["A3", "B5"], clef: "treble", program: 21 },
  { name: "harp", family: "keyboard", range: ["C3", "C7"], clef: "treble", program: 27 },
  { name: "piano", family: "keyboard", range: ["A0", "C8"], clef: "treble", program: 0 },
  { name: "voice", family: "voice", range: ["A3", "D5"], clef: "treble", program: 52 },
  { name: "soprano", family: "voice", range: ["D4", "E5"], clef: "treble", program: 52 },
  { name: "alto", family: "voice", range: ["A3", "B4"], clef: "treble", program: 52 },
  { name: "tenor", family: "voice", range: ["D3", "E4"], clef: "treble", program: 52, octaves: -1 },
  { name: "bass voice", family: "voice", range: ["G2", "B3"], clef: "bass", program: 52 },
];

export const INSTRUMENTS: readonly Instrument[] = ROWS.map(entry);

export const FIDDLE = INSTRUMENTS[0] as Instrument;

/** Names instruments go by besides their own. */
const ALSO: Readonly<Record<string, string>> = {
  violin: "fiddle",
  "five-string banjo": "banjo",
  dulcimer: "mountain dulcimer",
  "four-string lute": "small lute",
  lute: "small lute",
  "tin whistle": "whistle",
  "d whistle": "whistle",
  "piano accordion": "accordion",
  "b/c accordion": "button accordion B/C",
  "d/g accordion": "button accordion D/G",
  "button accordion": "button accordion D/G",
  recorder: "soprano recorder",
  "double bass": "bass",
};
const byName = new Map(INSTRUMENTS.map((i) => [i.name.toLowerCase(), i]));

/** Finds an instrument by its name or another that it goes by, whatever the capitals. */
export function instrument(name: string): Instrument | undefined {
  const own = name.trim().toLowerCase();
  return byName.get(own) ?? byName.get((Object.hasOwn(ALSO, own) ? (ALSO[own] ?? "") : "").toLowerCase());
}

/** An instrument in one of its tunings; undefined where it has none of that name. */
export function tuned(on: Instrument, tuning: string | null): Instrument | undefined {
  if (tuning === null) return on;
  const same = (name: string) => name.toLowerCase() === tuning.trim().toLowerCase();
  const found = on.tunings.find((t) => same(t.name));
  return found && { ...on, strings: found.strings };
}
