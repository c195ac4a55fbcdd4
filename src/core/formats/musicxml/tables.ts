import { QUARTER, type Mark } from "../../score";

/** Note types from long to short with their ticks. */
export const TYPES: readonly [string, number][] = [
  ["long", 16 * QUARTER],
  ["breve", 8 * QUARTER],
  ["whole", 4 * QUARTER],
  ["half", 2 * QUARTER],
  ["quarter", QUARTER],
  ["eighth", QUARTER / 2],
  ["16th", QUARTER / 4],
  ["32nd", QUARTER / 8],
  ["64th", QUARTER / 16],
  ["128th", QUARTER / 32],
];

/** A length that one note head can show. */
export type Shape = { type: string; dots: number; ticks: number };

const SHAPES: readonly Shape[] = TYPES.flatMap(([type, ticks]) =>
  [0, 1, 2, 3].map((dots) => ({ type, dots, ticks: ticks * (2 - 0.5 ** dots) })),
)
  .filter((s) => Number.isInteger(s.ticks))
  .sort((a, b) => b.ticks - a.ticks);

/** The note head of a length, if there is one. */
export const shapeOf = (ticks: number): Shape | undefined => SHAPES.find((s) => s.ticks === ticks);

/** Lengths of one head each that add up to a length, long ones first, at most two dots. */
export function headsOf(ticks: number): Shape[] {
  const heads: Shape[] = [];
  let left = ticks;
  while (left > 0) {
    const next = SHAPES.find((s) => s.ticks <= left && s.dots < 2);
    if (!next) break;
    heads.push(next);
    left -= next.ticks;
  }
  return heads;
}

/**
 * Chord qualities by the suffix after the root (MusicXML 4.0, kind-value); others are written as "other" with their
 * text.
 */
export const KINDS: Record<string, string> = {
  "": "major",
  m: "minor",
  "7": "dominant",
  m7: "minor-seventh",
  maj7: "major-seventh",
  dim: "diminished",
  dim7: "diminished-seventh",
  aug: "augmented",
  "5": "power",
  sus4: "suspended-fourth",
  sus2: "suspended-second",
  "6": "major-sixth",
  m6: "minor-sixth",
  m7b5: "half-diminished",
  "9": "dominant-ninth",
};

/** Where a mark goes in a note's notations, and the element that shows it. */
export const NOTATIONS: Partial<
  Record<Mark, { group: "articulations" | "ornaments" | "technical"; element: string; text?: string }>
> = {
  accent: { group: "articulations", element: "accent" },
  marcato: { group: "articulations", element: "strong-accent" },
  staccato: { group: "articulations", element: "staccato" },
  tenuto: { group: "articulations", element: "tenuto" },
  wedge: { group: "articulations", element: "staccatissimo" },
  breath: { group: "articulations", element: "breath-mark" },
  trill: { group: "ornaments", element: "trill-mark" },
  turn: { group: "ornaments", element: "turn" },
  mordent: { group: "ornaments", element: "inverted-mordent" },
  "lower mordent": { group: "ornaments", element: "mordent" },
  "up-bow": { group: "technical", element: "up-bow" },
  "down-bow": { group: "technical", element: "down-bow" },
  open: { group: "technical", element: "open-string" },
  thumb: { group: "technical", element: "thumb-position" },
  "finger 0": { group: "technical", element: "fingering", text: "0" },
  "finger 1": { group: "technical", element: "fingering", text: "1" },
  "finger 2": { group: "technical", element: "fingering", text: "2" },
  "finger 3": { group: "technical", element: "fingering", text: "3" },
  "finger 4": { group: "technical", element: "fingering", text: "4" },
  "finger 5": { group: "technical", element: "fingering", text: "5" },
};

/** Marks shown as words or signs over the staff. */
export const WORDS: Partial<Record<Mark, string>> = {
  roll: "~",
  slide: "slide",
  fine: "Fine",
  "da capo": "D.C.",
  "dal segno": "D.S.",
};
export const SIGNS: Partial<Record<Mark, string>> = { segno: "segno", coda: "coda" };
export const WEDGES: Partial<Record<Mark, string>> = {
  "crescendo start": "crescendo",
  "diminuendo start": "diminuendo",
  "crescendo end": "stop",
  "diminuendo end": "stop",
};
export const DYNAMICS: ReadonlySet<Mark> = new Set<Mark>([
  "pppp",
  "ppp",
  "pp",
  "p",
  "mp",
  "mf",
  "f",
  "ff",
  "fff",
  "ffff",
  "sfz",
]);

/**
 * Marks by the element that shows them: what NOTATIONS and the signs say, read the other way, with a few more names.
 */
export const MARK_OF_ELEMENT: Readonly<Record<string, Mark>> = {
  ...Object.fromEntries(
    (Object.entries(NOTATIONS) as [Mark, { element: string; text?: string }][])
      .filter(([, n]) => n.text === undefined)
      .map(([mark, n]) => [n.element, mark]),
  ),
  segno: "segno",
  coda: "coda",
  fermata: "fermata",
  "delayed-turn": "turn",
  "inverted-turn": "turn",
  slide: "slide",
  scoop: "slide",
  spiccato: "staccato",
  "detached-legato": "tenuto",
};
