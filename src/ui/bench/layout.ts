import type { Phrase } from "../../core/analysis";
import {
  type Derived,
  type Evening,
  groupSheet,
  handFor,
  type HandName,
  handSheet,
  isGroup,
  sheetOf,
  strokesOf,
  strumSheet,
  type Work,
} from "../../core/ensemble";
import type { Part } from "../../core/grading";
import { type Sheet, slice } from "../../core/score";
import { bowedStaff, STRUM_STAFF } from "../../core/strokes";

/** The lenses over the rows, in the order of the work. */
export const LENSES = ["Tune", "Pulse", "Chords", "Harmony", "Feel", "Parts"] as const;
export type Lens = (typeof LENSES)[number];
export const FIRST_LENS: Lens = "Chords";
/** Lenses without chords over the staff, and without a lane under it. */
const NO_CHORDS: ReadonlySet<Lens> = new Set(["Tune", "Pulse", "Feel"]);
export const hasChords = (lens: Lens, hand: HandName): boolean =>
  !NO_CHORDS.has(lens) || (lens === "Feel" && hand === "strum");
export const hasLane = (lens: Lens): boolean => lens !== "Tune";

/** Width of the gutter with the phrase's name, and the narrowest row that still holds four bars. Pixels. */
export const GUTTER = 132;
const NARROW = 570;
/** Room for the rows' music on this screen, in pixels: the width of a row, and the height of all. */
export type Room = { width: number; height: number };
/** What it is at 1280 by 800, and the cookie that remembers what it was here. */
export const USUAL_ROOM: Room = { width: 792, height: 624 };
export const ROOM_COOKIE = "rows";

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

/** Sizes the music can have, the largest first; and the height of a row by its staves, in pixels at size 1. */
const SIZES = [1.5, 1.35, 1.2, 1.1, 1];
const HEIGHTS = { staves: 66, first: 52, chords: 40 };

/** The largest size at which a tune fits the room with a phrase a row; 1 where it is longer than the page. */
export function sizeOf(
  phrases: readonly Phrase[],
  { width, height }: Room,
  lens: Lens,
  { staves: shown }: Pick<Sheet, "staves">,
): number {
  // Words under many notes want the room that larger music would take.
  if (shown.some((s) => s.lyrics) && shown.some((s) => s.tab && isDense(s))) return 1;
  const staves = shown.length;
  const row = HEIGHTS.first + HEIGHTS.staves * staves;
  const fits = (size: number) => {
    const lane = hasLane(lens) ? HEIGHTS.chords : 0;
    return width / size >= NARROW && phrases.length * (row * size + lane) <= height;
  };
  return SIZES.find(fits) ?? 1;
}

/** Notes of a bar from which a staff is dense. */
const DENSE = 8;
const isDense = ({ bars }: Sheet["staves"][number]): boolean => bars.some((b) => b.length >= DENSE);

/** Pixels a row's music is drawn for, before it is enlarged. */
export const drawnWidth = ({ width }: Room, size: number): number => Math.floor(width / size);

/** The part that shows a line where one line is looked at: the first that plays it. */
export const partOfLine = (parts: readonly Part[], line: string | undefined): Part | undefined =>
  parts.find((p) => p.line !== null && p.line === line);

/** Parts a lens shows: the tune alone; with its first line; with all lines; or all parts, or the one chosen. */
function shownParts(parts: readonly Part[], lens: Lens, shown: string): Part[] {
  const melody = parts.filter((p) => p.role === "melody").slice(0, 1);
  const lines = [...new Set(parts.flatMap((p) => p.line ?? []))].flatMap((line) => partOfLine(parts, line) ?? []);
  const byLens: Record<Lens, () => Part[]> = {
    Tune: () => melody,
    Pulse: () => melody,
    Chords: () => [...melody, ...lines.slice(0, 1)],
    Harmony: () => [...melody, ...lines],
    Feel: () => melody,
    Parts: () => (isGroup(shown) ? melody : parts.filter((p) => shown === "all" || p.id === shown)),
  };
  // In the order of their pitch: what lies over the tune stands over it.
  const chosen = byLens[lens]();
  return [...chosen.filter((p) => p.role === "high harmony"), ...chosen.filter((p) => p.role !== "high harmony")];
}

/** What of the bench the sheet of a lens depends on, besides the work. */
export type Look = {
  shown: string;
  hand: HandName;
  strumDrawn: "slashes" | "tablature";
  handShown: string | null;
  evening: Evening | null;
};

export const FIRST_LOOK: Look = { shown: "all", hand: "bow", strumDrawn: "slashes", handShown: null, evening: null };

/** The sheet a lens shows. Its chords are drawn over it, not engraved. */
export function benchSheet(
  work: Work,
  derived: Derived,
  lens: Lens,
  { shown, hand, strumDrawn, handShown, evening }: Look,
): Sheet {
  const ids = shownParts(derived.parts, lens, shown).map((p) => p.id);
  const sheet = { ...sheetOf(work, derived, ...ids), chords: [] };
  if (lens === "Tune" && handShown) return handSheet(work, derived, sheet, handFor(work, handShown));
  if (lens === "Parts" && evening && isGroup(shown))
    return groupSheet(evening, derived, sheet, shown, work.evening?.names);
  if (lens !== "Feel") return sheet;
  if (hand === "strum") return withoutWords(strumSheet(work, derived, sheet, strumDrawn));
  const plan = strokesOf(work, derived, hand);
  return { ...sheet, staves: sheet.staves.map((s) => bowedStaff(s, plan, sheet.places)) };
}

/** The sheet without the signs under its strum: the lane has them. */
const withoutWords = (sheet: Sheet): Sheet => ({
  ...sheet,
  staves: sheet.staves.map((s) =>
    s.id === STRUM_STAFF ? { ...s, bars: s.bars.map((bar) => bar.map(({ words: _, ...event }) => event)) } : s,
  ),
});

/** One row of a sheet. */
export const rowSheet = (sheet: Sheet, { from, to }: RowOf): Sheet => slice(sheet, from, to + 1);

/** The note of a line at, or held through, an event of a bar. */
export const lineNoteAt = (
  notes: readonly { bar: number; event: number }[],
  { bar, event }: { bar: number; event: number },
): number => notes.findLastIndex((n) => n.bar < bar || (n.bar === bar && n.event <= event));
