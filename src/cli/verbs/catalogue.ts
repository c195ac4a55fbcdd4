import { INSTRUMENTS, isPitched, LEVELS, rangeOf, spansOf } from "../../core/instruments";
import { pitchName, spell } from "../../core/theory";
import { namedStrings } from "./figures";

/** Every instrument of the catalogue, a line each. */
export const catalogue = () =>
  INSTRUMENTS.map((on) => ({
    name: on.name,
    family: on.family,
    clef: on.clef,
    transposition: on.transposition,
    tunings: on.tunings.map(({ name, strings }) => ({
      name,
      strings: namedStrings(strings),
      frets: (on.frets ?? []).map(({ label, semitones }) => ({ label, semitones })),
    })),
    levels: LEVELS.map((name, i) => {
      const { lowest, highest } = rangeOf(on, name);
      const named = (note: number) => (isPitched(on) ? pitchName(spell(note, PLAIN)) : null);
      return { name, lowest: named(lowest), highest: named(highest), per_second: on.speed[i], span: spansOf(on, name) };
    }),
    fingers: on.fingers,
    cautions: on.cautions,
    source: on.source,
  }));
const PLAIN = { tonic: "C", mode: "major" } as const;
