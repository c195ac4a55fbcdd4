import type { Material, PartNote } from "../../grading";
import { chordOf, ROLE_RULES, type RoleName } from "../../grading";
import { beatTicks, type Place } from "../../score";

// How parts sit together, pair by pair and bar by bar: what rubs, crowds, buries the tune or blurs, by teachers'
// judgement.

/** A part as it is looked at beside the others. */
export type Fitted = { id: string; role: RoleName; notes: readonly PartNote[] };
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
        const [tune, other] = isTune(a) ? [own, theirs] : [theirs, own];
        if (isTune(a) !== isTune(b) && buries(tune, other)) tell(index, a, b, "buried");
        if (!isTune(a) && !isTune(b) && crowds(own, theirs)) tell(index, a, b, "crowding");
      }
    }
  });
  return found.sort((x, y) => y.score - x.score || x.bar - y.bar);
}

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

/** What can be done about a misfit: which part changes, never the tune; the one that plays more does. */
export function toChange(a: Fitted, b: Fitted): Fitted {
  if (isTune(a) && !isTune(b)) return b;
  if (isTune(b) && !isTune(a)) return a;
  // Of two that both have the tune the plainer one gives way.
  return a.notes.length >= b.notes.length && !isTune(a) ? a : b;
}

/**
 * Parts without severe clashes: a note that rubs is ended before it, or rests where it begins there; of two the one
 * that is not the tune. Gives the parts, and in which bars each was changed.
 */
export function settled(
  material: Material,
  parts: readonly Fitted[],
  shortest: (part: Fitted) => number,
): { parts: Fitted[]; changed: Map<string, number[]> } {
  const changed = new Map<string, number[]>();
  let now = [...parts];
  for (let round = 0; round < 3; round++) {
    const drops = new Map<string, Map<number, number | null>>();
    const bars = now.map((p, i) => byBar(material.places, p, i));
    now.forEach((a, i) => {
      for (let k = i + 1; k < now.length; k++) {
        const b = now[k] as Fitted;
        for (const place of material.places) {
          const { index } = place;
          for (const x of bars[i]?.get(index) ?? [])
            for (const y of bars[k]?.get(index) ?? []) {
              const rub = rubOf(material, place, [a, b], x, y);
              if (rub?.kind !== "clash" || rub.resolved) continue;
              const who = toChange(a, b);
              const [own, other] = who === a ? [x, y] : [y, x];
              const ends = other.from > own.from ? other.from - own.from : 0;
              const least = shortest(who);
              const list = drops.get(who.id) ?? new Map<number, number | null>();
              list.set(own.order, ends >= least && ends > 0 ? Math.min(ends, list.get(own.order) ?? ends) : null);
              drops.set(who.id, list);
              changed.set(who.id, [...new Set([...(changed.get(who.id) ?? []), index])]);
            }
        }
      }
    });
    if (drops.size === 0) break;
    now = now.map((p) => {
      const list = drops.get(p.id);
      if (!list) return p;
      const notes = p.notes.flatMap((n, order): PartNote[] => {
        if (!list.has(order)) return [n];
        const ticks = list.get(order);
        return ticks ? [{ ...n, ticks }] : [];
      });
      return { ...p, notes };
    });
  }
  return { parts: now, changed };
}
