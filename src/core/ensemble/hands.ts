import { usualTempo, NO_DANCE } from "../feel";
import { FIDDLE, INSTRUMENTS, type Instrument, instrument, LEVELS, type Level, tuned } from "../instruments";
import { type Event, type Place, rest, type Sheet, type Staff } from "../score";
import {
  type Arrangement,
  type ArrangedStroke,
  arrange,
  type FingeringLock,
  KINDS,
  type Kind,
  rolled,
} from "../technique";
import { spell } from "../theory";
import type { Derived } from "./derive";
import { grooveFor } from "./groove";
import { once } from "./once";
import type { Hand, Work } from "./work";

/** The id of the staff that shows how a tune lies under a hand. */
export const HAND_STAFF = "hand";

/** Hands that were looked at and never changed: one for each instrument. */
const plain = new Map<string, Hand>(
  INSTRUMENTS.map(({ name }) => [
    name,
    { instrument: name, tuning: null, kind: KINDS[0], level: LEVELS[2], locks: [] },
  ]),
);
/** How a work's tune is played on an instrument: as it was chosen, or its notes alone for the third level. */
export const handFor = ({ hands = [] }: Pick<Work, "hands">, name: string): Hand =>
  hands.find((h) => h.instrument === name) ?? plain.get(name) ?? (plain.get(FIDDLE.name) as Hand);

const kindOf = (name: string): Kind => KINDS.find((k) => k === name) ?? KINDS[0];
const levelOf = (name: string): Level => LEVELS.find((l) => l === name) ?? LEVELS[2];

/** The instrument of a hand, in its tuning. */
export function playedBy({ instrument: name, tuning }: Hand): Instrument {
  const on = instrument(name) ?? FIDDLE;
  return tuned(on, tuning) ?? on;
}

type Known = Pick<Derived, "analysis" | "plan">;
/** The tune of a work arranged for a hand; undefined on an instrument without strings. Made once for all who look. */
export function arrangedFor(work: Work, { analysis, plan }: Known, hand: Hand): Arrangement | undefined {
  return once(analysis, ["hand", hand, plan, work.feel.groove], () => {
    const groove = grooveFor(work, { analysis }) ?? NO_DANCE;
    const make = hand.kind === "roll" ? rolled : arrange;
    return make({
      places: analysis.places,
      instrument: playedBy(hand),
      kind: kindOf(hand.kind),
      level: levelOf(hand.level),
      chords: plan.chords,
      bpm: usualTempo(groove, work.tune.metre, "practice"),
      locks: hand.locks,
    });
  });
}

/** The work with a hand changed; what is settled on another tuning is let go. */
export function changeHand(work: Work, name: string, change: Partial<Hand>): Work {
  const before = handFor(work, name);
  const retuned = change.tuning !== undefined && change.tuning !== before.tuning;
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

/** The events of one bar: the tune's own, each as it is played, with the small figures under what is held. */
function barEvents(place: Place, strokes: readonly ArrangedStroke[], before: ArrangedStroke | undefined): Event[] {
  const events: Event[] = [];
  let at = place.at;
  let last = before;
  for (const { ticks, pitches, tie, tuplet } of place.bar.events) {
    const own = strokes.find((s) => s.at === at && s.notes[0]?.role === "melody");
    const sounding = own ?? (last && last.at < at && at < last.at + last.ticks ? last : undefined);
    if (pitches.length === 0 || !sounding) events.push({ ...rest(ticks), ...(tuplet ? { tuplet } : {}) });
    else {
      const end = at + ticks;
      const fills = strokes.filter((s) => s.notes[0]?.role === "fill" && s.at >= at && s.at + s.ticks <= end);
      const first = fills[0];
      const event = strokeEvent(sounding, (first?.at ?? end) - at, first ? undefined : tie);
      events.push(tuplet ? { ...event, tuplet } : event);
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
  const on = playedBy(hand);
  const bars = sheet.places.map((place) => {
    const own = derived.analysis.places.find((p) => p.index === place.index) ?? place;
    // A roll has a string on every place of the bar; the tune's own lengths are in it.
    if (hand.kind === "roll")
      return found.strokes.filter((s) => s.place.index === place.index).map((s) => strokeEvent(s, s.ticks, undefined));
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
    lyrics: false,
    ...(on.frets ? { tab: on.strings.map(({ number, open }) => ({ number, open })) } : {}),
  };
  return { ...sheet, staves: [...sheet.staves, staff] };
}
