import { type Bar, type Event, type Place, places, QUARTER, type Tune } from "../score";
import { diatonic, type Pitch } from "../theory";

/** Ways to put dotted pairs and snaps over even notes, each with what it is for. */
export const SNAPS = [
  { name: "March", says: "every pair long-short: marches and plain dances" },
  { name: "Strathspey", says: "long-short, then a snap where the second note carries" },
  { name: "Pointed", says: "a snap on every pair that falls by step or repeats: slow strathspeys, songs" },
] as const;
export type SnapStyle = (typeof SNAPS)[number]["name"];

const EIGHTH = QUARTER / 2;
const LONG = (3 * QUARTER) / 4;
const SHORT = QUARTER / 4;

type Pair = { place: Place; event: number; first: Event; second: Event; order: number };

const isPlain = ({ ticks, pitches, tuplet, tie }: Event) => ticks === EIGHTH && pitches.length > 0 && !tuplet && !tie;
const isPair = (a: Event | undefined, b: Event | undefined) =>
  a !== undefined && b !== undefined && a.pitches.length > 0 && b.pitches.length > 0 && a.ticks + b.ticks === QUARTER;

/** Even pairs of a bar that begin on a beat. */
function pairsOf(place: Place): Pair[] {
  const pairs: Pair[] = [];
  let at = place.offset;
  place.bar.events.forEach((first, event) => {
    const second = place.bar.events[event + 1];
    if (at % QUARTER === 0 && isPlain(first) && second && isPlain(second)) {
      pairs.push({ place, event, first, second, order: pairs.length });
    }
    at += first.ticks;
  });
  return pairs;
}

const step = ({ first, second }: Pair) =>
  diatonic(second.pitches.at(-1) as Pitch) - diatonic(first.pitches.at(-1) as Pitch);

/** Whether a pair is snapped by a style; `carries` says whether its second note belongs to the chord. */
const SNAPPED: Record<SnapStyle, (pair: Pair, carries: boolean) => boolean> = {
  March: () => false,
  Strathspey: (pair, carries) => pair.order % 2 === 1 && (carries || step(pair) > 1),
  Pointed: (pair) => step(pair) === -1 || step(pair) === 0,
};

/**
 * A tune with its even pairs made long-short, or snapped short-long, in a style. Triplets, longer notes, each strain's
 * last bar and other metres than those in quarters stay; a strain never begins with a snap, and two whole bars are
 * never all snaps. `inChord` says whether a note (bar and event) belongs to its chord.
 */
export function withSnaps(
  tune: Tune,
  style: SnapStyle,
  inChord: (bar: number, event: number) => boolean = () => false,
): Tune {
  const from = places(tune);
  const made = new Map<number, Bar>();
  let before = false;
  let lead = true;
  from.forEach((place, i) => {
    const next = from[i + 1];
    if (from[i - 1]?.strain !== place.strain) lead = true;
    const last = next === undefined || next.strain !== place.strain || place.bar.repeatEnd !== undefined;
    if (place.metre.unit !== 4 && place.metre.unit !== 2) return;
    const pairs = pairsOf(place);
    if (last || pairs.length === 0) {
      before = false;
      return;
    }
    const snaps = pairs.map((pair, k) => {
      const opens = lead && k === 0;
      return !opens && SNAPPED[style](pair, inChord(place.index, pair.event + 1));
    });
    lead = false;
    const all = snaps.every(Boolean);
    const tooMany = all && before;
    if (tooMany) snaps[snaps.length - 1] = false;
    before = all && !tooMany;
    const events = [...place.bar.events];
    pairs.forEach(({ event, first, second }, k) => {
      const [a, b] = snaps[k] ? [SHORT, LONG] : [LONG, SHORT];
      events[event] = { ...first, ticks: a };
      events[event + 1] = { ...second, ticks: b };
    });
    made.set(i, { ...place.bar, events });
  });
  return withBars(tune, made);
}

/** The pair that begins at a note turned round: long-short to short-long, and back. Undefined where there is none. */
export function flippedPair(tune: Tune, bar: number, event: number): Tune | undefined {
  const place = places(tune)[bar];
  const [first, second] = [place?.bar.events[event], place?.bar.events[event + 1]];
  if (!place || !first || !second || !isPair(first, second)) return undefined;
  const events = [...place.bar.events];
  events[event] = { ...first, ticks: second.ticks };
  events[event + 1] = { ...second, ticks: first.ticks };
  return withBars(tune, new Map([[bar, { ...place.bar, events }]]));
}

/** A tune with some of its bars (by index) in the place of its own. */
export function withBars(tune: Tune, made: ReadonlyMap<number, Bar>): Tune {
  let index = 0;
  const strains = tune.strains.map((strain) => ({
    ...strain,
    bars: strain.bars.map((bar) => made.get(index++) ?? bar),
  }));
  return { ...tune, strains };
}
