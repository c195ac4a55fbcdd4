import type { Mark } from "../../score";

/**
 * Chord qualities by the suffix after the root (MusicXML 4.0, kind-value); others are written as "other" with their
 * text.
 */
export const KINDS: ReadonlyMap<string, string> = new Map([
  ["", "major"],
  ["m", "minor"],
  ["7", "dominant"],
  ["m7", "minor-seventh"],
  ["maj7", "major-seventh"],
  ["dim", "diminished"],
  ["dim7", "diminished-seventh"],
  ["aug", "augmented"],
  ["5", "power"],
  ["sus4", "suspended-fourth"],
  ["sus2", "suspended-second"],
  ["6", "major-sixth"],
  ["m6", "minor-sixth"],
  ["m7b5", "half-diminished"],
  ["9", "dominant-ninth"],
]);

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
export const MARK_OF_ELEMENT: ReadonlyMap<string, Mark> = new Map(
  Object.entries<Mark>({
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
  }),
);
