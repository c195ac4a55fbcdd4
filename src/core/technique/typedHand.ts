import { className, midi, pitchName, spell } from "../theory";
import { type Board, bowedPlaces, type BoardString, type Stop } from "./board";
import { placeAbove, semitonesOf } from "./hand";
import type { ArrangedNote, ArrangedStroke } from "./moments";

// One bar's places of its melody notes as a hand types them: string and fret, "2:0 3:4", or under a bow string and
// finger, "D1 DL2 A0". What is wrong is told note by note, as it is typed.

/** What is wrong with a place that was typed: which one in its bar, from 0, and what to do. */
export type TypedFault = { order: number; words: string };
/** A place as it was typed: its note's start in the bar (ticks), string and fret. */
export type TypedPlace = { at: number; string: number; fret: string };

const melodyOf = ({ notes }: ArrangedStroke): ArrangedNote | undefined => notes.find((n) => n.role === "melody");
const carriers = (strokes: readonly ArrangedStroke[]) => strokes.filter((s) => melodyOf(s) !== undefined);

/** Where a bar's melody notes lie, as it would be typed. */
export const handText = (board: Board, strokes: readonly ArrangedStroke[]): string =>
  carriers(strokes)
    .map((s) => placeText(board, melodyOf(s) as ArrangedNote))
    .join(" ");

function placeText(board: Board, { string, fret, finger }: ArrangedNote): string {
  if (board.hand === "frets") return `${string}:${fret}`;
  const own = board.on.strings.find((s) => s.number === string);
  const letter = own ? className(own.open) : "";
  if (finger === 0) return `${letter}0`;
  const place = placesOf(board).find((p) => placeAbove(board.on, Number(fret) - p)?.finger === finger) ?? 0;
  const { low = false, high = false } = placeAbove(board.on, Number(fret) - place) ?? {};
  const up = place > 0 ? `@${place}` : "";
  return `${letter}${low ? "L" : ""}${high ? "H" : ""}${finger}${up}`;
}
/** Another place of a note in words: "string 3, fret 7", or under a bow "D string, 4". */
export function placeLabel({ hand, on }: Board, { string, fret }: { string: number; fret: string }): string {
  const own = on.strings.find((s) => s.number === string);
  if (hand === "frets" || !own) return `string ${string}, ${fret === "0" ? "open" : `fret ${fret}`}`;
  const { finger, low = false, high = false } = placeAbove(on, Number(fret)) ?? {};
  const letter = `${className(own.open)} string`;
  if (finger === undefined) return `${letter}, up the neck`;
  return `${letter}, ${finger === 0 ? "open" : `${low ? "low " : ""}${high ? "high " : ""}${finger}`}`;
}
const placesOf = ({ level }: Board): readonly number[] => bowedPlaces(level);

/** The string a typed place names, and its semitones above it; or why there is none. */
type Read = { strings: readonly BoardString[]; stop: (s: BoardString) => Stop | undefined } | { words: string };

function readFretted({ strings }: Board, text: string): Read {
  const match = /^(\d{1,2}):(\d{1,2}\+?)$/.exec(text);
  if (!match) return { words: `"${text}" is no place. Write string and fret: 2:3.` };
  const [, number, fret] = match;
  const own = strings.filter((s) => s.number === Number(number));
  if (own.length === 0) return { words: `There is no string ${number}; they are counted from 1 to ${strings.length}.` };
  return { strings: own, stop: (s) => s.stops.find((x) => x.label === fret) };
}

function readBowed(board: Board, text: string): Read {
  const match = /^([A-G][#b]?)([LH]?)([0-4])(?:@(\d{1,2}))?$/i.exec(text);
  if (!match) return { words: `"${text}" is no place. Write string and finger: D1, or DL2 for a low second.` };
  const [, letter = "", shade = "", finger, up = "0"] = match;
  const name = `${letter[0]?.toUpperCase()}${letter.slice(1)}`;
  const own = board.strings.filter((s) => {
    const open = board.on.strings.find((o) => o.number === s.number)?.open;
    return open !== undefined && className(open) === name;
  });
  if (own.length === 0) return { words: `There is no ${name} string.` };
  const above = semitonesOf(board.on, Number(finger), shade.toUpperCase() as "" | "L" | "H");
  if (above === undefined) return { words: `Nothing lies under ${shade}${finger}.` };
  const number = above === 0 ? 0 : above + Number(up);
  return { strings: own, stop: (s) => s.stops.find((x) => x.number === number) };
}

/**
 * Reads one bar's places, one for each melody note in order; a dash leaves a note as it is. Gives the places that
 * differ from those there are, or everything that is wrong: no such string, out of the level's reach, another pitch.
 */
export function readHand(
  board: Board,
  strokes: readonly ArrangedStroke[],
  text: string,
): { places: TypedPlace[] } | { faults: TypedFault[] } {
  const own = carriers(strokes);
  const typed = text.split(/\s+/).filter(Boolean);
  const faults: TypedFault[] = [];
  const places: TypedPlace[] = [];
  if (typed.length > own.length)
    faults.push({ order: own.length, words: `The bar has ${own.length} notes; here are ${typed.length}.` });
  for (const [order, word] of typed.slice(0, own.length).entries()) {
    const stroke = own[order] as ArrangedStroke;
    const now = melodyOf(stroke) as ArrangedNote;
    if (word === "-" || word.toUpperCase() === placeText(board, now).toUpperCase()) continue;
    const read = board.hand === "frets" ? readFretted(board, word) : readBowed(board, word);
    if ("words" in read) {
      faults.push({ order, words: read.words });
      continue;
    }
    const found = read.strings.flatMap((s) => {
      const stop = read.stop(s);
      return stop ? [{ string: s, stop }] : [];
    });
    const right = found.find(({ string, stop }) => string.open + stop.semitones === now.noteNumber);
    if (right && !right.string.melody) {
      faults.push({ order, words: `${word}: ${board.level} does not play the tune on string ${right.string.number}.` });
    } else if (right) {
      places.push({ at: stroke.at - stroke.place.at, string: right.string.number, fret: right.stop.label });
    } else faults.push({ order, words: wrongWords(word, found[0], now, stroke, board.level) });
  }
  return faults.length > 0 ? { faults } : { places };
}

function wrongWords(
  word: string,
  found: { string: BoardString; stop: Stop } | undefined,
  { noteNumber }: ArrangedNote,
  { place }: ArrangedStroke,
  level: string,
): string {
  const name = (n: number) => pitchName(spell(n, place.key));
  if (!found) return `${word} is out of reach for ${level}.`;
  const sounds = midi(spell(found.string.open + found.stop.semitones, place.key));
  return `${word} sounds ${name(sounds)}; the tune has ${name(noteNumber)}.`;
}
