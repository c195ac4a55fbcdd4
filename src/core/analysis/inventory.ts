import { beatTicks, type Place, type Timed, timeline } from "../score";
import { className, inKey, midi, type Pitch } from "../theory";

/** A pitch with all it sounds for, in ticks, and how often. */
export type Sounding = { pitch: Pitch; ticks: number; count: number };

const sounding = (t: Timed) => t.event.pitches.length > 0;

/**
 * What the tune asks of hands: pitches with total length, range, held notes, leaps, rhythm cells, notes outside the
 * key. Lengths in ticks.
 */
export function inventory(from: readonly Place[]) {
  const notes = timeline(from).filter(sounding);
  const pitches = new Map<number, Sounding>();
  for (const { event } of notes) {
    for (const pitch of event.pitches) {
      const found = pitches.get(midi(pitch)) ?? { pitch, ticks: 0, count: 0 };
      pitches.set(midi(pitch), { ...found, ticks: found.ticks + event.ticks, count: found.count + 1 });
    }
  }
  const ordered = [...pitches.values()].sort((a, b) => midi(a.pitch) - midi(b.pitch));
  const held = notes.filter((n) => n.event.ticks > 1.5 * beatTicks(n.place.metre));
  const leaps = notes.filter(
    (n, i) => i > 0 && Math.abs(midi(n.event.pitches[0] as Pitch) - midi(notes[i - 1]?.event.pitches[0] as Pitch)) > 4,
  ).length;
  const strangers = new Map<string, number>();
  for (const n of notes)
    for (const p of n.event.pitches)
      if (!inKey(p, n.place.key)) strangers.set(className(p), (strangers.get(className(p)) ?? 0) + 1);
  return {
    pitches: ordered,
    lowest: ordered[0]?.pitch,
    highest: ordered[ordered.length - 1]?.pitch,
    held: held.length,
    leaps,
    notes: notes.length,
    longest: [...notes].sort((a, b) => b.event.ticks - a.event.ticks || a.at - b.at)[0],
    cells: rhythmCells(from),
    outside: [...strangers].map(([name, count]) => ({ name, count })),
  };
}

/** The rhythms of felt beats by count, commonest first: lengths as shares of the beat. */
export function rhythmCells(from: readonly Place[]): { lengths: number[]; count: number }[] {
  const beats = new Map<string, { lengths: number[]; at: number }>();
  for (const t of timeline(from).filter(sounding)) {
    const beat = beatTicks(t.place.metre);
    const into = t.place.offset + t.at - t.place.at;
    const id = `${t.place.index}.${Math.floor(into / beat)}`;
    const open = beats.get(id);
    if (open) open.lengths.push(t.event.ticks / beat);
    else if (into % beat === 0) beats.set(id, { lengths: [t.event.ticks / beat], at: t.at });
  }
  const counts = new Map<string, { lengths: number[]; count: number }>();
  for (const { lengths } of beats.values()) {
    const name = lengths.map((l) => l.toFixed(3)).join(" ");
    counts.set(name, { lengths, count: (counts.get(name)?.count ?? 0) + 1 });
  }
  return [...counts.values()].sort((a, b) => b.count - a.count);
}

export type Inventory = ReturnType<typeof inventory>;
