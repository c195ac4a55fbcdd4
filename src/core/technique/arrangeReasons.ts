import { barLabel } from "../score";
import type { Board } from "./board";
import type { Grip, GripNote } from "./grips";
import type { Moment } from "./moments";
import { pureWords } from "./pure";

const FINGERS = ["open", "first finger", "second finger", "third finger", "fourth finger"];

/** Where the melody note lies, what sounds with it, and what the hand does for it, in a sentence or two. */
export function arrangeReason(
  { strings, hand }: Board,
  { note, chord }: Moment,
  { notes, place }: Grip,
  before: Grip | undefined,
  locked: boolean,
): string {
  const [melody, ...others] = notes as [GripNote, ...GripNote[]];
  const { number = 0 } = strings[melody.string] ?? {};
  const where =
    melody.finger === 0
      ? `string ${number} open`
      : `string ${number}, fret ${melody.stop.label}, ${FINGERS[melody.finger]}`;
  const yours = locked ? "You set this: " : "";
  const said = [`${yours}${yours ? where : capital(where)}.`];
  if (others.length > 0) said.push(companyWords(others, chord?.symbol));
  const [other] = others;
  if (hand !== "frets" && other && others.length === 1) {
    const [low, high] = [other.noteNumber, melody.noteNumber].sort((a, b) => a - b) as [number, number];
    const pure = pureWords(low, high);
    if (pure) said.push(pure);
  }
  const shifts = before && before.place > 0 && place > 0 && before.place !== place;
  if (shifts) said.push(`The hand goes ${place > before.place ? "up" : "back"} for bar ${barLabel(note.place)}.`);
  return said.join(" ");
}

function companyWords(others: readonly GripNote[], chord: string | undefined): string {
  const open = others.filter((n) => n.finger === 0).length;
  const of = chord ? ` of ${chord}` : "";
  if (others.length === 1) return open === 1 ? `The open string next to it rings along.` : `A note${of} under it.`;
  return `${others.length} strings${of} under it${open > 0 ? `, ${open} of them open` : ""}.`;
}

const capital = (text: string) => `${text[0]?.toUpperCase()}${text.slice(1)}`;
