import { LEVELS } from "../../instruments";
import type { Place } from "../../score";
import { midi } from "../../theory";
import { bassClass, type Draft, type Material, pulse, type Request, rootClass, segmentsOf } from "./material";
import { about, chosen, laid, MOST, PRICES, type Slot, slotsOf, within } from "./slots";

/** A chord begins on its root; between, its root again is dull. */
function placePrice(begins: boolean, isRoot: boolean): number {
  if (begins) return isRoot ? 0 : 4;
  return isRoot ? 0.5 : 0;
}

/** A root ends where another chord comes, if it is long enough by then: a bass that stays would be the wrong one. */
function ended(material: Material, { limits }: Request, slot: Slot): Slot {
  const next = slot.later.find((s) => s.symbol !== slot.segment?.symbol);
  const ticks = next ? next.at - slot.at : slot.ticks;
  const long = ticks * material.tick >= limits.shortest - 1e-9;
  return ticks < slot.ticks && long ? { ...slot, ticks, later: [] } : slot;
}

/** The roots of the chords on the first count; fifths between them; steps into the next; walking. */
export function writeBass(material: Material, request: Request): Draft {
  const { limits, who, on } = request;
  const level = LEVELS.indexOf(who.level);
  const walking = (place: Place) => {
    const beat = pulse(place);
    const half = level >= 1 ? Math.max(1, Math.round(place.ticks / beat / 2)) : Number.POSITIVE_INFINITY;
    const wanted = level >= 3 ? 1 : half;
    return Array.from({ length: Math.ceil(place.ticks / beat) }, (_, i) => i * beat).filter((_, i) => i % wanted === 0);
  };
  const slots = slotsOf(material, request, walking);
  const chords = segmentsOf(material);
  const count = (s: Slot): Slot => ({
    ...s,
    ticks: s.place.ticks,
    later: (chords[s.bar] ?? []).filter((c) => c.at > 0),
  });
  const whole = level === 0 ? slots.filter((s) => s.at === 0).map(count) : slots;
  const few = whole.map((s) => ended(material, request, s));
  const low = Math.max(limits.lowest, midi(on.lowest));
  const height = low + 7;
  const begins = (slot: Slot) => slot.segment !== undefined && slot.segment.at === slot.at;
  const pitches = chosen(
    material,
    request,
    few,
    (slot) => {
      const { segment } = slot;
      if (!segment) return [];
      const root = bassClass(segment.chord);
      const fifth = segment.chord.classes[2] ?? root;
      const moving = level < 3 ? [root, fifth] : segment.chord.classes;
      const classes = level === 0 || begins(slot) ? [root] : moving;
      return about(within(request, classes), height, MOST);
    },
    (slot, pitch) => {
      const { segment } = slot;
      if (!segment) return PRICES.foreign;
      const isRoot = pitch % 12 === bassClass(segment.chord);
      return (
        Math.abs(pitch - height) * 0.04 +
        placePrice(begins(slot), isRoot) +
        (rootClass(segment.chord) === pitch % 12 ? 0 : 0.1)
      );
    },
  );
  const notes = laid(material, request, few, pitches);
  const missing = few.length - pitches.filter((p) => p !== null).length;
  return {
    notes,
    leftOut:
      missing > 0
        ? [`${missing} roots that do not lie on ${level === 0 ? "an open string" : "your strings"}: rest there.`]
        : [],
  };
}
