import type { Material, PartNote } from "../../grading";
import { chordOf, ROLE_RULES, type RoleGroup, type RoleName } from "../../grading";
import { beatTicks, type Place } from "../../score";

// How parts sit together, pair by pair and bar by bar: what rubs, crowds, buries the tune or blurs, by teachers'
// judgement.

/** A part as it is looked at beside the others. */
export type Fitted = { id: string; role: RoleName; level: number; notes: readonly PartNote[] };
const FIT_KINDS = ["clash", "held second", "crowding", "mud", "buried"] as const;
export type FitKind = (typeof FIT_KINDS)[number];
/** Something two parts do to each other in a bar (an index), from mild to severe. */
export type Misfit = { bar: number; a: string; b: string; kind: FitKind; severe: boolean; score: number };

const SCORES: Readonly<Record<FitKind, number>> = { clash: 10, "held second": 3, crowding: 2, mud: 3, buried: 3 };
const HARSH = new Set([1, 11]);
const SECOND = new Set([2, 10]);
const FIFTH = 7;
/** Below it two notes nearer than a fifth blur. */
const MUDDY = 48;
/** Notes of a bar from which a line is busy. */
const BUSY = 4;

type Timed = { from: number; until: number; pitch: number; part: number; order: number };

/** Notes of each bar by absolute tick, a pitch each. */
function byBar(places: readonly Place[], part: Fitted, index: number): Map<number, Timed[]> {
  const bars = new Map<number, Timed[]>();
  part.notes.forEach((n, order) => {
    const start = (places[n.bar]?.at ?? 0) + n.at;
    const own = bars.get(n.bar) ?? [];
    for (const pitch of n.pitches) own.push({ from: start, until: start + n.ticks, pitch, part: index, order });
    bars.set(n.bar, own);
  });
  return bars;
}

/** Whether a note goes on by step, which resolves what rubbed. */
function resolves(part: Fitted, { order, pitch }: Timed): boolean {
  const next = part.notes[order + 1]?.pitches;
  return next?.some((p) => p !== pitch && Math.abs(p - pitch) <= 2) ?? false;
}

/** Two notes that rub: how, if they do, by the chord they sound in. */
export function rubOf(
  material: Material,
  place: Place,
  parts: readonly [Fitted, Fitted],
  a: Timed,
  b: Timed,
): { kind: "clash" | "held second"; resolved: boolean } | undefined {
  const [from, until] = [Math.max(a.from, b.from), Math.min(a.until, b.until)];
  const apart = Math.abs(a.pitch - b.pitch) % 12;
  if (a.pitch === b.pitch || until <= from || !(HARSH.has(apart) || SECOND.has(apart))) return undefined;
  const beat = beatTicks(place.metre);
  const into = place.offset + from - place.at;
  // A beat falls in what both hold, and they hold it for half a beat.
  const onBeat = into % beat === 0 || Math.floor((into + until - from - 1) / beat) > Math.floor(into / beat);
  if (!onBeat || until - from < beat / 2) return undefined;
  const symbol = material.chords.findLast((c) => c.bar === place.index && c.at <= from - place.at)?.symbol;
  const classes = symbol ? chordOf(symbol).classes : [];
  if (classes.includes(a.pitch % 12) && classes.includes(b.pitch % 12)) return undefined;
  if (SECOND.has(apart)) return until - from >= beat ? { kind: "held second", resolved: true } : undefined;
  return { kind: "clash", resolved: resolves(parts[0], a) || resolves(parts[1], b) };
}

const isTune = ({ role }: Fitted): boolean => ROLE_RULES[role].group === "tune";

/** Everything that parts do to each other, the worst first. */
export function fitOf(material: Material, parts: readonly Fitted[]): Misfit[] {
  const { places } = material;
  const bars = parts.map((p, i) => byBar(places, p, i));
  const found: Misfit[] = [];
  const tell = (bar: number, a: Fitted, b: Fitted, kind: FitKind, severe = false) =>
    void found.push({ bar, a: a.id, b: b.id, kind, severe, score: SCORES[kind] * (severe ? 2 : 1) });
  // While someone carries the tune above a line, the line buries nobody.
  const highest = new Map<number, number>();
  parts.forEach((part, i) => {
    if (!isTune(part)) return;
    for (const [bar, notes] of bars[i] ?? []) highest.set(bar, Math.max(highest.get(bar) ?? 0, mean(notes)));
  });
  parts.forEach((a, i) => {
    for (let k = i + 1; k < parts.length; k++) {
      const b = parts[k] as Fitted;
      for (const place of places) {
        const { index } = place;
        const [own, theirs] = [bars[i]?.get(index) ?? [], bars[k]?.get(index) ?? []];
        if (own.length === 0 || theirs.length === 0) continue;
        const rubs = own.flatMap((x) => theirs.flatMap((y) => rubOf(material, place, [a, b], x, y) ?? []));
        const hard = rubs.some((r) => r.kind === "clash" && !r.resolved);
        if (rubs.some((r) => r.kind === "clash")) tell(index, a, b, "clash", hard);
        else if (rubs.length > 0) tell(index, a, b, "held second");
        if (isMuddy(own, theirs)) tell(index, a, b, "mud");
        // Who plays low buries nobody, and crowds nobody.
        if (isLow(a, index) || isLow(b, index)) continue;
        const [tune, other] = isTune(a) ? [a, b] : [b, a];
        const [under, over] = isTune(a) ? [own, theirs] : [theirs, own];
        if (isTune(a) !== isTune(b) && buries(under, over) && mean(over) > (highest.get(index) ?? 0))
          tell(index, tune, other, "buried");
        if (!isTune(a) && !isTune(b) && crowds(own, theirs)) tell(index, a, b, "crowding");
      }
    }
  });
  return found.sort((x, y) => y.score - x.score || x.bar - y.bar);
}

const isLow = ({ notes }: Fitted, bar: number): boolean => notes.some((n) => n.bar === bar && n.quiet === true);

const isMuddy = (a: readonly Timed[], b: readonly Timed[]): boolean =>
  a.some((x) =>
    b.some((y) => {
      const low = Math.max(x.pitch, y.pitch) < MUDDY && x.from < y.until && y.from < x.until;
      return low && x.pitch !== y.pitch && Math.abs(x.pitch - y.pitch) < FIFTH;
    }),
  );
const mean = (of: readonly Timed[]): number => of.reduce((sum, n) => sum + n.pitch, 0) / Math.max(1, of.length);
/** A line above the tune that moves as much as it does. */
const buries = (tune: readonly Timed[], other: readonly Timed[]): boolean =>
  other.length >= BUSY && other.length >= tune.length && mean(other) > mean(tune) + 1 && mean(other) < mean(tune) + 12;
/** Two busy lines within a fifth. */
const crowds = (a: readonly Timed[], b: readonly Timed[]): boolean =>
  a.length > BUSY && b.length > BUSY && Math.abs(mean(a) - mean(b)) < FIFTH / 2;

/** How willingly a part gives way where both players are as far: long notes before chords, chords before lines. */
const YIELDS: Readonly<Record<RoleGroup, number>> = {
  "long notes": 4,
  chords: 3,
  harmony: 2,
  bass: 1,
  drum: 0,
  tune: 0,
};

/** Which part changes where two get in each other's way: never the tune; the stronger player, then by what it does. */
export function toChange(a: Fitted, b: Fitted): Fitted {
  if (isTune(a) !== isTune(b)) return isTune(a) ? b : a;
  if (a.level !== b.level) return a.level > b.level ? a : b;
  const yields = ({ role }: Fitted) => YIELDS[ROLE_RULES[role].group];
  if (yields(a) !== yields(b)) return yields(a) > yields(b) ? a : b;
  return a.notes.length >= b.notes.length ? a : b;
}

/** What becomes of a note that rubs: ticks it keeps before the other begins, and of several pitches which go. */
type Drop = { ticks: number | null; pitches: Set<number> };

/** A note with a pitch less, where it has more than one; ended before the rub, or gone, where it has not. */
function relieved(part: Fitted, note: PartNote, { ticks, pitches }: Drop): PartNote[] {
  const left = note.pitches.flatMap((p, i) => (pitches.has(p) ? [] : [i]));
  // A hand on a shape has all of its strings or none.
  if (left.length > 0 && ROLE_RULES[part.role].kind !== "chords") {
    const of = <T>(all: readonly T[] | undefined) => all && left.map((i) => all[i] as T);
    const [strings, frets, fingers] = [of(note.strings), of(note.frets), of(note.fingers)];
    return [
      {
        ...note,
        pitches: left.map((i) => note.pitches[i] as number),
        ...(strings ? { strings } : {}),
        ...(frets ? { frets } : {}),
        ...(fingers ? { fingers } : {}),
      },
    ];
  }
  return ticks ? [{ ...note, ticks }] : [];
}

/** Times that parts are looked through: a note that goes may have been what resolved another. */
const ROUNDS = 12;

/**
 * Parts without severe clashes: a note that rubs loses the pitch, ends before it, or rests where it begins there; of
 * two the one that `toChange` names. Gives the parts, and in which bars each was changed.
 */
export function settled(
  material: Material,
  parts: readonly Fitted[],
  shortest: (part: Fitted) => number,
): { parts: Fitted[]; changed: Map<string, number[]> } {
  const changed = new Map<string, number[]>();
  let now = [...parts];
  for (let round = 0; round < ROUNDS; round++) {
    const drops = dropsOf(material, now, shortest);
    if (drops.size === 0) break;
    now = now.map((p) => {
      const own = drops.get(p.id);
      if (!own) return p;
      const bars = [...own.keys()].map((order) => p.notes[order]?.bar ?? 0);
      changed.set(p.id, [...new Set([...(changed.get(p.id) ?? []), ...bars])]);
      return {
        ...p,
        notes: p.notes.flatMap((n, order) => (own.has(order) ? relieved(p, n, own.get(order) as Drop) : [n])),
      };
    });
  }
  return { parts: now, changed };
}

/** What every part gives up, by the order of its notes. */
function dropsOf(
  material: Material,
  parts: readonly Fitted[],
  shortest: (part: Fitted) => number,
): Map<string, Map<number, Drop>> {
  const drops = new Map<string, Map<number, Drop>>();
  const bars = parts.map((p, i) => byBar(material.places, p, i));
  parts.forEach((a, i) => {
    for (let k = i + 1; k < parts.length; k++) {
      const b = parts[k] as Fitted;
      for (const place of material.places)
        for (const x of bars[i]?.get(place.index) ?? [])
          for (const y of bars[k]?.get(place.index) ?? []) {
            const rub = rubOf(material, place, [a, b], x, y);
            if (rub?.kind !== "clash" || rub.resolved) continue;
            const who = toChange(a, b);
            const [own, other] = who === a ? [x, y] : [y, x];
            const mine = drops.get(who.id) ?? new Map<number, Drop>();
            const known = mine.get(own.order);
            const room = other.from - own.from;
            const ends = room > 0 && room >= shortest(who) ? room : null;
            const ticks = known === undefined ? ends : lesser(known.ticks, ends);
            mine.set(own.order, { ticks, pitches: new Set([...(known?.pitches ?? []), own.pitch]) });
            drops.set(who.id, mine);
          }
    }
  });
  return drops;
}
/** The shorter of two lengths; none where one of them is none. */
const lesser = (a: number | null, b: number | null): number | null =>
  a === null || b === null ? null : Math.min(a, b);
