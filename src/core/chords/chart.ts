import type { Phrase } from "../analysis";
import { type Bar, barLabel, beatTicks, openingRepeats, type Place } from "../score";
import { type ChordNames, nameChord } from "../theory";
import type { ChordPlan } from "./model";

export type ChartCell = {
  /** How the chord is written, or "" before the first. */
  name: string;
  symbol: string;
  /** Ticks into the bar, and felt beats it lasts. */
  at: number;
  beats: number;
};
export type ChartBar = {
  bar: number;
  /** What the bar is called. */
  label: string;
  cells: ChartCell[];
  repeatStart: boolean;
  /** Times in all, where a repeat ends. */
  repeatEnd: number;
  ending: string;
  close: "single" | "double" | "final";
  /** Syllables of the first verse under it. */
  words: string;
};
/**
 * One phrase of the chart, by its strain's letter where it is the first of it; of a bare lead-in only the words are
 * kept, in brackets before the bar it leads to.
 */
export type ChartRow = { name: string; first: boolean; bars: ChartBar[] };

/** How the line after a bar is drawn, where it is not a single one. */
const CLOSES: Partial<Record<Bar["barline"], "final" | "double">> = {
  final: "final",
  heavy: "final",
  double: "double",
};

/**
 * The chords of a tune by phrase rows, as a player reads them: every bar with its chords and their beats, repeats,
 * endings and words.
 */
export function chordChart(
  plan: ChordPlan,
  places: readonly Place[],
  phrases: readonly Phrase[],
  names: ChordNames = "letters",
): ChartRow[] {
  let leadIn = "";
  let opens = false;
  const opening = openingRepeats(places);
  return phrases
    .map((phrase) => ({
      name: phrase.first ? phrase.label : "",
      first: phrase.first,
      bars: places.slice(phrase.from, phrase.to + 1).flatMap((place): ChartBar[] => {
        const chords = plan.chords.filter((c) => c.bar === place.index);
        if (place.pickup && chords.length === 0) {
          leadIn = wordsOf(place);
          opens = opening.has(place.index);
          return [];
        }
        const { bar } = place;
        const words = [leadIn && `(${leadIn})`, wordsOf(place)].filter(Boolean).join(" ");
        const repeatStart = opens || opening.has(place.index);
        [leadIn, opens] = ["", false];
        return [
          {
            bar: place.index,
            label: barLabel(place),
            cells: chords.map((c) => ({
              at: c.at,
              symbol: c.symbol,
              name: nameChord(c.symbol, place.key, names),
              beats: c.ticks / beatTicks(place.metre),
            })),
            repeatStart,
            repeatEnd: bar.repeatEnd ?? 0,
            ending: bar.ending?.join(", ") ?? "",
            close: CLOSES[bar.barline] ?? "single",
            words,
          },
        ];
      }),
    }))
    .filter((row) => row.bars.length > 0);
}

/** Syllables of the first verse in a bar, joined as they are read. */
function wordsOf(place: Place): string {
  return place.bar.events
    .map((e) => {
      const s = e.lyrics?.[0];
      return s ? s.text + (s.hyphen ? "-" : " ") : "";
    })
    .join("")
    .trim();
}
