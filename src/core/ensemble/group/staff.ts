import { type Material, type PartNote, ROLE_RULES } from "../../grading";
import type { Instrument } from "../../instruments";
import { type Event, laidEvents, type Mark, type Place, rest, type Staff } from "../../score";
import { spell } from "../../theory";
import type { GroupPart } from "./model";

type Written = Pick<Material, "key"> & {
  /** Bars (indexes) that begin a phrase, where strokes are signed anew. */
  starts?: ReadonlySet<number>;
  /** What stands under a note: its name, or a word that is sung. */
  under?: (note: PartNote) => Event["lyrics"];
};

/** A part's notes as bars of events: sounding pitches, rests between. */
export function barsOf(
  places: readonly Place[],
  notes: readonly PartNote[],
  on: Instrument,
  { key, starts, under }: Written,
): Event[][] {
  const byBar = new Map<number, PartNote[]>();
  for (const n of notes) byBar.set(n.bar, [...(byBar.get(n.bar) ?? []), n]);
  const drum = on.family === "drum";
  let before: PartNote | undefined;
  const signs = starts ? signsOf(places, notes, starts, on.family === "plucked") : new Set<PartNote>();
  return places.map((place) => {
    const events: Event[] = [];
    let at = 0;
    for (const n of byBar.get(place.index) ?? []) {
      if (n.at > at) events.push(rest(n.at - at));
      const pitches = drum ? [n.stroke === "heavy" ? on.lowest : on.highest] : n.pitches.map((p) => spell(p, key));
      const marks = [...marksOf(n, signs.has(n)), ...loudnessSign(n, before)];
      before = n;
      events.push({
        ticks: n.ticks,
        pitches,
        ...(marks.length > 0 ? { marks } : {}),
        ...slursOf(n, notes),
        ...underOf(under?.(n)),
        ...techniqueOf(n),
      });
      at = n.at + n.ticks;
    }
    if (at < place.ticks) events.push(rest(place.ticks - at));
    return laidEvents(events, place.metre, place.offset);
  });
}

/** Where someone begins to play low, and where no longer. */
function loudnessSign({ quiet }: PartNote, before: PartNote | undefined): Mark[] {
  if (quiet === before?.quiet) return [];
  return [quiet ? "p" : "mf"];
}

const SIGNS: Partial<Record<NonNullable<PartNote["stroke"]>, Mark>> = {
  heavy: "accent",
  down: "down-bow",
  up: "up-bow",
  chop: "staccato",
};
const SIGNED = new Set<Mark | undefined>(["down-bow", "up-bow"]);
function marksOf({ stroke }: PartNote, signed: boolean): Mark[] {
  const mark = stroke && SIGNS[stroke];
  return mark && (signed || !SIGNED.has(mark)) ? [mark] : [];
}

/**
 * Notes whose stroke is signed: the first of a phrase, after a rest, and wherever the bow does not simply go to and
 * fro. What is plucked is signed where it turns.
 */
function signsOf(
  places: readonly Place[],
  notes: readonly PartNote[],
  starts: ReadonlySet<number>,
  plucked: boolean,
): Set<PartNote> {
  const startOf = ({ bar, at }: PartNote) => (places[bar]?.at ?? 0) + at;
  return new Set(
    notes.filter((n, i) => {
      const before = notes[i - 1];
      if (!before || (starts.has(n.bar) && before.bar !== n.bar)) return true;
      if (n.slur !== undefined && n.slur === before.slur) return false;
      const turned = n.stroke !== before.stroke;
      if (plucked) return turned;
      return !turned || startOf(n) > startOf(before) + before.ticks;
    }),
  );
}

const underOf = (lyrics: Event["lyrics"]): Pick<Event, "lyrics"> => (lyrics ? { lyrics } : {});

function slursOf({ slur, bar, at }: PartNote, notes: readonly PartNote[]): Pick<Event, "slurs"> {
  if (slur === undefined) return {};
  const own = notes.filter((n) => n.slur === slur);
  const is = (n: PartNote | undefined) => n?.bar === bar && n.at === at;
  const [open, close] = [is(own[0]) ? 1 : 0, is(own.at(-1)) ? 1 : 0];
  return open || close ? { slurs: { open, close } } : {};
}

function techniqueOf({ strings, frets, fingers }: PartNote): Pick<Event, "technique"> {
  if (!strings) return {};
  const notes = strings.map((string, i) => ({
    string,
    ...(frets?.[i] !== undefined ? { fret: frets[i] as string } : {}),
    ...(fingers?.[i] !== undefined ? { finger: fingers[i] as number } : {}),
  }));
  return { technique: { notes } };
}

/** A learner's part as a staff. */
export const groupStaff = (places: readonly Place[], part: GroupPart, material: Written): Staff => ({
  id: part.id,
  name: part.learner.name,
  bars: barsOf(places, part.notes, part.on, material),
  clef: part.on.clef,
  program: part.on.program,
  lyrics: material.under !== undefined,
  ...(part.on.transposition ? { transposition: part.on.transposition } : {}),
  loudness: loudnessOf(part),
});
/** How loud a part is beside the tune, by what it does. */
const LOUD = { tune: 1, harmony: 0.75, "long notes": 0.55, chords: 0.6, bass: 0.8, drum: 0.5 } as const;
export const loudnessOf = ({ role }: GroupPart): number => LOUD[ROLE_RULES[role].group];
