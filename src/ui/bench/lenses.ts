/** The lenses over the rows, in the order of the work. */
export const LENSES = ["Tune", "Chords", "Harmony", "Parts"] as const;
export type Lens = (typeof LENSES)[number];

/** What is looked at: a planned chord or a note of the harmony line, by order; or a note of the tune itself. */
export type Selection =
  | { kind: "chord" | "note"; index: number }
  | { kind: "event"; bar: number; event: number }
  | null;
