import { analyse } from "../../core/analysis";
import { performanceMidi, sheetMusicXml, tuneAbc } from "../../core/formats";
import { perform } from "../../core/performance";
import { type Tune, tuneSheet } from "../../core/score";
import type { Options } from "../arguments";

export function converted(tune: Tune, { to }: Options): string | Uint8Array {
  if (to === "abc") return tuneAbc(tune);
  const { places } = analyse(tune);
  const sheet = tuneSheet(tune, places);
  return to === "musicxml"
    ? sheetMusicXml(sheet)
    : performanceMidi(perform(tune, sheet, { straight: true, chords: false }));
}
