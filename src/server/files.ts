import {
  bowedSheet,
  type Derived,
  derive,
  eveningFor,
  arrangedTonight,
  GROUP,
  groupSheet,
  type Hand,
  handById,
  handSheet,
  isGroup,
  isVersion,
  performed,
  performedBy,
  performedTonight,
  sheetOf,
  strumSheet,
  versionSheet,
  type Work,
} from "../core/ensemble";
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

/** A file of a group's parts, or of one of them; undefined where there is none. */
function groupFile(
  work: Work,
  derived: Derived,
  asked: string,
  { type, write }: Format,
  format: string,
): Download | undefined {
  const all = sheetOf(work, derived);
  const evening = eveningFor(work, derived);
  const sheet = groupSheet(evening, derived, { ...all, staves: [] }, asked, work.evening?.names);
  if (!evening || sheet.staves.length === 0) return undefined;
  const who = asked === GROUP ? "group" : fileName(sheet.staves[0]?.name ?? "");
  const name = `${fileName(work.tune.title)}-${who}.${format}`;
  const content =
    format === "mid"
      ? performanceMidi(
          asked === GROUP
            ? arrangedTonight(work, derived, evening, all)
            : performedTonight(work, derived, evening, all, asked),
        )
      : write({ work, derived, sheet });
  return { name, type, content };
}

/** A file of the tune as one hand plays it: tablature, or notes with their fingers. */
function handFile(work: Work, derived: Derived, hand: Hand, { type, write }: Format, format: string): Download {
  const melody = sheetOf(work, derived, ...derived.parts.filter((p) => p.role === "melody").map((p) => p.id));
  const sheet = handSheet(work, derived, { ...melody, staves: [] }, hand);
  const name = `${fileName(work.tune.title)}-${fileName(hand.instrument)}.${format}`;
  if (format !== "mid") return { name, type, content: write({ work, derived, sheet }) };
  return {
    name,
    type,
    content: performanceMidi(performedBy(hand, work, derived, melody, { pure: false, chords: false })),
  };
}

/**
 * A file of one part (by id), of several ("melody+moving"), of all of them ("all"), of a version of the tune ("basic"),
 * or of a hand ("hand-guitar"). Undefined for a part or format that does not exist.
 */
export function download(work: Work, asked: string, format: string): Download | undefined {
  const writer = FORMATS.get(format);
  const derived = derive(work);
  const hand = handById(work, asked);
  if (writer && hand) return handFile(work, derived, hand, writer, format);
  if (writer && isVersion(asked)) {
    const sheet = versionSheet(work, derived, asked);
    const name = `${fileName(work.tune.title)}-${asked}.${format}`;
    return { name, type: writer.type, content: writer.write({ work, derived, sheet }) };
  }
  if (writer && isGroup(asked)) return groupFile(work, derived, asked, writer, format);
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
