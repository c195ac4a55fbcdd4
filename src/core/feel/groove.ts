import type { Performance, PlayedNote } from "../score";

/** How players of a dance depart from the page: what becomes of each note's time, length and loudness. */
export type Groove = { name: string; play: (note: PlayedNote) => PlayedNote };

/** Every note as it stands on the page. */
export const AS_WRITTEN: Groove = { name: "as written", play: (note) => note };

const GROOVES: ReadonlyMap<string, Groove> = new Map([[AS_WRITTEN.name, AS_WRITTEN]]);

/** The groove that is chosen for a tune; as written where none is, or where it is not known here. */
export const grooveNamed = (name: string | null): Groove => GROOVES.get(name ?? AS_WRITTEN.name) ?? AS_WRITTEN;

/** A performance moved by a groove. Bars, metres and tempos stay where they are. */
export const feel = (performance: Performance, groove: Groove): Performance => ({
  ...performance,
  notes: performance.notes.map(groove.play),
});
