import { type Event, type Metre, QUARTER, shapeOf, type Sheet, type SheetChord, type Staff } from "../../score";
import { alterIn, type Key, parseChord, parseClass, signature, STEPS } from "../../theory";
import { DYNAMICS, KINDS, SIGNS, WEDGES, WORDS } from "./tables";
import { el, text } from "./xml";

// What stands around the notes: keys, metres, clefs, chords, words, tempo, syllables.

export function keyXml(key: Key): string {
  if (!key.extra) return el("key", {}, text("fifths", signature(key)), text("mode", key.mode));
  const altered = STEPS.filter((s) => alterIn(key, s) !== 0);
  if (altered.length === 0) return el("key", {}, text("fifths", 0));
  return el("key", {}, ...altered.flatMap((s) => [text("key-step", s), text("key-alter", alterIn(key, s))]));
}

export function timeXml(metre: Metre, shown = true): string {
  if (metre.symbol === "free") return el("time", { "print-object": "no" }, el("senza-misura"));
  return el(
    "time",
    { symbol: metre.symbol, "print-object": shown ? undefined : "no" },
    text("beats", metre.beats),
    text("beat-type", metre.unit),
  );
}

const CLEFS = { treble: ["G", 2], alto: ["C", 3], bass: ["F", 4] } as const;

/**
 * The clef of a staff, or the lines of its tablature with their tuning, and how far it sounds from where it is
 * written.
 */
export function clefXml({ clef, tab, transposition = 0 }: Staff, drawn: boolean): string {
  if (tab) {
    // The engraver turns five lines over when the lowest says its tuning; files keep it.
    const shown = tab.slice(drawn && tab.length === 5 ? 1 : 0);
    const tuning = shown.map(({ open }) => {
      const line = tab.findIndex((s) => s.open === open) + 1;
      const alter = open.alter ? text("tuning-alter", open.alter) : undefined;
      return el("staff-tuning", { line }, text("tuning-step", open.step), alter, text("tuning-octave", open.octave));
    });
    return (
      el("clef", {}, text("sign", "TAB"), text("line", tab.length)) +
      el("staff-details", {}, text("staff-lines", tab.length), ...tuning)
    );
  }
  const [sign, line] = CLEFS[clef];
  const octaves = transposition / 12;
  return (
    el("clef", {}, text("sign", sign), text("line", line)) +
    (octaves ? el("transpose", {}, text("chromatic", 0), text("octave-change", octaves)) : "")
  );
}

/** A tempo as it is read and as it is played; nothing where there is none. */
export function tempoXml(tempo: Sheet["tempo"]): string | undefined {
  if (!tempo) return undefined;
  const beat = shapeOf(tempo.beat) ?? { type: "quarter", dots: 0 };
  const perQuarter = Math.round(((tempo.bpm * tempo.beat) / QUARTER) * 1000) / 1000;
  const dots = Array.from({ length: beat.dots }, () => el("beat-unit-dot"));
  const mark = el("metronome", {}, text("beat-unit", beat.type), ...dots, text("per-minute", tempo.bpm));
  return el("direction", { placement: "above" }, el("direction-type", {}, mark), el("sound", { tempo: perQuarter }));
}

export function harmonyXml(chord: SheetChord, offset: number): string {
  const parsed = parseChord(chord.symbol);
  if (!parsed) return el("direction", { placement: "above" }, el("direction-type", {}, text("words", chord.symbol)));
  const note = (name: string, which: string) => {
    const { step, alter } = parseClass(name);
    return el(which, {}, text(`${which}-step`, step), alter ? text(`${which}-alter`, alter) : undefined);
  };
  return el(
    "harmony",
    {},
    note(parsed.root, "root"),
    text("kind", KINDS.get(parsed.suffix) ?? "other", { text: parsed.suffix || undefined }),
    parsed.bass ? note(parsed.bass, "bass") : undefined,
    offset > 0 ? text("offset", offset) : undefined,
  );
}

/** Words and signs over and under the staff before a note. */
export function directionsXml(event: Event): string {
  const direction = (inner: string, placement = "above") =>
    el("direction", { placement }, el("direction-type", {}, inner));
  const words = (event.words ?? []).map((w) =>
    direction(text("words", w.text), w.place === "below" ? "below" : "above"),
  );
  const marks = (event.marks ?? []).map((m) => {
    if (WORDS[m]) return direction(text("words", WORDS[m]));
    if (SIGNS[m]) return direction(el(SIGNS[m]));
    if (WEDGES[m]) return direction(el("wedge", { type: WEDGES[m] }), "below");
    return DYNAMICS.has(m) ? direction(el("dynamics", {}, el(m)), "below") : "";
  });
  return [...words, ...marks].join("");
}

export function lyricsXml(event: Event): string[] {
  return (event.lyrics ?? []).flatMap((syllable, verse) => {
    if (!syllable) return [];
    const syllabic = text("syllabic", syllable.hyphen ? "begin" : "single");
    return [el("lyric", { number: verse + 1 }, syllabic, text("text", syllable.text))];
  });
}
