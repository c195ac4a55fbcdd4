import type { Bar, Event, Metre, Tune } from "../model";
import { barred, laidTune } from "../lay";
import { barLabel, barTicks, lengthOf, lengthWords, type Place, places } from "../time";
import { allBars, type Edited, refused, type Spot, whereIs, withBar, withStrain } from "./place";

/** Chords and changes of a run of bars by their time in the run, so that they keep their place when bar lines move. */
function flat(bars: readonly Bar[]) {
  let at = 0;
  return bars.map((bar) => {
    const found = { at, bar };
    at += lengthOf(bar.events);
    return found;
  });
}

/**
 * Bars laid out anew in the given lengths (the last repeats), notes over a line tied; chords and changes keep their
 * time.
 */
function laidOut(bars: readonly Bar[], lengths: readonly number[]): Bar[] {
  const chords = flat(bars).flatMap(({ at, bar }) => bar.chords.map((c) => ({ ...c, at: c.at + at })));
  const changes = flat(bars).flatMap(({ at, bar }) => bar.changes.map((c) => ({ ...c, at: c.at + at })));
  let to = 0;
  return barred(
    bars.flatMap((b) => b.events),
    lengths,
  ).map((events): Bar => {
    const from = to;
    to += lengthOf(events);
    const end = to;
    const within = <T extends { at: number }>(list: readonly T[]) =>
      list.filter((x) => x.at >= from && x.at < end).map((x) => ({ ...x, at: x.at - from }));
    return { events, chords: within(chords), changes: within(changes), barline: "single" };
  });
}

/** Strains laid out anew by metre and pickup. Repeats of whole strains are kept; endings cannot be. */
function relaid(tune: Tune, metre: Metre, pickup: number): Edited {
  if (allBars(tune).some((b) => b.ending))
    return refused("Take the first and second endings off before the bars are laid out anew.");
  const full = barTicks(metre);
  if (full === 0) return { tune: { ...tune, metre } };
  const strains = tune.strains.map((strain) => {
    const [start, end] = [strain.bars[0], strain.bars.at(-1)];
    const bars = laidOut(strain.bars, pickup > 0 ? [pickup, full] : [full]);
    const [first, last] = [bars[0] as Bar, bars.at(-1) as Bar];
    if (start?.repeatStart) first.repeatStart = true;
    if (end?.repeatEnd) last.repeatEnd = end.repeatEnd;
    last.barline = end?.barline ?? "single";
    return { ...strain, bars };
  });
  return { tune: laidTune({ ...tune, metre, strains }) };
}

/** Another metre; with `again` all bars are laid out anew in it. */
export function setMetre(tune: Tune, metre: Metre, again: boolean): Edited {
  return again
    ? relaid(tune, metre, places(tune)[0]?.pickup ? Math.min(places(tune)[0]?.ticks ?? 0, barTicks(metre) / 2) : 0)
    : { tune: { ...tune, metre } };
}

/** A pickup of so many ticks (0 for none); every bar line of the tune moves with it. */
export const setPickup = (tune: Tune, ticks: number): Edited =>
  ticks >= barTicks(tune.metre) ? refused("A pickup is shorter than a bar.") : relaid(tune, tune.metre, ticks);

/**
 * Moves the bar line after a bar over so many notes: 1 takes the next bar's first note in, -1 gives the last one away.
 */
export function moveBarline(tune: Tune, bar: number, notes: 1 | -1): Edited {
  const bars = allBars(tune);
  const [own, next] = [bars[bar], bars[bar + 1]];
  const [here, there] = [whereIs(tune, bar), whereIs(tune, bar + 1)];
  if (!own || !next || here?.strain !== there?.strain)
    return refused("There is no bar line here that could move: the strain ends.");
  const [from, to] = notes > 0 ? [next, own] : [own, next];
  if (from.events.length < 2) return refused("The bar would be empty. Join the two bars instead.");
  const moved = notes > 0 ? (from.events[0] as Event) : (from.events.at(-1) as Event);
  const left = { ...from, events: notes > 0 ? from.events.slice(1) : from.events.slice(0, -1) };
  const grown = { ...to, events: notes > 0 ? [...to.events, moved] : [moved, ...to.events] };
  return {
    tune: withBar(
      withBar(tune, bar, () => (notes > 0 ? grown : left)),
      bar + 1,
      () => (notes > 0 ? left : grown),
    ),
  };
}

/** A bar line before a note; the bar becomes two. */
export function splitBar(tune: Tune, { bar, event }: Spot): Edited {
  const at = whereIs(tune, bar);
  const own = allBars(tune)[bar];
  if (!at || !own || event < 1 || event >= own.events.length)
    return refused("A bar line needs a note before it and one after it in the bar.");
  const ticks = lengthOf(own.events.slice(0, event));
  const { repeatEnd, endingStop, repeatStart, ending, ...plain } = own;
  const first: Bar = {
    ...plain,
    events: own.events.slice(0, event),
    barline: "single",
    chords: own.chords.filter((c) => c.at < ticks),
    changes: own.changes.filter((c) => c.at < ticks),
    ...(repeatStart ? { repeatStart } : {}),
    ...(ending ? { ending } : {}),
  };
  const later = <T extends { at: number }>(list: readonly T[]) =>
    list.filter((x) => x.at >= ticks).map((x) => ({ ...x, at: x.at - ticks }));
  const second: Bar = {
    ...plain,
    events: own.events.slice(event),
    chords: later(own.chords),
    changes: later(own.changes),
    ...(repeatEnd ? { repeatEnd } : {}),
    ...(endingStop ? { endingStop } : {}),
  };
  return {
    tune: withStrain(tune, at.strain, (s) => ({
      ...s,
      bars: s.bars.flatMap((b, i) => (i === at.index ? [first, second] : [b])),
    })),
  };
}

/** Takes the bar line after a bar away. */
export function joinBars(tune: Tune, bar: number): Edited {
  const bars = allBars(tune);
  const [own, next] = [bars[bar], bars[bar + 1]];
  const [here, there] = [whereIs(tune, bar), whereIs(tune, bar + 1)];
  if (!own || !next || !here || here.strain !== there?.strain)
    return refused("There is no bar after this one in the strain.");
  if (own.repeatEnd || next.repeatStart || next.ending)
    return refused("A repeat or ending stands here. Take it off first.");
  const ticks = lengthOf(own.events);
  const shift = <T extends { at: number }>(list: readonly T[]) => list.map((x) => ({ ...x, at: x.at + ticks }));
  const joined: Bar = {
    ...next,
    ...(own.repeatStart ? { repeatStart: true } : {}),
    ...(own.ending ? { ending: own.ending } : {}),
    events: [...own.events, ...next.events],
    chords: [...own.chords, ...shift(next.chords)],
    changes: [...own.changes, ...shift(next.changes)],
  };
  return {
    tune: withStrain(tune, here.strain, (s) => ({
      ...s,
      bars: s.bars.toSpliced(here.index, 2, joined),
    })),
  };
}

/** Bars that do not add up, with what is missing or too much. */
export type Notice = { bar: number; label: string; off: number; message: string };

/** What does not add up, bar by bar, in the words of the bench. Pickups and the bars they complete are left alone. */
export function notices(from: readonly Place[]): Notice[] {
  return from.flatMap((place, i) => {
    const full = barTicks(place.metre);
    const off = place.ticks - full;
    const next = from[i + 1];
    const shared =
      place.pickup ||
      place.offset > 0 ||
      (next !== undefined && (next.pickup || next.offset > 0)) ||
      (off < 0 &&
        (next === undefined ||
          place.bar.repeatEnd !== undefined ||
          next.bar.ending !== undefined ||
          next.strain !== place.strain));
    if (full === 0 || off === 0 || (off < 0 && shared)) return [];
    const what = lengthWords(Math.abs(off)).replace(/^one /, off < 0 ? "one more " : "one ");
    return [
      {
        bar: place.index,
        label: barLabel(place),
        off,
        message:
          off < 0
            ? `Bar ${barLabel(place)} needs ${what}. Add a rest, or lengthen the last note.`
            : `Bar ${barLabel(place)} has ${what} too many. Shorten a note, or move the bar line.`,
      },
    ];
  });
}

/** Makes a bar add up: a rest fills it, or its last notes are shortened. */
export function mendBar(tune: Tune, bar: number): Edited {
  const place = places(tune)[bar];
  if (!place) return refused("There is no bar there any more.");
  const off = place.ticks - barTicks(place.metre);
  if (off === 0) return { tune };
  return {
    tune: withBar(tune, bar, (b) => ({
      ...b,
      events: off < 0 ? [...b.events, { ticks: -off, pitches: [] }] : trimmed(b.events, off),
    })),
  };
}

function trimmed(events: readonly Event[], by: number): Event[] {
  const last = events.at(-1);
  if (!last || by <= 0) return [...events];
  return last.ticks > by
    ? [...events.slice(0, -1), { ...last, ticks: last.ticks - by }]
    : trimmed(events.slice(0, -1), by - last.ticks);
}
