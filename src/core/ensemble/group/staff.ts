import { type Material, type PartNote, ROLE_RULES } from "../../grading";
import type { Instrument } from "../../instruments";
import { type Event, laidEvents, type Place, rest, type Staff } from "../../score";
import { spell } from "../../theory";
import type { GroupPart } from "./model";

/** A part's notes as bars of events: sounding pitches, rests between. */
export function barsOf(
  places: readonly Place[],
  notes: readonly PartNote[],
  on: Instrument,
  { key }: Pick<Material, "key">,
): Event[][] {
  const byBar = new Map<number, PartNote[]>();
  for (const n of notes) byBar.set(n.bar, [...(byBar.get(n.bar) ?? []), n]);
  const drum = on.family === "drum";
  return places.map((place) => {
    const events: Event[] = [];
    let at = 0;
    for (const n of byBar.get(place.index) ?? []) {
      if (n.at > at) events.push(rest(n.at - at));
      const pitches = drum ? [n.stroke === "heavy" ? on.lowest : on.highest] : n.pitches.map((p) => spell(p, key));
      const marks = n.stroke === "heavy" ? { marks: ["accent" as const] } : {};
      const technique = n.strings
        ? {
            technique: {
              notes: n.strings.map((string, i) => ({
                string,
                ...(n.frets?.[i] !== undefined ? { fret: n.frets[i] as string } : {}),
                ...(n.fingers?.[i] !== undefined ? { finger: n.fingers[i] as number } : {}),
              })),
            },
          }
        : {};
      events.push({ ticks: n.ticks, pitches, ...marks, ...technique });
      at = n.at + n.ticks;
    }
    if (at < place.ticks) events.push(rest(place.ticks - at));
    return laidEvents(events, place.metre, place.offset);
  });
}

/** A learner's part as a staff. */
export const groupStaff = (places: readonly Place[], part: GroupPart, material: Pick<Material, "key">): Staff => ({
  id: part.id,
  name: part.learner.name,
  bars: barsOf(places, part.notes, part.on, material),
  clef: part.on.clef,
  program: part.on.program,
  ...(part.on.transposition ? { transposition: part.on.transposition } : {}),
  loudness: loudnessOf(part),
});
/** How loud a part is beside the tune, by what it does. */
const LOUD = { tune: 1, harmony: 0.75, "long notes": 0.55, chords: 0.6, bass: 0.8, drum: 0.5 } as const;
export const loudnessOf = ({ role }: GroupPart): number => LOUD[ROLE_RULES[role].group];
