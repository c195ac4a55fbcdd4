import type { Instrument } from "../../core/instruments";
import { PRESETS } from "../../workers/sound/presets";

/** What the families are called. */
export const FAMILY_WORDS: Readonly<Record<Instrument["family"], string>> = {
  bowed: "Bowed",
  plucked: "Plucked",
  wind: "Blown",
  box: "Boxes",
  keyboard: "Keys and harp",
  voice: "Voices",
  drum: "Drums",
};

/** Sounds that can be chosen: those of the bank that are instruments, by the program they answer to. */
export const SOUNDS = PRESETS.filter((p) => p.name !== "chords" && p.name !== "click").map((p) => ({
  value: String(p.as),
  words: p.name,
}));

/** How its page is read, in words. */
export function pageWords({ clef, transposition }: Instrument): string {
  const octaves = Math.abs(transposition) / 12;
  const far = octaves === 1 ? "an octave" : `${octaves} octaves`;
  if (transposition === 0) return `${clef} clef, sounds as written`;
  return `${clef} clef, sounds ${far} ${transposition < 0 ? "below" : "above"} its page`;
}
