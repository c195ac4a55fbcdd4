import type { Instrument } from "../instruments";
import type { Place } from "../score";
import { DIRECTIONS, type Direction, type StrokeLock } from "./model";

/** The styles of bowing, each with what it is for. */
export const BOWINGS = [
  { name: "Separate", says: "one bow to each note" },
  { name: "Down on the beat", says: "slurs bring the bow back, so that every downbeat is a down-bow" },
  { name: "Shuffle", says: "two together, two apart: the dance rolls" },
  { name: "Slurred threes", says: "one apart, three together: the old flowing way" },
  { name: "Jig pulse", says: "separate where it can be, long bows on 1 and 4" },
  { name: "Driven up-bows", says: "two up-bows marked into the down-bow" },
] as const;
export type Bowing = (typeof BOWINGS)[number]["name"];

export type Kind = "plain" | "hook" | "lift";
/** What a bow does at a note: its way, the note's order in the stroke, the notes of the stroke, how it began. */
export type Bow = { id: number; way: Direction; order: number; of: number; kind: Kind; broke: boolean };

export type BowRequest = {
  places: readonly Place[];
  style: Bowing;
  instrument?: Instrument;
  /** Felt beats a minute. */
  bpm: number;
  /** Bars (indexes) that begin a phrase. */
  phraseStarts: ReadonlySet<number>;
  locks?: readonly StrokeLock[];
  /** A slow air: longer bows. */
  air?: boolean;
  /** Most notes in one bow, where a player has fewer than the style would. */
  most?: number;
  /** Runs of quick steps go in one up-bow that swells into the beat, as in strathspeys. */
  runs?: boolean;
};

/**
 * All states a note can have; the same list for every note, so that the tables of moves are made once. `slurs`: some
 * are settled, whatever the style.
 */
export function statesFor(style: Bowing, most: number, slurs: boolean): Bow[] {
  const flags = style === "Separate" || style === "Down on the beat" || style === "Jig pulse" ? [false] : [false, true];
  const sizes = style === "Separate" && !slurs ? [1] : Array.from({ length: most }, (_, i) => i + 1);
  const states = DIRECTIONS.flatMap((way) =>
    sizes.flatMap((of) =>
      Array.from({ length: of }, (_, order) => order).flatMap((order) =>
        kindsFor(order, of).flatMap((kind) => flags.map((broke) => ({ way, order, of, kind, broke }))),
      ),
    ),
  );
  return states.map((state, id) => ({ id, ...state }));
}
/** Only short strokes begin by a hook or after a lift; what goes on has no beginning. */
const kindsFor = (order: number, of: number): Kind[] => (order > 0 || of > 2 ? ["plain"] : ["plain", "hook", "lift"]);
