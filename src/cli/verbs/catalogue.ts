import { INSTRUMENTS, LEVELS, rangeOf } from "../../core/instruments";
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
    levels: LEVELS.map((name) => {
      const { lowest, highest } = rangeOf(on, name);
      return { name, lowest: pitchName(spell(lowest, PLAIN)), highest: pitchName(spell(highest, PLAIN)) };
    }),
  }));
const PLAIN = { tonic: "C", mode: "major" } as const;
