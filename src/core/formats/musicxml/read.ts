import {
  type Bar,
  barTicks,
  type Change,
  type Event,
  isCompound,
  laidTune,
  type Mark,
  MARKS,
  type Metre,
  NOTE_TYPES,
  QUARTER,
  type Tempo,
  Tune,
} from "../../score";
import { type Key, parseChord, type Pitch, STEPS, type Step } from "../../theory";
import { endingPasses } from "../abc/fields";
import { FormatError, type Remark, type Spot } from "../problem";
import { strainsOf } from "../strains";
import { all, child, type Node, numberOf, readDocument, textOf } from "./document";
import { keyOf, metreOf } from "./fields";
import { heading, partsOf } from "./parts";
import { KINDS, MARK_OF_ELEMENT } from "./tables";

/** A part a reader may choose. */
export type XmlPart = { name: string; notes: number };
export type ReadXml = { tune: Tune; remarks: Remark[]; parts: XmlPart[]; chosen: number };

const TICKS_OF = new Map(NOTE_TYPES);
const BARLINE_OF: Record<string, Bar["barline"]> = {
  "light-light": "double",
  "light-heavy": "final",
  "heavy-light": "heavy",
  "heavy-heavy": "final",
  heavy: "heavy",
  dotted: "dotted",
  dashed: "dotted",
};
const SUFFIX_OF = new Map([...KINDS].map(([suffix, kind]) => [kind, suffix]));

/**
 * Reads one part of a MusicXML score (partwise or timewise): its first voice, double stops included. What is left out
 * is
 * named in the remarks. Throws a FormatError with line and column.
 */
export function readMusicXml(text: string, options: { part?: number | undefined } = {}): ReadXml {
  const root = readDocument(text);
  if (root.name !== "score-partwise" && root.name !== "score-timewise") {
    throw new FormatError(
      root.name === "opus"
        ? "This is a list of scores (an opus), not a score. Open one of its scores."
        : `This is XML, but not a score: its outermost element is <${root.name.slice(0, 40)}>.`,
      { line: 1, column: 1 },
    );
  }
  const parts = partsOf(root);
  const count = (measures: readonly Node[]) =>
    measures.reduce((n, m) => n + all(m, "note").filter((x) => child(x, "pitch")).length, 0);
  const listed = parts.map(({ name, measures }) => ({ name, notes: count(measures) }));
  const first = listed.findIndex((p) => p.notes > 0);
  const chosen = options.part ?? Math.max(0, first);
  const part = parts[chosen];
  if (!part)
    throw new FormatError(
      parts.length ? `There is no part ${chosen + 1}; this score has ${parts.length}.` : "This score has no parts.",
      { line: 1, column: 1 },
    );
  if (listed[chosen]?.notes === 0)
    throw new FormatError(
      first < 0
        ? "No part of this score has a note with a pitch."
        : `The part "${part.name}" has no note with a pitch. Choose another.`,
      { line: 1, column: 1 },
    );
  const starts = [...text.matchAll(/<measure[\s>/]/g)].map((m) => m.index);
  const offset = root.name === "score-partwise" ? parts.slice(0, chosen).reduce((n, p) => n + p.measures.length, 0) : 0;
  const spotOf = (measure: number): Spot => {
    const index = starts[offset + measure] ?? 0;
    return {
      line: text.slice(0, index).split("\n").length,
      column: index - text.lastIndexOf("\n", Math.max(0, index - 1)),
    };
  };
  const remarks: Remark[] = [];
  if (parts.length > 1)
    remarks.push({
      ...spotOf(0),
      message: `The score has ${parts.length} parts; "${part.name}" was taken and the others left out (${parts
        .filter((_, i) => i !== chosen)
        .map((p) => p.name)
        .slice(0, 6)
        .join(", ")}).`,
    });
  const read = new PartReader(part.measures, spotOf, remarks).tune(heading(root));
  const checked = Tune.safeParse(read);
  if (!checked.success) {
    const issue = checked.error.issues[0];
    throw new FormatError(
      `Something in this score is out of bounds (${issue?.path.join(".")}: ${issue?.message}).`,
      spotOf(0),
    );
  }
  return { tune: laidTune(checked.data), remarks, parts: listed, chosen };
}

/** One moment of the chosen voice, before gaps are filled. */
type Heard = { at: number; end: number; event: Event };

class PartReader {
  private divisions = 1;
  /** Octaves from the written to the sounding pitch. */
  private octaves = 0;
  private key: Key = { tonic: "C", mode: "major" };
  private metre: Metre = { beats: 4, unit: 4, symbol: "free" };
  private startKey: Key | undefined;
  private startMetre: Metre | undefined;
  private startTempo: Tempo | undefined;
  private bars: Bar[] = [];
  private labels = new Map<number, string>();
  private begun = false;
  private voice: string;
  private leftOut = new Set<string>();
  private graces: NonNullable<Event["grace"]> = [];
  private graceSlash = false;
  private marks: Mark[] = [];
  private words: NonNullable<Event["words"]> = [];
  private verses: string[] = [];
  /** Where the walk is: measure, cursor and furthest point in ticks. */
  private measure = 0;
  private at = 0;
  private furthest = 0;
  private heard: Heard[] = [];
  private chords: Bar["chords"] = [];
  private changes: Change[] = [];
  private tuplet: { ratio: string; sum: number; unit: number } | undefined;

  constructor(
    private measures: readonly Node[],
    private spotOf: (measure: number) => Spot,
    private remarks: Remark[],
  ) {
    const pitched = measures.flatMap((m) => all(m, "note").filter((n) => child(n, "pitch")));
    const voices = [...new Set(pitched.map((n) => textOf(n, "voice") || "1"))];
    this.voice = voices.includes("1") ? "1" : (voices[0] ?? "1");
    if (voices.length > 1)
      this.remark(`This part has ${voices.length} voices; the first was taken and the others left out.`);
    const transpose = measures
      .flatMap((m) => all(m, "attributes"))
      .map((a) => child(a, "transpose"))
      .find(Boolean);
    const semitones = numberOf(transpose, "chromatic") ?? 0;
    this.octaves = numberOf(transpose, "octave-change") ?? 0;
    if (semitones) {
      const way = semitones < 0 ? "lower" : "higher";
      const far = `sounds ${Math.abs(semitones)} semitones ${way}`;
      this.remark(`This part is for a transposing instrument and ${far}; the notes were taken as they are written.`);
    }
  }

  private remark(message: string) {
    if (this.leftOut.has(message) || this.remarks.length > 200) return;
    this.leftOut.add(message);
    this.remarks.push({ ...this.spotOf(this.measure), message });
  }

  tune(head: ReturnType<typeof heading>): Omit<Tune, never> {
    this.measures.forEach((measure, i) => {
      this.measure = i;
      this.readMeasure(measure);
    });
    if (this.graces.length) this.remark("Grace notes with no note after them were left out.");
    const metre = this.startMetre ?? this.metre;
    const bars = this.bars.map((bar) =>
      bar.events.length ? bar : { ...bar, events: [{ ticks: barTicks(metre) || QUARTER, pitches: [] }] },
    );
    return {
      ...head,
      key: this.startKey ?? this.key,
      metre,
      unit: metre.symbol !== "free" && metre.beats / metre.unit < 0.75 ? QUARTER / 4 : QUARTER / 2,
      ...(this.startTempo ? { tempo: this.startTempo } : {}),
      strains: strainsOf(bars, metre, this.labels),
    };
  }

  private readMeasure(measure: Node) {
    [this.at, this.furthest, this.heard, this.chords, this.changes, this.tuplet] = [0, 0, [], [], [], undefined];
    const middle: { at: number; line: Node }[] = [];
    const edges: { left: Node[]; right: Node[] } = { left: [], right: [] };
    for (const node of measure.children) {
      if (node.name === "note") this.note(node);
      else if (node.name === "backup" || node.name === "forward")
        this.at = Math.max(
          0,
          this.at + (node.name === "backup" ? -1 : 1) * this.ticks(numberOf(node, "duration") ?? 0),
        );
      else if (node.name === "attributes") this.attributes(node);
      else if (node.name === "direction") this.direction(node);
      else if (node.name === "sound") this.sound(node);
      else if (node.name === "harmony") this.harmony(node);
      else if (node.name === "barline") {
        const place = node.attributes.location ?? "right";
        if (place === "left") edges.left.push(node);
        else if (place === "right") edges.right.push(node);
        else middle.push({ at: Math.round(this.at), line: node });
      }
      this.furthest = Math.max(this.furthest, this.at);
    }
    const pieces = this.split(this.fill(), middle);
    pieces.forEach(({ bar, line }, i) => {
      if (i === 0) for (const left of edges.left) this.barline(bar, left, true);
      if (line) this.barline(bar, line, false);
      if (i === pieces.length - 1) for (const right of edges.right) this.barline(bar, right, false);
      this.bars.push(bar);
    });
  }

  /** The measure's events in time order, gaps filled with rests. */
  private fill(): Event[] {
    const end = Math.round(this.furthest) || (this.metre.symbol === "free" ? 0 : barTicks(this.metre));
    const events: Event[] = [];
    let at = 0;
    for (const { at: from, end: to, event } of this.heard) {
      if (from > at) events.push({ ticks: from - at, pitches: [] });
      if (from < at) {
        this.remark("Notes of one voice overlap in time; the later ones were left out.");
        continue;
      }
      events.push({ ...event, ticks: to - from });
      at = to;
    }
    if (end > at) events.push({ ticks: end - at, pitches: [] });
    return events;
  }

  /** Bars of a measure: one, or more where a repeat or double line stands inside it. */
  private split(events: Event[], middle: readonly { at: number; line: Node }[]): { bar: Bar; line?: Node }[] {
    const whole = (from: number, to: number, inside: Event[]): Bar => ({
      events: inside,
      barline: "single",
      chords: this.chords
        .filter((c) => c.at >= from && (c.at < to || to === Infinity))
        .map((c) => ({ ...c, at: c.at - from })),
      changes: this.changes
        .filter((c) => c.at >= from && (c.at < to || to === Infinity))
        .map((c) => ({ ...c, at: c.at - from })),
    });
    const pieces: { bar: Bar; line?: Node }[] = [];
    let [from, rest] = [0, events];
    for (const { at, line } of middle.filter((m) => child(m.line, "repeat") || child(m.line, "ending"))) {
      let [fill, k] = [from, 0];
      while (k < rest.length && fill < at) fill += (rest[k++] as Event).ticks;
      if (fill !== at || k === 0 || k === rest.length) continue;
      pieces.push({ bar: whole(from, at, rest.slice(0, k)), line });
      [from, rest] = [at, rest.slice(k)];
    }
    return [...pieces, { bar: whole(from, Infinity, rest) }];
  }

  private ticks(duration: number): number {
    return (duration * QUARTER) / this.divisions;
  }

  private note(node: Node) {
    const length = child(node, "grace") ? 0 : this.ticks(numberOf(node, "duration") ?? this.fromType(node));
    const chord = child(node, "chord") !== undefined;
    const voice = textOf(node, "voice") || "1";
    const last = this.heard[this.heard.length - 1];
    if (voice !== this.voice) {
      if (!chord) this.at += length;
      return;
    }
    const pitch = this.pitch(node);
    if (child(node, "grace")) return this.grace(node, pitch, chord);
    if (chord) {
      if (last && pitch && !child(node, "cue")) {
        if (last.event.pitches.length >= 8) return this.remark("A chord of more than eight notes was cut to eight.");
        if (
          !last.event.pitches.some((p) => p.step === pitch.step && p.octave === pitch.octave && p.alter === pitch.alter)
        )
          last.event.pitches.push(pitch);
        if (this.tied(node)) last.event.tie = true;
      }
      return;
    }
    const from = Math.round(this.at);
    this.at += length;
    const to = Math.round(this.at);
    if (to <= from) return;
    this.begun = true;
    const cue = child(node, "cue") !== undefined;
    if (cue) this.remark("Cue notes, which another player plays, were left out.");
    if (child(node, "unpitched")) this.remark("Notes without a pitch (percussion) became rests.");
    const event: Event = { ticks: to - from, pitches: pitch && !cue ? [pitch] : [] };
    this.dress(event, node);
    this.heard.push({ at: from, end: to, event });
    this.heard.sort((a, b) => a.at - b.at);
  }

  /** Divisions of a note that gives only its type. */
  private fromType(node: Node): number {
    const ticks = TICKS_OF.get(textOf(node, "type")) ?? 0;
    const dots = all(node, "dot").length;
    return (ticks * (2 - 0.5 ** dots) * this.divisions) / QUARTER;
  }

  private pitch(node: Node): Pitch | undefined {
    const pitch = child(node, "pitch");
    const step = textOf(pitch, "step").toUpperCase() as Step;
    if (!pitch || !STEPS.includes(step)) return undefined;
    const alter = numberOf(pitch, "alter") ?? 0;
    if (!Number.isInteger(alter)) this.remark("Quarter tones were rounded to the nearest semitone.");
    const octave = numberOf(pitch, "octave") ?? 4;
    return {
      step,
      alter: Math.max(-3, Math.min(3, Math.sign(alter) * Math.round(Math.abs(alter)))) || 0,
      octave: Math.max(-2, Math.min(11, Math.round(octave + this.octaves))),
    };
  }

  private tied = (node: Node) =>
    all(node, "tie").some((t) => t.attributes.type === "start") ||
    (all(node, "tie").length === 0 && all(child(node, "notations"), "tied").some((t) => t.attributes.type === "start"));

  private grace(node: Node, pitch: Pitch | undefined, chord: boolean) {
    if (!pitch) return;
    const last = this.graces[this.graces.length - 1];
    if (chord && last) last.pitches.push(pitch);
    else this.graces.push({ pitches: [pitch], ticks: TICKS_OF.get(textOf(node, "type")) ?? QUARTER / 2 });
    if (child(node, "grace")?.attributes.slash === "yes") this.graceSlash = true;
  }

  private dress(event: Event, node: Node) {
    if (node.attributes["print-object"] === "no" && event.pitches.length === 0) event.invisible = true;
    if (this.tied(node) && event.pitches.length) event.tie = true;
    if (this.graces.length) {
      if (event.pitches.length) {
        event.grace = this.graces.slice(0, 16);
        if (this.graceSlash) event.graceSlash = true;
      } else this.remark("Grace notes with no note after them were left out.");
      [this.graces, this.graceSlash] = [[], false];
    }
    const notations = all(node, "notations");
    const slurs = notations.flatMap((n) => all(n, "slur"));
    const open = Math.min(9, slurs.filter((s) => s.attributes.type === "start").length);
    const close = Math.min(9, slurs.filter((s) => s.attributes.type === "stop").length);
    if (open || close) event.slurs = { open, close };
    this.tupletOf(event, node, notations);
    const signs = notations
      .flatMap((n) => n.children)
      .flatMap((n) => (["articulations", "ornaments", "technical"].includes(n.name) ? n.children : [n]));
    const own = signs.flatMap(
      (s) =>
        MARK_OF_ELEMENT[s.name] ??
        (s.name === "fingering" && /^[0-5]$/.test(s.text.trim()) ? (`finger ${s.text.trim()}` as Mark) : []),
    );
    if (textOf(node, "notehead") === "x" && event.pitches.length) own.push("ghost");
    const marks = [...new Set([...this.marks, ...own])];
    this.marks = [];
    if (marks.length) event.marks = marks.sort((a, b) => MARKS.indexOf(a) - MARKS.indexOf(b));
    if (this.words.length) [event.words, this.words] = [this.words.slice(0, 8), []];
    const lyrics = all(node, "lyric").filter((l) => textOf(l, "text"));
    if (lyrics.length) {
      const verses: Event["lyrics"] = [];
      for (const lyric of lyrics) {
        const number = lyric.attributes.number ?? "1";
        if (!this.verses.includes(number)) this.verses.push(number);
        const verse = Math.min(19, this.verses.indexOf(number));
        while (verses.length <= verse) verses.push(null);
        const syllabic = textOf(lyric, "syllabic");
        const text = lyric.children
          .filter((c) => c.name === "text" || c.name === "elision")
          .map((c) => (c.name === "elision" ? c.text || " " : c.text))
          .join("")
          .replace(/\s+/g, " ")
          .trim();
        verses[verse] = {
          text: text.slice(0, 200),
          ...(syllabic === "begin" || syllabic === "middle" ? { hyphen: true } : {}),
        };
      }
      event.lyrics = verses;
    }
  }

  /** Groups notes of one ratio: by their bracket where there is one, otherwise until they fill their time. */
  private tupletOf(event: Event, node: Node, notations: readonly Node[]) {
    const modification = child(node, "time-modification");
    const [actual, normal] = [numberOf(modification, "actual-notes") ?? 0, numberOf(modification, "normal-notes") ?? 0];
    if (
      !Number.isInteger(actual) ||
      !Number.isInteger(normal) ||
      actual < 2 ||
      actual > 16 ||
      normal < 1 ||
      normal > 16 ||
      actual === normal
    )
      return this.endTuplet();
    const ratio = `${actual}:${normal}`;
    const unit = TICKS_OF.get(textOf(modification, "normal-type") || textOf(node, "type")) ?? 0;
    const stops = notations.some((n) => all(n, "tuplet").some((t) => t.attributes.type === "stop"));
    if (this.tuplet?.ratio !== ratio) this.endTuplet();
    const place = this.tuplet ? "inner" : "first";
    this.tuplet ??= { ratio, sum: 0, unit };
    this.tuplet.sum += event.ticks;
    event.tuplet = { actual, normal, place };
    const full = this.tuplet.unit > 0 && Math.abs(this.tuplet.sum - normal * this.tuplet.unit) < 2;
    if (stops || full) {
      event.tuplet.place = place === "first" ? "first" : "last";
      if (place === "first") delete event.tuplet;
      this.tuplet = undefined;
    }
  }

  /** A group left open ends with the note before. */
  private endTuplet() {
    if (!this.tuplet) return;
    this.tuplet = undefined;
    const last = this.heard[this.heard.length - 1]?.event;
    if (last?.tuplet?.place === "inner") last.tuplet.place = "last";
    else if (last?.tuplet?.place === "first") delete last.tuplet;
  }

  private change(what: Omit<Change, "at">) {
    const at = Math.round(this.at);
    const same = this.changes.find((c) => c.at === at);
    if (same) Object.assign(same, what);
    else this.changes.push({ at, ...what });
  }

  private attributes(node: Node) {
    const divisions = numberOf(node, "divisions");
    if (divisions && divisions > 0) this.divisions = divisions;
    const key = keyOf(child(node, "key"));
    if (key && !this.begun) this.key = this.startKey = key;
    else if (key && JSON.stringify(key) !== JSON.stringify(this.key)) {
      this.key = key;
      this.change({ key });
    }
    const metre = metreOf(child(node, "time"));
    if (metre && !this.begun) this.metre = this.startMetre = metre;
    else if (metre && JSON.stringify(metre) !== JSON.stringify(this.metre)) {
      this.metre = metre;
      this.change({ metre });
    }
  }

  private tempo(tempo: Tempo) {
    if (tempo.bpm < 10 || tempo.bpm > 600) return;
    if (!this.begun) this.startTempo ??= tempo;
    else this.change({ tempo });
  }

  private sound(node: Node | undefined) {
    if (!node) return;
    const quarters = Number(node.attributes.tempo);
    if (quarters > 0) {
      const compound = isCompound(this.metre) && this.metre.symbol !== "free";
      this.tempo(
        compound
          ? { beat: (3 * QUARTER) / 2, bpm: Math.round((quarters / 1.5) * 1000) / 1000 }
          : { beat: QUARTER, bpm: quarters },
      );
    }
  }

  private direction(node: Node) {
    const voice = textOf(node, "voice");
    if (voice && voice !== this.voice) return;
    for (const kind of all(node, "direction-type").flatMap((d) => d.children)) {
      const mark = MARK_OF_ELEMENT[kind.name];
      if (mark) this.marks.push(mark);
      if (kind.name === "rehearsal" && kind.text.trim()) this.labels.set(this.bars.length, kind.text.trim());
      if (kind.name === "words" && kind.text.trim())
        this.words.push({
          text: kind.text.replace(/\s+/g, " ").trim().slice(0, 400),
          place: node.attributes.placement === "below" ? "below" : "above",
        });
      if (kind.name === "dynamics")
        for (const d of kind.children)
          if ((MARKS as readonly string[]).includes(d.name)) this.marks.push(d.name as Mark);
      if (kind.name === "metronome") {
        const beat = (TICKS_OF.get(textOf(kind, "beat-unit")) ?? 0) * (2 - 0.5 ** all(kind, "beat-unit-dot").length);
        const bpm = Number(/[\d.]+/.exec(textOf(kind, "per-minute"))?.[0]);
        if (beat > 0 && bpm > 0) this.tempo({ beat, bpm });
      }
    }
    this.sound(child(node, "sound"));
  }

  private harmony(node: Node) {
    const name = (which: string) => {
      const found = child(node, which);
      const step = textOf(found, `${which}-step`).toUpperCase();
      const alter = Math.round(numberOf(found, `${which}-alter`) ?? 0);
      return /^[A-G]$/.test(step)
        ? step + (alter < 0 ? "b".repeat(Math.min(2, -alter)) : "#".repeat(Math.min(2, alter)))
        : "";
    };
    const root = name("root");
    const kind = child(node, "kind");
    const bass = name("bass");
    const texts = [
      kind?.attributes.text,
      SUFFIX_OF.get(kind?.text.trim() ?? ""),
      SUFFIX_OF.get((kind?.text.trim() ?? "").replace(/-(ninth|11th|13th)$/, "-seventh")) ?? "",
      "",
    ];
    const symbol = root
      ? texts
          .filter((t) => t !== undefined)
          .map((t) => parseChord(root + t + (bass ? `/${bass}` : ""))?.symbol)
          .find(Boolean)
      : undefined;
    const at = Math.max(0, Math.round(this.at + this.ticks(numberOf(node, "offset") ?? 0)));
    if (symbol) this.chords.push({ at, symbol });
    else if (kind?.text.trim() !== "none") this.remark("A chord sign that is not built on a root was left out.");
  }

  private barline(bar: Bar, node: Node, left: boolean) {
    const repeat = child(node, "repeat");
    const ending = child(node, "ending");
    if (repeat?.attributes.direction === "forward") bar.repeatStart = true;
    if (repeat?.attributes.direction === "backward" && !left)
      bar.repeatEnd = Math.max(2, Math.min(9, Math.round(Number(repeat.attributes.times)) || 2));
    if (ending?.attributes.type === "start") {
      const passes = endingPasses((ending.attributes.number || ending.text).replaceAll(" ", ","));
      if (passes.length) bar.ending = passes;
    } else if (ending && !left) bar.endingStop = true;
    const style = BARLINE_OF[textOf(node, "bar-style")];
    if (style && !left) bar.barline = bar.repeatEnd ? "final" : style;
    if (bar.repeatEnd) bar.barline = "final";
  }
}
