import { beatTicks, isCompound, type Place, strength } from "../../score";
import { solved } from "../../search";
import type { Limits } from "../limits";
import { barSeconds, inBows, isWithin, type Material, mostIn, type PartNote } from "./material";

/** A note that is wanted: where it stands, what it sounds, how long until it ends by itself. */
export type Wanted = { bar: number; at: number; abs: number; ticks: number; pitch: number };

/** How much it costs to leave a note out, by where it stands: teachers' judgement. */
const WORTH = {
  phraseFirst: 8,
  phraseLast: 4,
  final: 8,
  downbeat: 4,
  beat: 3,
  half: 1.2,
  weak: 0.6,
  top: 1,
  telling: 1,
};
/** A note off the beat whose beat is left out: the short half goes with its long one. Above what it is worth. */
const STRANDED = 3;

/** Strings and registers a note lies on, for what crosses between them. */
export type Lying = (pitch: number) => number;

/** Which notes of a bar are kept, by where they stand in it (ticks). */
type Pick = (into: number) => boolean;
/**
 * How a bar is thinned, the fullest way first: every note; long and short of each beat where beats have three parts, or
 * its halves; beats; half bars; the first.
 */
function picks({ metre, ticks, offset }: Place): Pick[] {
  const [beat, bar] = [beatTicks(metre), offset + ticks];
  const on =
    (grid: number): Pick =>
    (into) =>
      into % grid === 0;
  const longShort: Pick = (into) => into % beat === 0 || into % beat === (beat * 2) / 3;
  return [() => true, isCompound(metre) ? longShort : on(beat / 2), on(beat), on(bar / 2), on(bar)];
}

/** The notes of each bar that are few and long enough for the limits, on the finest grid that is. */
function onGrid(material: Material, notes: readonly Wanted[], limits: Limits): Wanted[] {
  const { places, tick } = material;
  const byBar = new Map<number, Wanted[]>();
  for (const n of notes) byBar.set(n.bar, [...(byBar.get(n.bar) ?? []), n]);
  return [...byBar].flatMap(([bar, own]) => {
    const place = places[bar];
    if (!place) return [];
    const most = mostIn(material, place, limits);
    const ends = place.at + place.ticks;
    for (const pick of picks(place)) {
      const kept = own.filter((n) => pick(place.offset + n.at));
      const lasts = kept.map((n, i) => (kept[i + 1]?.abs ?? Math.max(n.abs + n.ticks, ends)) - n.abs);
      const long = lasts.every((l) => l * tick >= limits.shortest - 1e-9);
      if (kept.length > 0 && kept.length <= most && long) return kept;
    }
    const [first] = own;
    const alone = first && most >= 1 && (ends - first.abs) * tick >= limits.shortest - 1e-9;
    return alone && barSeconds(material, place) > 0 ? [first] : [];
  });
}

/** One note of the plan: which of the last notes sounds now (0 is this one), and crossings of its bar so far. */
type State = { back: number; crossed: number };
/** Notes a kept one may lie behind. */
const WINDOW = 4;

/**
 * The notes of a line that a learner can play, each at its own instant: thinned bar by bar, then those left out whose
 * leaving costs least, so that pitches, leaps and crossings keep the limits. Left-out notes lengthen the one before.
 */
export function thinned(material: Material, wanted: readonly Wanted[], limits: Limits, lies: Lying): PartNote[] {
  const { places, phrases } = material;
  const notes = onGrid(material, wanted, limits).filter((n) => isWithin(limits, n.pitch));
  if (notes.length === 0) return [];
  const tops = Math.max(...notes.map((n) => n.pitch));
  const last = notes.at(-1) as Wanted;
  const openings = new Set(wanted.filter((n, i) => wanted[i - 1]?.bar !== n.bar).map((n) => n.abs));
  const begins = (n: Wanted) => phrases.some((p) => p.from === n.bar) && openings.has(n.abs);
  const closings = new Set(phrases.flatMap(({ to }) => wanted.findLast((n) => n.bar === to)?.abs ?? []));
  const worth = notes.map((n) => {
    const place = places[n.bar];
    const on = place ? strength(place, n.abs) : 0;
    const first = begins(n);
    const base = [WORTH.weak, WORTH.half, WORTH.beat, WORTH.downbeat][on] as number;
    const edge = (first ? WORTH.phraseFirst : 0) + (closings.has(n.abs) ? WORTH.phraseLast : 0);
    return base + edge + (n === last ? WORTH.final : 0) + (n.pitch === tops ? WORTH.top : 0);
  });
  const crosses = (a: Wanted | undefined, b: Wanted): number =>
    Number(a !== undefined && lies(a.pitch) !== lies(b.pitch));
  const tight = tightBars(notes, crosses, limits);
  const counted = Array.from({ length: (limits.crossings ?? 0) + 1 }, (_, c) => c);
  const states = notes.map((n, i) => {
    const counts = tight.has(n.bar) ? counted : [0];
    const backs = Array.from({ length: Math.min(WINDOW, i + 1) + 1 }, (_, b) => b);
    return backs.flatMap((back) => counts.map((crossed): State => ({ back, crossed })));
  });
  const keptAt = (i: number, { back }: State): Wanted | undefined => notes[i - back];
  const strandable = strandableOf(places, wanted);
  const solution = solved<State>({
    states,
    limits: [
      // Behind the first note there is nothing: only its own start counts.
      { name: "begins", broken: (i, s) => i === 0 && (s.back > 1 || s.crossed !== 0) },
    ],
    local: [{ name: "left out", at: (i, s) => (s.back === 0 ? 0 : (worth[i] as number)) }],
    moves: [
      {
        name: "stranded",
        into: (i, a, b) => {
          const now = notes[i] as Wanted;
          const opens = b.back === 0 && keptAt(i - 1, a)?.bar !== now.bar;
          return opens && strandable.has(now.abs) ? STRANDED : 0;
        },
      },
    ],
    moveLimits: [
      {
        name: "follows",
        broken: (i, a, b) => {
          const [now, before] = [notes[i] as Wanted, notes[i - 1] as Wanted];
          const carried = now.bar === before.bar && tight.has(now.bar) ? a.crossed : 0;
          if (b.back > 0) return b.back !== Math.min(a.back + 1, Math.min(WINDOW, i + 1)) || b.crossed !== carried;
          if (!tight.has(now.bar)) return b.crossed !== 0;
          return b.crossed !== carried + crosses(keptAt(i - 1, a), now);
        },
      },
      {
        name: "leap",
        broken: (i, a, b) => {
          const from = keptAt(i - 1, a);
          if (b.back > 0 || !from || limits.leap === null) return false;
          return Math.abs(from.pitch - (notes[i] as Wanted).pitch) > limits.leap;
        },
      },
      {
        name: "skipped string",
        broken: (i, a, b) => {
          const from = keptAt(i - 1, a);
          // Between two phrases there is time to go over.
          if (b.back > 0 || !from || limits.skip || begins(notes[i] as Wanted)) return false;
          return Math.abs(lies(from.pitch) - lies((notes[i] as Wanted).pitch)) > 1;
        },
      },
    ],
  });
  const kept = notes.filter((_, i) => solution.path[i]?.back === 0);
  return lengthened(material, wanted, kept, limits);
}

/** Moments off the beat that the line reaches in a bar it has begun: without its beginning they would stand alone. */
function strandableOf(places: readonly Place[], wanted: readonly Wanted[]): ReadonlySet<number> {
  const weak = wanted.filter((n, i) => {
    const place = places[n.bar];
    return place && wanted[i - 1]?.bar === n.bar && (place.offset + n.at) % beatTicks(place.metre) !== 0;
  });
  return new Set(weak.map((n) => n.abs));
}

/** Bars that have too many crossings with all their notes; leaving notes out never makes more of them. */
function tightBars(
  notes: readonly Wanted[],
  crosses: (a: Wanted | undefined, b: Wanted) => number,
  { crossings }: Limits,
): ReadonlySet<number> {
  const counts = new Map<number, number>();
  notes.forEach((n, i) => {
    counts.set(n.bar, (counts.get(n.bar) ?? 0) + crosses(notes[i - 1], n));
  });
  return new Set([...counts].filter(([, count]) => crossings !== null && count > crossings).map(([bar]) => bar));
}

/** Kept notes sound until the next kept one, or until the line itself rests; not beyond their bar. */
function lengthened(
  material: Material,
  wanted: readonly Wanted[],
  kept: readonly Wanted[],
  limits: Limits,
): PartNote[] {
  const rests = wanted.flatMap((n, i) => {
    const next = wanted[i + 1];
    return next && next.abs > n.abs + n.ticks ? [n.abs + n.ticks] : [];
  });
  const end = (wanted.at(-1)?.abs ?? 0) + (wanted.at(-1)?.ticks ?? 0);
  return kept.flatMap((n, i): PartNote[] => {
    const place = material.places[n.bar];
    if (!place) return [];
    const next = kept[i + 1]?.abs ?? place.at + place.ticks;
    const rest = rests.find((r) => r > n.abs) ?? end;
    // A note that is written shorter than the learner plays lasts as long as it takes.
    const least = Math.ceil(limits.shortest / material.tick);
    const until = Math.min(next, Math.max(rest, n.abs + n.ticks, n.abs + least), place.at + place.ticks);
    const note = { bar: n.bar, at: n.at, ticks: until - n.abs, pitches: [n.pitch] };
    if (note.ticks * material.tick < limits.shortest - 1e-9) return [];
    const pieces = inBows(material, place, note, limits);
    const most = mostIn(material, place, limits);
    const own = kept.filter((k) => k.bar === n.bar).length;
    // Where no more bows fit into the bar, the note ends early.
    const fits =
      own + pieces.length - 1 <= most && pieces.every((p) => p.ticks * material.tick >= limits.shortest - 1e-9);
    const longest = limits.bow === null ? note.ticks : Math.floor(limits.bow / material.tick);
    return fits ? pieces : [{ ...note, ticks: Math.min(note.ticks, longest) }];
  });
}
