import type { Instrument, Level } from "../instruments";
import { rangeOf } from "../instruments";
import { barLabel, type LineNote, lineNotes, type Place } from "../score";
import { solved } from "../search";
import { midi, pitchName, spell } from "../theory";

/** How a note is made on an instrument without strings: its holes, or its row of buttons and the way of the bellows. */
export type Way = { holes?: string; button?: string; bellows?: "push" | "pull" };
export type BlownStroke = {
  place: Place;
  at: number;
  ticks: number;
  noteNumber: number;
  way: Way;
  reason: string;
  alternatives: { way: Way; cost: number }[];
};
export type Blown = { shift: number; total: number; strokes: BlownStroke[]; leftOut: string[] };

/** Six holes from the mouth down by semitones above the lowest note: x closed, o open, h half; + is blown harder. */
const HOLES = [
  "xxxxxx",
  "xxxxxh",
  "xxxxxo",
  "xxxxho",
  "xxxxoo",
  "xxxooo",
  "xxhooo",
  "xxoooo",
  "xhoooo",
  "xooooo",
  "oxxooo",
  "oooooo",
] as const;
const OCTAVE = 12;

/** Notes of each row of a two-row box, by the way of the bellows: teachers' own charts, one octave. */
type Rows = Readonly<Record<string, Readonly<Record<"push" | "pull", readonly number[]>>>>;
const ROWS: Readonly<Record<string, Rows>> = {
  "button accordion B/C": {
    "B row": { push: [11, 3, 6], pull: [1, 4, 8, 10] },
    "C row": { push: [0, 4, 7], pull: [2, 5, 9, 11] },
  },
  "button accordion D/G": {
    "D row": { push: [2, 6, 9], pull: [4, 7, 11, 1] },
    "G row": { push: [7, 11, 2], pull: [9, 0, 4, 6] },
  },
};

/** What a change of the bellows and of the row costs: teachers' judgement. */
export const BOX_PRICES = { bellows: 1, row: 0.4 } as const;

/** Every way to make a note; empty where there is none. */
function waysOf(on: Instrument, noteNumber: number): Way[] {
  const rows = ROWS[on.name];
  if (rows)
    return Object.entries(rows).flatMap(([button, row]) =>
      (["push", "pull"] as const).flatMap((bellows) =>
        row[bellows].includes(noteNumber % OCTAVE) ? [{ button, bellows }] : [],
      ),
    );
  if (!on.name.endsWith("whistle")) return [{}];
  const above = noteNumber - midi(on.lowest);
  const holes = HOLES[above % OCTAVE];
  return above < 0 || holes === undefined ? [] : [{ holes: `${holes}${"+".repeat(Math.floor(above / OCTAVE))}` }];
}

const OCTAVES = [0, 12, -12, 24, -24];

/**
 * A tune on an instrument without strings: the holes of a whistle; on a two-row box row and bellows, turned as seldom
 * as can be. What it does not have is named. Prices are exact.
 */
export function blown(places: readonly Place[], on: Instrument, level: Level): Blown {
  const { lowest, highest } = rangeOf(on, level);
  const all = lineNotes(places);
  const at = (n: LineNote, shift: number) => midi(n.pitches.at(-1) as LineNote["pitches"][number]) + shift;
  const has = (note: number) => note >= lowest && note <= highest && waysOf(on, note).length > 0;
  const missing = (shift: number) => all.filter((n) => !has(at(n, shift))).length;
  const shift = OCTAVES.map((o) => on.transposition + o).reduce((a, b) => (missing(b) < missing(a) ? b : a));
  const notes = all.filter((n) => has(at(n, shift)));
  const states = notes.map((n) => waysOf(on, at(n, shift)));
  const solution = solved<Way>({
    states,
    local: [],
    moves: [
      { name: "bellows", into: (_, a, b) => (a.bellows === b.bellows ? 0 : BOX_PRICES.bellows) },
      { name: "row", into: (_, a, b) => (a.button === b.button ? 0 : BOX_PRICES.row) },
    ],
  });
  const strokes = notes.map((note, i): BlownStroke => {
    const way = solution.path[i] as Way;
    const others = (states[i] ?? []).flatMap((other, k) =>
      other === way ? [] : [{ way: other, cost: solution.marginals[i]?.[k] ?? 0 }],
    );
    const before = solution.path[i - 1];
    return {
      place: note.place,
      at: note.at,
      ticks: note.ticks,
      noteNumber: at(note, shift),
      way,
      reason: reasonOf(way, before),
      alternatives: others.sort((a, b) => a.cost - b.cost),
    };
  });
  const out = all.filter((n) => !has(at(n, shift)));
  return { shift, total: solution.cost, strokes, leftOut: out.length > 0 ? leftOutWords(on, out, shift) : [] };
}

function reasonOf({ holes, button, bellows }: Way, before: Way | undefined): string {
  if (holes) return holes.includes("h") ? "A half hole: roll the finger, do not lift it." : "As the whistle has it.";
  if (!bellows) return "Within range.";
  const turned = before?.bellows !== undefined && before.bellows !== bellows;
  return `${button}, ${bellows}${turned ? ": the bellows turn here" : ""}.`;
}

function leftOutWords(on: Instrument, out: readonly LineNote[], shift: number): string[] {
  const byPitch = new Map<string, string[]>();
  for (const n of out) {
    const sounding = midi(n.pitches.at(-1) as LineNote["pitches"][number]) + shift;
    const name = pitchName(spell(sounding, n.place.key));
    const bar = n.place.pickup ? "the pickup" : `bar ${barLabel(n.place)}`;
    byPitch.set(name, [...new Set([...(byPitch.get(name) ?? []), bar])]);
  }
  return [...byPitch].map(
    ([name, bars]) =>
      `${name} in ${bars.join(", ")} is not played: the ${on.name} does not have it here. Take another key.`,
  );
}
