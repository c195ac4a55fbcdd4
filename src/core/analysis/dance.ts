import { isCompound, type Metre, type Place, QUARTER, timeline, type Tune } from "../score";

/** What the ear counts in a tune's rhythm, each as a share from 0 to 1. */
type Profile = { dotted: number; snaps: number; even: number; long: number; sixteenths: number };

function profile(from: readonly Place[]): Profile {
  const notes = timeline(from).filter((t) => t.event.pitches.length > 0);
  // A pair counts from its beat: the short note of one dotted pair and the long one of the next are no snap.
  const pairs = notes.slice(1).flatMap((n, i) => {
    const first = notes[i] as (typeof notes)[number];
    return (first.place.offset + first.at - first.place.at) % QUARTER === 0 ? [[first.event.ticks, n.event.ticks] as const] : [];
  });
  const share = (test: (a: number, b: number) => boolean) => pairs.filter(([a, b]) => test(a, b)).length / Math.max(1, pairs.length);
  const total = notes.reduce((sum, n) => sum + n.event.ticks, 0) || 1;
  return {
    dotted: share((a, b) => a === 3 * b), snaps: share((a, b) => b === 3 * a), even: share((a, b) => a === b && a <= QUARTER / 2),
    long: notes.filter((n) => n.event.ticks >= QUARTER).reduce((sum, n) => sum + n.event.ticks, 0) / total,
    sixteenths: notes.filter((n) => n.event.ticks <= QUARTER / 4).length / Math.max(1, notes.length),
  };
}

type Kind = { name: string; metre: (m: Metre) => boolean; score: (p: Profile) => number };
const is = (...names: string[]) => (m: Metre) => names.includes(`${m.beats}/${m.unit}`);
const common = is("4/4", "2/2");

/** Dance types with the metres they move in and how far a rhythm speaks for each. */
const KINDS: readonly Kind[] = [
  { name: "jig", metre: is("6/8"), score: (p) => 2 + 2 * p.even },
  { name: "slide", metre: is("12/8"), score: (p) => 2 + p.long },
  { name: "slip jig", metre: is("9/8"), score: () => 3 },
  { name: "march", metre: is("6/8", "2/4", "4/4", "2/2"), score: (p) => 1 + 2 * p.dotted + p.long },
  { name: "polka", metre: is("2/4"), score: (p) => 2 + p.even - p.dotted },
  { name: "reel", metre: common, score: (p) => 1 + 3 * p.even - 2 * p.dotted - 6 * p.snaps },
  { name: "hornpipe", metre: common, score: (p) => 1 + 4 * p.dotted - 6 * p.snaps + 0.5 * p.long },
  { name: "strathspey", metre: common, score: (p) => 0.5 + 3 * p.dotted + 14 * p.snaps },
  { name: "schottische", metre: common, score: (p) => 0.2 + 2 * p.dotted },
  { name: "waltz", metre: is("3/4", "3/8"), score: (p) => 2 + p.long },
  { name: "mazurka", metre: is("3/4"), score: (p) => 0.5 + 3 * p.dotted },
  { name: "air or song", metre: () => true, score: (p) => 0.2 + 1.5 * p.long + 0.5 * p.dotted },
];

const ALIASES: Record<string, string> = { "double jig": "jig", "single jig": "jig", slipjig: "slip jig", "hop jig": "slip jig", air: "air or song", song: "air or song", "slow air": "air or song" };

export type DanceType = { name: string; confidence: number; alternatives: { name: string; confidence: number }[] };

/** The dance a tune is for, from metre and rhythm; the name in the source is believed where it fits the metre. */
export function findDance(tune: Tune, from: readonly Place[]): DanceType {
  const p = profile(from);
  const written = tune.rhythm.trim().toLowerCase();
  const declared = ALIASES[written] ?? written;
  const open = KINDS.filter((k) => k.metre(tune.metre) || (isCompound(tune.metre) && k.name === declared));
  const raised = open.map((k) => ({ name: k.name, weight: Math.exp(1.5 * k.score(p) + (k.name === declared ? 4 : 0)) }));
  const sum = raised.reduce((total, r) => total + r.weight, 0);
  const ranked = raised.map((r) => ({ name: r.name, confidence: r.weight / sum })).sort((a, b) => b.confidence - a.confidence);
  const [best = { name: "air or song", confidence: 1 }, ...alternatives] = ranked;
  return { ...best, alternatives };
}
