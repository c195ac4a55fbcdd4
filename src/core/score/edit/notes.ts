import { alterIn, type Key, midi, naturalAt, type Pitch, scaleStep, spell } from "../../theory";
import { type Event, type Mark, MARKS, type Tune, QUARTER } from "../model";
import { tupletPlace } from "../lay";
import { places } from "../time";
import { type Edited, refused, type Spot, withBar } from "./place";

/** Changes one event; what it returns takes its place (none removes it). */
const change = (tune: Tune, { bar, event }: Spot, make: (event: Event, key: Key) => Event[] | string): Edited => {
  const place = places(tune)[bar];
  const own = place?.bar.events[event];
  if (!place || !own) return refused("There is no note there any more.");
  const made = make(own, place.key);
  if (typeof made === "string") return refused(made);
  return {
    tune: withBar(tune, bar, (b) => ({
      ...b,
      events: [...b.events.slice(0, event), ...made, ...b.events.slice(event + 1)],
    })),
  };
};

const REST = "This is a rest. Give it a pitch first.";
const inReach = (p: Pitch) => midi(p) >= 12 && midi(p) <= 120 && Math.abs(p.alter) <= 2;

const pitches = (tune: Tune, spot: Spot, move: (pitch: Pitch, key: Key) => Pitch): Edited =>
  change(tune, spot, (event, key) => {
    if (event.pitches.length === 0) return REST;
    const moved = event.pitches.map((p) => move(p, key));
    // A note that moves away from the one it was tied to is no longer held into it.
    const { tie: _, ...free } = event;
    return moved.every(inReach) ? [{ ...free, pitches: moved }] : "That is out of any instrument's range.";
  });

/** So many steps of the scale up or down. */
export const moveStep = (tune: Tune, spot: Spot, steps: number): Edited =>
  pitches(tune, spot, (p, key) => scaleStep(p, steps, key));
/** A semitone up or down, spelled by the key. */
export const moveSemitone = (tune: Tune, spot: Spot, semitones: number): Edited =>
  pitches(tune, spot, (p, key) => spell(midi(p) + semitones, key));
/** To a staff position (as `diatonic` counts), as the key has it; a rest there becomes a note. */
export const moveTo = (tune: Tune, spot: Spot, position: number): Edited =>
  change(tune, spot, (event, key) => {
    const natural = naturalAt(position);
    const { tie: _, invisible: _i, ...free } = event;
    return [{ ...free, pitches: [{ ...natural, alter: alterIn(key, natural.step) }] }];
  });
/** Sharp (1), natural (0) or flat (-1), whatever the key says. */
export const setAccidental = (tune: Tune, spot: Spot, alter: number): Edited =>
  pitches(tune, spot, (p) => ({ ...p, alter }));

/** A length in ticks. The bar grows or shrinks with it; the notices say so. */
export const setLength = (tune: Tune, spot: Spot, ticks: number): Edited =>
  change(tune, spot, (event) => {
    const { tuplet: _, ...plain } = event;
    return ticks >= 105 && ticks <= 53760 ? [{ ...plain, ticks }] : "That is shorter or longer than can be written.";
  });
/** A dot on or off. */
export const toggleDot = (tune: Tune, spot: Spot): Edited =>
  change(tune, spot, (event) => {
    const dotted = Number.isInteger(Math.log2(event.ticks / 315));
    return [{ ...event, ticks: dotted ? (event.ticks * 2) / 3 : event.ticks * 1.5 }];
  });
/** Three notes in the time of this one, or the group it belongs to back to one note. */
export function toggleTriplet(tune: Tune, spot: Spot): Edited {
  const events = places(tune)[spot.bar]?.bar.events ?? [];
  const own = events[spot.event];
  if (!own?.tuplet) {
    return change(tune, spot, (event) =>
      event.ticks % 3 === 0 && event.ticks >= 630
        ? [0, 1, 2].map(
            (i): Event => ({
              ticks: event.ticks / 3,
              pitches: event.pitches,
              tuplet: { actual: 3, normal: 2, place: tupletPlace(i, 3) },
              ...(i === 0 && event.marks ? { marks: event.marks } : {}),
            }),
          )
        : "This note is too short for a triplet.",
    );
  }
  let from = spot.event;
  while (from > 0 && events[from]?.tuplet?.place !== "first") from -= 1;
  let to = spot.event;
  while (to < events.length - 1 && events[to]?.tuplet?.place !== "last") to += 1;
  const { tuplet: _, ...first } = events[from] as Event;
  const whole: Event = { ...first, ticks: events.slice(from, to + 1).reduce((n, e) => n + e.ticks, 0) };
  return {
    tune: withBar(tune, spot.bar, (b) => ({
      ...b,
      events: [...events.slice(0, from), whole, ...events.slice(to + 1)],
    })),
  };
}
/** Held into the next note or not; the next must be the same pitch. */
export function toggleTie(tune: Tune, spot: Spot): Edited {
  const all = places(tune);
  const next = all[spot.bar]?.bar.events[spot.event + 1] ?? all[spot.bar + 1]?.bar.events[0];
  return change(tune, spot, (event) => {
    if (event.tie) {
      const { tie: _, ...free } = event;
      return [free];
    }
    if (event.pitches.length === 0) return REST;
    return event.pitches.some((p) => next?.pitches.some((q) => midi(p) === midi(q)))
      ? [{ ...event, tie: true }]
      : "A tie needs the same pitch after it. Move the next note first.";
  });
}
/** How early an anticipation comes: an eighth. */
const EARLY = QUARTER / 2;
/**
 * An anticipation: the note comes an eighth early and the one before it is let go for it; over a bar line it is tied
 * into its bar.
 */
export function anticipate(tune: Tune, spot: Spot): Edited {
  const all = places(tune);
  const [place, before] = [all[spot.bar], all[spot.bar - 1]];
  const own = place?.bar.events[spot.event];
  const last = spot.event > 0 ? place?.bar.events[spot.event - 1] : before?.bar.events.at(-1);
  if (!own || own.pitches.length === 0) return refused(REST);
  if (!last) return refused("There is nothing before this note for it to come into.");
  if (last.ticks <= EARLY || last.tuplet || own.tuplet)
    return refused("The note before is too short to give an eighth away. Lengthen it first.");
  const { tie: _, ...free } = last;
  const shortened: Event = { ...free, ticks: last.ticks - EARLY };
  if (spot.event > 0) {
    return {
      tune: withBar(tune, spot.bar, (b) => ({
        ...b,
        events: b.events.toSpliced(spot.event - 1, 2, shortened, { ...own, ticks: own.ticks + EARLY }),
      })),
    };
  }
  const early: Event = { ticks: EARLY, pitches: own.pitches, tie: true };
  return {
    tune: withBar(tune, spot.bar - 1, (b) => ({ ...b, events: [...b.events.slice(0, -1), shortened, early] })),
  };
}

/** A sign on or off: accent, ornament, bowing, ghost. */
export const toggleMark = (tune: Tune, spot: Spot, mark: Mark): Edited =>
  change(tune, spot, (event) => {
    const had = event.marks?.includes(mark);
    const marks = had
      ? (event.marks ?? []).filter((m) => m !== mark)
      : [...(event.marks ?? []), mark].sort((a, b) => MARKS.indexOf(a) - MARKS.indexOf(b));
    const { marks: _, ...plain } = event;
    return [marks.length ? { ...plain, marks } : plain];
  });
/** A grace note a scale step above, more of them upward; `clear` takes them all off. */
export const addGrace = (tune: Tune, spot: Spot, clear = false): Edited =>
  change(tune, spot, (event, key) => {
    const [pitch] = event.pitches;
    if (!pitch) return REST;
    if (clear) {
      const { grace: _, graceSlash: _s, ...plain } = event;
      return [plain];
    }
    const count = event.grace?.length ?? 0;
    return count < 4
      ? [
          {
            ...event,
            grace: [...(event.grace ?? []), { pitches: [scaleStep(pitch, 1 + (count % 2), key)], ticks: 1680 }],
          },
        ]
      : "Four grace notes are enough.";
  });
/** A copy of this note after it. */
export const insertAfter = (tune: Tune, spot: Spot): Edited =>
  change(tune, spot, (event) => [event, { ticks: event.ticks, pitches: event.pitches }]);
/** Takes the note out; the bar gets shorter. The last one of a bar becomes a rest. */
export const remove = (tune: Tune, spot: Spot): Edited =>
  change(tune, spot, (event) =>
    (places(tune)[spot.bar]?.bar.events.length ?? 0) > 1 ? [] : [{ ticks: event.ticks, pitches: [] }],
  );
/** Silence of the same length. */
export const toRest = (tune: Tune, spot: Spot): Edited =>
  change(tune, spot, (event) => [
    { ticks: event.ticks, pitches: [], ...(event.tuplet ? { tuplet: event.tuplet } : {}) },
  ]);
/** Two notes of half the length. */
export const split = (tune: Tune, spot: Spot): Edited =>
  change(tune, spot, (event) =>
    event.ticks % 2 === 0 && event.ticks >= 420 && !event.tuplet
      ? [
          { ...event, ticks: event.ticks / 2 },
          { ticks: event.ticks / 2, pitches: event.pitches, ...(event.tie ? { tie: true } : {}) },
        ].map((e, i) => {
          if (i > 0) return e;
          const { tie: _, ...free } = e;
          return free;
        })
      : "This note is too short to split.",
  );
/** One note of this and the next one's length, within the bar. */
export function join(tune: Tune, spot: Spot): Edited {
  const next = places(tune)[spot.bar]?.bar.events[spot.event + 1];
  if (!next) return refused("There is no note after this one in the bar.");
  const joined = change(tune, spot, (event) => {
    const { tuplet: _, tie: _t, ...plain } = event;
    return [{ ...plain, ticks: event.ticks + next.ticks, ...(next.tie ? { tie: true } : {}) }];
  });
  return joined.tune
    ? {
        tune: withBar(joined.tune, spot.bar, (b) => ({
          ...b,
          events: b.events.filter((_, i) => i !== spot.event + 1),
        })),
      }
    : joined;
}
