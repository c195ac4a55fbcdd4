import { firstPosition, type Instrument } from "../instruments";
import { beatTicks, type Place, type Timed, timeline } from "../score";
import { className, inKey, midi, type Pitch } from "../theory";

/** A pitch with all it sounds for, in ticks, and how often. */
export type Sounding = { pitch: Pitch; ticks: number; count: number };

const sounding = (t: Timed) => t.event.pitches.length > 0;
const top = (t: Timed) => t.event.pitches[t.event.pitches.length - 1] as Pitch;

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

/** What one string is asked for: its notes by finger, and whether the second finger lies low, high or both. */
export type StringUse = {
  open: Pitch;
  ticks: number;
  notes: (Sounding & { finger: number; low: boolean; high?: boolean | undefined; fret?: string | undefined })[];
  second: "low" | "high" | "both" | "unused";
};
/** How a tune lies on an instrument: per string where it has strings in fifths, otherwise by range alone. */
export type Lie = { strings: StringUse[]; free: Pitch[]; tooLow: Sounding[]; tooHigh: Sounding[]; crossings: number };

/**
 * How the tune lies on an instrument in first position: strings used and left free, the second finger on each, notes
 * out of reach.
 */
export function lieOn(on: Instrument, from: readonly Place[]): Lie {
  const { pitches } = inventory(from);
  const strings = on.strings.map((open, s): StringUse => {
    const notes = pitches.flatMap((p) => {
      const place = firstPosition(on, midi(p.pitch));
      return place?.string === s
        ? [{ ...p, finger: place.finger, low: place.low, high: place.high, fret: place.fret }]
        : [];
    });
    const seconds = new Set(notes.filter((n) => n.finger === 2).map((n) => n.low));
    return {
      open,
      ticks: notes.reduce((sum, n) => sum + n.ticks, 0),
      notes,
      second: seconds.size === 2 ? "both" : seconds.has(true) ? "low" : seconds.has(false) ? "high" : "unused",
    };
  });
  const path = timeline(from)
    .filter(sounding)
    .map((t) => firstPosition(on, midi(top(t)))?.string);
  return {
    strings,
    free: strings.filter((s) => s.ticks === 0).map((s) => s.open),
    tooLow: pitches.filter((p) => midi(p.pitch) < midi(on.lowest)),
    tooHigh: pitches.filter((p) => midi(p.pitch) > midi(on.highest)),
    crossings: path.filter((s, i) => i > 0 && s !== undefined && path[i - 1] !== undefined && s !== path[i - 1]).length,
  };
}

/**
 * Where the second finger lies, in a teacher's words: "second finger high on D and A, low on E". Empty where no second
 * finger is used.
 */
export function secondFingerWords({ strings }: Lie): string {
  const on = (second: StringUse["second"]) => strings.filter((s) => s.second === second).map((s) => className(s.open));
  const list = (names: string[]) =>
    names.length > 1 ? `${names.slice(0, -1).join(", ")} and ${names[names.length - 1]}` : names[0];
  const parts = (["high", "low", "both"] as const).flatMap((second) =>
    on(second).length ? [`${second === "both" ? "high and low" : second} on ${list(on(second))}`] : [],
  );
  return parts.length ? `second finger ${parts.join(", ")}` : "";
}
