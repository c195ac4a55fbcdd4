import { beatTicks, type Place, QUARTER } from "../core/score";

/** A lock as it is written on the command line, before it is known where in a tune it lies. */
export type LockWish = { bar: number; ending: number; beat: number; quarters: number | undefined; value: string };

/**
 * Reads BAR[/ENDING]:BEAT[+QUARTERS]=VALUE; undefined for anything else. `readLock("8/2:1+2=A7") // => bar 8, ending
 * 2, beat 1 ...`
 */
export function readLock(text: string): LockWish | undefined {
  const match = /^(\d{1,5})(?:\/(\d))?:(\d+(?:\.\d+)?)(?:\+(\d+(?:\.\d+)?))?=(.{1,80})$/.exec(text.trim());
  if (!match) return undefined;
  const [, bar, ending, beat, quarters, value = ""] = match;
  return {
    bar: Number(bar),
    ending: Number(ending ?? 1),
    beat: Number(beat),
    quarters: quarters === undefined ? undefined : Number(quarters),
    value,
  };
}

/** A place of a tune and the stretch of it a lock asks for, in ticks from the start of the bar. */
export type LockPlace = { place: Place; at: number; ticks: number | undefined };

/**
 * Where a lock lies. Second endings go by the number of the first: 8/2.
 * Throws a RangeError where the tune has no such bar or beat.
 */
export function placeOf({ bar, ending, beat, quarters }: LockWish, from: readonly Place[]): LockPlace {
  const own = from.filter((p) => p.number === bar && p.ending === ending);
  const place = own.find((p) => !p.pickup) ?? own[0];
  const name = ending > 1 ? `bar ${bar}, ending ${ending}` : `bar ${bar}`;
  if (!place) throw new RangeError(`--lock names ${name}, which this tune does not have.`);
  const at = Math.round((beat - 1) * beatTicks(place.metre)) - place.offset;
  if (at < 0 || at >= place.ticks) throw new RangeError(`--lock names beat ${beat} of ${name}, where nothing stands.`);
  return { place, at, ticks: quarters === undefined ? undefined : Math.round(quarters * QUARTER) };
}
