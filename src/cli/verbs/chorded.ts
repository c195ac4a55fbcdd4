import { type Analysis, analyse, strainKeys } from "../../core/analysis";
import { type ChordLock, type ChordPlan, type ChordRequest, deriveChords, fileLocks, settled } from "../../core/chords";
import type { Place, Tune } from "../../core/score";
import { parseChord, semitoneOf } from "../../core/theory";
import type { Options } from "../arguments";
import { type LockWish, placeOf } from "../locks";

import { six, spot } from "./figures";

type Ground = { analysis: Analysis; request: Omit<ChordRequest, "locks">; own: ChordLock[] };

/** What chords are planned over, and the locks the file itself gives. */
export function groundOf(tune: Tune, { style, infer }: Options, analysis = analyse(tune)): Ground {
  const { places, form } = analysis;
  return {
    analysis,
    request: { places, phrases: form.phrases, keys: strainKeys(tune, analysis, !style.borrows), style },
    own: infer ? [] : fileLocks(places),
  };
}

/** The chords as asked for, with locks from the command line laid over those of the file. */
export function planned({ analysis, request, own }: Ground, wishes: readonly LockWish[]): ChordPlan {
  if (wishes.length === 0) return deriveChords({ ...request, locks: own });
  const free = deriveChords({ ...request, locks: own });
  const locks = wishes.map((wish): ChordLock => {
    const { place, at, ticks } = placeOf(wish, analysis.places);
    const symbol = parseChord(wish.value)?.symbol;
    if (!symbol) throw new RangeError(`--lock names "${wish.value}", which is no chord. Write Em, A7 or D/F#.`);
    // Without a length it lasts as long as the chord it takes the place of.
    const there = free.chords.find((c) => c.bar === place.index && c.at <= at && at < c.at + c.ticks);
    const until = there ? there.at + there.ticks : place.ticks;
    return { bar: place.index, at, ticks: ticks ?? until - at, symbol, by: "teacher" };
  });
  return deriveChords({ ...request, locks: settled(own, locks) });
}

export function chorded(tune: Tune, options: Options) {
  const ground = groundOf(tune, options);
  const { places } = ground.analysis;
  const plan = planned(ground, options.locks);
  return {
    style: plan.style,
    total: six(plan.cost),
    chords: plan.chords.map((c) => {
      const place = places[c.bar] as Place;
      return {
        ...spot(place, place.at + c.at, c.ticks),
        symbol: c.symbol,
        roman: c.roman,
        locked: c.locked,
        reason: c.reason,
        alternatives: distinct(c)
          .slice(0, 5)
          .map((a) => ({
            symbol: a.symbol,
            cost: six(a.cost),
            ...(a.at === undefined || a.ticks === undefined ? {} : spot(place, place.at + a.at, a.ticks)),
          })),
      };
    }),
  };
}

/** What a chord is to someone who compares roots and thirds. */
function kindOf(symbol: string): string {
  const found = parseChord(symbol);
  if (!found) return symbol;
  return found.root + (found.classes.includes((semitoneOf(found.root) + 3) % 12) ? "m" : "");
}

/** Runners-up of other roots or thirds, the cheapest form of each: A7 is no other chord than A. */
function distinct({ symbol, alternatives }: ChordPlan["chords"][number]) {
  const known = new Set([kindOf(symbol)]);
  return alternatives.filter((a) => {
    const kind = kindOf(a.symbol);
    const fresh = !known.has(kind);
    known.add(kind);
    return fresh;
  });
}
