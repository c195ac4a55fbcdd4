import { barTicks, beatTicks, isCompound, type Metre, type Place, timeline, type Tune } from "../score";
import { midi } from "../theory";

/**
 * What the ear counts in a tune's rhythm. Lengths are in steps: a quarter of an even bar, a third of a bar of three, a
 * felt beat of a
 * compound one, so that a reel in 2/4 with sixteenths counts like one in 4/4 with eighths. All but `density` are shares
 * from 0 to 1.
 */
type Profile = {
  /** Notes to a bar. */
  density: number;
  /** Steps of two equal notes; long and short (3:1); short and long (1:3); three equal notes; long and short as 2:1. */
  even: number;
  dotted: number;
  snap: number;
  triplet: number;
  lilt: number;
  /** Steps that are one note; notes longer than a step. */
  one: number;
  long: number;
  /** Strains that close on three struck steps, as hornpipes do. */
  cadence: number;
  /** Notes repeated at once. */
  repeated: number;
  /** Bars whose second or third step is longer than the first. */
  late: number;
  /** 1 where there are next to no snaps. */
  snapless: number;
  /** 1 where the metre is written 2/4. */
  twoFour: number;
  /** 1 where words stand under it. */
  sung: number;
  /** 1 where its tempo is slower than any dance goes. */
  slow: number;
  /** How far it falls short of five notes to an even bar: what runs in eighths has more. */
  sparse: number;
};

const near = (a: number, b: number) => Math.abs(a - b) < 0.02;

/** Felt beats to the minute below which nobody dances. */
const SLOW = 66;
/** Notes to a bar of four steps below which it does not run. */
const RUNS = 5;

function profile({ metre, tempo, verses }: Tune, from: readonly Place[]): Profile {
  const bar = barTicks(metre) || 4 * beatTicks(metre);
  const simple = metre.beats % 3 === 0 ? bar / 3 : bar / 4;
  const step = isCompound(metre) ? beatTicks(metre) : simple;
  const full = from.filter((p) => !p.pickup && p.offset === 0);
  const notes = timeline(from).filter((t) => t.event.pitches.length > 0);
  const steps = new Map<string, number[]>();
  for (const n of notes) {
    const at = n.place.offset + n.at - n.place.at;
    const id = `${n.place.index}.${Math.floor(at / step)}`;
    const open = steps.get(id);
    if (open) open.push(n.event.ticks / step);
    else if (at % step === 0) steps.set(id, [n.event.ticks / step]);
  }
  const groups = [...steps.values()];
  const share = (test: (lengths: readonly number[]) => boolean) =>
    groups.filter(test).length / Math.max(1, groups.length);
  const snap = share((g) => g.length >= 2 && near(g[0] as number, 0.25) && near(g[1] as number, 0.75));
  const closings = [...new Set(full.map((p) => p.strain))].map(
    (s) =>
      full
        .filter((p) => p.strain === s)
        .at(-1)
        ?.bar.events.filter((e) => e.pitches.length)
        .map((e) => e.ticks / step) ?? [],
  );
  const repeats = notes.filter(
    (n, i) => i > 0 && midi(n.event.pitches[0] as never) === midi(notes[i - 1]?.event.pitches[0] as never),
  ).length;
  const density = notes.length / Math.max(1, full.length);
  const sung = verses.length > 0 || from.some((p) => p.bar.events.some((e) => e.lyrics?.some((l) => l !== null)));
  const beats = tempo && (tempo.bpm * tempo.beat) / beatTicks(metre);
  const late = full.filter(
    ({ bar: { events } }) => events.length >= 2 && events.slice(1, 4).some((e) => e.ticks > (events[0]?.ticks ?? 0)),
  ).length;
  return {
    density,
    even: share((g) => g.length === 2 && near(g[0] as number, 0.5) && near(g[1] as number, 0.5)),
    dotted: share((g) => g.length >= 2 && near(g[0] as number, 0.75)),
    snap,
    triplet: share((g) => g.length === 3 && near(g[0] as number, 1 / 3)),
    lilt: share((g) => g.length === 2 && near(g[0] as number, 2 / 3)),
    one: share((g) => g.length === 1 && near(g[0] as number, 1)),
    long: share((g) => (g[0] as number) > 1.02),
    cadence:
      closings.filter(([a = 0, b = 0, c = 0]) => near(a, 1) && near(b, 1) && c >= 0.99).length /
      Math.max(1, closings.length),
    repeated: repeats / Math.max(1, notes.length),
    late: late / Math.max(1, full.length),
    snapless: snap < 0.03 ? 1 : 0,
    twoFour: metre.beats === 2 && metre.unit === 4 ? 1 : 0,
    sung: Number(sung),
    slow: Number(beats !== undefined && beats < SLOW),
    sparse: Math.max(0, RUNS - density),
  };
}

type Kind = { name: string; metres: readonly string[]; bias: number; weights: Partial<Record<keyof Profile, number>> };
const EVEN = ["4/4", "2/2", "2/4"];

/**
 * Dances with the metres they move in and what speaks for each (points per unit of a count). The rows of the reel,
 * hornpipe, strathspey,
 * march, polka and song were fitted by logistic regression on some 430 tunes of known dance (four of five labels right
 * on tunes left
 * out, nine of ten among reel, hornpipe and strathspey); the others were set beside them by what players listen for.
 */
const KINDS: readonly Kind[] = [
  {
    name: "reel",
    metres: EVEN,
    bias: 0.9,
    weights: {
      density: -0.08,
      even: 3,
      dotted: -1.4,
      snap: -1.4,
      triplet: 7,
      one: -0.7,
      long: -4.5,
      cadence: -1.3,
      repeated: -2.6,
      twoFour: -0.1,
      sung: -1.5,
      slow: -3,
      sparse: -0.8,
    },
  },
  {
    name: "hornpipe",
    metres: EVEN,
    bias: -3.6,
    weights: {
      density: 0.45,
      even: 1.1,
      dotted: 2.4,
      snap: -6.3,
      triplet: 5,
      one: -1.3,
      long: -9.3,
      cadence: 3.2,
      repeated: -6.5,
      twoFour: 0.1,
      sung: -2,
      slow: -3,
      sparse: -2.5,
    },
  },
  {
    name: "strathspey",
    metres: EVEN,
    bias: -1.9,
    weights: {
      density: 0.32,
      even: -1.7,
      dotted: 1.5,
      snap: 11.4,
      snapless: -2.5,
      one: -1.1,
      long: 5,
      cadence: -0.1,
      repeated: 2,
      twoFour: -1,
    },
  },
  {
    name: "march",
    metres: EVEN,
    bias: -0.1,
    weights: {
      density: 0.25,
      even: -0.5,
      dotted: 0.4,
      snap: -2.5,
      triplet: -9,
      one: -0.4,
      long: 2.4,
      cadence: -0.5,
      repeated: 3.5,
      twoFour: -1.6,
      slow: -1,
    },
  },
  {
    name: "polka",
    metres: ["2/4"],
    bias: 1.9,
    weights: {
      density: -0.4,
      even: -0.8,
      dotted: -0.8,
      snap: -2.2,
      triplet: 2.5,
      one: 2.6,
      long: 2,
      cadence: -0.2,
      repeated: -2.8,
      twoFour: 1.6,
    },
  },
  {
    name: "schottische",
    metres: ["4/4", "2/2"],
    bias: -2.2,
    weights: { density: 0.05, even: 0.2, dotted: 2, snap: -3, triplet: 3, one: 1.6, cadence: 1.2, repeated: 1 },
  },
  {
    name: "air or song",
    metres: EVEN,
    bias: 2.4,
    weights: {
      density: -0.52,
      even: -0.4,
      dotted: -0.1,
      snap: 0.3,
      triplet: -4,
      one: 1.9,
      long: 5,
      cadence: -1,
      repeated: 6.4,
      twoFour: -0.8,
      sung: 2,
      slow: 3,
    },
  },
  { name: "jig", metres: ["6/8"], bias: 1.6, weights: { triplet: 3.5, lilt: 0.8, one: -2 } },
  { name: "slide", metres: ["12/8"], bias: 1.5, weights: { lilt: 2, one: 1.5 } },
  { name: "slide", metres: ["6/8"], bias: -1.6, weights: { lilt: 5.2, triplet: -0.5, one: 2.5 } },
  { name: "jig", metres: ["12/8"], bias: -0.5, weights: { triplet: 4.5 } },
  { name: "march", metres: ["6/8"], bias: -1.2, weights: { lilt: 2.6, one: 3.4, dotted: 4, long: 2, repeated: 3 } },
  { name: "air or song", metres: ["6/8", "9/8", "12/8"], bias: -1.6, weights: { one: 2, long: 7, repeated: 3 } },
  { name: "slip jig", metres: ["9/8"], bias: 2.5, weights: {} },
  { name: "waltz", metres: ["3/4", "3/8"], bias: 1.2, weights: { one: 1.2, long: 2.5, even: 0.4, dotted: -0.5 } },
  { name: "mazurka", metres: ["3/4"], bias: -0.8, weights: { dotted: 5, late: 3, long: -2 } },
  {
    name: "three-time ring dance",
    metres: ["3/4"],
    bias: -2.2,
    weights: { density: 0.42, even: 1.2, triplet: 4, long: -3 },
  },
  {
    name: "air or song",
    metres: ["3/4", "3/8", "3/2", "6/4"],
    bias: 0.9,
    weights: { density: -0.12, long: 1.4, repeated: 4 },
  },
];

/** Names a source may use for the kinds above. */
const ALIASES: Record<string, string> = {
  "double jig": "jig",
  "single jig": "jig",
  slipjig: "slip jig",
  "hop jig": "slip jig",
  air: "air or song",
  song: "air or song",
  "slow air": "air or song",
  "ring dance": "three-time ring dance",
  "quick march": "march",
  "slow march": "march",
};

const named = (rhythm: string): string => {
  const written = rhythm.trim().toLowerCase();
  return ALIASES[written] ?? written;
};
/** Dances a title may name; whole words, the last one counts: "March of the Jig Makers' Reel" is a reel. */
const TITLES = new RegExp(
  `\\b(${[
    "(?:double |single |slip ?|hop )?jig",
    "reel|hornpipe|polka|slide|strathspey|schottische|waltz|mazurka",
    "(?:quick |slow )?march",
    "(?:slow )?air|song|ring dance",
  ].join("|")})\\b`,
  "gi",
);
const inTitle = (title: string): string => named([...title.matchAll(TITLES)].at(-1)?.[0] ?? "");

export type DanceType = {
  name: string;
  confidence: number;
  alternatives: { name: string; confidence: number }[];
  /** The counts that spoke most for it, in words. */
  evidence: string[];
};

const SAYS: Record<keyof Profile, (value: number) => string> = {
  density: (v) => `${v.toFixed(1)} notes to a bar`,
  even: (v) => `${percent(v)} of the steps are two even notes`,
  dotted: (v) => `${percent(v)} are long and short`,
  snap: (v) => `${percent(v)} are snaps, short before long`,
  triplet: (v) => `${percent(v)} are three even notes`,
  lilt: (v) => `${percent(v)} are long-short in two to one`,
  one: (v) => `${percent(v)} are one note`,
  long: (v) => `${percent(v)} start longer notes`,
  cadence: (v) => `${percent(v)} of the strains close on three struck beats`,
  repeated: (v) => `${percent(v)} of the notes repeat the one before`,
  late: (v) => `${percent(v)} of the bars lean on a later beat`,
  snapless: () => "there are no snaps",
  twoFour: () => "it is written in 2/4",
  sung: () => "it has words",
  slow: () => "its tempo is slower than dances go",
  sparse: () => "its bars hold few notes",
};
const percent = (share: number) => `${Math.round(share * 100)} %`;
const metreKey = (m: Metre) => `${m.beats}/${m.unit}`;

/** Points the written name of a dance is worth where its metre allows it. */
const BELIEVED = 6;

/**
 * The dance a tune is for, from metre and rhythm; the name in the source is believed where it fits the metre, unless
 * `infer`.
 */
export function findDance(tune: Tune, from: readonly Place[], infer = false): DanceType {
  const counts = profile(tune, from);
  const declared = infer ? "" : named(tune.rhythm) || inTitle(tune.title);
  const open = KINDS.filter((k) => k.metres.includes(metreKey(tune.metre)));
  const scored = open.map((kind) => {
    const points = (Object.keys(kind.weights) as (keyof Profile)[]).map((name) => ({
      name,
      points: (kind.weights[name] as number) * counts[name],
    }));
    return {
      kind,
      points,
      score: kind.bias + points.reduce((sum, p) => sum + p.points, 0) + (kind.name === declared ? BELIEVED : 0),
    };
  });
  const sum = scored.reduce((total, s) => total + Math.exp(s.score), 0);
  const [best, ...others] = scored
    .map((s) => ({ ...s, confidence: Math.exp(s.score) / sum }))
    .sort((a, b) => b.confidence - a.confidence);
  if (!best)
    return {
      name: "air or song",
      confidence: 0.5,
      alternatives: [],
      evidence: [`no dance here moves in ${metreKey(tune.metre)}`],
    };
  const evidence = best.points
    .filter((p) => p.points > 0.15)
    .sort((a, b) => b.points - a.points)
    .slice(0, 3)
    .map((p) => SAYS[p.name](counts[p.name]));
  return {
    name: best.kind.name,
    confidence: best.confidence,
    alternatives: others.map((s) => ({ name: s.kind.name, confidence: s.confidence })),
    evidence,
  };
}
