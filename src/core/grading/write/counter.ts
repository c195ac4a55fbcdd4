import { beatTicks, isCompound, type Place } from "../../score";
import { type Draft, type Material, mostIn, pulse, type Request, segmentsOf } from "./material";
import { about, chosen, laid, MOST, PRICES, type Slot, slotsIn, within } from "./slots";

/** Beats a melody note lasts from which it is held, and answered. */
const HELD = 1;
/** Notes that are struck while the melody holds: steps of its chord, a quarter or the parts of a beat. */
const partsOf = ({ metre }: Place): number => (isCompound(metre) ? 3 : 2);

/** What root, third and fifth cost where a phrase opens or closes. */
const EDGE = [0, 0.5, 0.2];

/** Where the tune holds still in a bar: from the second part of a held note's beat to its end (ticks into the bar). */
function stillIn({ melody }: Material, place: Place): { from: number; until: number }[] {
  const beat = pulse(place);
  return melody.flatMap((n) => {
    if (n.place.index !== place.index) return [];
    const from = n.at - place.at;
    const until = Math.min(from + n.ticks, place.ticks);
    return until - from >= HELD * beat && from % beat === 0 ? [{ from, until }] : [];
  });
}

/**
 * A line that holds where the tune moves, and moves where it holds: long notes with the chords under running bars, and
 * a figure out of the chord while the tune rests on a note.
 */
export function writeCounter(material: Material, request: Request): Draft {
  const { limits } = request;
  const segments = segmentsOf(material);
  const long = (ticks: number) => ticks * material.tick >= limits.shortest - 1e-9;
  let answers = 0;
  const slots = material.places.flatMap((place): Slot[] => {
    if (place.pickup) return [];
    const own = segments[place.index] ?? [];
    const beat = beatTicks(place.metre);
    const still = stillIn(material, place);
    const half = place.ticks % 2 === 0 && Math.round(place.ticks / beat) % 2 === 0 ? place.ticks / 2 : place.ticks;
    const unit = long(beat / partsOf(place)) ? beat / partsOf(place) : beat;
    const starts = new Set([0, half, ...own.map((s) => s.at)]);
    for (const { from, until } of still) {
      // The figure lets the held note begin, and ends with it.
      const first = until - from > beat ? from + beat : from + unit;
      for (let at = first; at < until; at += unit) starts.add(at);
      if (first < until) answers += 1;
    }
    const sorted = [...starts].filter((at) => at < place.ticks).sort((a, b) => a - b);
    const most = mostIn(material, place, limits);
    const few = sorted.length <= most ? sorted : sorted.filter((at) => at % half === 0).slice(0, most);
    const timed = few.filter((at, i) => long((few[i + 1] ?? place.ticks) - at));
    const phrase = material.phrases.find((p) => p.from <= place.index && place.index <= p.to);
    const { from = 0, to = 0 } = phrase ?? {};
    return slotsIn(place, timed, own, { order: place.index - from, of: to - from + 1 });
  });
  const height = Math.min((limits.lowest + limits.highest) / 2, 60);
  const pitches = chosen(
    material,
    request,
    slots,
    (slot) => (slot.segment ? about(within(request, slot.segment.chord.classes), height, MOST) : []),
    ({ segment, first, last }, pitch) => {
      const order = segment?.chord.classes.indexOf(pitch % 12) ?? 0;
      const edge = first || last ? (EDGE[order] ?? 1) : 0;
      return Math.abs(pitch - height) * 0.05 + edge + (order > 2 ? PRICES.seventh : 0);
    },
  );
  return {
    notes: laid(material, request, slots, pitches),
    leftOut:
      answers === 0
        ? ["The tune holds no note long enough to answer: it has long notes alone."]
        : ["What the tune plays: this holds where it moves, and moves where it holds."],
  };
}
