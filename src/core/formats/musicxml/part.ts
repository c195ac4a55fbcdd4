import {
  type Bar,
  barTicks,
  type Change,
  type Event,
  isCompound,
  type Mark,
  MARKS,
  type Metre,
  NOTE_TYPES,
  QUARTER,
  type Tempo,
  type Tune,
} from "../../score";
import { type Key, type Pitch, STEPS, type Step } from "../../theory";
import type { Remark, Spot } from "../problem";
import { strainsOf } from "../strains";
import { chordSign } from "./chordSign";
import { all, child, type Node, numberOf, textOf } from "./document";
import { keyOf, metreOf } from "./fields";
import { barline, split } from "./measure";
import { isTied, marksOf } from "./noteSigns";
import type { heading } from "./parts";
import { MARK_OF_ELEMENT } from "./tables";

/** Most changes, and most bar lines, inside one bar; and most verses. */
const MOST_IN_BAR = 50;
const MOST_VERSES = 20;
const TICKS_OF = new Map(NOTE_TYPES);

/** One moment of the chosen voice, before gaps are filled. */
type Heard = { at: number; end: number; event: Event };

/** Walks through the measures of one part and gathers its first voice. */
export class PartReader {
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
      this.remark(`This part has ${voices.length} voices; the first was taken and the others left out.`, true);
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

  private remark(message: string, left?: true) {
    if (this.leftOut.has(message) || this.remarks.length > 200) return;
    this.leftOut.add(message);
    this.remarks.push({ ...this.spotOf(this.measure), message, ...(left ? { left } : {}) });
  }

  tune(head: ReturnType<typeof heading>): Omit<Tune, never> {
    this.measures.forEach((measure, i) => {
      this.measure = i;
      this.readMeasure(measure);
    });
    if (this.graces.length) this.remark("Grace notes with no note after them were left out.", true);
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
        else if (middle.length < MOST_IN_BAR) middle.push({ at: Math.round(this.at), line: node });
      }
      this.furthest = Math.max(this.furthest, this.at);
    }
    const pieces = split(this.fill(), { chords: this.chords, changes: this.changes }, middle);
    pieces.forEach(({ bar, line }, i) => {
      if (i === 0) for (const left of edges.left) barline(bar, left, true);
      if (line) barline(bar, line, false);
      if (i === pieces.length - 1) for (const right of edges.right) barline(bar, right, false);
      this.bars.push(bar);
    });
  }

  /** The measure's events in time order, gaps filled with rests. */
  private fill(): Event[] {
    const end = Math.round(this.furthest) || (this.metre.symbol === "free" ? 0 : barTicks(this.metre));
    const events: Event[] = [];
    let at = 0;
    for (const { at: from, end: to, event } of this.heard.sort((a, b) => a.at - b.at)) {
      if (from > at) events.push({ ticks: from - at, pitches: [] });
      if (from < at) {
        this.remark("Notes of one voice overlap in time; the later ones were left out.", true);
        continue;
      }
      events.push({ ...event, ticks: to - from });
      at = to;
    }
    if (end > at) events.push({ ticks: end - at, pitches: [] });
    return events;
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
        if (last.event.pitches.length >= 8)
          return this.remark("A chord of more than eight notes was cut to eight.", true);
        if (
          !last.event.pitches.some((p) => p.step === pitch.step && p.octave === pitch.octave && p.alter === pitch.alter)
        )
          last.event.pitches.push(pitch);
        if (isTied(node)) last.event.tie = true;
      }
      return;
    }
    const from = Math.round(this.at);
    this.at += length;
    const to = Math.round(this.at);
    if (to <= from) return;
    this.begun = true;
    const cue = child(node, "cue") !== undefined;
    if (cue) this.remark("Cue notes, which another player plays, were left out.", true);
    if (child(node, "unpitched")) this.remark("Notes without a pitch (percussion) became rests.", true);
    const event: Event = { ticks: to - from, pitches: pitch && !cue ? [pitch] : [] };
    this.dress(event, node);
    this.heard.push({ at: from, end: to, event });
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

  private grace(node: Node, pitch: Pitch | undefined, chord: boolean) {
    if (!pitch) return;
    const last = this.graces[this.graces.length - 1];
    if (chord && last) last.pitches.push(pitch);
    else this.graces.push({ pitches: [pitch], ticks: TICKS_OF.get(textOf(node, "type")) ?? QUARTER / 2 });
    if (child(node, "grace")?.attributes.slash === "yes") this.graceSlash = true;
  }

  private dress(event: Event, node: Node) {
    if (node.attributes["print-object"] === "no" && event.pitches.length === 0) event.invisible = true;
    if (isTied(node) && event.pitches.length) event.tie = true;
    if (this.graces.length) {
      if (event.pitches.length) {
        event.grace = this.graces.slice(0, 16);
        if (this.graceSlash) event.graceSlash = true;
      } else this.remark("Grace notes with no note after them were left out.", true);
      [this.graces, this.graceSlash] = [[], false];
    }
    const notations = all(node, "notations");
    const slurs = notations.flatMap((n) => all(n, "slur"));
    const open = Math.min(9, slurs.filter((s) => s.attributes.type === "start").length);
    const close = Math.min(9, slurs.filter((s) => s.attributes.type === "stop").length);
    if (open || close) event.slurs = { open, close };
    this.tupletOf(event, node, notations);
    const own = marksOf(node, notations, event.pitches.length > 0);
    const marks = [...new Set([...this.marks, ...own])];
    this.marks = [];
    if (marks.length) event.marks = marks.sort((a, b) => MARKS.indexOf(a) - MARKS.indexOf(b));
    if (this.words.length) [event.words, this.words] = [this.words.slice(0, 8), []];
    const lyrics = all(node, "lyric").filter((l) => textOf(l, "text"));
    if (lyrics.length) {
      const verses: Event["lyrics"] = [];
      for (const lyric of lyrics) {
        const number = lyric.attributes.number ?? "1";
        if (!this.verses.includes(number) && this.verses.length < MOST_VERSES) this.verses.push(number);
        const verse = this.verses.indexOf(number);
        if (verse < 0) continue;
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
    else if (this.changes.length < MOST_IN_BAR) this.changes.push({ at, ...what });
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
      const mark = MARK_OF_ELEMENT.get(kind.name);
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
    const symbol = chordSign(node);
    const at = Math.max(0, Math.round(this.at + this.ticks(numberOf(node, "offset") ?? 0)));
    if (symbol) this.chords.push({ at, symbol });
    else if (textOf(node, "kind") !== "none")
      this.remark("A chord sign that is not built on a root was left out.", true);
  }
}
