import type { Instrument } from "../instruments";
import { beatTicks, type Event, isCompound, type Mark, type Place, strength } from "../score";
import { firstPosition } from "../technique";
import { diatonic, type Key, midi, type Pitch, spell } from "../theory";
import { changed, openBelow, type Step, sounds, stepFrom, top } from "./bars";

const strong = (into: number, place: Place): number => strength(place, place.at + into - place.offset);
const marked = (event: Event, mark: Mark): Event =>
  event.marks?.includes(mark) ? event : { ...event, marks: [...(event.marks ?? []), mark] };

/** Semitones above the open string that a hand has without moving. */
const HAND = 7;
/** A note so many scale steps below, where both lie on strings side by side; the first that does. */
function belowIn(on: Instrument, pitch: Pitch, key: Key, steps: readonly number[]): Pitch | undefined {
  const own = firstPosition(on, midi(pitch));
  const beside = own && on.strings[own.string - 1]?.open;
  if (!beside) return undefined;
  return steps
    .map((by) => stepFrom(pitch, -by, key))
    .find((low) => midi(low) >= midi(beside) && midi(low) - midi(beside) <= HAND);
}
/** A third, a sixth, a fourth below, in scale steps; and the octave. */
const SWEET_STEPS = [2, 5, 3];
const OCTAVE_STEPS = [7];

/** A step that adds a note below some notes of a line. */
const doubled =
  (steps: readonly number[], where: (into: number, place: Place) => boolean): Step["take"] =>
  (bars, { places, on, key }) =>
    changed(bars, places, (event, into, place) => {
      const here = event.pitches.length === 1 && where(into, place) ? top(event) : undefined;
      const low = here && belowIn(on, here, key, steps);
      return here && low ? [{ ...event, pitches: [low, here] }] : [event];
    });

/** Thirds of a bar in eights: three, three and two. */
const LEANING = [0, 3, 6];
/** Bars of a phrase, as a rule. */
const PHRASE = 4;

/** Steps that make a line richer, from the smallest to the largest. */
export const RICHER: readonly Step[] = [
  {
    name: "dynamics and staccato",
    way: "richer",
    says: "Strong beats are marked, what lies between the beats is short.",
    needs: "notes between the beats",
    take: (bars, { places }) =>
      changed(bars, places, (event, into, place) => {
        if (!sounds(event) || event.tie) return [event];
        if (into % beatTicks(place.metre) !== 0) return [marked(event, "staccato")];
        return strong(into, place) >= 2 ? [marked(event, "accent")] : [event];
      }),
  },
  {
    name: "three, three and two",
    way: "richer",
    says: "Accents lean forward: three eighths, three, and two.",
    needs: "four beats in a bar, and notes on the leaning eighths",
    take: (bars, { places }) =>
      changed(bars, places, (event, into, { metre }) => {
        const eighth = beatTicks(metre) / 2;
        const fits = !isCompound(metre) && metre.beats * 4 === metre.unit * 4 && metre.beats === 4;
        return fits && sounds(event) && LEANING.includes(into / eighth) ? [marked(event, "accent")] : [event];
      }),
  },
  {
    name: "shuffled held notes",
    way: "richer",
    rung: true,
    says: "Held notes are struck long, short, short.",
    needs: "notes held two beats",
    take: (bars, { places }) =>
      changed(bars, places, (event, _, { metre }) => {
        const beat = beatTicks(metre);
        const [long, short] = [beat, beat / 2];
        if (!sounds(event) || event.tuplet || event.tie || event.ticks !== long + 2 * short) return [event];
        const { grace: _g, ...plain } = event;
        return [
          { ...event, ticks: long },
          { ...plain, ticks: short },
          { ...plain, ticks: short },
        ];
      }),
  },
  {
    name: "filled-in eighths",
    way: "richer",
    rung: true,
    says: "Between two beats a third apart the note between them is played.",
    needs: "beats a third apart",
    take: (bars, { places, key }) =>
      changed(bars, places, (event, into, { metre }, next) => {
        const beat = beatTicks(metre);
        const [here, after] = [top(event), next && top(next)];
        const plain = !event.tuplet && !event.tie && !isCompound(metre) && event.ticks === beat && into % beat === 0;
        if (!plain || !here || !after || Math.abs(diatonic(after) - diatonic(here)) !== 2) return [event];
        const between = stepFrom(here, Math.sign(diatonic(after) - diatonic(here)), key);
        return [
          { ...event, ticks: beat / 2 },
          { ticks: beat / 2, pitches: [between] },
        ];
      }),
  },
  {
    name: "pedal note",
    way: "richer",
    says: "After a note of a beat an open string below it answers.",
    needs: "strings, and notes of one beat",
    take: (bars, { places, on }) =>
      changed(bars, places, (event, into, { metre }) => {
        const beat = beatTicks(metre);
        const here = top(event);
        const open = here && on.strings.length > 0 ? openBelow(on, here) : undefined;
        const plain = !event.tuplet && !event.tie && !isCompound(metre) && event.ticks === beat && into % beat === 0;
        if (!open || !plain) return [event];
        return [
          { ...event, ticks: beat / 2 },
          { ticks: beat / 2, pitches: [open] },
        ];
      }),
  },
  {
    name: "drone strings",
    way: "richer",
    rung: true,
    says: "An open string rings beside the strong beats.",
    needs: "a bow, and open strings that go with the tune",
    take: (bars, { places, on }) => {
      if (on.family !== "bowed") return undefined;
      return changed(bars, places, (event, into, place) => {
        const here = top(event);
        const open = here && openBelow(on, here);
        return open && strong(into, place) >= 2 && event.pitches.length === 1
          ? [{ ...event, pitches: [open, here] }]
          : [event];
      });
    },
  },
  {
    name: "alternating double stops",
    way: "richer",
    says: "A third or a sixth below on the strong beats.",
    needs: "strings side by side",
    take: doubled(SWEET_STEPS, (into, place) => strong(into, place) >= 2),
  },
  {
    name: "full double stops",
    way: "richer",
    says: "A third or a sixth below on every beat.",
    needs: "strings side by side",
    take: doubled(SWEET_STEPS, (into, { metre }) => into % beatTicks(metre) === 0),
  },
  {
    name: "octave below",
    way: "richer",
    says: "The octave below sounds with the first beat.",
    needs: "strings side by side that have the octave",
    take: doubled(OCTAVE_STEPS, (into, place) => strong(into, place) >= 3),
  },
  {
    name: "hammer-ons and pull-offs",
    way: "richer",
    says: "Steps on one string: the left hand sounds the second of two.",
    needs: "frets, and quick steps on one string",
    take: (bars, { places, on }) => {
      if (on.family !== "plucked" || !on.frets) return undefined;
      return changed(bars, places, (event, into, { metre }, _, before) => {
        const [here, from] = [top(event), before && top(before)];
        const beat = beatTicks(metre);
        if (!here || !from || into % beat === 0 || event.ticks > beat / 2 || event.technique?.move) return [event];
        const far = midi(here) - midi(from);
        const same = firstPosition(on, midi(here))?.string === firstPosition(on, midi(from))?.string;
        if (!same || far === 0 || Math.abs(far) > 3) return [event];
        return [{ ...event, technique: { ...event.technique, move: far > 0 ? "hammer-on" : "pull-off" } }];
      });
    },
  },
  {
    name: "slides",
    way: "richer",
    says: "Into the first beat the finger slides.",
    needs: "strings, and notes of a beat or more on the first",
    take: (bars, { places, on }) => {
      if (on.strings.length === 0) return undefined;
      return changed(bars, places, (event, into, place) => {
        const here = top(event);
        const stopped = here && !on.strings.some((s) => midi(s.open) === midi(here));
        const long = event.ticks >= beatTicks(place.metre) && strong(into, place) >= 3;
        return stopped && long ? [marked(event, "slide")] : [event];
      });
    },
  },
  {
    name: "chromatic lead-in",
    way: "richer",
    says: "Three half steps lead into a new phrase.",
    needs: "a note of a beat before a phrase",
    take: (bars, { places, key }) =>
      changed(bars, places, (event, into, place, next) => {
        const beat = beatTicks(place.metre);
        const target = next && top(next);
        const last = place.number % PHRASE === 0 && place.offset + place.ticks === into + event.ticks;
        const plain = sounds(event) && !event.tuplet && !event.tie && !isCompound(place.metre);
        if (!target || !last || !plain || event.ticks !== beat || beat % 3 !== 0) return [event];
        return [3, 2, 1].map((by, i): Event => {
          const part = (["first", "inner", "last"] as const)[i] as "first";
          const pitches = [spell(midi(target) - by, key)];
          return { ticks: beat / 3, pitches, tuplet: { actual: 3, normal: 2, place: part } };
        });
      }),
  },
  {
    name: "grace notes",
    way: "richer",
    rung: true,
    says: "A quick note from above opens the strong beats.",
    needs: "strong beats without one",
    take: (bars, { places, key }) =>
      changed(bars, places, (event, into, place) => {
        const here = top(event);
        if (!here || event.grace || strong(into, place) < 3) return [event];
        const ticks = Math.round(beatTicks(place.metre) / 8);
        return [{ ...event, grace: [{ pitches: [stepFrom(here, 1, key)], ticks }], graceSlash: true }];
      }),
  },
  {
    name: "trills",
    way: "richer",
    says: "Notes of two beats and more are trilled.",
    needs: "notes of two beats",
    take: (bars, { places }) =>
      changed(bars, places, (event, _, { metre }) => {
        const long = event.ticks >= 2 * beatTicks(metre);
        return sounds(event) && long && !event.tie ? [marked(event, "trill")] : [event];
      }),
  },
  {
    name: "rolls",
    way: "richer",
    rung: true,
    says: "Long notes are rolled.",
    needs: "long notes",
    take: (bars, { places }) =>
      changed(bars, places, (event, _, { metre }) => {
        const long = event.ticks >= beatTicks(metre) * (isCompound(metre) ? 1 : 1.5);
        return sounds(event) && long && !event.tie ? [marked(event, "roll")] : [event];
      }),
  },
];
