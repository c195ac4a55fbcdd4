import { barTicks, type Place, playingOrder, timesThrough } from "../../score";
import type { Column, Roadmap, Stretch } from "./model";

/** One turn through a strain in the playing of the tune: its bars by their order in it, the last included. */
export type Turn = { strain: string; turn: number; from: number; to: number };

/** The turns through the strains, in playing order; `label` names the strain of a bar (an index). */
export function turnsOf(places: readonly Place[], label: (bar: number) => string): Turn[] {
  const order = playingOrder(places);
  const times = timesThrough(places);
  const counts = new Map<string, number>();
  const turns: Turn[] = [];
  order.forEach((index, k) => {
    const strain = label(index);
    const last = turns.at(-1);
    const [now, before] = [times[k], times[k - 1]];
    const goesOn = now?.strain === before?.strain && now?.pass === before?.pass;
    if (last && last.strain === strain && goesOn) {
      last.to = k;
      return;
    }
    const turn = (counts.get(strain) ?? 0) + 1;
    counts.set(strain, turn);
    turns.push({ strain, turn, from: k, to: k });
  });
  return turns;
}

/** Full bars of a stretch, as players count them. */
export function fullBars(places: readonly Place[], order: readonly number[], from: number, to: number): number {
  const ticks = order.slice(from, to + 1).reduce((sum, i) => sum + (places[i]?.ticks ?? 0), 0);
  const bar = barTicks((places[order[to] ?? 0] ?? places[0])?.metre ?? { beats: 4, unit: 4 });
  return bar === 0 ? to - from + 1 : Math.round(ticks / bar);
}

/** Everything that is played, in order: introduction, vamp, each turn of each time through, tag. */
export function stretchesOf(
  turns: readonly Turn[],
  columns: readonly Column[],
  { introduction, vamp, tag }: Pick<Roadmap, "introduction" | "vamp" | "tag">,
): Stretch[] {
  const last = turns.at(-1)?.to ?? -1;
  const lastBars = (bars: number) => ({ from: Math.max(0, last - bars + 1), to: last });
  const before: Stretch[] = [];
  if (introduction > 0) before.push({ kind: "introduction", ...lastBars(introduction), column: null });
  for (let i = 0; i < vamp; i++) before.push({ kind: "vamp", ...lastBars(VAMP), column: null });
  const body = columns.map((_, column): Stretch => {
    const { from, to } = turns[column % turns.length] as Turn;
    return { kind: "strain", from, to, column };
  });
  const after: Stretch[] = tag > 0 ? [{ kind: "tag", ...lastBars(tag), column: columns.length - 1 }] : [];
  return last < 0 ? [] : [...before, ...body, ...after];
}
/** Bars that go round until the leader nods. */
const VAMP = 2;

/** Where a stretch begins in the whole, and how its last bar gives way to the next: ticks more or fewer. */
export type Laid = { stretch: Stretch; at: number; ticks: number; adds: number };

/**
 * Stretches one after the other, in ticks. A bar that was short for a pickup is filled where none follows it, and a
 * pickup after a full bar falls into that bar's end.
 */
export function laidOut(places: readonly Place[], stretches: readonly Stretch[]): { laid: Laid[]; ticks: number } {
  const order = playingOrder(places);
  const place = (k: number) => places[order[k] ?? 0] as Place;
  let at = 0;
  const laid = stretches.map((stretch, i): Laid => {
    const own = order.slice(stretch.from, stretch.to + 1).reduce((sum, k) => sum + (places[k]?.ticks ?? 0), 0);
    const next = stretches[i + 1];
    const adds = joinTicks(place(stretch.to), next && place(next.from));
    const here = { stretch, at, ticks: own + adds, adds };
    at += own + adds;
    return here;
  });
  return { laid, ticks: at };
}

/** Ticks that are missing after a bar, or too many, before another; nothing follows where it is undefined. */
function joinTicks(last: Place, next: Place | undefined): number {
  const full = barTicks(last.metre);
  if (full === 0) return 0;
  // What a pickup begins late by must have been played before it.
  const due = next?.pickup ? next.offset : full;
  const adds = due - (last.offset + last.ticks);
  return last.ticks + adds > 0 ? adds : 0;
}
