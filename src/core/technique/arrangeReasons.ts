import { barLabel } from "../score";
import { className } from "../theory";
import type { Board } from "./board";
import type { Grip, GripNote } from "./grips";
import type { Moment } from "./moments";
import { placeAbove } from "./hand";
import { pureWords } from "./pure";

const FINGERS = ["open", "first finger", "second finger", "third finger", "fourth finger"];

/** What a stroke is besides its grip: settled by the teacher, or with a finger that is to stay down. */
type Known = { locked: boolean; keep: boolean };

/** A note's place as its players say it: string and fret; under a bow the string by its letter, and the finger. */
function placeWords({ strings, hand, on }: Board, { string, finger, stop }: GripNote, place: number): string {
  const { number = 0 } = strings[string] ?? {};
  const open = on.strings[string]?.open;
  if (hand === "frets" || !open)
    return finger === 0 ? `string ${number} open` : `string ${number}, fret ${stop.label}, ${FINGERS[finger]}`;
  const letter = `${className(open)} string`;
  if (finger === 0) return `${letter} open`;
  const { low = false, high = false } = placeAbove(on, stop.number - place) ?? {};
  const [drawn, stretched] = [low ? "low " : "", high ? "high " : ""];
  return `${letter}, ${drawn}${stretched}${FINGERS[finger]}${place > 0 ? ", up the neck" : ""}`;
}

/** Where the melody note lies, what sounds with it, and what the hand does for it, in a sentence or two. */
export function arrangeReason(
  board: Board,
  { note, chord }: Moment,
  { notes, place }: Grip,
  before: Grip | undefined,
  { locked, keep }: Known,
): string {
  const { hand } = board;
  const [melody, ...others] = notes as [GripNote, ...GripNote[]];
  const where = placeWords(board, melody, place);
  const said = [locked ? `You set this: ${where}.` : `${capital(where)}.`];
  if (keep && melody.finger > 0) said.push("Keep it down.");
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
