import { usualTempo, NO_DANCE } from "../feel";
import { catalogueWith, type Instrument, LEVELS, type Level } from "../instruments";
import { type Event, type Place, rest, type Sheet, type Staff } from "../score";
import {
  type Arrangement,
  type ArrangedStroke,
  arrange,
  DOUBLINGS,
  type FingeringLock,
  KINDS,
  type Kind,
  rolled,
  type Setting,
  settingsFor,
  withCapo,
} from "../technique";
import { spell } from "../theory";
import type { Derived } from "./derive";
import { grooveFor } from "./groove";
import { type Owning, playedOn } from "./instruments";
import { once } from "./once";
import type { Hand, Work } from "./work";

/** The id of the staff that shows how a tune lies under a hand. */
export const HAND_STAFF = "hand";

/** Hands that were looked at and never changed: one for each instrument. */
const plain = new Map<string, Hand>();
function plainHand(name: string): Hand {
  const found = plain.get(name) ?? { instrument: name, tuning: null, kind: KINDS[0], level: LEVELS[2], locks: [] };
  plain.set(name, found);
  return found;
}
/** How a work's tune is played on an instrument: as it was chosen, or its notes alone for the third level. */
export const handFor = ({ hands = [] }: Pick<Work, "hands">, name: string): Hand =>
  hands.find((h) => h.instrument === name) ?? plainHand(name);

const kindOf = (name: string): Kind => KINDS.find((k) => k === name) ?? KINDS[0];
const levelOf = (name: string): Level => LEVELS.find((l) => l === name) ?? LEVELS[2];

/** The instrument of a hand, in its tuning. */
export const playedBy = (work: Owning, { instrument, tuning, capo = 0 }: Hand): Instrument =>
  withCapo(playedOn(work, instrument, tuning), capo);

type Known = Pick<Derived, "analysis" | "plan">;
/** The tune of a work arranged for a hand; undefined on an instrument without strings. Made once for all who look. */
export function arrangedFor(work: Work, { analysis, plan }: Known, hand: Hand): Arrangement | undefined {
  return once(analysis, ["hand", hand, plan, work.feel.groove, work.instruments], () => {
    const groove = grooveFor(work, { analysis }) ?? NO_DANCE;
    const make = hand.kind === "roll" ? rolled : arrange;
    return make({
      places: analysis.places,
      instrument: playedBy(work, hand),
      kind: kindOf(hand.kind),
      level: levelOf(hand.level),
      chords: plan.chords,
      bpm: usualTempo(groove, work.tune.metre, "practice"),
      locks: hand.locks,
      doubling: DOUBLINGS.find((d) => d === hand.doubling),
    });
  });
}

/** How an instrument could be tuned for a work's tune, the best first; empty where it has no frets. */
export function tuningsFor(work: Work, { analysis, plan }: Known, hand: Hand): Setting[] {
  return once(analysis, ["tunings", hand.instrument, hand.level, plan, work.instruments], () => {
    const instrument = playedOn(work, hand.instrument);
    return settingsFor({
      places: analysis.places,
      instrument,
      key: analysis.key.key,
      symbols: [...new Set(plan.chords.map((c) => c.symbol))],
      level: levelOf(hand.level),
      shift: instrument.transposition,
    });
  });
}

/** The work with a hand changed; what is settled on another tuning is let go. */
export function changeHand(work: Work, name: string, change: Partial<Hand>): Work {
  const before = handFor(work, name);
  const other = (of: "tuning" | "capo") => change[of] !== undefined && change[of] !== before[of];
  const retuned = other("tuning") || other("capo");
  const hand = { ...before, ...(retuned ? { locks: [] } : {}), ...change };
  const others = (work.hands ?? []).filter((h) => h.instrument !== name);
  return { ...work, hands: [hand, ...others] };
}

/** A note of a hand settled on a string and fret, or freed where none is given. */
export function settleFinger(
  work: Work,
  name: string,
  { bar, at }: Pick<FingeringLock, "bar" | "at">,
  to?: Pick<FingeringLock, "string" | "fret">,
): Work {
  const { locks } = handFor(work, name);
  const others = locks.filter((l) => l.bar !== bar || l.at !== at);
  return changeHand(work, name, { locks: to ? [...others, { bar, at, ...to }] : others });
}

/** Several notes of a hand settled, each on its string and fret. */
export const settleFingers = (work: Work, name: string, places: readonly FingeringLock[]): Work =>
  places.reduce((w, { string, fret, ...spot }) => settleFinger(w, name, spot, { string, fret }), work);

/** The strings and frets of one stroke as an event. */
function strokeEvent({ notes, place }: ArrangedStroke, ticks: number, tie: boolean | undefined): Event {
  const order = [...notes].sort((a, b) => a.noteNumber - b.noteNumber);
  return {
    ticks,
    pitches: order.map((n) => spell(n.noteNumber, place.key)),
    technique: { notes: order.map(({ string, fret, finger }) => ({ string, fret, finger })) },
    ...(tie ? { tie: true } : {}),
  };
}

/** The words that are sung on the note that begins at a tick. */
function sungAt(place: Place, at: number): Pick<Event, "lyrics"> {
  let now = place.at;
  for (const { ticks, lyrics } of place.bar.events) {
    if (now === at) return lyrics ? { lyrics } : {};
    now += ticks;
  }
  return {};
}

/** The events of one bar: the tune's own, each as it is played, with the small figures under what is held. */
function barEvents(place: Place, strokes: readonly ArrangedStroke[], before: ArrangedStroke | undefined): Event[] {
  const events: Event[] = [];
  let at = place.at;
  let last = before;
  for (const { ticks, pitches, tie, tuplet, lyrics } of place.bar.events) {
    const own = strokes.find((s) => s.at === at && s.notes[0]?.role === "melody");
    const sounding = own ?? (last && last.at < at && at < last.at + last.ticks ? last : undefined);
    if (pitches.length === 0 || !sounding) events.push({ ...rest(ticks), ...(tuplet ? { tuplet } : {}) });
    else {
      const end = at + ticks;
      const fills = strokes.filter((s) => s.notes[0]?.role === "fill" && s.at >= at && s.at + s.ticks <= end);
      const first = fills[0];
      const event = strokeEvent(sounding, (first?.at ?? end) - at, first ? undefined : tie);
      events.push({ ...event, ...(tuplet ? { tuplet } : {}), ...(own && lyrics ? { lyrics } : {}) });
      for (const fill of fills) events.push(strokeEvent(fill, fill.ticks, undefined));
      const left = first ? end - ((fills.at(-1)?.at ?? end) + (fills.at(-1)?.ticks ?? 0)) : 0;
      if (left > 0) events.push(rest(left));
    }
    last = own ?? last;
    at += ticks;
  }
  return events;
}

/**
 * A sheet with a staff of how a hand plays the tune: tablature where it has frets, notes with their fingers where it
 * has none. The sheet itself for an instrument without strings.
 */
export function handSheet(work: Work, derived: Known, sheet: Sheet, hand: Hand): Sheet {
  const found = arrangedFor(work, derived, hand);
  if (!found) return sheet;
  const on = playedBy(work, hand);
  const bars = sheet.places.map((place) => {
    const own = derived.analysis.places.find((p) => p.index === place.index) ?? place;
    // A roll has a string on every place of the bar; the tune's own lengths are in it.
    if (hand.kind === "roll")
      return found.strokes
        .filter((s) => s.place.index === place.index)
        .map((s) => ({ ...strokeEvent(s, s.ticks, undefined), ...sungAt(own, s.at) }));
    const before = found.strokes.findLast((s) => s.at < own.at && s.notes[0]?.role === "melody");
    return barEvents(own, found.strokes, before);
  });
  const staff: Staff = {
    id: HAND_STAFF,
    name: `${on.name}, ${hand.kind}`,
    bars,
    clef: on.clef,
    program: on.program,
    transposition: on.transposition,
    // A song is sung over what the hand plays: its words stand under it, unless they stand over it already.
    lyrics: !sheet.staves.some((s) => s.lyrics) && bars.some((bar) => bar.some((e) => (e.lyrics?.length ?? 0) > 0)),
    ...(on.frets ? { tab: on.strings.map(({ number, open }) => ({ number, open })) } : {}),
  };
  return { ...sheet, staves: [...sheet.staves, staff] };
}

/** What the file and the paper of a hand are called: hand-tenor-banjo. */
export const handId = (name: string): string => `hand-${name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}`;

/** The hand of a work that goes by an id; undefined where no strung instrument does. */
export function handById(work: Work, id: string): Hand | undefined {
  const on = catalogueWith(work.instruments ?? []).find((i) => i.strings.length > 0 && handId(i.name) === id);
  return on && handFor(work, on.name);
}
