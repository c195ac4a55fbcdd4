import { type Draft, type Material, mostIn, pulse, type Request, segmentAt, segmentsOf } from "./material";
import { about, chosen, laid, MOST, type Slot, within } from "./slots";

/** Beats a melody note is held from which it is answered. */
const HELD = 1.5;
/** Moves while the melody holds, rests while it moves. */
export function writeCounter(material: Material, request: Request): Draft {
  const { limits } = request;
  const segments = segmentsOf(material);
  const slots = material.melody
    .flatMap((n): Slot[] => {
      const { place } = n;
      const beat = pulse(place);
      const held = Math.min(n.ticks, place.at + place.ticks - n.at);
      if (held < HELD * beat || place.pickup) return [];
      const at = n.at - place.at;
      const unit = beat / (beat % 3 === 0 && place.metre.unit === 8 ? 3 : 2);
      const starts: number[] = [];
      for (let s = at + beat; s + unit <= at + held; s += unit) starts.push(s);
      const room = Math.min(starts.length, mostIn(material, place, limits), 4);
      return starts.slice(0, room).map(
        (s, i): Slot => ({
          bar: place.index,
          at: s,
          ticks: unit,
          segment: segmentAt(segments[place.index] ?? [], s),
          place,
          first: i === 0,
          last: i === room - 1,
          way: i / Math.max(1, room),
        }),
      );
    })
    .filter((s) => s.ticks * material.tick >= limits.shortest - 1e-9);
  const height = Math.min((limits.lowest + limits.highest) / 2, 62);
  const pitches = chosen(
    material,
    request,
    slots,
    (slot) => (slot.segment ? about(within(request, slot.segment.chord.classes), height, MOST) : []),
    (_, pitch) => Math.abs(pitch - height) * 0.05,
  );
  const figures = slots.length;
  return {
    notes: laid(material, request, slots, pitches),
    leftOut:
      figures === 0
        ? ["The tune holds no note long enough to answer."]
        : ["What the tune plays: this answers it where it holds."],
  };
}
