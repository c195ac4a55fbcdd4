import { type Derived, derive, sheetOf, type Work } from "../core/ensemble";
import { fileName, performanceMidi, sheetAbc, sheetMusicXml, writeChordPro } from "../core/formats";
import { perform } from "../core/performance";
import type { Sheet } from "../core/score";

export type Download = { name: string; type: string; content: string | Uint8Array };

/** Formats a part can be taken away in. */
export const FORMATS: Record<
  string,
  { type: string; write: (work: Work, sheet: Sheet, derived: Derived) => string | Uint8Array }
> = {
  musicxml: { type: "application/vnd.recordare.musicxml+xml", write: (_, sheet) => sheetMusicXml(sheet) },
  abc: { type: "text/vnd.abc; charset=utf-8", write: (_, sheet) => sheetAbc(sheet) },
  cho: {
    type: "text/plain; charset=utf-8",
    write: (work, _, { analysis, chords }) =>
      writeChordPro({
        tune: work.tune,
        places: analysis.places,
        chords,
        lines: analysis.form.phrases.map((p) => p.from),
      }),
  },
  mid: {
    type: "audio/midi",
    write: (work, sheet) =>
      performanceMidi(perform(work.tune, sheet, { chords: sheet.staves.length > 1, backing: work.backing })),
  },
};

/**
 * A file of one part ("melody", "moving", "second", "first"), of several ("melody+moving") or of all of them ("all").
 * Undefined for a part or format that does not exist.
 */
export function download(work: Work, asked: string, format: string): Download | undefined {
  const writer = FORMATS[format];
  const derived = derive(work);
  const ids = asked === "all" ? [] : [...new Set(asked.split("+"))];
  const staves = ids.map((id) => derived.parts.find((p) => p.staff.id === id)?.staff);
  if (!writer || staves.includes(undefined)) return undefined;
  const sheet = sheetOf(work, derived, ...ids);
  const parts = staves.map((s) => fileName(s?.name ?? "")).join("-and-") || "all-parts";
  return {
    name: `${fileName(work.tune.title)}-${parts}.${format}`,
    type: writer.type,
    content: writer.write(work, sheet, derived),
  };
}
