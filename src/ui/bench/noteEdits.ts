import { flippedPair } from "../../core/feel";
import {
  addGrace,
  anticipate,
  type Edited,
  insertAfter,
  join,
  type Mark,
  moveSemitone,
  moveStep,
  QUARTER,
  remove,
  setAccidental,
  setLength,
  type Spot,
  split,
  splitBar,
  toggleDot,
  toggleMark,
  toggleTie,
  toggleTriplet,
  toRest,
  type Tune,
} from "../../core/score";

/**
 * Something that can be done to a note: what it is called, its key, what it looks like on a button (in words, or as a
 * sign of the music font), and the edit.
 */
export type NoteEdit = {
  name: string;
  keys: string;
  face: string;
  glyph?: string;
  edit: (tune: Tune, spot: Spot) => Edited;
};

const mark = (name: string, keys: string, face: string, sign: Mark, glyph?: string): NoteEdit => ({
  name,
  keys,
  face,
  ...(glyph ? { glyph } : {}),
  edit: (tune, spot) => toggleMark(tune, spot, sign),
});
const length = (name: string, keys: string, quarters: number, glyph: string): NoteEdit => ({
  name,
  keys,
  face: name,
  glyph,
  edit: (tune, spot) => setLength(tune, spot, quarters * QUARTER),
});

/** A dotted pair turned into a snap, and back. */
function turnPair(tune: Tune, { bar, event }: Spot): Edited {
  const made = flippedPair(tune, bar, event);
  if (made) return { tune: made };
  return { refused: "This note and the next do not fill a quarter. Choose the first note of a pair." };
}

/** Every edit of a note, by group: the panel's buttons and the keys are both read from here. */
export const NOTE_EDITS: readonly { group: string; edits: readonly NoteEdit[] }[] = [
  {
    group: "Pitch",
    edits: [
      { name: "A step up", keys: "ArrowUp", face: "step ↑", edit: (t, s) => moveStep(t, s, 1) },
      { name: "A step down", keys: "ArrowDown", face: "step ↓", edit: (t, s) => moveStep(t, s, -1) },
      { name: "A semitone up", keys: "Shift+ArrowUp", face: "half ↑", edit: (t, s) => moveSemitone(t, s, 1) },
      { name: "A semitone down", keys: "Shift+ArrowDown", face: "half ↓", edit: (t, s) => moveSemitone(t, s, -1) },
      { name: "An octave up", keys: "Mod+ArrowUp", face: "octave ↑", edit: (t, s) => moveStep(t, s, 7) },
      { name: "An octave down", keys: "Mod+ArrowDown", face: "octave ↓", edit: (t, s) => moveStep(t, s, -7) },
      { name: "Sharp", keys: "#", face: "♯", edit: (t, s) => setAccidental(t, s, 1) },
      { name: "Natural", keys: "v", face: "♮", edit: (t, s) => setAccidental(t, s, 0) },
      { name: "Flat", keys: "f", face: "♭", edit: (t, s) => setAccidental(t, s, -1) },
    ],
  },
  {
    group: "Length",
    edits: [
      length("sixteenth", "1", 1 / 4, "\uE1D9"),
      length("eighth", "2", 1 / 2, "\uE1D7"),
      length("quarter", "3", 1, "\uE1D5"),
      length("half", "4", 2, "\uE1D3"),
      length("whole", "5", 4, "\uE1D2"),
      { name: "Dot", keys: ".", face: "dot", edit: toggleDot },
      { name: "Triplet", keys: "x", face: "triplet", edit: toggleTriplet },
      { name: "Tie to the next", keys: "u", face: "tie", edit: toggleTie },
      { name: "Rest", keys: "0", face: "rest", glyph: "\uE4E5", edit: toRest },
    ],
  },
  {
    group: "Signs",
    edits: [
      mark("Accent", "a", "accent", "accent", "\uE4A0"),
      mark("Ghost note", "o", "ghost", "ghost"),
      mark("Roll", "w", "roll", "roll"),
      mark("Trill", "q", "trill", "trill", "\uE566"),
      { name: "An eighth early", keys: "r", face: "early", edit: anticipate },
      { name: "Turn the pair round", keys: "X", face: "turn pair", edit: turnPair },
      { name: "Grace note", keys: "e", face: "grace", edit: (t, s) => addGrace(t, s) },
      { name: "No grace notes", keys: "E", face: "no grace", edit: (t, s) => addGrace(t, s, true) },
    ],
  },
  {
    group: "Notes",
    edits: [
      { name: "Insert after", keys: "i", face: "insert", edit: insertAfter },
      { name: "Delete", keys: "Delete", face: "delete", edit: remove },
      { name: "Split in two", keys: "s", face: "split", edit: split },
      { name: "Join with the next", keys: "j", face: "join", edit: join },
      { name: "Bar line before", keys: "|", face: "bar line", edit: splitBar },
    ],
  },
];

/** A key's name as it stands on a key cap. */
export const keyCap = (keys: string): string =>
  keys
    .replace("ArrowUp", "↑")
    .replace("ArrowDown", "↓")
    .replace("Shift+", "⇧")
    .replace("Mod+", "Ctrl ")
    .replace("Delete", "Del")
    .replace(/^[A-Z]$/, "⇧$&")
    .toUpperCase();
