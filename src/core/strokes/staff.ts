import type { Instrument } from "../instruments";
import { type Event, type Mark, type Place, rest, type Staff } from "../score";
import { type Pitch, spell } from "../theory";
import type { StrokePlan } from "./model";
import type { LeftHand, StrumStroke } from "./struck";
import type { StrumPlan } from "./strum";

/** Where slashes stand: the middle of a treble staff, wherever the instrument sounds. */
const MIDDLE: Pitch = { step: "B", alter: 0, octave: 4 };
/** The id and name of a strum's staff. */
export const STRUM_STAFF = "strum";

type Sounded = StrumPlan["strokes"][number];

/**
 * A strum as a staff of slashes, each with its direction and its sign; or, for a fretted instrument, as tablature of
 * the strings it strikes. A stroke lasts until the next one in its bar.
 */
export function strumStaff(
  { strokes, style }: StrumPlan,
  places: readonly Place[],
  on: Instrument,
  as: "slashes" | "tablature" = "slashes",
): Staff {
  const tab = as === "tablature" && on.frets !== undefined;
  const sounds = ({ sign, struck, direction }: Sounded) =>
    tab ? struck.length > 0 : sign !== "." && (direction !== null || struck.length > 0);
  const bars = places.map((place) => {
    const own = strokes.filter((s) => s.place.index === place.index && sounds(s));
    const first = own[0];
    if (!first) return [rest(place.ticks)];
    const before = first.at - strokesStart(strokes, place);
    const events = own.map((stroke, i): Event => {
      const end = own[i + 1]?.at ?? strokesStart(strokes, place) + place.ticks;
      return tab ? tabEvent(stroke, end - stroke.at) : slashEvent(stroke, end - stroke.at);
    });
    return before > 0 ? [rest(before), ...events] : events;
  });
  return {
    id: STRUM_STAFF,
    name: `Strum: ${style}`,
    bars,
    clef: "treble",
    program: on.program,
    lyrics: false,
    ...(tab
      ? { transposition: on.transposition, tab: on.strings.map(({ number, open }) => ({ number, open })) }
      : { slashes: true }),
  };
}
/** Where a bar begins in the time of its plan: rows of a sheet count bars from anywhere. */
const strokesStart = (strokes: readonly Sounded[], { index, at }: Place): number =>
  strokes.find((s) => s.place.index === index)?.place.at ?? at;

const slashEvent = ({ direction, sign, kind }: Sounded, ticks: number): Event => {
  const marks: Mark[] = direction ? [direction === "down" ? "down-bow" : "up-bow"] : [];
  return {
    ticks,
    pitches: [MIDDLE],
    marks: kind === "chop" ? [...marks, "staccato"] : marks,
    words: [{ text: sign, place: "below" }],
  };
};
function tabEvent({ struck, place, own }: StrumStroke, ticks: number): Event {
  const notes = [...struck].sort((a, b) => a.noteNumber - b.noteNumber);
  const move = own?.move;
  return {
    ticks,
    pitches: notes.map((n) => spell(n.noteNumber, place.key)),
    technique: { notes: notes.map(({ string, fret }) => ({ string, fret })), ...(move ? { move } : {}) },
    ...(move ? { words: [{ text: SHORT_MOVES[move], place: "above" as const }] } : {}),
  };
}
/** What the left hand does, as it is shortened over a tablature. */
export const SHORT_MOVES: Readonly<Record<LeftHand, string>> = {
  slide: "sl",
  "hammer-on": "h",
  "pull-off": "p",
  bend: "b",
};

const BOWS: ReadonlySet<Mark> = new Set(["down-bow", "up-bow"]);

/** A melody staff with its bows: a sign where each begins, one slur over the notes of each. Written slurs give way. */
export function bowedStaff(staff: Staff, plan: StrokePlan, places: readonly Place[]): Staff {
  const bars = staff.bars.map((events) =>
    events.map(
      ({ slurs: _, marks, ...event }): Event => ({
        ...event,
        ...(marks ? { marks: marks.filter((m) => !BOWS.has(m)) } : {}),
      }),
    ),
  );
  const order = new Map(places.map((p, i) => [p.index, i]));
  const change = (place: Place, event: number, edit: (event: Event) => Event) => {
    const bar = bars[order.get(place.index) ?? -1];
    const own = bar?.[event];
    if (bar && own) bar[event] = edit(own);
  };
  for (const { notes, direction, swell } of plan.strokes) {
    const [first, last] = [notes[0], notes.at(-1)];
    if (!first || !last || !direction) continue;
    const sign: Mark = direction === "down" ? "down-bow" : "up-bow";
    change(first.place, first.event, (e) => ({
      ...e,
      marks: [...(e.marks ?? []), sign, ...(swell ? (["crescendo start"] as const) : [])],
      ...(first === last ? {} : { slurs: { open: 1, close: 0 } }),
    }));
    if (first !== last)
      change(last.place, last.event, (e) => ({
        ...e,
        slurs: { open: e.slurs?.open ?? 0, close: 1 },
        ...(swell ? { marks: [...(e.marks ?? []), "crescendo end" as const] } : {}),
      }));
  }
  return { ...staff, bars };
}
