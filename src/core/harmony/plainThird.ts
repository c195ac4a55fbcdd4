import type { Place } from "../score";
import { diatonic, scaleStep } from "../theory";
import type { HarmonyLine, HarmonyNote } from "./model";

/**
 * Steps from a note to where the key's plain third would lie; 0 where it is that third, or where the line goes its
 * own way.
 */
export function stepsToThird(note: HarmonyNote, line: HarmonyLine, place: Place): number {
  if (!note.melody || !note.pitch || line.own[note.bar]) return 0;
  const third = scaleStep(note.melody, line.side === "below" ? -2 : 2, place.key);
  return diatonic(third) - diatonic(note.pitch);
}
