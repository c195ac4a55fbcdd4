import { type Pitch, pitchName } from "../theory";
import type { Offer } from "./school";

/**
 * A note the line could take, with its MIDI number and its place on the staff. A rest has no pitch. A note that passes
 * or neighbours is reached one way (1 up, -1 down); `sounded` where the melody has its form in the bar.
 */
export type Choice = Offer & {
  pitch: Pitch | null;
  number: number;
  place: number;
  chromatic: boolean;
  sounded: boolean;
  way: 1 | -1 | 0;
};
export const REST: Choice = {
  pitch: null,
  number: 0,
  place: 0,
  interval: 0,
  gap: 0,
  figure: undefined,
  fits: false,
  chordNote: -1,
  leads: false,
  open: false,
  tonic: false,
  fifth: false,
  chromatic: false,
  sounded: false,
  way: 0,
};

export const choiceName = ({ pitch }: Pick<Choice, "pitch">): string => (pitch ? pitchName(pitch) : "rest");
