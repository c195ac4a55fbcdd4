import { beatTicks, isCompound, strength } from "../score";
import { firstPosition } from "../technique";
import { midi } from "../theory";
import { type Bars, changed, kept, longShort, openBelow, type Step, top } from "./bars";

/** How often each thing comes in a line, the commonest first. */
function commonest<T>(bars: Bars, of: (pitch: NonNullable<ReturnType<typeof top>>) => T | undefined): T[] {
  const counts = new Map<T, number>();
  for (const event of bars.flat()) {
    const pitch = top(event);
    const own = pitch && of(pitch);
    if (own !== undefined) counts.set(own, (counts.get(own) ?? 0) + event.ticks);
  }
  return [...counts].sort((a, b) => b[1] - a[1]).map(([own]) => own);
}

/** Pitches, and strings, that a line is brought down to. */
const FEW_PITCHES = 6;
const FEW_STRINGS = 2;

/** Steps that make a line easier, from the smallest to the largest. */
export const EASIER: readonly Step[] = [
  {
    name: "without ornaments",
    way: "easier",
    rung: true,
    says: "Grace notes, cuts and rolls are left out.",
    needs: "ornaments",
    take: (bars, { places }) =>
      changed(bars, places, (event) => {
        if (!event.grace && !event.marks?.length) return [event];
        const { grace: _, graceSlash: _s, marks: _m, ...plain } = event;
        return [plain];
      }),
  },
  {
    name: "quarters and eighths",
    way: "easier",
    says: "One plain rhythm: what is quicker, and every dot, is left out.",
    needs: "notes quicker than halves or thirds of a beat",
    take: (bars, { places }) =>
      kept(bars, places, (into, { metre }) => into % (beatTicks(metre) / (isCompound(metre) ? 3 : 2)) === 0),
  },
  {
    name: "long and short",
    way: "easier",
    rung: true,
    says: "Passing notes are left out: long and short of every beat are there.",
    needs: "passing notes",
    take: (bars, { places }) => kept(bars, places, longShort),
  },
  {
    name: "fewer pitches",
    way: "easier",
    says: `The ${FEW_PITCHES} notes it has most of; between them the one before goes on.`,
    needs: `more than ${FEW_PITCHES} different notes`,
    take: (bars, { places }) => {
      const few = new Set(commonest(bars, midi).slice(0, FEW_PITCHES));
      return kept(bars, places, (_, __, event) => event.pitches.every((p) => few.has(midi(p))));
    },
  },
  {
    name: "fewer strings",
    way: "easier",
    says: "The two strings it is on most; elsewhere the note before goes on.",
    needs: "three strings",
    take: (bars, { places, on }) => {
      const stringOf = (pitch: Parameters<typeof midi>[0]) => firstPosition(on, midi(pitch))?.string;
      const few = new Set(commonest(bars, stringOf).slice(0, FEW_STRINGS));
      if (few.size < FEW_STRINGS) return undefined;
      return kept(bars, places, (_, __, { pitches }) => pitches.every((p) => few.has(stringOf(p) ?? -1)));
    },
  },
  {
    name: "the beats",
    way: "easier",
    rung: true,
    says: "One note on every beat.",
    needs: "notes between the beats",
    take: (bars, { places }) => kept(bars, places, (into, place) => into % beatTicks(place.metre) === 0),
  },
  {
    name: "the bar",
    way: "easier",
    rung: true,
    says: "The strong beats alone.",
    needs: "notes on other beats",
    take: (bars, { places }) =>
      kept(bars, places, (into, place) => strength(place, place.at + into - place.offset) >= 3),
  },
  {
    name: "open strings",
    way: "easier",
    says: "On the strong beats the open string that goes with the tune’s note.",
    needs: "strings, and notes that an open one goes with",
    take: (bars, context) => {
      const { places, on } = context;
      if (on.strings.length === 0) return undefined;
      const strong = kept(bars, places, (into, place) => strength(place, place.at + into - place.offset) >= 2) ?? bars;
      return changed(strong, places, (event) => {
        const here = top(event);
        const isOpen = here && on.strings.some((s) => midi(s.open) === midi(here));
        const open = here && !isOpen ? openBelow(on, here) : here;
        return open && !isOpen ? [{ ...event, pitches: [open] }] : [event];
      });
    },
  },
];
