// Random tunes for property tests: every mode, several metres, with pickups, rests, ties and chromatic notes.
import fc from "fast-check";
import { type Bar, barTicks, BLANK, type Event, type Metre, QUARTER, shapeOf, type Tune } from "../core/score";
import { alterIn, type Key, MODES, naturalAt, type Pitch } from "../core/theory";

const METRES: Metre[] = [
  { beats: 4, unit: 4 },
  { beats: 2, unit: 2, symbol: "cut" },
  { beats: 6, unit: 8 },
  { beats: 9, unit: 8 },
  { beats: 3, unit: 4 },
  { beats: 2, unit: 4 },
];
const TONICS = ["C", "D", "E", "F", "G", "A", "B", "Bb", "Eb", "F#"];

export const arbitraryKey: fc.Arbitrary<Key> = fc.record({
  tonic: fc.constantFrom(...TONICS),
  mode: fc.constantFrom(...MODES),
});

/** Notes as small choices: staff position from G3 (25) up, length in sixteenths, and what is odd about it. */
const step = fc.record({
  position: fc.integer({ min: 25, max: 42 }),
  sixteenths: fc.constantFrom(1, 2, 2, 2, 3, 4, 6),
  odd: fc.constantFrom("", "", "", "", "", "rest", "sharp", "flat", "tie"),
});
type StepChoice = typeof step extends fc.Arbitrary<infer T> ? T : never;

function pitchOf(choice: StepChoice, key: Key): Pitch {
  const natural = naturalAt(choice.position);
  const own = alterIn(key, natural.step);
  return {
    ...natural,
    alter: Math.max(-1, Math.min(1, own + (choice.odd === "sharp" ? 1 : 0) - (choice.odd === "flat" ? 1 : 0))),
  };
}

/** The longest length up to this one that a single note can have. */
function lastThatExists(ticks: number): number {
  for (let own = ticks; own > 0; own -= QUARTER / 4) if ((shapeOf(own)?.dots ?? 2) < 2) return own;
  return ticks;
}

/** Fills one bar with the choices given, in turn. */
function fill(choices: readonly StepChoice[], ticks: number, key: Key): Event[] {
  const events: Event[] = [];
  let left = ticks;
  for (let i = 0; left > 0; i++) {
    const choice = choices[i % choices.length] as StepChoice;
    const ticks = lastThatExists(Math.min(left, (choice.sixteenths * QUARTER) / 4));
    events.push({ ticks, pitches: choice.odd === "rest" ? [] : [pitchOf(choice, key)] });
    left -= ticks;
  }
  return events;
}

/** Whole tunes of one or two strains of two to eight bars. */
export const arbitraryTune = (options: { maxBars?: number } = {}): fc.Arbitrary<Tune> =>
  fc
    .record({
      key: arbitraryKey,
      metre: fc.constantFrom(...METRES),
      pickup: fc.boolean(),
      strains: fc.array(
        fc.record({
          repeated: fc.boolean(),
          bars: fc.array(fc.array(step, { minLength: 2, maxLength: 9 }), {
            minLength: 2,
            maxLength: options.maxBars ?? 8,
          }),
        }),
        { minLength: 1, maxLength: 2 },
      ),
    })
    .map(
      ({ key, metre, pickup, strains }): Tune => ({
        ...BLANK,
        title: "Random",
        rights: "own",
        key,
        metre,
        unit: QUARTER / 2,
        strains: strains.map(({ repeated, bars }, s) => {
          const made = bars.map(
            (choices, i): Bar => ({
              events: fill(choices, barTicks(metre), key),
              chords: [],
              changes: [],
              barline: i === bars.length - 1 ? "final" : "single",
              ...(repeated && s > 0 && i === 0 ? { repeatStart: true } : {}),
              ...(repeated && i === bars.length - 1 ? { repeatEnd: 2 } : {}),
            }),
          );
          const lead: Bar[] =
            pickup && s === 0
              ? [
                  {
                    events: fill(bars[0] as StepChoice[], QUARTER / 2, key),
                    chords: [],
                    changes: [],
                    barline: "single",
                  },
                ]
              : [];
          return { label: s === 0 ? "A" : "B", bars: tied([...lead, ...made], strains[s]?.bars.flat() ?? []) };
        }),
      }),
    );

/** Ties some notes to a following note that is given the same pitch. */
function tied(bars: Bar[], choices: readonly StepChoice[]): Bar[] {
  const events = bars.flatMap((b) => b.events);
  events.forEach((event, i) => {
    const next = events[i + 1];
    if (choices[i % choices.length]?.odd === "tie" && event.pitches.length && next?.pitches.length) {
      next.pitches = event.pitches;
      event.tie = true;
    }
  });
  return bars;
}
