/** Where every number of these tables comes from: they are a teacher's judgement, to be changed by the next teacher. */
export const SOURCE = "teachers' judgement";

/** Tempos of a dance by what they are for, in beats of its named bar a minute. */
export const PURPOSES = ["practice", "session", "dancing"] as const;
export type Purpose = (typeof PURPOSES)[number];
type Range = readonly [lowest: number, highest: number];

/** A note that is let go early, so that air comes after it: where it ends in the bar, and the share it still sounds. */
export type Lift = {
  /** Share of the bar at which the note ends; "phrase" for the last note of each phrase. */
  before: number | "phrase";
  share: number;
};

/**
 * How a dance is played. Everything counts in the bar as it is named: `beats` beats, each of `parts` equal written
 * notes.
 */
export type Groove = {
  name: string;
  /** The bar the numbers are for, such as 4/4. */
  bar: string;
  beats: number;
  /** Two for beats that divide in halves, three for dotted ones. */
  parts: 2 | 3;
  /** Percent of full loudness for each part of the bar. */
  accents: readonly number[];
  /** Shares of a beat its parts take, at practice, session and dancing tempo. */
  shares: Record<Purpose, readonly number[]>;
  /** What becomes of dotted pairs: they stay as written, or are played by the shares of the beat. */
  pairs: "written" | "shared";
  /** Share of its written length that a note sounds; where short notes differ, theirs. */
  length: number;
  short?: number;
  /** Where the backing's off-beats fall, in words and as parts of the bar counted from 0. */
  offBeats: string;
  offs: readonly number[];
  tempo: Record<Purpose, Range | null>;
  lifts: readonly Lift[];
  lift: string;
  character: string;
  /** What a teacher has moved: shares of a beat added to its parts, and long to short of a dotted pair. */
  lean?: readonly number[];
  tight?: number;
};

/** Long to short of a dotted pair, as it is written and the tightest and loosest it is played. */
export const PAIR_RATIO = { written: 3, least: 2, most: 5 };

const halves = (...ratios: readonly [number, number, number]): Groove["shares"] => {
  const [practice, session, dancing] = ratios.map((r) => [r / (1 + r), 1 / (1 + r)]) as [number[], number[], number[]];
  return { practice, session, dancing };
};
const thirds = (...all: readonly [readonly number[], readonly number[], readonly number[]]): Groove["shares"] => {
  const [practice, session, dancing] = all.map((s) => s.map((p) => p / 100)) as [number[], number[], number[]];
  return { practice, session, dancing };
};
const JIG = thirds([39, 27, 34], [37, 29, 34], [35, 31, 34]);
const always = (shares: readonly number[]): Groove["shares"] => thirds(shares, shares, shares);

/** Every dance with its groove. Names are those the analysis gives. */
export const GROOVES: readonly Groove[] = [
  {
    name: "reel",
    bar: "4/4",
    beats: 4,
    parts: 2,
    accents: [100, 60, 76, 60, 92, 60, 76, 64],
    shares: halves(1.35, 1.2, 1.1),
    pairs: "written",
    length: 0.9,
    offBeats: "quarters 2 and 4",
    offs: [2, 6],
    tempo: { practice: [100, 160], session: [190, 220], dancing: [200, 230] },
    lifts: [{ before: 1, share: 0.6 }],
    lift: "the last eighth is clipped",
    character: "rolling",
  },
  {
    name: "jig",
    bar: "6/8",
    beats: 2,
    parts: 3,
    accents: [100, 58, 68, 92, 58, 72],
    shares: JIG,
    pairs: "written",
    length: 0.88,
    offBeats: "eighths 3 and 6",
    offs: [2, 5],
    tempo: { practice: [60, 90], session: [105, 122], dancing: [112, 126] },
    lifts: [],
    lift: "nothing is cut short",
    character: "round, lilting",
  },
  {
    name: "slip jig",
    bar: "9/8",
    beats: 3,
    parts: 3,
    accents: [100, 58, 68, 90, 56, 66, 92, 58, 70],
    shares: thirds([38, 28, 34], [36, 30, 34], [35, 31, 34]),
    pairs: "written",
    length: 0.92,
    offBeats: "eighths 3, 6 and 9",
    offs: [2, 5, 8],
    tempo: { practice: [60, 85], session: [100, 120], dancing: [112, 124] },
    lifts: [],
    lift: "nothing is cut short",
    character: "flowing",
  },
  {
    name: "slide",
    bar: "12/8",
    beats: 4,
    parts: 3,
    accents: [100, 50, 64, 84, 50, 64, 92, 50, 64, 84, 50, 66],
    shares: JIG,
    pairs: "written",
    length: 0.85,
    offBeats: "eighths 3, 6, 9 and 12",
    offs: [2, 5, 8, 11],
    tempo: { practice: [80, 110], session: [130, 150], dancing: [138, 156] },
    lifts: [{ before: 1, share: 0.6 }],
    lift: "air after beat 4",
    character: "galloping",
  },
  {
    name: "hornpipe",
    bar: "4/4",
    beats: 4,
    parts: 2,
    accents: [100, 55, 80, 55, 92, 55, 80, 58],
    shares: halves(2, 1.75, 1.55),
    pairs: "shared",
    length: 0.8,
    offBeats: "quarters 2 and 4",
    offs: [2, 6],
    tempo: { practice: [80, 112], session: [140, 176], dancing: [150, 190] },
    lifts: [],
    lift: "the closing three quarters are weighty",
    character: "bouncing",
  },
  {
    name: "polka",
    bar: "2/4",
    beats: 2,
    parts: 2,
    accents: [100, 72, 92, 76],
    shares: halves(1.15, 1.05, 1),
    pairs: "written",
    length: 0.75,
    offBeats: "the second eighth of each beat",
    offs: [1, 3],
    tempo: { practice: [76, 100], session: [124, 144], dancing: [130, 150] },
    lifts: [],
    lift: "every note on a beat is clipped",
    character: "driving",
  },
  {
    name: "march",
    bar: "4/4",
    beats: 4,
    parts: 2,
    accents: [100, 55, 80, 58, 92, 55, 80, 60],
    shares: halves(1.5, 1.35, 1.25),
    pairs: "written",
    length: 0.85,
    offBeats: "quarters 2 and 4",
    offs: [2, 6],
    tempo: { practice: [60, 80], session: [88, 112], dancing: [108, 120] },
    lifts: [{ before: "phrase", share: 0.6 }],
    lift: "a breath after each phrase",
    character: "upright",
  },
  {
    name: "march in six-eight",
    bar: "6/8",
    beats: 2,
    parts: 3,
    accents: [100, 50, 66, 90, 50, 66],
    shares: always([36, 29, 35]),
    pairs: "written",
    length: 0.82,
    offBeats: "eighths 3 and 6",
    offs: [2, 5],
    tempo: { practice: [56, 76], session: [92, 112], dancing: [108, 120] },
    lifts: [{ before: "phrase", share: 0.6 }],
    lift: "a breath after each phrase",
    character: "striding",
  },
  {
    name: "strathspey",
    bar: "4/4",
    beats: 4,
    parts: 2,
    accents: [100, 55, 84, 55, 94, 55, 86, 58],
    shares: halves(1.2, 1.2, 1.2),
    pairs: "written",
    length: 0.75,
    short: 0.95,
    offBeats: "none",
    offs: [],
    tempo: { practice: [56, 84], session: [96, 120], dancing: [116, 128] },
    lifts: [],
    lift: "a swell into the first beat",
    character: "proud",
  },
  {
    name: "schottische",
    bar: "4/4",
    beats: 4,
    parts: 2,
    accents: [100, 55, 84, 55, 96, 55, 66, 50],
    shares: halves(1.8, 1.6, 1.5),
    pairs: "shared",
    length: 0.78,
    offBeats: "quarters 2 and 4",
    offs: [2, 6],
    tempo: { practice: [80, 108], session: [120, 144], dancing: [126, 152] },
    lifts: [{ before: 3 / 4, share: 0.55 }],
    lift: "air before the hop on 4",
    character: "springy",
  },
  {
    name: "waltz",
    bar: "3/4",
    beats: 3,
    parts: 2,
    accents: [100, 58, 68, 56, 74, 60],
    shares: halves(1.25, 1.15, 1.05),
    pairs: "written",
    length: 0.93,
    offBeats: "quarters 2 and 3",
    offs: [2, 4],
    tempo: { practice: [72, 100], session: [108, 138], dancing: [120, 150] },
    lifts: [{ before: 1, share: 0.7 }],
    lift: "air at the end of 3",
    character: "swung from 1",
  },
  {
    name: "mazurka",
    bar: "3/4",
    beats: 3,
    parts: 2,
    accents: [92, 58, 100, 60, 76, 58],
    shares: halves(1.7, 1.55, 1.45),
    pairs: "shared",
    length: 0.82,
    offBeats: "quarters 2 and 3",
    offs: [2, 4],
    tempo: { practice: [72, 96], session: [108, 138], dancing: [120, 144] },
    lifts: [{ before: "phrase", share: 0.6 }],
    lift: "phrases end on 2",
    character: "stamped",
  },
  {
    name: "three-time ring dance",
    bar: "3/4",
    beats: 3,
    parts: 2,
    accents: [100, 62, 66, 60, 92, 64],
    shares: halves(1.15, 1.1, 1.05),
    pairs: "written",
    length: 0.92,
    offBeats: "quarter 3",
    offs: [4],
    tempo: { practice: [60, 84], session: [92, 116], dancing: [96, 126] },
    lifts: [],
    lift: "nothing is cut short",
    character: "turning, with even beats",
  },
  {
    name: "air",
    bar: "4/4",
    beats: 4,
    parts: 2,
    accents: [100, 86, 92, 86, 95, 86, 90, 86],
    shares: halves(1, 1, 1),
    pairs: "written",
    length: 1,
    offBeats: "none",
    offs: [],
    tempo: { practice: [40, 72], session: [44, 76], dancing: null },
    lifts: [{ before: "phrase", share: 0.8 }],
    lift: "a breath after each phrase",
    character: "sung",
  },
];

const AIR = GROOVES.find((g) => g.name === "air") as Groove;
/** Names a dance goes by besides its own. */
const ALSO: ReadonlyMap<string, string> = new Map([
  ["air or song", "air"],
  ["song", "air"],
  ["ring dance", "three-time ring dance"],
]);

/** The groove of a dance in a metre; undefined for a name that is none. A march in six is not one in four. */
export function grooveOf(dance: string, compound = false): Groove | undefined {
  const name = dance.trim().toLowerCase();
  const known = ALSO.get(name) ?? name;
  const found = GROOVES.find((g) => g.name === known);
  return found?.name === "march" && compound ? GROOVES.find((g) => g.name === "march in six-eight") : found;
}

export const NO_DANCE = AIR;
