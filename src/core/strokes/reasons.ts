import { momentWords, barLabel } from "../score";
import { beatsOf } from "./metre";
import type { Stroke, StrokeNote } from "./model";

const COUNTS = ["no", "one", "two", "three", "four", "five", "six", "seven", "eight"];
const capital = (text: string) => `${text[0]?.toUpperCase()}${text.slice(1)}`;

/** Why a stroke goes as it does, in a sentence. */
export function bowReason(strokes: readonly Stroke[], k: number, style: string): string {
  const { notes, direction, retake, kind, locked, swell } = strokes[k] as Stroke;
  const [first] = notes as [StrokeNote];
  if (locked) return `You set this ${direction}-bow; the bows around it suit it.`;
  const into = momentWords(first.place, first.at);
  const downbeat = first.into % beatsOf(first.place.metre).full === 0;
  if (retake) return RETAKES[kind]?.(direction ?? "down") ?? "";
  if (swell) return "A run in one up-bow, that swells into the beat.";
  if (notes.length > 1) {
    const next = nextDown(strokes, k);
    const many = `${COUNTS[notes.length] ?? notes.length} notes in one bow`;
    if (notes.length % 2 === 0 && next) return `${capital(many)} turn the bow, so that bar ${next} begins down.`;
    return style === "Slurred threes" || style === "Shuffle" || style === "Driven up-bows"
      ? `${capital(many)}, as the ${style === "Slurred threes" ? "threes" : style.toLowerCase()} go.`
      : `${capital(many)} keep the bow going the same turn.`;
  }
  if (downbeat && direction === "down") return "The downbeat, on a down-bow.";
  if (downbeat) return "A downbeat on an up-bow: to mend it would cost more than it is worth here.";
  return `A bow of its own on ${into}.`;
}

/** The next bar that begins on a down-bow after a stroke. */
function nextDown(strokes: readonly Stroke[], k: number): string | undefined {
  const next = strokes.slice(k + 1).find((s) => {
    const [first] = s.notes as [StrokeNote];
    return first.into % beatsOf(first.place.metre).full === 0;
  });
  return next?.direction === "down" ? barLabel((next.notes[0] as StrokeNote).place) : undefined;
}

/** Why the same direction comes again. */
const RETAKES: Readonly<Record<string, (direction: string) => string>> = {
  hook: (d) => `Another ${d}-bow: the bow stops on the string and goes on, to drive into what follows.`,
  lift: (d) => `Another ${d}-bow after a lift, so that the line begins afresh.`,
  rest: (d) => `${capital(d)} again after the rest: the bow has time to come back.`,
};
