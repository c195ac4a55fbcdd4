import { type Place, type Tune, timeline } from "../score";
import { className, type Key, keyName, type Mode, semitoneOf, signature, spellTonic } from "../theory";
import { type Evidence, EVIDENCE, gather } from "./evidence";
import weights from "./key-weights.json";

/** Modes that key finding tells apart. */
export const FINDABLE = ["major", "mixolydian", "dorian", "minor", "lydian", "phrygian"] as const;
type Findable = (typeof FINDABLE)[number];
type Table = Record<(typeof EVIDENCE)[number], number[]>;

/** The weights file: what each sound above the tonic counts for, shared by all modes and added by each. */
type Weights = {
  shared: Table;
  modes: Record<"major" | "mixolydian" | "dorian" | "minor", { bias: number; table: Table }>;
};
const { shared, modes } = weights as unknown as Weights;

const swapped = (table: Table, a: number, b: number): Table =>
  Object.fromEntries(
    EVIDENCE.map((name) => {
      const row = [...table[name]];
      [row[a], row[b]] = [row[b] as number, row[a] as number];
      return [name, row];
    }),
  ) as Table;

const sum = (a: Table, b: Table): Table =>
  Object.fromEntries(EVIDENCE.map((name) => [name, a[name].map((x, i) => x + (b[name][i] as number))])) as Table;

/**
 * Lydian and phrygian are too rare to be fitted: lydian is major with the fourth raised, phrygian minor with the second
 * lowered, each paying for its rarity.
 */
const RARITY = -3.2;
const TABLES: Record<Findable, { bias: number; table: Table }> = {
  major: { bias: modes.major.bias, table: sum(shared, modes.major.table) },
  mixolydian: { bias: modes.mixolydian.bias, table: sum(shared, modes.mixolydian.table) },
  dorian: { bias: modes.dorian.bias, table: sum(shared, modes.dorian.table) },
  minor: { bias: modes.minor.bias, table: sum(shared, modes.minor.table) },
  lydian: { bias: modes.major.bias + RARITY, table: swapped(sum(shared, modes.major.table), 5, 6) },
  phrygian: { bias: modes.minor.bias + RARITY, table: swapped(sum(shared, modes.minor.table), 1, 2) },
};

export type RankedKey = { tonic: string; mode: Mode; confidence: number; evidence: string[] };

const KINDS = EVIDENCE.length;
/** The tables as rows of twelve, kind after kind, for each mode. */
const ROWS = FINDABLE.map((mode) => Float64Array.from(EVIDENCE.flatMap((name) => TABLES[mode].table[name])));

/** Points of every mode, tonic (semitones above C) and kind of evidence, in that order. */
function pointsOf(evidence: Evidence): Float64Array {
  const points = new Float64Array(FINDABLE.length * 12 * KINDS);
  // Each kind twice over, so that every tonic reads its own twelve in a row.
  const shares = new Float64Array(KINDS * 24);
  EVIDENCE.forEach((name, kind) => {
    for (let i = 0; i < 24; i++) shares[kind * 24 + i] = evidence[name][i % 12] as number;
  });
  for (let m = 0; m < ROWS.length; m++) {
    const rows = ROWS[m] as Float64Array;
    for (let kind = 0; kind < KINDS; kind++)
      for (let tonic = 0; tonic < 12; tonic++) {
        const [own, row] = [kind * 24 + tonic, kind * 12];
        let total = 0;
        for (let i = 0; i < 12; i++) total += (shares[own + i] as number) * (rows[row + i] as number);
        points[(m * 12 + tonic) * KINDS + kind] = total;
      }
  }
  return points;
}

/** How many of the ranked keys say what speaks for them. */
const SAID = 5;

/**
 * Ranks tonic and mode from the notes as they sound, best first: all 72 of them share a confidence of 1.
 * A log-linear model over what a listener weighs (finals, phrase ends, strong beats, sevenths rising to the tonic);
 * its weights are fitted by `npm run fit:key`. Transposing a tune transposes the answer.
 */
export function rankKeys(from: readonly Place[]): RankedKey[] {
  const { points, scored, sum } = scoredKeys(from);
  scored.sort((a, b) => b.score - a.score);
  const counts = spellings(from);
  return scored.map((one, i) => rankedKey(one, sum, points, counts, i < SAID));
}

/** The best of the ranked keys alone. */
export function bestKey(from: readonly Place[]): RankedKey {
  const { points, scored, sum } = scoredKeys(from);
  const best = scored.reduce((a, b) => (b.score > a.score ? b : a));
  return rankedKey(best, sum, points, spellings(from), true);
}

/** A key by its mode (order among those that can be found) and tonic (semitones above C), with its points. */
type Scored = { m: number; tonic: number; score: number };

/** All keys with their points, and the sum of their chances when the best has 1. */
function scoredKeys(from: readonly Place[]): { points: Float64Array; scored: Scored[]; sum: number } {
  const points = pointsOf(gather(from));
  const scored: Scored[] = [];
  FINDABLE.forEach((mode, m) => {
    for (let tonic = 0; tonic < 12; tonic++) {
      let score = TABLES[mode].bias;
      for (let kind = 0; kind < KINDS; kind++) score += points[(m * 12 + tonic) * KINDS + kind] as number;
      scored.push({ m, tonic, score });
    }
  });
  const top = scored.reduce((most, s) => Math.max(most, s.score), Number.NEGATIVE_INFINITY);
  for (const s of scored) s.score -= top;
  return { points, scored, sum: scored.reduce((total, s) => total + Math.exp(s.score), 0) };
}

function rankedKey(
  { m, tonic, score }: Scored,
  sum: number,
  points: Float64Array,
  counts: ReturnType<typeof spellings>,
  said: boolean,
): RankedKey {
  const mode = FINDABLE[m] as Findable;
  const name = spelled(counts, tonic, mode);
  const evidence = said ? reasons(points, m, tonic, name) : [];
  return { tonic: name, mode, confidence: Math.exp(score) / sum, evidence };
}

/** Ticks of each note name the tune writes. */
function spellings(from: readonly Place[]): { name: string; semitone: number }[] {
  const counts = new Map<string, number>();
  for (const { event } of timeline(from)) {
    for (const p of event.pitches) counts.set(className(p), (counts.get(className(p)) ?? 0) + event.ticks);
  }
  return [...counts].sort((a, b) => b[1] - a[1]).map(([name]) => ({ name, semitone: semitoneOf(name) }));
}

/**
 * How the tune itself spells a pitchClass, where that gives a signature of up to seven signs; otherwise the spelling
 * with the smaller signature.
 */
const spelled = (counts: ReturnType<typeof spellings>, tonic: number, mode: Mode): string =>
  counts.find((c) => c.semitone === tonic && Math.abs(signature({ tonic: c.name, mode })) <= 7)?.name ??
  spellTonic(tonic, mode);

const SAYS: Record<(typeof EVIDENCE)[number], (tonic: string, mode: Mode) => string> = {
  duration: (_, mode) => `the notes fit its ${mode} scale`,
  present: (_, mode) => `the degrees heard are those of ${mode}`,
  strong: (tonic) => `the strong beats lean on the chord of ${tonic}`,
  final: (tonic) => `the last strong beat rests in ${tonic}`,
  strainEnd: (tonic) => `strains end around ${tonic}`,
  phraseEnd: (tonic) => `phrases come to rest around ${tonic}`,
  barEnd: (tonic) => `pairs of bars close towards ${tonic}`,
  opening: (tonic) => `the opening points to ${tonic}`,
  upSemitone: () => "the semitones that rise do so where this key has them",
  upTone: () => "the whole tones that rise do so where this key has them",
  downStep: () => "falling steps land where this key wants them",
  held: (tonic) => `held notes belong to the chord of ${tonic}`,
  lowest: () => "the lowest note suits this key",
  majorChord: (tonic, mode) => `the major chords that bars spell are those of ${tonic} ${mode}`,
  minorChord: (tonic, mode) => `the minor chords that bars spell are those of ${tonic} ${mode}`,
  closingMajor: (tonic) => `phrases close on chords that lead to ${tonic}`,
  closingMinor: (tonic) => `phrases close on chords that lead to ${tonic}`,
  openingMajor: (tonic) => `strains open on chords of ${tonic}`,
  preferred: (_, mode) => `where two forms of a degree are near, the tune takes that of ${mode}`,
  used: (_, mode) => `every degree it touches is one of ${mode}`,
  leaning: (_, mode) => `of two notes a semitone apart it takes that of ${mode}`,
  openingMinor: (tonic) => `strains open on chords of ${tonic}`,
};

/** The three kinds of evidence that speak most for a key, in words with their points above the average tonic. */
function reasons(points: Float64Array, m: number, tonic: number, name: string): string[] {
  const at = (kind: number, t: number) => points[(m * 12 + t) * KINDS + kind] as number;
  return EVIDENCE.map((kind, k) => {
    let sum = 0;
    for (let t = 0; t < 12; t++) sum += at(k, t);
    return { kind, gain: at(k, tonic) - sum / 12 };
  })
    .filter((r) => r.gain > 0.05)
    .sort((a, b) => b.gain - a.gain)
    .slice(0, 3)
    .map(({ kind, gain }) => `${SAYS[kind](name, FINDABLE[m] as Findable)} (+${gain.toFixed(1)})`);
}

export type KeyFinding = {
  key: Key;
  /** How sure the notes are of this key, 0 to 1. */
  confidence: number;
  declared: Key;
  ranked: RankedKey[];
  evidence: string[];
  /** Said when the notes speak clearly for another key than the declared one. */
  disagreement: string | undefined;
};

/** The key of a tune: the declared one, unless `infer` asks for what the notes say. */
export function findKey(tune: Tune, from: readonly Place[], infer = false): KeyFinding {
  const ranked = rankKeys(from);
  const best = ranked[0] as RankedKey;
  const declared = tune.key;
  const same = (k: { tonic: string; mode: Mode }) =>
    semitoneOf(k.tonic) === semitoneOf(declared.tonic) && k.mode === declared.mode;
  const own = ranked.find(same);
  const chosen = infer ? best : (own ?? { ...best, confidence: 0, evidence: [] });
  const doubt = !same(best) && best.confidence > 0.6;
  const speaking = `${best.tonic} ${best.mode} (${best.evidence[0] ?? "by their fit"})`;
  return {
    key: infer && !same(best) ? { tonic: best.tonic, mode: best.mode } : declared,
    confidence: chosen.confidence,
    declared,
    ranked: ranked.slice(0, 5),
    evidence: chosen.evidence,
    disagreement: doubt ? `The file says ${keyName(declared)}; the notes speak for ${speaking}.` : undefined,
  };
}
