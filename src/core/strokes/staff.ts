import type { Event, Mark, Place, Staff } from "../score";
import type { StrokePlan } from "./model";

const BOWS: ReadonlySet<Mark> = new Set(["down-bow", "up-bow"]);

/** A melody staff with its bows: a sign where each begins, one slur over the notes of each. Written slurs give way. */
export function bowedStaff(staff: Staff, plan: StrokePlan, places: readonly Place[]): Staff {
  const bars = staff.bars.map((events) =>
    events.map(
      ({ slurs: _, marks, ...event }): Event => ({
        ...event,
        ...(marks ? { marks: marks.filter((m) => !BOWS.has(m)) } : {}),
      }),
    ),
  );
  const order = new Map(places.map((p, i) => [p.index, i]));
  const change = (place: Place, event: number, edit: (event: Event) => Event) => {
    const bar = bars[order.get(place.index) ?? -1];
    const own = bar?.[event];
    if (bar && own) bar[event] = edit(own);
  };
  for (const { notes, direction } of plan.strokes) {
    const [first, last] = [notes[0], notes.at(-1)];
    if (!first || !last || !direction) continue;
    const sign: Mark = direction === "down" ? "down-bow" : "up-bow";
    change(first.place, first.event, (e) => ({
      ...e,
      marks: [...(e.marks ?? []), sign],
      ...(first === last ? {} : { slurs: { open: 1, close: 0 } }),
    }));
    if (first !== last)
      change(last.place, last.event, (e) => ({ ...e, slurs: { open: e.slurs?.open ?? 0, close: 1 } }));
  }
  return { ...staff, bars };
}
