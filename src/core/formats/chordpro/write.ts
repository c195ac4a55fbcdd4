import { beatTicks, type Place, type SheetChord, type Tune, tempoOf } from "../../score";
import { keyName, signature } from "../../theory";

/** Text for inside a ChordPro line: brackets and braces would be read as chords and directives. */
const plain = (text: string) => text.replace(/[[\]{}\r\n]/g, " ").replace(/^#/, " #");

export type ChordProRequest = {
  tune: Tune;
  places: readonly Place[];
  /** Chords where they change. */
  chords: readonly SheetChord[];
  /** First bars of the lines (indexes). */
  lines: readonly number[];
};

/**
 * A song sheet as ChordPro (chordpro.org, version 6): the words of every verse with each chord before the syllable it
 * falls on. A tune without words
 * becomes a chord grid, a cell to a felt beat.
 */
export function writeChordPro({ tune, places, chords, lines }: ChordProRequest): string {
  const tempo = tempoOf(tune);
  const head = [
    `{title: ${plain(tune.title || "Untitled")}}`,
    ...(tune.composer ? [`{composer: ${plain(tune.composer)}}`] : []),
    `{key: ${chordProKey(tune)}}`,
    ...(tune.metre.symbol === "free" ? [] : [`{time: ${tune.metre.beats}/${tune.metre.unit}}`]),
    `{tempo: ${Math.round((tempo.bpm * tempo.beat) / 3360)}}`,
    ...(tune.source ? [`{meta: source ${plain(tune.source)}}`] : []),
    "",
  ];
  const verses = Math.max(
    0,
    ...places.flatMap((p) => p.bar.events.map((e) => (e.lyrics?.filter(Boolean).length ? e.lyrics.length : 0))),
  );
  const rows = lines.map((from, i) =>
    places.filter((p) => p.index >= from && p.index < (lines[i + 1] ?? places.length)),
  );
  const body =
    verses === 0
      ? grid(rows, chords)
      : Array.from({ length: verses }, (_, v) => [
          "{start_of_verse}",
          ...rows.map((row) => sung(row, chords, v)).filter((l) => l.trim() !== ""),
          "{end_of_verse}",
          "",
        ]).flat();
  const after = tune.verses.length ? ["", ...tune.verses.map(plain)] : [];
  return `${[...head, ...body, ...after].join("\n").trimEnd()}\n`;
}

/**
 * ChordPro's {key} is a chord name; modes go by the major or minor key with the same signature's feel, the mode said
 * beside it.
 */
function chordProKey(tune: Tune): string {
  const { tonic, mode } = tune.key;
  const minor = ["minor", "dorian", "phrygian", "locrian"].includes(mode);
  const name = `${tonic}${minor ? "m" : ""}`;
  if (mode === "major" || mode === "minor") return name;
  const signs = signature(tune.key);
  return `${name}}\n{comment: ${keyName(tune.key)}, ${Math.abs(signs)} ${signs < 0 ? "flats" : "sharps"}`;
}

/** A row of bars as one line of a verse. */
function sung(row: readonly Place[], chords: readonly SheetChord[], verse: number): string {
  let line = "";
  for (const place of row) {
    const waiting = chords.filter((c) => c.bar === place.index).sort((a, b) => a.at - b.at);
    let at = 0;
    for (const event of place.bar.events) {
      const end = at + event.ticks;
      const syllable = event.lyrics?.[verse];
      while (waiting[0] && waiting[0].at <= at)
        line += `[${plain(waiting.shift()?.symbol ?? "")}]${syllable ? "" : " "}`;
      if (syllable) line += plain(syllable.text) + (syllable.hyphen ? "" : " ");
      while (waiting[0] && waiting[0].at < end) line += `[${plain(waiting.shift()?.symbol ?? "")}] `;
      at = end;
    }
  }
  return line.replace(/ {2,}/g, " ").trimEnd();
}

/** A tune without words: bars between strokes, a cell to a felt beat, dots where the chord holds. */
function grid(rows: readonly (readonly Place[])[], chords: readonly SheetChord[]): string[] {
  let sounding = ".";
  return [
    "{start_of_grid}",
    ...rows.flatMap((row): string[] => {
      const full = row.filter((p) => !p.pickup);
      if (full.length === 0) return [];
      const cells = full.map((place) => {
        const own = chords.filter((c) => c.bar === place.index);
        const beat = beatTicks(place.metre);
        const marks = Array.from(
          { length: Math.max(1, Math.round(place.ticks / beat)) },
          (_, i) =>
            own
              .filter((c) => Math.floor(c.at / beat) === i)
              .map((c) => plain(c.symbol))
              .join("~") || (i === 0 ? sounding : "."),
        );
        sounding = own.at(-1) ? plain(own.at(-1)?.symbol as string) : sounding;
        return {
          open: place.bar.repeatStart ? "|:" : "|",
          close: place.bar.repeatEnd ? ":|" : "",
          marks: marks.join(" "),
        };
      });
      const text = cells
        .map((c, i) => `${cells[i - 1]?.close && c.open === "|" ? "" : `${c.open} `}${c.marks} ${c.close}`)
        .join("")
        .replace(/:\|\|:/g, ":|:");
      return [text.endsWith(":|") ? text : `${text}|`];
    }),
    "{end_of_grid}",
  ];
}
