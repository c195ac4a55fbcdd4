import { type Pitch, pitchName } from "../theory";
import type { Offer } from "./school";

/** A note the line could take, with its MIDI number and its place on the staff. A rest has no pitch. */
export type Choice = Offer & { pitch: Pitch | null; number: number; place: number; chromatic: boolean };
export const REST: Choice = {
  pitch: null,
  number: 0,
  place: 0,
  interval: 0,
  fits: false,
  chordNote: -1,
  open: false,
  tonic: false,
  fifth: false,
  chromatic: false,
};

export const choiceName = ({ pitch }: Pick<Choice, "pitch">): string => (pitch ? pitchName(pitch) : "rest");
