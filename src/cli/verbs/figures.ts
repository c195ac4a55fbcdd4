// What every line of JSON is made of: rounded numbers, where something stands, and what strings sound.
import type { OpenString } from "../../core/instruments";
import { pitchName } from "../../core/theory";
import { beatAt, type Place, quarters } from "../../core/score";

export const six = (n: number) => Math.round(n * 1e6) / 1e6;
export const three = (n: number) => Math.round(n * 1e3) / 1e3;

/** A bar as every line of JSON names it: its number, and its ending where it is a later one. */
export const barName = ({ number, ending }: Place): { bar: number; ending?: number } =>
  ending > 1 ? { bar: number, ending } : { bar: number };

/** When something stands: bar, beat, and quarter notes from the start of the written tune. */
export const spot = (place: Place, at: number, ticks: number) => ({
  ...barName(place),
  beat: six(beatAt(place, at)),
  at: quarters(at),
  duration: quarters(ticks),
});

/** Strings as players count them, with what they sound open and the fret a short one begins at. */
export const namedStrings = (strings: readonly OpenString[]) =>
  strings.map(({ number, open, shortFrom }) => ({
    number,
    open: pitchName(open),
    ...(shortFrom ? { short_from: shortFrom } : {}),
  }));
