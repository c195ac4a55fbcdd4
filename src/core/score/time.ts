import type { Key } from "../theory";
import { type Bar, type Event, type Metre, QUARTER, type Tempo, type Tune } from "./model";

/** Ticks of one full bar; a free metre has none and gives 0. */
export const barTicks = (metre: Metre): number =>
  metre.symbol === "free" ? 0 : (metre.beats * 4 * QUARTER) / metre.unit;

/** Whether the felt beat divides in three: 6/8, 9/8, 12/8, 3/8 and their like. */
export const isCompound = (metre: Metre): boolean => metre.unit >= 8 && metre.beats % 3 === 0;

/** Ticks of the felt beat: the unit of a simple metre, three units of a compound one. */
export const beatTicks = (metre: Metre): number =>
  metre.symbol === "free" ? QUARTER : ((isCompound(metre) ? 3 : 1) * 4 * QUARTER) / metre.unit;

/** `metreName({ beats: 6, unit: 8 }) // => "6/8"` */
export const metreName = (metre: Metre): string => (metre.symbol === "free" ? "free" : `${metre.beats}/${metre.unit}`);

/** Ticks an event list fills. */
export const lengthOf = (events: readonly Event[]): number => events.reduce((sum, e) => sum + e.ticks, 0);

/** A bar with its place in the written tune (pickup included, repeats not unfolded). */
export type Place = {
  /** Order in the tune from 0. */
  index: number;
  /**
   * Number a player would say: the pickup is 0, the first full bar 1; a bar split by a repeat keeps one number, and
   * the bars of a later ending have those of the first.
   */
  number: number;
  /** Which ending of its repeat the bar stands in: 2 in a second ending, 1 in a first one and anywhere else. */
  ending: number;
  strain: number;
  bar: Bar;
  /** Start, in ticks from the start of the tune. */
  at: number;
  ticks: number;
  metre: Metre;
  key: Key;
  /** Ticks of its metre that pass before its first event: a pickup starts late in its bar. */
  offset: number;
  /** A short bar that leads into the next. */
  pickup: boolean;
};

/** Every bar of the tune in written order, with number, start, metre and key in force. */
export function places(tune: Tune): Place[] {
  const found: Place[] = [];
  let [at, number, key, metre] = [0, 0, tune.key, tune.metre];
  /** Of the endings of a repeat: the number before the first, the highest so far, and which one is open. */
  let endings = { before: 0, highest: 0, open: 1 };
  const closeEndings = () => {
    if (endings.open > 1) number = Math.max(number, endings.highest);
    endings = { before: number, highest: number, open: 1 };
  };
  tune.strains.forEach((strain, s) => {
    strain.bars.forEach((bar, i) => {
      const later = bar.ending !== undefined && !bar.ending.includes(1);
      if (!later && (i === 0 || bar.repeatStart || bar.ending || strain.bars[i - 1]?.endingStop)) closeEndings();
      if (bar.ending && later) {
        endings = { ...endings, highest: Math.max(endings.highest, number), open: bar.ending[0] as number };
        number = endings.before;
      }
      for (const change of bar.changes.filter((c) => c.at === 0)) {
        key = change.key ?? key;
        metre = change.metre ?? metre;
      }
      const ticks = lengthOf(bar.events);
      const full = barTicks(metre);
      const before = found[found.length - 1];
      const short = full > 0 && ticks < full;
      const completes =
        short && before !== undefined && before.offset === 0 && before.ticks + ticks === full && before.ticks < full;
      const pickup =
        short &&
        ((before === undefined && ticks * 4 <= full * 3) ||
          completes ||
          (i === 0 && ticks <= full / 2) ||
          (bar.repeatStart === true && ticks <= full / 2));
      const continues = completes || (pickup && found.length > 0);
      if (!pickup) number += 1;
      found.push({
        index: found.length,
        number: continues && !pickup ? number - 1 : number,
        ending: endings.open,
        strain: s,
        bar,
        at,
        ticks,
        metre,
        key,
        offset: pickup ? full - ticks : 0,
        pickup,
      });
      at += ticks;
      for (const change of bar.changes.filter((c) => c.at > 0)) {
        key = change.key ?? key;
        metre = change.metre ?? metre;
      }
    });
  });
  return found;
}

/** What a bar is called: its number, with a dash for every ending before its own. `barLabel(...) // => "8’"` */
export const barLabel = ({ number, ending }: Pick<Place, "number" | "ending">): string =>
  `${number}${"’".repeat(Math.max(0, ending - 1))}`;

/** What the bar at an index is called; empty where there is none. */
export const barLabelAt = (from: readonly Place[], index: number): string => {
  const place = from[index];
  return place ? barLabel(place) : "";
};

/** Whether a bar counts in the length of a tune: full, and not one of a later ending. */
export const isCounted = ({ pickup, offset, ending }: Place): boolean => !pickup && offset === 0 && ending === 1;

/** A note or rest with its place in time. */
export type Timed = {
  event: Event;
  place: Place;
  /** Order in its bar. */
  index: number;
  /** Ticks from the start of the tune. */
  at: number;
};

/** Timelines that were laid before, as long as their bars live: everything that looks at a tune asks for one. */
const laid = new WeakMap<readonly Place[], readonly Timed[]>();

/** Every event of the tune in time order. */
export function timeline(from: readonly Place[]): readonly Timed[] {
  const known = laid.get(from);
  if (known) return known;
  const made: Timed[] = [];
  for (const place of from) {
    let at = place.at;
    place.bar.events.forEach((event, index) => {
      made.push({ event, place, index, at });
      at += event.ticks;
    });
  }
  laid.set(from, made);
  return made;
}

/** The beat of its bar a moment falls on, counted from 1; 2.5 is halfway through the second beat. */
export const beatAt = (place: Place, at: number): number => (place.offset + at - place.at) / beatTicks(place.metre) + 1;

const NAMES: readonly [number, string][] = [
  [4, "whole note"],
  [2, "half note"],
  [1, "quarter"],
  [1 / 2, "eighth"],
  [1 / 4, "sixteenth"],
  [1 / 8, "thirty-second"],
];
const COUNTS = ["", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"];

/** `lengthWords(5040) // => "three eighths"` */
export function lengthWords(ticks: number): string {
  for (const [quarters, name] of NAMES) {
    const count = ticks / (quarters * QUARTER);
    if (Number.isInteger(count) && count > 0 && count < 10) return `${COUNTS[count]} ${name}${count > 1 ? "s" : ""}`;
  }
  return `${Math.round((ticks / QUARTER) * 100) / 100} quarters`;
}

/** Parts of a beat that have a name, the largest first. */
const PARTS: readonly (readonly [ticks: number, name: string])[] = [
  [QUARTER / 2, "eighth"],
  [QUARTER / 3, "triplet eighth"],
  [QUARTER / 4, "sixteenth"],
  [QUARTER / 8, "thirty-second"],
];
const ORDINALS = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"];

/**
 * Where in its bar a moment is, in words: "beat 2", "the second eighth of beat 2", "a quarter before the bar" in a
 * pickup.
 */
export function momentWords(place: Place, at: number): string {
  const beat = beatTicks(place.metre);
  const into = place.offset + at - place.at;
  if (place.pickup) return `${spanWords(place.at + place.ticks - at)} before the bar`;
  const [order, off] = [Math.floor(into / beat) + 1, into % beat];
  if (off === 0) return `beat ${order}`;
  const part = PARTS.find(([ticks]) => off % ticks === 0 && beat % ticks === 0);
  const word = part && ORDINALS[off / part[0]];
  return word ? `the ${word} ${part[1]} of beat ${order}` : `beat ${beatsWords(into / beat + 1)}`;
}

/** A length as a musician says it: "a quarter", "three eighths". */
function spanWords(ticks: number): string {
  const words = lengthWords(ticks);
  return words.replace(/^one (e?)/, (_, vowel) => (vowel ? "an e" : "a "));
}

/** Ticks as quarter notes, exact to six decimals. */
export const quarters = (ticks: number): number => Math.round((ticks / QUARTER) * 1e6) / 1e6;

/** Metrical weight of a moment: 3 downbeat, 2 half bar of an even bar, 1 any beat, 0 off the beat. */
export function strength(place: Place, at: number): 0 | 1 | 2 | 3 {
  const beat = beatTicks(place.metre);
  const full = barTicks(place.metre);
  const inBar = place.offset + at - place.at;
  if (inBar === 0 || (full > 0 && inBar % full === 0)) return 3;
  if (full > 0 && inBar * 2 === full && (full / beat) % 2 === 0) return 2;
  return inBar % beat === 0 ? 1 : 0;
}

/** A sensible tempo where the source gives none: about 100 felt beats to the minute, calmer in three. */
export const tempoOf = (tune: Tune): Tempo =>
  tune.tempo ?? {
    beat: beatTicks(tune.metre),
    bpm: usualBpm(tune.metre),
  };

function usualBpm(metre: Metre): number {
  if (isCompound(metre)) return 104;
  if (metre.beats === 3) return 120;
  return metre.unit === 2 ? 80 : 100;
}

/** A spelled-out duration in quarter notes as fractions of beats players say: "1½". */
export function beatsWords(beats: number): string {
  const whole = Math.floor(beats + 1e-9);
  const rest = beats - whole;
  const signs: [number, string][] = [
    [1 / 4, "¼"],
    [1 / 3, "⅓"],
    [1 / 2, "½"],
    [2 / 3, "⅔"],
    [3 / 4, "¾"],
  ];
  const sign = signs.find(([value]) => Math.abs(value - rest) < 0.02)?.[1];
  if (rest < 0.02) return String(whole);
  return sign ? `${whole || ""}${sign}` : beats.toFixed(2).replace(/0$/, "");
}
