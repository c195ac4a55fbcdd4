import type { Event } from "../../score";

/** Pairs slur signs and numbers them; signs without a partner in these events are left out. */
export function pairSlurs(events: readonly Event[]): Map<Event, { open: number[]; close: number[] }> {
  const pairs = new Map<Event, { open: number[]; close: number[] }>();
  const at = (event: Event) =>
    pairs.get(event) ?? (pairs.set(event, { open: [], close: [] }).get(event) as { open: number[]; close: number[] });
  const waiting: Event[] = [];
  const free = [6, 5, 4, 3, 2, 1];
  const open: { number: number; from: Event; to: Event }[] = [];
  for (const event of events) {
    for (let k = 0; k < (event.slurs?.close ?? 0); k++) {
      const from = waiting.pop();
      if (from) open.push({ number: 0, from, to: event });
    }
    for (let k = 0; k < (event.slurs?.open ?? 0); k++) waiting.push(event);
  }
  const order = new Map(events.map((e, i) => [e, i]));
  const starts = [...open].sort((a, b) => (order.get(a.from) as number) - (order.get(b.from) as number));
  let live: typeof open = [];
  for (const pair of starts) {
    const now = order.get(pair.from) as number;
    for (const done of live.filter((p) => (order.get(p.to) as number) <= now)) free.push(done.number);
    live = live.filter((p) => (order.get(p.to) as number) > now);
    const number = free.pop();
    if (number === undefined || pair.from === pair.to) continue;
    pair.number = number;
    live.push(pair);
    at(pair.from).open.push(number);
    at(pair.to).close.push(number);
  }
  return pairs;
}
