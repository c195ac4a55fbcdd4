import type { LocalCost, MoveCost, MoveLimit } from "../search";
import { chord, fifthsName, fifthsOf, type Key, scale, semitoneOf } from "../theory";
import type { Candidate, Dress } from "./candidate";
import type { Added } from "./model";
import type { Segment } from "./segments";

/** Points for additions, set by taste: the annotations do not tell. Above 0 is against, below 0 for. */
const POINTS = {
  dominantSeventh: 0.2,
  otherSeventh: 0.7,
  tonicSeventh: 1.4,
  sounded: -0.9,
  falls: -0.8,
  suspension: -3.5,
  secondary: 1,
  resolves: -1.8,
  slash: 0.7,
  bassStep: -0.9,
  bassLeap: 0.7,
  augmented: -0.6,
  closing: -0.8,
};

const FALL = 5;
const root = (symbol: string) => semitoneOf(chord(symbol).root);
const minor = (symbol: string) => chord(symbol).suffix.startsWith("m");
const noteAbove = (symbol: string, steps: number, key: Key): string => {
  const degree = scale(key).findIndex((n) => semitoneOf(n) === root(symbol));
  return scale(key)[(degree + steps) % 7] as string;
};

/** Everything a set of triads may wear in a key, wherever it may come to stand. */
export function wardrobe(set: readonly string[], key: Key): Dress[] {
  const own = new Set(scale(key).map(semitoneOf));
  const triads = set.filter((s) => ["", "m"].includes(chord(s).suffix) && own.has(root(s)));
  const sevenths = triads.map((plain): Dress => {
    const above = (semitoneOf(noteAbove(plain, 6, key)) - root(plain) + 12) % 12;
    const ofMajor = above === 10 ? "7" : "maj7";
    const suffix = minor(plain) ? "m7" : ofMajor;
    return {
      symbol: chord(plain).root + suffix,
      plain,
      what: "seventh",
      ...(suffix !== "maj7" ? { wants: (root(plain) + FALL) % 12 } : {}),
    };
  });
  const suspended = triads
    .filter((s) => !minor(s))
    .map((plain): Dress => ({ symbol: `${plain}sus4`, plain, what: "suspension" }));
  const secondary = triads
    .filter((s) => root(s) !== semitoneOf(key.tonic))
    .flatMap((target): Dress[] => {
      const plain = fifthsName(fifthsOf(chord(target).root) + 1);
      return own.has(semitoneOf(plain))
        ? [{ symbol: `${plain}7`, plain, what: "secondary dominant", wants: root(target) }]
        : [];
    });
  const walking = triads.flatMap((plain): Dress[] => [
    { symbol: `${plain}/${chord(plain).tones[1]}`, plain, what: "walking bass", way: 1 },
    { symbol: `${plain}/${chord(plain).tones[1]}`, plain, what: "walking bass", way: -1 },
    { symbol: `${plain}/${noteAbove(plain, 6, key)}`, plain, what: "walking bass", way: -1 },
  ]);
  const home = set
    .filter((s) => root(s) === semitoneOf(key.tonic) && ["", "m"].includes(chord(s).suffix))
    .map((plain): Dress => ({ symbol: minor(plain) ? `${plain}7` : `${plain}6`, plain, what: "closing chord" }));
  const taken = new Set(set);
  return [...sevenths, ...suspended, ...secondary, ...walking, ...home].filter((d) => !taken.has(d.symbol));
}

/** The augmented dominant of a key, where its dominant is a major chord and its tonic has a major third. */
export function augmented(set: readonly string[], key: Key): Dress | undefined {
  const tonic = semitoneOf(key.tonic);
  const plain = set.find((s) => chord(s).suffix === "" && root(s) === (tonic + 7) % 12);
  const bright = set.some((s) => chord(s).suffix === "" && root(s) === tonic);
  return plain && bright ? { symbol: `${plain}aug`, plain, what: "augmented dominant", wants: tonic } : undefined;
}

/** Whether a dress can be worn over a beat of melody: nothing in the melody may rub against what it adds. */
export function wearable({ symbol, plain, what }: Dress, cut: readonly Segment[], i: number): boolean {
  const { notes, at, place } = cut[i] as Segment;
  const above = notes.map((n) => (n.pitchClass - root(plain) + 12) % 12);
  const own = new Set(chord(symbol).classes);
  if (what === "suspension") {
    // The melody itself must hold the fourth into the chord and let it fall to the third.
    const first = notes[0];
    const next = cut
      .slice(i, i + 4)
      .flatMap((c) => c.notes)
      .find((n) => n.pitchClass !== first?.pitchClass);
    return (
      first !== undefined &&
      first.beats >= 0.5 &&
      above[0] === 5 &&
      first.timed.at <= place.at + at &&
      next !== undefined &&
      (next.pitchClass - root(plain) + 12) % 12 === 4
    );
  }
  if (what === "augmented dominant") return above.every((a) => a === 0 || a === 4 || a === 8 || a === 10);
  if (what === "walking bass")
    return i > 0 && !cut[i]?.phraseEnd && cut[i - 1]?.place.strain === place.strain && i + 1 < cut.length;
  // A note a semitone from a chord note rubs, unless it only passes by.
  return notes.every(
    (n) =>
      own.has(n.pitchClass) ||
      n.outside === "passing" ||
      n.outside === "neighbour" ||
      ![1, 11].some((d) => own.has((n.pitchClass + d) % 12)),
  );
}

/** What an addition costs or earns on its own beat. */
export function dressCost(cut: readonly Segment[], keys: readonly Key[]): LocalCost<Candidate> {
  const tonics = keys.map((k) => semitoneOf(k.tonic));
  const seventh = (i: number, { chord: own, root, dress }: Candidate) => {
    const above = [10, 11].map((s) => (root + s) % 12).find((s) => own.classes.includes(s));
    const sounded = cut[i]?.notes.some((n) => n.pitchClass === above) ? POINTS.sounded : 0;
    const tonic = tonics[cut[i]?.place.strain ?? 0] === root;
    if (tonic) return sounded + POINTS.tonicSeventh;
    const leads = own.suffix === "7" || dress?.wants !== undefined;
    return sounded + (leads ? POINTS.dominantSeventh : POINTS.otherSeventh);
  };
  const of: Record<Added["what"], (i: number, s: Candidate) => number> = {
    seventh,
    suspension: () => POINTS.suspension,
    "secondary dominant": () => POINTS.secondary,
    "walking bass": () => POINTS.slash,
    "augmented dominant": () => POINTS.augmented,
    "closing chord": () => POINTS.closing,
  };
  return { name: "what is added", at: (i, s) => (s.dress ? of[s.dress.what](i, s) : 0) };
}

/** Points for a bass that goes on by step the way a slashed chord walks, or does not. */
function walks(a: Candidate, b: Candidate, way: 1 | -1 | undefined): number {
  if (!way) return 0;
  const step = ((b.bass - a.bass) * way + 24) % 12;
  return step === 1 || step === 2 ? POINTS.bassStep : POINTS.bassLeap;
}

const fallsTo = ({ dress }: Candidate, next: Candidate) => dress?.wants !== undefined && next.root === dress.wants;
/** Dominants that are borrowed or raised for the chord they lead to. */
const mustFall = ({ dress }: Candidate) => dress?.what === "secondary dominant" || dress?.what === "augmented dominant";

/** What an addition earns by where it leads: sevenths fall, borrowed dominants resolve, a slashed bass goes by step. */
export const dressMove: MoveCost<Candidate> = {
  name: "where it leads",
  into: (_, a, b) => {
    if (a === b || (!a.dress && !b.dress)) return 0;
    const resolved = mustFall(a) ? POINTS.resolves : POINTS.falls;
    return (fallsTo(a, b) ? resolved : 0) + walks(a, b, a.dress?.way) + walks(a, b, b.dress?.way);
  },
};

/**
 * Where an addition may not lead: a borrowed dominant anywhere but home, a suspension off its root, a walking bass
 * nowhere.
 */
export const dressLimit: MoveLimit<Candidate> = {
  name: "an addition leads where it must",
  broken: (_, a, b) => {
    if (!a.dress) return false;
    if (a === b) return a.dress.way !== undefined;
    if (mustFall(a)) return !fallsTo(a, b);
    return a.dress.what === "closing chord" || (a.dress.what === "suspension" && b.root !== a.root);
  },
};
