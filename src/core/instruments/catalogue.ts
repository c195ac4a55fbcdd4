import { parsePitch } from "../theory";
import { CAUTIONS, FINGERS, JUDGEMENT, REACHES, rangesOf, SPANS, SPEEDS, whistleRanges } from "./byLevel";
import { spacingOf } from "./levels";
import { type Fret, Instrument } from "./model";
import { DIATONIC, chromatic, tuningOf } from "./written";

/** An instrument by what tells it from others; the rest follows from its family and its frets. */
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
  hand?: Instrument["hand"];
  scale?: number;
  frets?: Fret[];
} & Partial<Pick<Instrument, "reach" | "speed" | "ranges" | "fingers" | "capo">>;

const entry = ({ range, octaves = 0, tunings = [], ...own }: Row): Instrument => {
  const known = tunings.map(tuningOf);
  const spacing = spacingOf(own);
  const handFingers = spacing === "diatonic" ? FINGERS.fromAbove : FINGERS[own.hand ?? "none"];
  return Instrument.parse({
    lowest: parsePitch(range[0]),
    highest: parsePitch(range[1]),
    transposition: 12 * octaves,
    tunings: known,
    strings: known[0]?.strings ?? [],
    ...(own.hand ? { spans: SPANS[spacing] } : {}),
    speed: SPEEDS.others,
    fingers: handFingers,
    cautions: CAUTIONS[own.family],
    source: JUDGEMENT,
    ...own,
  });
};

const FIFTHS = { family: "bowed", hand: "violin", reach: REACHES.violin } as const;
const FRETTED = { family: "plucked", hand: "frets", clef: "treble" } as const;
const PICKED = { ...FRETTED, speed: SPEEDS.plectrum } as const;
const PLUCKED = { ...FRETTED, speed: SPEEDS.fingers } as const;
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
  ranges: whistleRanges(low),
  fingers: FINGERS.holes,
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
    reach: REACHES.cello,
    range: ["C2", "D4"],
    clef: "bass",
    program: 42,
    tunings: ["C2 G2 D3 A3"],
  },
  {
    ...PICKED,
    name: "mandolin",
    reach: REACHES.mandolin,
    scale: 35,
    range: ["G3", "B5"],
    program: 26,
    tunings: MANDOLIN,
    frets: chromatic(20),
  },
  {
    ...PICKED,
    name: "octave mandola",
    capo: 5,
    reach: REACHES.mandolin,
    scale: 53,
    range: ["G2", "B4"],
    program: 25,
    octaves: -1,
    tunings: ["G2 D3 A3 E4", "A2 E3 A3 E4", "G2 D3 G3 D4", "A2 D3 A3 E4"],
    frets: chromatic(20),
  },
  {
    ...PICKED,
    name: "guitar",
    capo: 7,
    reach: REACHES.guitar,
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
    capo: 5,
    reach: REACHES.banjo,
    speed: SPEEDS["basic strum"],
    scale: 67,
    range: ["D3", "D5"],
    program: 105,
    octaves: -1,
    tunings: ["G4@5 D3 G3 B3 D4", "G4@5 C3 G3 C4 D4", "G4@5 C3 G3 B3 D4", "G4@5 D3 G3 C4 D4", "F#4@5 D3 F#3 A3 D4"],
    frets: chromatic(22),
  },
  {
    ...PICKED,
    name: "tenor banjo",
    reach: REACHES.mandolin,
    scale: 53,
    range: ["G2", "B4"],
    program: 25,
    octaves: -1,
    tunings: ["G2 D3 A3 E4", "C3 G3 D4 A4"],
    frets: chromatic(17),
  },
  {
    ...PLUCKED,
    name: "mountain dulcimer",
    capo: 7,
    reach: REACHES.dulcimer,
    scale: 70,
    range: ["D3", "D5"],
    program: 15,
    tunings: ["D3 A3 D4", "D3 A3 A3", "D3 A3 C4", "D3 A3 G3"],
    frets: DIATONIC,
  },
  {
    ...PLUCKED,
    name: "ukulele",
    reach: REACHES.ukulele,
    scale: 35,
    range: ["C4", "A5"],
    program: 27,
    tunings: ["G4 C4 E4 A4", "G3 C4 E4 A4|low G", "A4 D4 F#4 B4", "D3 G3 B3 E4"],
    frets: chromatic(15),
  },
  {
    ...PLUCKED,
    name: "small lute",
    reach: REACHES.ukulele,
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
    reach: REACHES.bass,
    range: ["E1", "G3"],
    clef: "bass",
    program: 42,
    octaves: -1,
    tunings: BASS,
  },
  {
    ...PLUCKED,
    name: "plucked bass",
    reach: REACHES.bass,
    range: ["E1", "G3"],
    clef: "bass",
    program: 25,
    octaves: -1,
    scale: 86,
    tunings: BASS,
    frets: chromatic(20),
  },
  {
    name: "whistle",
    family: "wind",
    range: ["D5", "B6"],
    clef: "treble",
    program: 74,
    octaves: 1,
    ranges: whistleRanges("D5"),
    fingers: FINGERS.holes,
  },
  ...WHISTLES,
  { name: "soprano recorder", family: "wind", range: ["C5", "D7"], clef: "treble", program: 73, octaves: 1 },
  { name: "alto recorder", family: "wind", range: ["F4", "G6"], clef: "treble", program: 73 },
  {
    name: "flute",
    family: "wind",
    range: ["D4", "B5"],
    clef: "treble",
    program: 73,
    ranges: rangesOf("G4 D5", "D4 D5", "D4 G5", "D4 B5", "D4 D6"),
  },
  { name: "accordion", fingers: FINGERS.keys, family: "box", range: ["G3", "C6"], clef: "treble", program: 21 },
  {
    name: "button accordion B/C",
    fingers: FINGERS.rows,
    family: "box",
    range: ["B3", "B5"],
    clef: "treble",
    program: 21,
  },
  {
    name: "button accordion D/G",
    fingers: FINGERS.rows,
    family: "box",
    range: ["A3", "B5"],
    clef: "treble",
    program: 21,
  },
  { name: "harp", fingers: FINGERS.keys, family: "keyboard", range: ["C3", "C7"], clef: "treble", program: 27 },
  { name: "piano", fingers: FINGERS.keys, family: "keyboard", range: ["A0", "C8"], clef: "treble", program: 0 },
  { name: "voice", family: "voice", range: ["A3", "D5"], clef: "treble", program: 52 },
  {
    name: "soprano",
    family: "voice",
    range: ["D4", "E5"],
    clef: "treble",
    program: 52,
    ranges: rangesOf("D4 E5", "D4 E5", "D4 E5", "D4 A5", "D4 A5"),
  },
  {
    name: "alto",
    family: "voice",
    range: ["A3", "B4"],
    clef: "treble",
    program: 52,
    ranges: rangesOf("A3 B4", "A3 B4", "A3 B4", "A3 E5", "A3 E5"),
  },
  {
    name: "tenor",
    family: "voice",
    range: ["D3", "E4"],
    clef: "treble",
    program: 52,
    octaves: -1,
    ranges: rangesOf("D3 E4", "D3 E4", "D3 E4", "D3 A4", "D3 A4"),
  },
  {
    name: "bass voice",
    family: "voice",
    range: ["G2", "B3"],
    clef: "bass",
    program: 52,
    ranges: rangesOf("G2 B3", "G2 B3", "G2 B3", "G2 E4", "G2 E4"),
  },
  // Its pitches stand for the heavy and the light stroke.
  { name: "hand drum", family: "drum", range: ["F2", "F3"], clef: "bass", program: 117 },
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
  drum: "hand drum",
};
const byName = new Map(INSTRUMENTS.map((i) => [i.name.toLowerCase(), i]));

/**
 * Finds an instrument by its name or another that it goes by, whatever the capitals. A teacher's own come first: one of
 * the same name takes the place of the catalogue's.
 */
export function instrument(name: string, own: readonly Instrument[] = []): Instrument | undefined {
  const asked = name.trim().toLowerCase();
  const also = (Object.hasOwn(ALSO, asked) ? (ALSO[asked] ?? "") : asked).toLowerCase();
  return own.find((i) => [asked, also].includes(i.name.toLowerCase())) ?? byName.get(asked) ?? byName.get(also);
}

/** The catalogue with a teacher's own instruments: each in the place of its namesake, the others after it. */
export function catalogueWith(own: readonly Instrument[]): readonly Instrument[] {
  if (own.length === 0) return INSTRUMENTS;
  const named = new Map(own.map((i) => [i.name.toLowerCase(), i]));
  const kept = INSTRUMENTS.map((i) => named.get(i.name.toLowerCase()) ?? i);
  return [...kept, ...own.filter((i) => !byName.has(i.name.toLowerCase()))];
}

/** An instrument in one of its tunings; undefined where it has none of that name. */
export function tuned(on: Instrument, tuning: string | null): Instrument | undefined {
  if (tuning === null) return on;
  const same = (name: string) => name.toLowerCase() === tuning.trim().toLowerCase();
  const found = on.tunings.find((t) => same(t.name));
  return found && { ...on, strings: found.strings };
}
