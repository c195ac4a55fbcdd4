import { inventory, type Sounding } from "../analysis";
import type { Instrument } from "../instruments";
import { type Place, timeline } from "../score";
import { className, midi, type Pitch, spell } from "../theory";
import type { Arrangement } from "./arrange";
import { stopsOf } from "./grips";
import { firstPosition, placeAbove, type Placement } from "./hand";

/** What one string is asked for: its notes by finger, and whether the second finger lies low, high or both. */
export type StringUse = {
  open: Pitch;
  ticks: number;
  notes: (Sounding & Omit<Placement, "string">)[];
  second: "low" | "high" | "both" | "unused";
};
/** How a tune lies on an instrument: per string where it has strings, otherwise by range alone. */
export type Lie = { strings: StringUse[]; free: Pitch[]; tooLow: Sounding[]; tooHigh: Sounding[]; crossings: number };

function secondFinger(notes: StringUse["notes"]): StringUse["second"] {
  const seconds = new Set(notes.filter((n) => n.finger === 2).map((n) => n.low));
  if (seconds.size === 2) return "both";
  if (seconds.has(true)) return "low";
  return seconds.has(false) ? "high" : "unused";
}

/** Octaves at which a page can be read: as it stands, then up or down. */
const OCTAVES = [0, 12, -12];

/**
 * An instrument as it reads a tune's page: as it is written for it, or moved by an octave where more of the tune lies
 * on it so.
 */
export function readOn(on: Instrument, from: readonly Place[]): Instrument {
  const { pitches } = inventory(from);
  const moved = (by: number): Instrument => {
    const raised = ({ step, alter, octave }: Pitch): Pitch => ({ step, alter, octave: octave + by / 12 });
    const strings = on.strings.map((s) => ({ ...s, open: raised(s.open) }));
    return by === 0 ? on : { ...on, strings, lowest: raised(on.lowest), highest: raised(on.highest) };
  };
  const outside = ({ lowest, highest }: Instrument) =>
    pitches.filter(({ pitch }) => midi(pitch) < midi(lowest) || midi(pitch) > midi(highest)).length;
  const tries = [...new Set([0, -on.transposition, ...OCTAVES])].map(moved);
  return tries.reduce((a, b) => (outside(b) < outside(a) ? b : a));
}

/** How a tune lies as one hand plays it: by string, with the pitches of the page. */
export function lieIn({ strokes, board, shift }: Arrangement, from: readonly Place[]): Lie {
  const { on } = board;
  const melody = strokes.flatMap((s) => {
    const own = s.notes.find((n) => n.role === "melody");
    return own ? [{ ...own, ticks: s.ticks, key: s.place.key }] : [];
  });
  const strings = on.strings.map(({ number, open }): StringUse => {
    const places = new Map<string, StringUse["notes"][number]>();
    for (const { string, fret, finger, noteNumber, ticks, key } of melody) {
      if (string !== number) continue;
      const before = places.get(fret);
      const { low = false, high } = on.frets ? {} : (placeAbove(on, Number(fret)) ?? {});
      places.set(fret, {
        pitch: spell(noteNumber - shift, key),
        count: (before?.count ?? 0) + 1,
        ticks: (before?.ticks ?? 0) + ticks,
        finger,
        low,
        ...(high ? { high } : {}),
        ...(on.frets ? { fret } : {}),
      });
    }
    const notes = [...places.values()].sort((a, b) => midi(a.pitch) - midi(b.pitch));
    const raised = { ...open, octave: open.octave - shift / 12 };
    return { open: raised, ticks: notes.reduce((sum, n) => sum + n.ticks, 0), notes, second: secondFinger(notes) };
  });
  const missing = inventory(from).pitches.filter(({ pitch }) => stopsOf(board, midi(pitch) + shift).length === 0);
  const lowest = Math.min(...board.strings.map((s) => s.open));
  const isLow = ({ pitch }: Sounding) => midi(pitch) + shift < lowest;
  return {
    strings,
    free: strings.filter((s) => s.ticks === 0).map((s) => s.open),
    tooLow: missing.filter(isLow),
    tooHigh: missing.filter((m) => !isLow(m)),
    crossings: melody.filter((n, i) => i > 0 && n.string !== melody[i - 1]?.string).length,
  };
}

/**
 * How the tune lies on an instrument in first position: strings used and left free, the second finger on each, notes
 * out of reach.
 */
export function lieOn(on: Instrument, from: readonly Place[]): Lie {
  const { pitches } = inventory(from);
  const placed = pitches.map((p) => ({ ...p, place: firstPosition(on, midi(p.pitch)) }));
  const strings = on.strings.map(({ open }, s): StringUse => {
    const notes = placed.flatMap(({ place, ...sounding }) => {
      if (place?.string !== s) return [];
      const { string: _, ...fingered } = place;
      return [{ ...sounding, ...fingered }];
    });
    return { open, ticks: notes.reduce((sum, n) => sum + n.ticks, 0), notes, second: secondFinger(notes) };
  });
  const path = timeline(from).flatMap(({ event }) => {
    const top = event.pitches[event.pitches.length - 1];
    return top ? [firstPosition(on, midi(top))?.string] : [];
  });
  return {
    strings,
    free: strings.filter((s) => s.ticks === 0).map((s) => s.open),
    tooLow: pitches.filter((p) => midi(p.pitch) < midi(on.lowest)),
    tooHigh: pitches.filter((p) => midi(p.pitch) > midi(on.highest)),
    crossings: path.filter((s, i) => i > 0 && s !== undefined && path[i - 1] !== undefined && s !== path[i - 1]).length,
  };
}

const list = (words: readonly string[]): string =>
  words.length > 1 ? `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}` : (words[0] ?? "");

/**
 * Where the second finger lies, in a teacher's words: "second finger high on D and A, low on E". Empty where no second
 * finger is used.
 */
export function secondFingerWords({ strings }: Lie): string {
  const on = (second: StringUse["second"]) => strings.filter((s) => s.second === second).map((s) => className(s.open));
  const parts = (["high", "low", "both"] as const).flatMap((second) =>
    on(second).length ? [`${second === "both" ? "high and low" : second} on ${list(on(second))}`] : [],
  );
  return parts.length ? `second finger ${parts.join(", ")}` : "";
}

/**
 * What a teacher says of the hand: "On the fiddle: second finger high on D; the G string stays free." Empty without
 * strings.
 */
export function handSentence(on: Instrument, from: readonly Place[]): string {
  if (on.strings.length === 0) return "";
  const lie = lieOn(on, from);
  const free = lie.free.length < on.strings.length ? lie.free.map((p) => className(p)) : [];
  const stays = free.length === 1 ? `the ${free[0]} string stays free` : `the ${list(free)} strings stay free`;
  const said = [secondFingerWords(lie), free.length > 0 ? stays : ""].filter(Boolean);
  return said.length > 0 ? `On the ${on.name}: ${said.join("; ")}.` : "";
}
