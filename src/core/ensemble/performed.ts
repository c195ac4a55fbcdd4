import { CELLS, danced, fitsMetre, type Groove, type Laid, laidOver, type Played, setToCell } from "../feel";
import { openingChord, perform, withGraces, withOpening } from "../performance";
import {
  barTicks,
  type Event,
  type Performance,
  type Place,
  places,
  playingOrder,
  type Sheet,
  timesThrough,
} from "../score";
import type { Derived } from "./derive";
import { feltBpm, grooveFor, passFeel } from "./groove";
import { bowsOf, inBow } from "./strokes";
import { strummed } from "./strummed";
import type { Work } from "./work";

/** Where off-beats fall in a bar of a groove: ticks into the full bar. */
const offBeatsOf = (groove: Groove | undefined) => (place: Place) => {
  if (!groove || !fitsMetre(groove, place.metre)) return [];
  const part = barTicks(place.metre) / groove.beats / groove.parts;
  return groove.offs.map((o) => o * part);
};

type Options = { percent?: number; chords?: boolean };
type Known = Pick<Derived, "analysis" | "parts" | "plan">;

/**
 * A sheet of a work as it is danced, at a share of the written tempo: swing and accents are those of that tempo, notes
 * in one bow are joined, and every time through has its own feel where it was given one.
 */
export function performed(
  work: Work,
  derived: Known,
  sheet: Sheet,
  { percent = 100, chords = true }: Options = {},
): Performance {
  const bpm = feltBpm(work.tune, percent);
  const played = playedBars(work, derived, sheet, bpm);
  const straight = perform(work.tune, sheet, {
    straight: true,
    chords,
    backing: work.backing,
    offBeats: offBeatsOf(grooveFor(work, derived)),
    events: played.events,
  });
  const backed = chords ? strummed(work, derived, sheet.places, straight) : straight;
  const moved = withGraces(danced(backed, sheet.staves, played), sheet, played.events, bpm);
  if (!work.feel.opening || !chords) return moved;
  return withOpening(moved, openingChord(work.tune.key, barTicks(work.tune.metre)), barTicks(work.tune.metre));
}

/** What is played in each bar: its notes, its groove and its bows, by the time through that it belongs to. */
function playedBars(work: Work, derived: Known, { places: from }: Sheet, bpm: number): Played {
  const times = timesThrough(from);
  const order = playingOrder(from);
  const ends = new Set(derived.analysis.form.phrases.map((p) => p.to));
  const melody = new Set(derived.parts.filter((p) => p.role === "melody").map((p) => p.id));
  const grooves = new Map<string | null, Laid>();
  const laidBy = (name: string | null): Laid => {
    const own = grooves.get(name) ?? laidOver(grooveFor(work, derived, name), bpm, work.feel.strength ?? 100, ends);
    grooves.set(name, own);
    return own;
  };
  const cells = new Map<string, readonly Place[]>();
  const setBy = (name: string | null | undefined): readonly Place[] | undefined => {
    const cell = CELLS.find((c) => c.name === name);
    if (!cell) return undefined;
    const own = cells.get(cell.name) ?? places(setToCell(work.tune, cell).tune);
    cells.set(cell.name, own);
    return own;
  };
  const feelAt = (k: number) => passFeel(work, times[k]?.strain ?? 0, times[k]?.pass ?? 1);
  const indexAt = (k: number) => order[k] ?? 0;
  /** How a note of the melody lies in its bow, where bows were chosen. */
  const bowAt = (id: string, k: number, into: number) => {
    const own = feelAt(k);
    if (!melody.has(id) || own?.cell || !(work.feel.bowing || own?.bowing)) return undefined;
    return inBow(bowsOf(work, derived, own?.bowing ?? null), indexAt(k), into);
  };
  return {
    place: (k) => setBy(feelAt(k)?.cell)?.[indexAt(k)] ?? (from[indexAt(k)] as Place),
    events: (staff, k): readonly Event[] => {
      const set = melody.has(staff.id) ? setBy(feelAt(k)?.cell) : undefined;
      return set?.[indexAt(k)]?.bar.events ?? staff.bars[indexAt(k)] ?? [];
    },
    laid: (k) => laidBy(feelAt(k)?.groove ?? null),
    joined: (id, k, into) => bowAt(id, k, into)?.joined === true,
    swell: (id, k, into) => bowAt(id, k, into)?.swell ?? 1,
  };
}
