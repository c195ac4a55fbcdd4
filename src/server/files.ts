import { bowedSheet, type Derived, derive, performed, sheetOf, strumSheet, type Work } from "../core/ensemble";
import { fileName, performanceMidi, sheetAbc, sheetMusicXml, writeChordPro } from "../core/formats";
import type { Sheet } from "../core/score";
import { STRUM_STAFF } from "../core/strokes";

export type Download = { name: string; type: string; content: string | Uint8Array };

type Made = { work: Work; derived: Derived; sheet: Sheet };
type Format = { type: string; write: (made: Made) => string | Uint8Array };

const song = ({ work, derived }: Made): string =>
  writeChordPro({
    tune: work.tune,
    places: derived.analysis.places,
    chords: derived.chords,
    lines: derived.analysis.form.phrases.map((p) => p.from),
  });
/** One part sounds alone; several sound with the chords. */
function sound({ work, derived, sheet }: Made): Uint8Array {
  return performanceMidi(performed(work, derived, sheet, { chords: sheet.staves.length > 1 }));
}

/** Formats a part can be taken away in, by the file's ending. */
const FORMATS: ReadonlyMap<string, Format> = new Map([
  ["musicxml", { type: "application/vnd.recordare.musicxml+xml", write: ({ sheet }: Made) => sheetMusicXml(sheet) }],
  ["abc", { type: "text/vnd.abc; charset=utf-8", write: ({ sheet }: Made) => sheetAbc(sheet) }],
  ["cho", { type: "text/plain; charset=utf-8", write: song }],
  ["mid", { type: "audio/midi", write: sound }],
]);

/**
 * A file of one part (by id), of several ("melody+moving") or of all of them ("all"). Undefined for a part or format
 * that does not exist.
 */
export function download(work: Work, asked: string, format: string): Download | undefined {
  const writer = FORMATS.get(format);
  const derived = derive(work);
  const every = asked === "all" ? [] : [...new Set(asked.split("+"))];
  const strummed = every.includes(STRUM_STAFF) || (asked === "all" && work.feel.strum !== null);
  const ids = every.filter((id) => id !== STRUM_STAFF);
  const parts = ids.map((id) => derived.parts.find((p) => p.id === id));
  if (!writer || parts.includes(undefined)) return undefined;
  // A strum by itself stands over no other staff; the tune's own parts are all there where none is named.
  const own = sheetOf(work, derived, ...ids);
  const bowed = bowedSheet(work, derived, ids.length === 0 && asked !== "all" ? { ...own, staves: [] } : own);
  const sheet = strummed ? strumSheet(work, derived, bowed) : bowed;
  const named =
    [...parts.map((p) => fileName(p?.name ?? "")), ...(strummed && asked !== "all" ? ["strum"] : [])].join("-and-") ||
    "all-parts";
  return {
    name: `${fileName(work.tune.title)}-${named}.${format}`,
    type: writer.type,
    content: writer.write({ work, derived, sheet }),
  };
}
