import {
  type Bar,
  barTicks,
  BLANK,
  type Event,
  isCounted,
  type Metre,
  type Place,
  places,
  QUARTER,
  type Tune,
} from "../score";
import { alterIn, diatonic, type Key, naturalAt, type Pitch } from "../theory";
import { type Cell, cellFits } from "./cells";
import { setToCell } from "./setToCell";

/** One rung of the drill: what it is called, what to say, and the music to play and print. */
export type Drill = { name: string; says: string; tune: Tune };

const EIGHTH = QUARTER / 2;
/** Degrees of the scale that a drill climbs. */
const DEGREES = 5;

/** A scale from its tonic at or above a pitch. */
function scaleFrom(key: Key, floor: Pitch): Pitch[] {
  const tonic = naturalAt(diatonic(floor));
  const up = Array.from({ length: 8 }, (_, i) => naturalAt(diatonic(tonic) + i));
  const first = up.findIndex((p) => p.step === key.tonic[0]);
  return Array.from({ length: DEGREES + 1 }, (_, i) => {
    const natural = naturalAt(diatonic(up[first] as Pitch) + i);
    return { ...natural, alter: alterIn(key, natural.step) };
  });
}

/** A cell's events over a bar, each note's pitch by its order, the first of each cell accented. */
function bar(cell: Cell, metre: Metre, pitch: (order: number) => Pitch, accents = true): Bar {
  const full = barTicks(metre);
  const events: Event[] = [];
  let at = 0;
  for (let order = 0; at < full; order++) {
    const own = order % cell.lengths.length;
    const ticks = Math.min(full - at, Math.round((cell.lengths[own] as number) * EIGHTH));
    const marks = accents && own === 0 ? { marks: ["accent" as const] } : {};
    events.push({ ticks, pitches: [pitch(order)], ...marks });
    at += ticks;
  }
  return { events, chords: [], changes: [], barline: "single" };
}

/** The bar as text would be read back: with its triplets named. */
function withTriplets({ events, ...rest }: Bar): Bar {
  let run = 0;
  const named = events.map((event): Event => {
    if (event.ticks * 3 !== QUARTER) {
      run = 0;
      return event;
    }
    const place = (["first", "inner", "last"] as const)[run % 3] ?? "inner";
    run += 1;
    return { ...event, tuplet: { actual: 3, normal: 2, place } };
  });
  return { ...rest, events: named };
}

/**
 * The drill ladder of a cell for a class, from the easiest rung: accents on an open string; an accent and light notes
 * on it; the cell on each degree of the tune's scale; the first bar; the tune set to the cell. `open` is a string all
 * have. Empty where the cell does not fit the tune's metre.
 */
export function drillLadder(tune: Tune, cell: Cell, open: Pitch): Drill[] {
  const from = places(tune);
  const first = from.find(isCounted);
  if (!first || !cellFits(cell, first)) return [];
  const { metre, key } = first;
  const scale = scaleFrom(key, open);
  const said = cell.syllables.join(" ");
  const rung = (name: string, says: string, bars: readonly Bar[]): Drill => ({
    name,
    says,
    tune: drillTune(tune, name, bars),
  });
  const long = (pitch: Pitch): Bar => ({
    events: [{ ticks: barTicks(metre), pitches: [pitch] }],
    chords: [],
    changes: [],
    barline: "single",
  });
  const beats = Math.round(barTicks(metre) / beatOf(cell));
  const accents: Bar = {
    events: Array.from(
      { length: beats },
      (): Event => ({ ticks: barTicks(metre) / beats, pitches: [open], marks: ["accent"] }),
    ),
    chords: [],
    changes: [],
    barline: "single",
  };
  const degrees = scale.slice(0, DEGREES).flatMap((pitch) => [bar(cell, metre, () => pitch)]);
  const own = setToCell(tune, cell).tune;
  const opening = places(own).find((p) => p.index === first.index) as Place;
  return [
    rung("Accents on the open string", `Say ${cell.syllables[0]} on every bow.`, [accents, accents, accents, accents]),
    rung(
      "An accent, then light",
      `Say ${said}; lean on the first.`,
      new Array<Bar>(4).fill(bar(cell, metre, () => open)),
    ),
    rung("Up the scale", "The cell on each degree, up and down.", [
      ...degrees,
      ...degrees.slice(0, -1).reverse(),
      long(scale[0] as Pitch),
    ]),
    rung("The first bar", "Over and over, with the same words.", new Array<Bar>(4).fill(opening.bar)),
    { name: "The tune", says: "Set to the cell all through.", tune: own },
  ];
}

/** Ticks of the beat a cell is counted in. */
const beatOf = ({ metres }: Cell): number => (metres.every((m) => m.endsWith("/8")) ? 3 * EIGHTH : QUARTER);

function drillTune(tune: Tune, title: string, bars: readonly Bar[]): Tune {
  const closed = bars.map((b, i) =>
    withTriplets({ ...plainBar(b), barline: i === bars.length - 1 ? "final" : "single" }),
  );
  return {
    ...BLANK,
    title,
    key: tune.key,
    metre: tune.metre,
    unit: tune.unit,
    strains: [{ label: "A", bars: closed }],
    ...(tune.tempo ? { tempo: tune.tempo } : {}),
  } as Tune;
}
/** A bar without what binds it to its tune. */
const plainBar = ({ events }: Bar): Bar => ({
  events: events.map(({ tie: _, slurs: _s, lyrics: _l, ...event }) => event),
  chords: [],
  changes: [],
  barline: "single",
});

/** The open string a whole class has, for who plays what: A4 where fiddles play. */
export const CLASS_STRING: Pitch = { step: "A", alter: 0, octave: 4 };
