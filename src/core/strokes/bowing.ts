import { FIDDLE, type Instrument } from "../instruments";
import { beatTicks, isCompound, type Place } from "../score";
import { isConflict, type Problem, type Solution, solve } from "../search";
import { midi, type Pitch } from "../theory";
import { type Beats, beatsOf } from "./metre";
import {
  DIRECTIONS,
  type Direction,
  otherWay,
  type Stroke,
  type StrokeLock,
  type StrokeNote,
  type StrokePlan,
} from "./model";
import { strokeNotes } from "./notes";
import { type Joint, leadInJoints, wantedJoints } from "./patterns";
import { bowReason } from "./reasons";
import { retakesOf } from "./retakes";

/** The styles of bowing, each with what it is for. */
export const BOWINGS = [
  { name: "Separate", says: "one bow to each note" },
  { name: "Down on the beat", says: "slurs bring the bow back, so that every downbeat is a down-bow" },
  { name: "Shuffle", says: "two together, two apart: the dance rolls" },
  { name: "Slurred threes", says: "one apart, three together: the old flowing way" },
  { name: "Jig pulse", says: "separate where it can be, long bows on 1 and 4" },
  { name: "Driven up-bows", says: "two up-bows marked into the down-bow" },
] as const;
export type Bowing = (typeof BOWINGS)[number]["name"];

/** What every departure costs, in points: a teacher's judgement. */
export const PRICES = {
  upDownbeat: 8,
  upMain: 1.5,
  upMainInJigPulse: 0.4,
  upWeak: 0.1,
  slur: [0, 0, 0.6, 1, 1.8, 2.6, 3.4, 4.2, 5],
  startsOnMain: 0.3,
  coversMain: 2.5,
  coversBarLine: 4,
  coversWeak: 0.2,
  mixedLengths: 0.5,
  crossing: 0.8,
  rocking: 1,
  afterHeld: 0.5,
  hook: 2,
  hookOntoMain: 6,
  drivenHook: 0.3,
  liftAtPhrase: 1,
  liftAfterHeld: 3,
  brokenPattern: 3,
  openTriplet: 3,
  finalUp: 0.5,
} as const;
/** Ties go to the fewest slurs, then to the earliest. */
const TIE = { slur: 1e-3, order: 1e-6 };
/** Shortest time a bow needs to leave the string and come back, and the longest one bow lasts. Seconds. */
const LIFT_TIME = 0.25;
const LONGEST_BOW = { usual: 1.6, air: 3 };
/** Most notes of one bow: slow notes, quick ones, airs. An eighth above so many seconds is slow. */
const MOST = { slow: 3, quick: 4, air: 6 };
const SLOW_EIGHTH = 0.3;
/** A locked stroke stands even where it could not be chosen; this is what it then costs. */
const FORCED = 40;

type Kind = "plain" | "hook" | "lift";
/** What a bow does at a note: its way, the note's order in the stroke, the notes of the stroke, how it began. */
type Bow = { id: number; way: Direction; order: number; of: number; kind: Kind; broke: boolean };

export type BowRequest = {
  places: readonly Place[];
  style: Bowing;
  instrument?: Instrument;
  /** Felt beats a minute. */
  bpm: number;
  /** Bars (indexes) that begin a phrase. */
  phraseStarts: ReadonlySet<number>;
  locks?: readonly StrokeLock[];
  /** A slow air: longer bows. */
  air?: boolean;
};

/** Everything about one note that prices look at. */
type Spot = {
  note: StrokeNote;
  beats: Beats;
  downbeat: boolean;
  main: boolean;
  weak: boolean;
  /** First of its group of running notes, and the joint its style wants before it. */
  opens: boolean;
  wanted: Joint | undefined;
  phrase: boolean;
  /** The first downbeat of its strain; and a metre of dotted beats. */
  leads: boolean;
  dotted: boolean;
  seconds: number;
};

const near = (a: number, b: number) => Math.abs(a - b) < 1;

function spotsOf(notes: readonly StrokeNote[], { places, style, bpm, phraseStarts }: BowRequest): Spot[] {
  const first = places[0];
  const beatSeconds = 60 / bpm / (first ? beatTicks(first.metre) : 1);
  const fine = isFine(places);
  const spots = notes.map((note): Spot => {
    const beats = beatsOf(note.place.metre, fine);
    const on = (every: number) => every > 0 && note.into % every === 0;
    return {
      note,
      beats,
      downbeat: on(beats.full),
      main: on(beats.main),
      weak: on(beats.weak) && !on(beats.main),
      opens: on(beats.group),
      wanted: undefined,
      phrase: phraseStarts.has(note.place.index) && note.at === note.place.at,
      leads:
        on(beats.full) &&
        !notes.some((n) => n.place.strain === note.place.strain && n.at < note.at && n.into % beats.full === 0),
      dotted: isCompound(note.place.metre),
      seconds: note.ticks * beatSeconds,
    };
  });
  withWanted(spots, style);
  return spots;
}

/** Whether a tune in two-four runs in sixteenths. */
function isFine(places: readonly Place[]): boolean {
  const events = places.flatMap((p) =>
    p.bar.events.filter((e) => e.pitches.length > 0).map((e) => e.ticks / beatTicks(p.metre)),
  );
  return events.filter((share) => share <= 0.26).length > events.length * 0.4;
}

/** Writes down the joints a style wants inside every group that its notes fill. */
function withWanted(spots: Spot[], style: Bowing): void {
  spots.forEach((spot, i) => {
    if (!spot.opens) return;
    const { group, unit } = spot.beats;
    const own: Spot[] = [];
    for (let k = i, left = group; k < spots.length && left > 0; k++) {
      const { note } = spots[k] as Spot;
      if (k > i && note.rest > 0) return;
      own.push(spots[k] as Spot);
      left -= note.ticks;
      if (left < -1) return;
      if (near(left, 0)) left = 0;
    }
    const lengths = own.map((s) => s.note.ticks / unit);
    if (!near(lengths.reduce((a, b) => a + b, 0) * unit, group)) return;
    const before = spots[i - 1];
    const held = before !== undefined && before.note.ticks >= group && (spots[i] as Spot).note.rest === 0;
    const joints = wantedJoints(style, lengths, held);
    joints?.forEach((joint, k) => {
      (own[k + 1] as Spot).wanted = joint;
    });
  });
  // Pickups last: they begin groups of their own.
  withLeadIns(spots, style);
}

/** The joints a style wants in pickups of running notes. */
function withLeadIns(spots: Spot[], style: Bowing): void {
  spots.forEach((spot, i) => {
    const { place } = spot.note;
    if (!place.pickup || spots[i - 1]?.note.place === place) return;
    const own = spots.filter((s) => s.note.place === place);
    const joints = own.every((s) => s.note.ticks === s.beats.unit) ? leadInJoints(style, own.length) : undefined;
    if (!joints) return;
    spot.opens = true;
    joints.forEach((joint, k) => {
      (own[k + 1] as Spot).wanted = joint;
    });
  });
}

/** All states a note can have; the same list for every note, so that the tables of moves are made once. */
function statesFor(style: Bowing, most: number): Bow[] {
  const flags = style === "Separate" || style === "Down on the beat" || style === "Jig pulse" ? [false] : [false, true];
  const sizes = style === "Separate" ? [1] : Array.from({ length: most }, (_, i) => i + 1);
  const states = DIRECTIONS.flatMap((way) =>
    sizes.flatMap((of) =>
      Array.from({ length: of }, (_, order) => order).flatMap((order) =>
        kindsFor(order, of).flatMap((kind) => flags.map((broke) => ({ way, order, of, kind, broke }))),
      ),
    ),
  );
  return states.map((state, id) => ({ id, ...state }));
}
/** Only short strokes begin by a hook or after a lift; what goes on has no beginning. */
const kindsFor = (order: number, of: number): Kind[] => (order > 0 || of > 2 ? ["plain"] : ["plain", "hook", "lift"]);

const interval = (a: StrokeNote, b: StrokeNote) =>
  Math.abs(midi(a.pitches.at(-1) as Pitch) - midi(b.pitches.at(-1) as Pitch));
const isTripletStart = ({ tuplet }: StrokeNote) => tuplet?.actual === 3 && tuplet.place === "first";

/** Whether notes are one triplet whose notes differ: it is slurred as one. */
function isRun(spots: readonly Spot[], i: number): boolean {
  const notes = spots.slice(i, i + 3).map((s) => s.note);
  if (notes.length < 3 || !isTripletStart(notes[0] as StrokeNote)) return false;
  return notes.slice(1).every((n, k) => n.rest === 0 && interval(n, notes[k] as StrokeNote) > 0);
}

/** A triplet that leads into a downbeat. */
const isLeadIn = (spots: readonly Spot[], i: number) => isRun(spots, i) && spots[i + 3]?.downbeat === true;

/** Strings crossed in a slur, the fourth finger for an open string where that saves one; Infinity for a skip. */
function crossings(notes: readonly StrokeNote[]): { count: number; rocking: boolean } {
  const crossed = notes.slice(1).map((b, i) => {
    const a = notes[i] as StrokeNote;
    const step = (b.string ?? 0) - (a.string ?? 0);
    if ((step === 1 && b.open) || (step === -1 && a.open)) return 0;
    return step;
  });
  if (crossed.some((s) => Math.abs(s) > 1)) return { count: Number.POSITIVE_INFINITY, rocking: false };
  const moves = crossed.filter((s) => s !== 0);
  return { count: moves.length, rocking: moves.some((s, i) => i > 0 && s === -(moves[i - 1] as number)) };
}

type Ground = { spots: readonly Spot[]; request: BowRequest; most: number };

/** What the slur of `of` notes from note `i` on costs; Infinity where it cannot be. */
function slurPrice({ spots, request, most }: Ground, i: number, of: number): number {
  if (of === 1) return 0;
  const own = spots.slice(i, i + of);
  const [first] = own as [Spot];
  const notes = own.map((s) => s.note);
  const seconds = own.reduce((sum, s) => sum + s.seconds, 0);
  const limit = first.seconds > SLOW_EIGHTH && !request.air ? MOST.slow : most;
  const longest = request.air ? LONGEST_BOW.air : LONGEST_BOW.usual;
  const leadIn = request.style === "Slurred threes" && isLeadIn(spots, i);
  if (own.length < of || of > limit + (isRun(spots, i) ? 1 : 0) || (seconds > longest && of > 2 && !leadIn))
    return Number.POSITIVE_INFINITY;
  const joined = of > 3 && !leadIn && notes.some((n) => n.tuplet?.actual === 3);
  // A slur over the same note again would be a tie.
  const again = notes.slice(1).some((n, k) => interval(n, notes[k] as StrokeNote) === 0);
  if (
    joined ||
    again ||
    notes.slice(1).some((n) => n.rest > 0) ||
    splitsTriplet(notes) ||
    hasDottedPair(notes, first.beats)
  ) {
    return Number.POSITIVE_INFINITY;
  }
  const { count, rocking } = crossings(notes);
  const threes = request.style === "Slurred threes";
  const inside = own.slice(1).reduce((sum, s) => {
    if (s.downbeat) return sum + (threes ? 0 : PRICES.coversBarLine);
    if (s.main) return sum + PRICES.coversMain;
    return sum + (s.weak ? PRICES.coversWeak : 0);
  }, 0);
  const { unit } = first.beats;
  const mixed = notes.some((n) => n.ticks >= 2 * unit) && notes.some((n) => n.ticks <= unit);
  return (
    (PRICES.slur[of] as number) +
    (first.main ? PRICES.startsOnMain : 0) +
    inside +
    (mixed ? PRICES.mixedLengths : 0) +
    count * PRICES.crossing +
    (rocking ? PRICES.rocking : 0) +
    TIE.slur +
    i * TIE.order
  );
}

/** A slur that takes a part of a triplet, and not all of it. */
function splitsTriplet(notes: readonly StrokeNote[]): boolean {
  const places = notes.map((n) => n.tuplet?.place);
  const starts = places.filter((p) => p === "first").length;
  const ends = places.filter((p) => p === "last").length;
  return places.some((p) => p !== undefined) && (starts !== ends || places[0] === "inner" || places[0] === "last");
}
/** Long-short of three to one: it is hooked, never slurred. */
const hasDottedPair = (notes: readonly StrokeNote[], { unit }: Beats) =>
  notes.slice(1).some((b, i) => isDotted(notes[i] as StrokeNote, b, unit));
const isDotted = (a: StrokeNote, b: StrokeNote, unit: number) => near(a.ticks, 1.5 * unit) && near(b.ticks, 0.5 * unit);

/** What it costs that a stroke begins on a note this way. */
function wayPrice({ downbeat, main, weak, leads, dotted }: Spot, way: Direction, style: Bowing): number {
  if (way === "down") return 0;
  // Separate bows alternate through odd bars: they only begin well.
  if (style === "Separate") return leads ? PRICES.upDownbeat : 0;
  if (downbeat) return PRICES.upDownbeat;
  if (main) return style === "Jig pulse" && dotted ? PRICES.upMainInJigPulse : PRICES.upMain;
  return weak ? PRICES.upWeak : 0;
}

/** What it costs to begin the same way again on a note: stopped on the string, or lifted; Infinity where neither is. */
function kindPrice(ground: Ground, i: number, { kind, of, way }: Bow): number {
  if (kind === "plain") return 0;
  const { spots, request } = ground;
  const [spot, before] = [spots[i] as Spot, spots[i - 1]];
  if (!before) return Number.POSITIVE_INFINITY;
  const free = spot.note.rest >= spot.beats.unit && spot.note.rest > 0;
  if (kind === "lift") {
    if (free) return 0;
    if (before.seconds < LIFT_TIME || request.style === "Separate") return Number.POSITIVE_INFINITY;
    if (spot.phrase) return PRICES.liftAtPhrase;
    return before.note.ticks >= 2 * spot.beats.unit ? PRICES.liftAfterHeld : Number.POSITIVE_INFINITY;
  }
  if (spot.note.rest > 0 || request.style === "Separate") return Number.POSITIVE_INFINITY;
  if (isDotted(before.note, spot.note, spot.beats.unit) && of === 1)
    return (PRICES.slur[2] as number) + (before.main ? PRICES.startsOnMain : 0) + TIE.slur + i * TIE.order;
  const last = spots[i + of - 1]?.note;
  // Driven bows go up, off the beat, into the beat they lead to.
  const leads = last !== undefined && near((last.into + last.ticks) % spot.beats.main, 0) && !spot.main;
  if (request.style === "Driven up-bows" && leads && way === "up") return PRICES.drivenHook;
  return spot.main ? PRICES.hookOntoMain : PRICES.hook;
}

function herePrice(ground: Ground, i: number, bow: Bow): number {
  const { spots, request } = ground;
  const spot = spots[i] as Spot;
  if (bow.order > 0) return 0;
  const { style } = request;
  const before = spots[i - 1];
  const alone = bow.of === 1 && style !== "Separate" && spot.note.rest === 0 && spot.note.ticks <= spot.beats.unit;
  const held = before !== undefined && before.note.ticks >= 4 * spot.beats.unit;
  const leadIn = style === "Slurred threes" && isLeadIn(spots, i);
  const triplet = isRun(spots, i) && style !== "Separate" && bow.of !== (leadIn ? 4 : 3);
  return (
    slurPrice(ground, i, bow.of) +
    wayPrice(spot, bow.way, style) +
    kindPrice(ground, i, bow) +
    (alone && held ? PRICES.afterHeld : 0) +
    (triplet ? PRICES.openTriplet : 0) +
    // A lead-in that is slurred into its downbeat takes the downbeat's bow.
    (leadIn && bow.of > 3 && bow.way === "up" ? PRICES.upDownbeat : 0) +
    (i + bow.of === spots.length && bow.way === "up" && style !== "Separate" ? PRICES.finalUp : 0)
  );
}

const jointOf = ({ order, kind }: Bow): Joint => {
  if (order > 0) return "slur";
  return kind === "plain" ? "change" : "hook";
};

/** What going from one note's bow to the next one's costs: Infinity for what no bow does. */
function movePrice({ opens, wanted }: Pick<Spot, "opens" | "wanted">, a: Bow, b: Bow): number {
  const goesOn = b.order > 0;
  const fits = goesOn
    ? a.of === b.of && a.order === b.order - 1 && a.way === b.way
    : a.order === a.of - 1 && (b.kind === "plain") === (a.way !== b.way);
  if (!fits) return Number.POSITIVE_INFINITY;
  const before = opens ? false : a.broke;
  const broke = before || (wanted !== undefined && wanted !== jointOf(b));
  if (broke !== b.broke) return Number.POSITIVE_INFINITY;
  return broke && !before ? PRICES.brokenPattern : 0;
}

/** A stretch of notes that is bowed in one go: a strain with its first ending, or a later ending alone. */
type Chain = { from: number; to: number };
/** Which way a chain begins, ends, and leaves the bars before its ending. */
type Fixed = { first: Direction; last: Direction; leaves: Direction };

/** One strain: its chain, the note before its endings, and the chain of its later endings. */
type Strain = { main: Chain; leaves: number; later: Chain | undefined; repeated: boolean };

function strainsOf(notes: readonly StrokeNote[], places: readonly Place[]): Strain[] {
  const strains: Strain[] = [];
  for (let from = 0; from < notes.length; ) {
    const { strain } = (notes[from] as StrokeNote).place;
    let to = from;
    while (to + 1 < notes.length && notes[to + 1]?.place.strain === strain) to++;
    const own = places.filter((p) => p.strain === strain);
    const secondAt = notes.findIndex((n, i) => i > from && i <= to && n.place.ending > 1);
    const firstEnding = own.find((p) => p.bar.ending?.includes(1))?.index;
    const mainEnd = secondAt > 0 ? secondAt - 1 : to;
    const leaves = notes.findLastIndex(
      (n, i) => i <= mainEnd && i >= from && (firstEnding === undefined || n.place.index < firstEnding),
    );
    strains.push({
      main: { from, to: mainEnd },
      leaves: leaves < from ? mainEnd : leaves,
      later: secondAt > 0 ? { from: secondAt, to } : undefined,
      repeated: own.some((p) => p.bar.repeatEnd !== undefined),
    });
    from = to + 1;
  }
  return strains;
}

/** What it costs that the bow comes the same way at a seam: where strains or passes meet. */
const seam = (last: Direction, first: Direction, rest: number) =>
  last === first && rest === 0 ? PRICES.liftAtPhrase : 0;

type Solved = { problem: Problem<Bow>; solution: Solution<Bow>; chain: Chain };
/** One way to bow a strain, with the searches behind it. */
type Way = Fixed & { out: Direction; cost: number; parts: Solved[] };

/** Plans the bow over a tune. Every lock holds; a stated runner-up's cost is exact. */
export const planBowing = (request: BowRequest): StrokePlan => planned(request, true);

function planned(request: BowRequest, priced: boolean): StrokePlan {
  const { places, style, instrument = FIDDLE, locks = [] } = request;
  const notes = strokeNotes(places, instrument);
  const none = { style, total: 0, strokes: [], downbeats: { down: 0, all: 0 } };
  if (notes.length === 0) return none;
  const spots = spotsOf(notes, request);
  const most = request.air ? MOST.air : MOST.quick;
  const ground: Ground = { spots, request, most };
  const all = statesFor(style, most);
  const plain = all.filter((s) => s.order === 0);
  const settled = new Map(
    locks.flatMap((lock) => {
      const i = notes.findIndex((n) => n.place.index === lock.bar && n.at - n.place.at === lock.at);
      return i < 0 ? [] : [[i, lock] as const];
    }),
  );
  const lists = new Map<string, readonly Bow[]>([["", all]]);
  const listOf = (i: number, way: Direction | undefined, ends: boolean, begins: boolean): readonly Bow[] => {
    const lock = settled.get(i);
    const name = `${way ?? ""}${ends ? "e" : ""}${begins ? "b" : ""}${lock ? i : ""}`;
    const known = lists.get(name);
    if (known) return known;
    const made = (lock ? plain : all).filter(
      (s) =>
        (way === undefined || s.way === way) &&
        (!ends || s.order === s.of - 1) &&
        (!begins || (s.order === 0 && s.kind === "plain" && !s.broke)) &&
        (!lock || (s.way === lock.direction && (lock.ticks === undefined || spans(notes, i, s.of, lock.ticks)))),
    );
    lists.set(name, made);
    return made;
  };
  const tables: NonNullable<Problem<Bow>["alike"]>["made"] = new Map();
  const JOINTS = [undefined, "slur", "change", "hook"] as const;
  const known = new Float64Array(notes.length * all.length).fill(Number.NaN);
  const here = (i: number, bow: Bow): number => {
    const place = i * all.length + bow.id;
    if (Number.isNaN(known[place])) {
      const found = herePrice(ground, i, bow);
      known[place] = settled.has(i) && !Number.isFinite(found) ? FORCED : found;
    }
    return known[place] as number;
  };
  const solvedChain = (chain: Chain, open: (i: number) => readonly Bow[]): Solved | undefined => {
    const at = (step: number) => spots[chain.from + step] as Spot;
    const problem: Problem<Bow> = {
      states: Array.from({ length: chain.to - chain.from + 1 }, (_, step) => open(chain.from + step)),
      local: [{ name: "bow", at: (step, bow) => here(chain.from + step, bow) }],
      moves: [{ name: "change", into: (step, a, b) => movePrice(at(step), a, b) }],
      alike: {
        name: (step) => JOINTS.indexOf(at(step).wanted) * 2 + (at(step).opens ? 1 : 0),
        made: tables,
      },
    };
    if (problem.states.some((s) => s.length === 0)) return undefined;
    const solution = solve(problem);
    return isConflict(solution) || !Number.isFinite(solution.cost) ? undefined : { problem, solution, chain };
  };
  const strains = strainsOf(notes, places);
  const waysOf = ({ main, leaves, later, repeated }: Strain): Way[] =>
    DIRECTIONS.flatMap((first) =>
      DIRECTIONS.flatMap((last) =>
        (later ? DIRECTIONS : [last]).flatMap((leaving): Way[] => {
          const body = solvedChain(main, (i) => {
            if (i === main.from && i === main.to && first !== last) return [];
            if (i === leaves && later && i === main.to && leaving !== last) return [];
            const way = wayAt(i, main, leaves, later, { first, last, leaves: leaving });
            const ends = i === main.to || (later !== undefined && i === leaves);
            return listOf(i, way, ends, i === main.from);
          });
          if (!body) return [];
          const rest = notes[main.from]?.rest ?? 0;
          const again = repeated ? seam(last, first, rest) : 0;
          const fixed = { first, last, leaves: leaving };
          if (!later) return [{ ...fixed, out: last, cost: body.solution.cost + again, parts: [body] }];
          return DIRECTIONS.flatMap((out): Way[] => {
            const begins = otherWay(leaving);
            const tail = solvedChain(later, (i) => {
              if (i === later.from && i === later.to && begins !== out) return [];
              if (i === later.from) return listOf(i, begins, i === later.to, true);
              return listOf(i, i === later.to ? out : undefined, i === later.to, false);
            });
            const cost = body.solution.cost + again + (tail?.solution.cost ?? 0);
            return tail ? [{ ...fixed, out, cost, parts: [body, tail] }] : [];
          });
        }),
      ),
    );
  const ways = strains.map(waysOf);
  const outer = solve<Way>({
    states: ways,
    local: [{ name: "strain", at: (_, way) => way.cost }],
    moves: [
      {
        name: "seam",
        into: (step, a, b) => seam(a.out, b.first, notes[strains[step]?.main.from ?? 0]?.rest ?? 0),
      },
    ],
  });
  if (isConflict(outer)) throw new RangeError("These strokes cannot be bowed together. Free one of them.");
  const strokes = outer.path.flatMap((way, s) =>
    way.parts.flatMap((part, p) => strokesOf(part, (i, of, direction) => priceAt(s, p, i, of, direction))),
  );

  /** The exact price of a stroke from note `i` over `of` notes going a way, over all ways to bow the whole tune. */
  function priceAt(strain: number, part: number, i: number, of: number, direction: Direction): number {
    if (isConflict(outer) || !priced) return Number.POSITIVE_INFINITY;
    const lock = settled.get(i);
    if (lock) return relocked(lock, direction, outer.cost);
    let least = Number.POSITIVE_INFINITY;
    (ways[strain] as Way[]).forEach((way, w) => {
      const found = way.parts[part];
      if (!found) return;
      const { problem, solution, chain } = found;
      const step = i - chain.from;
      const open = problem.states[step] as readonly Bow[];
      const meant = (s: Bow) => s.order === 0 && s.of === of && s.way === direction;
      const marginals = solution.marginals[step] as number[];
      const own = open.reduce(
        (best, s, k) => (meant(s) ? Math.min(best, marginals[k] as number) : best),
        Number.POSITIVE_INFINITY,
      );
      least = Math.min(least, ((outer.marginals[strain] as number[])[w] as number) + own);
    });
    return least;
  }
  /** What the plan would cost more were a settled stroke settled the other way: planned anew with it. */
  function relocked(lock: StrokeLock, direction: Direction, total: number): number {
    const changed = locks.map((l) => (l === lock ? { ...l, direction } : l));
    try {
      return planned({ ...request, locks: changed }, false).total - total;
    } catch {
      return Number.POSITIVE_INFINITY;
    }
  }
  function strokesOf(
    { solution, chain }: Solved,
    price: (i: number, of: number, direction: Direction) => number,
  ): Omit<Stroke, "retake" | "reason">[] {
    const made: Omit<Stroke, "retake" | "reason">[] = [];
    for (let i = chain.from; i <= chain.to; ) {
      const bow = solution.path[i - chain.from] as Bow;
      const other = otherWay(bow.way);
      const cost = price(i, bow.of, other);
      made.push({
        notes: notes.slice(i, i + bow.of),
        direction: bow.way,
        kind: bow.kind,
        locked: settled.has(i),
        alternatives: Number.isFinite(cost) ? [{ direction: other, cost }] : [],
      });
      i += bow.of;
    }
    return made;
  }
  const told = withRetakes(strokes, places);
  const starts = told.filter(
    (s) => (s.notes[0] as StrokeNote).into % beatsOf((s.notes[0] as StrokeNote).place.metre).full === 0,
  );
  const downbeats = {
    all: notes.filter((n) => n.into % beatsOf(n.place.metre).full === 0).length,
    down: starts.filter((s) => s.direction === "down").length,
  };
  const reasons = told.map((stroke, k) => ({ ...stroke, reason: bowReason(told, k, style) }));
  return { style, total: outer.cost, strokes: reasons, downbeats };
}

/** Which way a note of a chain is held to: its ends, and the note before its endings. */
function wayAt(i: number, main: Chain, leaves: number, later: Chain | undefined, fixed: Fixed): Direction | undefined {
  if (i === main.from) return fixed.first;
  if (i === main.to) return fixed.last;
  return later && i === leaves ? fixed.leaves : undefined;
}

/** Whether so many notes from one on last so long. */
const spans = (notes: readonly StrokeNote[], i: number, of: number, ticks: number): boolean =>
  near(
    notes.slice(i, i + of).reduce((sum, n) => sum + n.ticks, 0),
    ticks,
  );

/** The strokes with what they are called: those that come the same way again as hooks, lifts, or after a rest. */
function withRetakes(strokes: readonly Omit<Stroke, "retake" | "reason">[], places: readonly Place[]): Stroke[] {
  const again = retakesOf(strokes, places);
  return strokes.map((stroke, k): Stroke => {
    const retake = again[k] === true;
    const [first] = stroke.notes as [StrokeNote];
    const kind = retake ? retakeKind(stroke.kind, first) : plainKind(stroke.notes.length);
    return { ...stroke, retake, kind, reason: "" };
  });
}
const plainKind = (notes: number) => (notes > 1 ? "slur" : "separate");
/** Where strains or passes meet the bow is lifted, whatever the search called it. */
const retakeKind = (kind: string, { rest }: StrokeNote): string => {
  if (rest > 0) return "rest";
  return kind === "hook" ? "hook" : "lift";
};
