import { midi, type Pitch, parsePitch, spell } from "../theory";
import type { Spacing } from "./levels";
import type { Instrument, Reach, Spans } from "./model";

/** What the five levels have, as teachers' judgement gives it; each row of the catalogue takes its own. */
type Five<T> = [T, T, T, T, T];

const frets = (...highest: Five<number>): Five<Reach> =>
  highest.map((h): Reach => ({ highest: h })) as unknown as Five<Reach>;
/** The first level, or the first two, on some of the strings only. */
const some = (strings: readonly number[], all: Five<Reach>, levels = 1): Five<Reach> =>
  all.map((r, i) => (i < levels ? { ...r, strings: [...strings] } : r)) as Five<Reach>;

/** How far up its strings each level goes. Frets by their number; semitones above the open string for a bow. */
export const REACHES = {
  mandolin: some([2, 3], frets(5, 5, 7, 10, 15)),
  guitar: some([1, 2, 3], some([1, 2, 3, 4], frets(3, 4, 5, 9, 15), 2)),
  banjo: some([1, 2, 3, 4], frets(2, 4, 7, 12, 17)),
  ukulele: frets(3, 5, 7, 10, 12),
  dulcimer: some([1], frets(7, 9, 9, 12, 14), 2),
  bass: frets(4, 4, 7, 9, 12),
  violin: frets(7, 7, 7, 10, 15),
  cello: frets(6, 6, 6, 10, 15),
};

/** How wide the hand opens near the nut, farther up and up the neck, by how far apart the frets lie. */
export const SPANS: Readonly<Record<Spacing, Spans>> = {
  long: {
    from: [1, 5, 9],
    frets: [
      [2, 3, 3],
      [3, 3, 4],
      [3, 4, 4],
      [4, 4, 5],
      [4, 5, 6],
    ],
  },
  middle: {
    from: [1, 5, 9],
    frets: [
      [3, 3, 4],
      [4, 4, 5],
      [4, 5, 6],
      [5, 5, 6],
      [5, 6, 7],
    ],
  },
  short: {
    from: [1, 5, 9],
    frets: [
      [4, 4, 5],
      [5, 5, 6],
      [6, 6, 7],
      [6, 6, 7],
      [6, 7, 8],
    ],
  },
  diatonic: {
    from: [1, 3, 7],
    frets: [
      [2, 2, 3],
      [2, 3, 3],
      [2, 3, 4],
      [3, 4, 5],
      [3, 4, 6],
    ],
  },
};

/** Notes a second that are comfortable. */
export const SPEEDS = {
  plectrum: [1.5, 2.5, 4, 6.5, 9],
  fingers: [1.5, 2.5, 3.5, 5, 7],
  "basic strum": [2, 3.5, 5, 7, 8.5],
  others: [1.5, 3, 4.5, 7, 10],
} satisfies Record<string, Five<number>>;

type Range = { lowest: Pitch; highest: Pitch };
export const rangesOf = (...pairs: Five<string>): Five<Range> =>
  pairs.map((pair): Range => {
    const [low = "", high = ""] = pair.split(" ");
    return { lowest: parsePitch(low), highest: parsePitch(high) };
  }) as Five<Range>;

/** Semitones a whistle goes above its lowest note. */
const BLOWN: Five<number> = [9, 14, 17, 21, 24];
const PLAIN = { tonic: "C", mode: "major" } as const;
export const whistleRanges = (low: string): Five<Range> => {
  const lowest = parsePitch(low);
  return BLOWN.map((up): Range => ({ lowest, highest: spell(midi(lowest) + up, PLAIN) })) as Five<Range>;
};

/** How fingers are counted, by family. */
export const FINGERS = {
  violin: "1 to 4 from the index finger, 0 open; the second and third lie low or high",
  cello: "1 to 4, a semitone each, 0 open; 1-3-4 to begin with",
  frets: "1 to 4 from the index finger, 0 open",
  fromAbove: "4-3-2-1 and the thumb from nut to bridge, the hand from above; 0 open",
  holes: "six holes from the mouth down: x closed, o open, h half, + blown harder",
  rows: "row of buttons, push or pull",
  keys: "1 the thumb to 5 the little finger",
  none: "",
} as const;

/** Usual cautions, by family. Pain, numbness or tingling means stop, whatever is played. */
export const CAUTIONS: Readonly<Record<Instrument["family"], readonly string[]>> = {
  bowed: [
    "Jaw and shoulders loose; put the instrument down between turns.",
    "Pain, numbness or tingling: stop, and see a health professional if it lasts.",
  ],
  plucked: [
    "Press no harder than the note needs; thumb and wrist loose.",
    "Pain, numbness or tingling: stop, and see a health professional if it lasts.",
  ],
  wind: ["Light-headed? Pause and breathe.", "High notes are loud near an ear: turn aside."],
  box: ["Heavy: sit, straps even, put it down between turns.", "The loudest in the room: play under the tune."],
  keyboard: ["Shoulders down, wrists level.", "Pain, numbness or tingling: stop, and see a health professional."],
  voice: ["Never sing through hoarseness; drink water.", "Rest the voice before it is tired."],
  drum: ["Loud near an ear: sit at the side.", "Wrist loose; pain means stop."],
};

/** Where the catalogue's numbers come from. */
export const JUDGEMENT = "teachers' judgement";
