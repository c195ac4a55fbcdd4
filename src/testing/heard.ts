// What the chord search hears of a short tune.
import { analyse, strainKeys } from "../core/analysis";
import { segments } from "../core/chords";
import { type Beat, beatsOf } from "../core/chords/hearing";
import { tuneOf } from "./abc";

/** The beats of a tune given as music and header, as the chord search hears them. */
export function beatsHeard(music: string, header?: Parameters<typeof tuneOf>[1]): Beat[] {
  const tune = tuneOf(music, header);
  const analysis = analyse(tune);
  const { places, form } = analysis;
  return beatsOf(
    segments(places, new Set(form.phrases.map((p) => p.to))),
    strainKeys(tune, analysis),
    new Set(form.phrases.map((p) => p.from)),
  );
}
