import type { Phrase } from "../../core/analysis";
import { type Derived, sheetOf, type Work } from "../../core/ensemble";
import type { Part } from "../../core/grading";
import { type Sheet, slice } from "../../core/score";

/** The lenses over the rows, in the order of the work. */
export const LENSES = ["Tune", "Chords", "Harmony", "Parts"] as const;
export type Lens = (typeof LENSES)[number];
export const FIRST_LENS: Lens = "Chords";

/** Width of the gutter with the phrase's name, and the narrowest row that still holds four bars. Pixels. */
export const GUTTER = 132;
const NARROW = 620;
/** Width of a row's music at 1280 by 800, and the cookie that remembers what it is on this screen. */
export const USUAL_WIDTH = 792;
export const WIDTH_COOKIE = "row-width";

/** A row of the bench: a phrase or half of one, by its first and last bar. */
export type RowOf = { phrase: Phrase; from: number; to: number };

/** The rows of a tune: a phrase each; where there is no room for four bars, two bars a row. */
export function rowsOf(phrases: readonly Phrase[], width: number): RowOf[] {
  return phrases.flatMap((phrase): RowOf[] => {
    const count = phrase.to - phrase.from + 1;
    if (width >= NARROW || count <= 3) return [{ phrase, from: phrase.from, to: phrase.to }];
    const middle = phrase.from + Math.ceil(count / 2);
    return [
      { phrase, from: phrase.from, to: middle - 1 },
      { phrase, from: middle, to: phrase.to },
    ];
  });
}

/** The part that shows a line where one line is looked at: the first that plays it. */
export const partOfLine = (parts: readonly Part[], line: string | undefined): Part | undefined =>
  parts.find((p) => p.line !== null && p.line === line);

/** Parts a lens shows: the tune alone; with its first line; with all lines; or all parts, or the one chosen. */
function shownParts(parts: readonly Part[], lens: Lens, shown: string): Part[] {
  const melody = parts.filter((p) => p.role === "melody").slice(0, 1);
  const lines = [...new Set(parts.flatMap((p) => p.line ?? []))].flatMap((line) => partOfLine(parts, line) ?? []);
  const byLens: Record<Lens, () => Part[]> = {
    Tune: () => melody,
    Chords: () => [...melody, ...lines.slice(0, 1)],
    Harmony: () => [...melody, ...lines],
    Parts: () => parts.filter((p) => shown === "all" || p.id === shown),
  };
  return byLens[lens]();
}

/** The sheet a lens shows. Its chords are drawn over it, not engraved. */
export function benchSheet(work: Work, derived: Derived, lens: Lens, shown: string): Sheet {
  const ids = shownParts(derived.parts, lens, shown).map((p) => p.id);
  return { ...sheetOf(work, derived, ...ids), chords: [] };
}

/** One row of a sheet. */
export const rowSheet = (sheet: Sheet, { from, to }: RowOf): Sheet => slice(sheet, from, to + 1);

/** The note of a line at, or held through, an event of a bar. */
export const lineNoteAt = (
  notes: readonly { bar: number; event: number }[],
  { bar, event }: { bar: number; event: number },
): number => notes.findLastIndex((n) => n.bar < bar || (n.bar === bar && n.event <= event));
