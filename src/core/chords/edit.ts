import { music, type Phrase } from "../analysis";
import { beatTicks, type Place } from "../score";
import { parseChord } from "../theory";
import type { ChordLock, ChordPlan, PlannedChord } from "./model";

type Span = Pick<ChordLock, "bar" | "at" | "ticks">;

/** Frees a place: locks inside it go, those that reach over its edges keep what lies outside. */
export const freed = (locks: readonly ChordLock[], { bar, at, ticks }: Span): ChordLock[] =>
  locks.flatMap((l): ChordLock[] => {
    const [end, lockEnd] = [at + ticks, l.at + l.ticks];
    if (l.bar !== bar || lockEnd <= at || l.at >= end) return [l];
    return [
      ...(l.at < at ? [{ ...l, ticks: at - l.at }] : []),
      ...(lockEnd > end ? [{ ...l, at: end, ticks: lockEnd - end }] : []),
    ];
  });

/** Unlocks a place and keeps its chords as they were chosen; what lies outside it stays locked. */
export const loosened = (locks: readonly ChordLock[], place: Span): ChordLock[] => {
  const inside = locks.flatMap((l): ChordLock[] => {
    const [from, to] = [Math.max(l.at, place.at), Math.min(l.at + l.ticks, place.at + place.ticks)];
    return l.bar === place.bar && from < to ? [{ ...l, at: from, ticks: to - from, kept: true }] : [];
  });
  return [...freed(locks, place), ...inside];
};

/** Settles chords in their places; what was settled there before gives way. */
export const settled = (locks: readonly ChordLock[], next: readonly ChordLock[]): ChordLock[] =>
  next.reduce<ChordLock[]>((kept, lock) => [...freed(kept, lock), { ...lock, by: "teacher" }], [...locks]);

const asLock = ({ bar, at, ticks, symbol }: PlannedChord): ChordLock => ({ bar, at, ticks, symbol });

/** A typed chord as it will be written, or what is wrong with it. */
export function typedChord(text: string): { symbol: string } | { wrong: string } {
  const written = text.trim();
  if (!written) return { wrong: "Write a chord, such as Em, A7 or D/F#." };
  const found = written.length <= 80 ? parseChord(written) : null;
  return found
    ? { symbol: found.symbol }
    : { wrong: `"${written.slice(0, 24)}" is not a chord. Write a root and a quality, such as Em, A7 or D/F#.` };
}

/**
 * Moves the start of a chord to `beats` felt beats later (or earlier, below 0). The chord before gives up or takes the
 * time between; both keep at least one beat,
 * and a change goes at most to the next change or bar line on either side. Gives undefined where there is no room.
 */
export function moveChange(
  { chords }: ChordPlan,
  places: readonly Place[],
  index: number,
  beats: number,
): ChordLock[] | undefined {
  const [before, here] = [chords[index - 1], chords[index]];
  const place = here && places[here.bar];
  if (!before || !here || !place || before.symbol === here.symbol || beats === 0) return undefined;
  const start = (c: PlannedChord) => (places[c.bar] as Place).at + c.at;
  const to = start(here) + beats * beatTicks(place.metre);
  if (to <= start(before) || to >= start(here) + here.ticks || start(before) + before.ticks !== start(here))
    return undefined;
  return cutAt([before, here], places, to);
}

/** Two neighbours with the change between them at `to`, in ticks from the start of the tune. */
function cutAt(
  [first, second]: readonly [PlannedChord, PlannedChord],
  places: readonly Place[],
  to: number,
): ChordLock[] {
  const pieces = [first, second].flatMap((c): ChordLock[] => {
    const start = (places[c.bar] as Place).at + c.at;
    const early = Math.max(0, Math.min(c.ticks, to - start));
    return [
      ...(early > 0 ? [{ bar: c.bar, at: c.at, ticks: early, symbol: first.symbol }] : []),
      ...(early < c.ticks ? [{ bar: c.bar, at: c.at + early, ticks: c.ticks - early, symbol: second.symbol }] : []),
    ];
  });
  const joined: ChordLock[] = [];
  for (const lock of pieces) {
    const last = joined.at(-1);
    if (last?.bar === lock.bar && last.symbol === lock.symbol) last.ticks += lock.ticks;
    else joined.push({ ...lock });
  }
  return joined;
}

/** A chord in two, at the felt beat nearest its middle; undefined for a chord of one beat. */
export function splitChord({ chords }: ChordPlan, places: readonly Place[], index: number): ChordLock[] | undefined {
  const here = chords[index];
  const beat = here && beatTicks((places[here.bar] as Place).metre);
  if (!here || !beat || here.ticks <= beat) return undefined;
  const first = Math.ceil(here.ticks / beat / 2) * beat;
  return [
    { ...asLock(here), ticks: first },
    { ...asLock(here), at: here.at + first, ticks: here.ticks - first },
  ];
}

/**
 * A chord that takes over the next one of its bar, or the one before where it is the last; undefined where it has the
 * bar to itself.
 */
export function mergeChord({ chords }: ChordPlan, index: number): ChordLock[] | undefined {
  const here = chords[index];
  const other = [chords[index + 1], chords[index - 1]].find((c) => c && c.bar === here?.bar);
  return (
    here &&
    other && [{ bar: here.bar, at: Math.min(here.at, other.at), ticks: here.ticks + other.ticks, symbol: here.symbol }]
  );
}

/** Locks on every chord of a stretch of bars, as the plan has them. */
export const lockBars = ({ chords }: ChordPlan, from: number, to: number): ChordLock[] =>
  chords.filter((c) => c.bar >= from && c.bar <= to).map(asLock);

/**
 * Bars whose music a phrase's bars share: pairs of the bar copied from and the bar copied to, in the phrases like it.
 */
export function likePlaces(places: readonly Place[], phrases: readonly Phrase[], order: number): [Place, Place][] {
  const rows = phrases.map((p) => places.slice(p.from, p.to + 1).filter((b) => !b.pickup && b.offset === 0));
  const own = rows[order] ?? [];
  return rows.flatMap((row, i) =>
    i === order
      ? []
      : own.flatMap((from, k): [Place, Place][] => {
          const to = row[k];
          return to && to.ticks === from.ticks && music(to) === music(from) ? [[from, to]] : [];
        }),
  );
}

/** The chords of a phrase, locked in every bar of like phrases that has the same music. */
export function copyToLike(
  { chords }: ChordPlan,
  places: readonly Place[],
  phrases: readonly Phrase[],
  order: number,
): ChordLock[] {
  return likePlaces(places, phrases, order).flatMap(([from, to]) =>
    chords.filter((c) => c.bar === from.index).map((c) => ({ ...asLock(c), bar: to.index })),
  );
}
