import type { Instrument } from "../../instruments";
import type { Place } from "../../score";
import { midi, semitoneOf } from "../../theory";
import { paired } from "./long";
import {
  type Draft,
  type Material,
  mostIn,
  type PartNote,
  pulse,
  type Request,
  segmentAt,
  segmentsOf,
} from "./material";
import { BREATHES, chosen, slotsOf } from "./slots";

/** What an open string costs that is not of the chord: of the tonic's fifth, and any other. */
const FOREIGN = { key: 1.4, other: 6 };

/** Long, short, short on an open string of the chord or the key; pairs of them from the third level. */
export function writeShuffle(material: Material, request: Request): Draft {
  const { on, limits, who } = request;
  const tonic = semitoneOf(material.key.tonic);
  const open = on.strings.filter((s) => !s.shortFrom).map((s) => midi(s.open));
  const usable = open.filter((p) => !limits.pitches || limits.pitches.has(p));
  const slots = slotsOf(material, request, () => []).filter((s) => s.at === 0);
  const whole = slots.map((s) => ({ ...s, ticks: s.place.ticks }));
  const pitches = chosen(
    material,
    request,
    whole,
    () => usable,
    (slot, pitch) => {
      const own = slot.segment?.chord.classes.includes(pitch % 12) ?? false;
      if (own) return 0;
      return [0, 7].includes((pitch - tonic + 120) % 12) ? FOREIGN.key : FOREIGN.other;
    },
  );
  const notes = whole.flatMap((slot, i): PartNote[] => {
    const pitch = pitches[i];
    if (pitch === null || pitch === undefined) return [];
    return rhythmOf(slot.place).map(([at, ticks]) => ({ bar: slot.bar, at, ticks, pitches: [pitch] }));
  });
  const kept = keptShort(material, request, notes);
  const pair = limits.doubleStops !== "none" && !BREATHES.has(who.level) && on.family === "bowed";
  return {
    notes: pair ? kept.map((n) => pairedOpen(material, on, n, open)) : kept,
    leftOut: ["The tune’s notes: the rhythm is the part."],
  };
}
/** An open pair of strings under a chord. */
function pairedOpen(material: Material, on: Instrument, note: PartNote, open: readonly number[]): PartNote {
  const segment = segmentAt(segmentsOf(material)[note.bar] ?? [], note.at);
  return paired(on, note, segment?.chord.classes ?? open.map((o) => o % 12));
}
/** Long, short, short in the pulses of a bar: where each begins, and how long it is. */
function rhythmOf(place: Place): [number, number][] {
  const beat = pulse(place);
  const unit = place.metre.unit === 8 && place.metre.beats % 3 === 0 ? beat : beat * 2;
  const out: [number, number][] = [];
  for (let at = 0; at < place.ticks; at += unit) {
    const left = Math.min(unit, place.ticks - at);
    if (left < unit) out.push([at, left]);
    else if (unit === beat) out.push([at, (beat * 2) / 3], [at + (beat * 2) / 3, beat / 3]);
    else out.push([at, beat], [at + beat, beat / 2], [at + beat * 1.5, beat / 2]);
  }
  return out;
}
/** Strokes of a bar that are long enough, the others given to the stroke before; as many as the limits allow. */
function keptShort(material: Material, { limits }: Request, notes: readonly PartNote[]): PartNote[] {
  const byBar = new Map<number, PartNote[]>();
  for (const n of notes) byBar.set(n.bar, [...(byBar.get(n.bar) ?? []), n]);
  return [...byBar].flatMap(([bar, own]) => {
    const place = material.places[bar] as Place;
    const most = mostIn(material, place, limits);
    const grids = [1, pulse(place) / 2, pulse(place), place.ticks];
    for (const grid of grids) {
      const kept = own.filter((n) => n.at % grid === 0);
      const made = kept.map((n, i) => ({ ...n, ticks: (kept[i + 1]?.at ?? place.ticks) - n.at }));
      const bows = made.every((n) => limits.bow === null || n.ticks * material.tick <= limits.bow + 1e-9);
      if (made.length <= most && bows && made.every((n) => n.ticks * material.tick >= limits.shortest - 1e-9))
        return made;
    }
    return [];
  });
}
