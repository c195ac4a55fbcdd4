import type { ParsedElement, ParsedKey, ParsedMetre, ParsedTempo, ParsedTune } from "abcjs/src/parse/abc_parse.js";
import {
  barTicks,
  type Bar,
  type Change,
  type Event,
  LARGEST,
  MARKS,
  type Metre,
  QUARTER,
  type Strain,
  Tune,
} from "../../score";
import { alterIn, type Key, naturalAt, parseChord, type Pitch, type Step } from "../../theory";
import { FormatError, type Remark, type Spot } from "../problem";
import { ALTER, endingPasses, keyInWords, keyOf, metreOf } from "./fields";
import { inferMetre } from "./mend";
import { nextLetter, pairRepeats, untieStrays } from "../strains";
import { BARLINES, DECORATIONS } from "./words";

const WHOLE = 4 * QUARTER;
const GRACE_UNIT = QUARTER / 2;
const MARK_OF = new Map(DECORATIONS);

/** The words of whatever the parser makes of text: a string, pieces of one, or an object that holds it. */
function plain(value: unknown): string {
  if (typeof value === "string") return value;
  if (Array.isArray(value)) return value.map(plain).join("");
  return value && typeof value === "object" && "text" in value ? plain(value.text) : "";
}

/** Turns the parser's lines into strains and bars. Small state, one pass. */
export class Builder {
  private bars: Bar[] = [];
  private strains: Strain[] = [];
  private label: string | undefined;
  private bar = emptyBar();
  private fill = 0;
  /** Bars and notes of the whole tune so far, and full bars of the strain. */
  private count = { bars: 0, notes: 0, full: 0 };
  private key: Key;
  private metre: Metre;
  private startKey: Key;
  private startMetre: Metre;
  private tuplet: { actual: number; normal: number; ratio: number } | undefined;
  private accidentals = new Map<Step, number>();
  private tied = new Map<string, number>();
  private begun = false;
  private closing = false;
  private strangers = new Set<string>();
  /** Words that wait for the next note. */
  private pendingWords: NonNullable<Event["words"]> = [];

  constructor(
    private parsed: ParsedTune,
    private fields: Map<string, string[]>,
    private spotOf: (offset: number) => Spot,
    private remarks: Remark[],
  ) {
    this.key = this.startKey = { tonic: "C", mode: "major" };
    this.metre = this.startMetre = { beats: 4, unit: 4, symbol: "free" };
  }

  tune(): Tune | undefined {
    let voices = 1;
    for (const line of this.parsed.lines) {
      const staff = line.staff?.[0];
      if (!staff) continue;
      voices = Math.max(voices, line.staff?.reduce((n, s) => n + s.voices.length, 0) ?? 1);
      if (staff.key) this.setKey(staff.key);
      if (staff.meter) this.setMetre(staff.meter);
      for (const element of staff.voices[0] ?? []) this.take(element);
    }
    if (voices > 1)
      this.remarks.push({
        ...this.spotOf(0),
        message: `This tune has ${voices} voices; the first was taken.`,
        left: true,
      });
    this.closeBar("single");
    this.closeStrain();
    if (!this.strains.some((s) => s.bars.some((b) => b.events.some((e) => e.pitches.length > 0)))) return undefined;
    for (const bar of this.strains.flatMap((s) => s.bars))
      if (bar.events.length === 0) bar.events.push({ ticks: QUARTER, pitches: [], invisible: true });
    const strains = pairRepeats(untieStrays(this.strains));
    const metre =
      this.startMetre.symbol === "free" && !/none/i.test(this.fields.get("M")?.[0] ?? "")
        ? inferMetre(strains, this.remarks, this.spotOf(0))
        : this.startMetre;
    return { ...this.heading(), key: this.startKey, metre, unit: this.unit(metre), strains };
  }

  private heading() {
    const get = (letter: string) => (this.fields.get(letter) ?? []).filter(Boolean);
    const subtitles = this.parsed.lines.flatMap((l) => (l.subtitle ? [plain(l.subtitle.text)] : []));
    const meta = this.parsed.metaText;
    const notes = get("N");
    const rights = notes.map((n) => /^Rights: (.+)$/.exec(n)?.[1]).find(Boolean);
    const known = Tune.shape.rights.safeParse(rights);
    const tempo = this.tempo(meta.tempo);
    return {
      version: 1 as const,
      title: (plain(meta.title) || get("T")[0] || "").replaceAll("\u0012", " ").trim().slice(0, 400),
      otherTitles: subtitles.filter(Boolean).map((s) => s.slice(0, 400)),
      composer: get("C").join("; ").slice(0, 400),
      origin: get("O").join("; ").slice(0, 400),
      source: [...get("S"), ...get("B")].join("; ").slice(0, 2000),
      rights: known.success ? known.data : ("unknown" as const),
      notes: notes
        .filter((n) => !(known.success && n.startsWith("Rights: ")))
        .join("\n")
        .slice(0, 20000),
      rhythm: (get("R")[0] ?? "").toLowerCase().slice(0, 200),
      verses: ((meta.unalignedWords as unknown[] | undefined) ?? []).map((w) => plain(w).slice(0, 2000)),
      ...(tempo ? { tempo } : {}),
    };
  }

  private unit(metre: Metre): number {
    const match = /^(\d+)\s*\/\s*(\d+)/.exec(this.fields.get("L")?.[0] ?? "");
    const asked = match ? (Number(match[1]) * WHOLE) / Number(match[2]) : 0;
    if (asked >= 1 && Number.isInteger(asked)) return asked;
    return metre.symbol !== "free" && metre.beats / metre.unit < 0.75 ? WHOLE / 16 : WHOLE / 8;
  }

  private tempo(from: ParsedTempo | undefined) {
    const beat = Math.round((from?.duration ?? []).reduce((a, b) => a + b, 0) * WHOLE);
    return from?.bpm && from.bpm >= 10 && from.bpm <= 600 && beat > 0 ? { beat, bpm: from.bpm } : undefined;
  }

  /** Where the reader stands. */
  private at = 0;

  private take(element: ParsedElement) {
    this.at = element.startChar ?? this.at;
    if (element.el_type === "note") this.note(element);
    else if (element.el_type === "bar") this.barline(element);
    else if (element.el_type === "key") this.setKey(element as ParsedKey);
    else if (element.el_type === "meter") this.setMetre(element as ParsedMetre);
    else if (element.el_type === "part") this.part(element.title ?? "");
    else if (element.el_type === "tempo") {
      const tempo = this.tempo({
        ...(Array.isArray(element.duration) ? { duration: element.duration } : {}),
        ...(element.bpm ? { bpm: element.bpm } : {}),
      });
      if (tempo) this.change({ tempo });
    }
  }

  private change(what: Omit<Change, "at">) {
    const last = this.bar.changes.find((c) => c.at === this.fill);
    if (last) Object.assign(last, what);
    else this.bar.changes.push({ at: this.fill, ...what });
  }

  private setKey(from: ParsedKey) {
    const key = keyOf(from) ??
      (from.mode ? keyInWords(this.fields.get("K")?.[0] ?? "") : undefined) ?? { tonic: "C", mode: "major" };
    if (!this.begun) this.startKey = key;
    else if (JSON.stringify(key) !== JSON.stringify(this.key)) this.change({ key });
    this.key = key;
  }

  private setMetre(from: ParsedMetre) {
    const metre = metreOf(from);
    if (!metre) return;
    if (!this.begun) this.startMetre = metre;
    else if (JSON.stringify(metre) !== JSON.stringify(this.metre)) this.change({ metre });
    this.metre = metre;
  }

  private part(title: string) {
    const label = title.trim().slice(0, 80);
    if (!label) return;
    if (this.bar.events.length === 0) this.closeStrain();
    this.label = label;
  }

  private note(element: ParsedElement) {
    this.begun = true;
    // A strain ends at its bar line unless another ending follows.
    if (this.closing && !this.bar.ending) this.closeStrain();
    this.closing = false;
    const spacer = element.rest?.type === "spacer";
    this.words(element);
    if (spacer) return;
    if (element.rest?.type === "multimeasure" || element.rest?.type === "invisible-multimeasure")
      return this.fullRests(element);
    if (element.startTriplet && element.tripletMultiplier) {
      const actual = Math.min(16, Math.max(2, element.startTriplet));
      this.tuplet = {
        actual,
        normal: Math.min(16, Math.max(1, Math.round(element.startTriplet * element.tripletMultiplier))),
        ratio: element.tripletMultiplier,
      };
    }
    const length = typeof element.duration === "number" ? element.duration : 0;
    const ticks = Math.round(length * WHOLE * (this.tuplet?.ratio ?? 1));
    if (ticks < 1) return;
    const pitches = (element.pitches ?? []).slice(0, 8).map((p) => this.pitch(p.pitch, p.accidental));
    const event: Event = { ticks, pitches };
    if (this.tuplet) {
      const { actual, normal } = this.tuplet;
      const later = element.endTriplet ? "last" : "inner";
      event.tuplet = { actual, normal, place: element.startTriplet ? "first" : later };
    }
    this.dress(event, element);
    this.tied = new Map();
    if (element.pitches?.some((p) => p.startTie)) {
      event.tie = true;
      for (const p of pitches) this.tied.set(p.step + p.octave, p.alter);
    }
    if (this.pendingWords.length) [event.words, this.pendingWords] = [this.pendingWords, []];
    this.bar.events.push(event);
    this.count.notes += 1;
    this.within("notes");
    this.fill += ticks;
    if (element.endTriplet) this.tuplet = undefined;
  }

  /** Chord symbols and annotations. On a spacer they wait for what comes next. */
  private words(element: ParsedElement) {
    for (const { name, position } of element.chord ?? []) {
      const text = name.replace(/\s+/g, " ").trim();
      if (!text) continue;
      const symbol = !position || position === "default" ? parseChord(text)?.symbol : undefined;
      if (symbol) this.bar.chords.push({ at: this.fill, symbol });
      else this.pendingWords.push({ text: text.slice(0, 400), place: PLACES[position ?? ""] ?? "above" });
    }
  }

  private dress(event: Event, element: ParsedElement) {
    const notes = element.pitches ?? [];
    const count = (list: (unknown[] | undefined)[]) => list.reduce((n, l) => n + (l?.length ?? 0), 0);
    const open = Math.min(9, count([element.startSlur, ...notes.map((p) => p.startSlur)]));
    const close = Math.min(9, count([element.endSlur, ...notes.map((p) => p.endSlur)]));
    if (open || close) event.slurs = { open, close };
    const grace = (element.gracenotes ?? []).filter((g) => typeof g.pitch === "number");
    if (grace.length) {
      event.grace = grace.map((g) => ({
        pitches: [this.pitch(g.pitch, g.accidental)],
        ticks: Math.max(1, Math.round((g.duration / 0.125) * GRACE_UNIT)),
      }));
      if (grace[0]?.acciaccatura) event.graceSlash = true;
    }
    const marks = (element.decoration ?? []).flatMap((d) => {
      const mark = MARK_OF.get(d);
      if (!mark && !this.strangers.has(d)) {
        this.strangers.add(d);
        this.remarks.push({
          ...this.spotOf(element.startChar ?? 0),
          message: `The decoration "${d}" is not known and was left out.`,
        });
      }
      return mark ? [mark] : [];
    });
    if (marks.length) event.marks = [...new Set(marks)].sort((a, b) => MARKS.indexOf(a) - MARKS.indexOf(b));
    if (element.lyric?.some((l) => l.syllable)) {
      const sung = element.lyric.slice(0, element.lyric.findLastIndex((l) => l.syllable) + 1);
      event.lyrics = sung.slice(0, 20).map((l) =>
        l.syllable
          ? {
              text: l.syllable.replaceAll("\u00a0", " ").slice(0, 200),
              ...(l.divider === "-" ? { hyphen: true } : {}),
            }
          : null,
      );
    }
    if (element.rest?.type === "invisible") event.invisible = true;
  }

  /**
   * Pitch from staff position and accidental; an accidental holds to the end of the bar in every octave (ABC 2.1,
   * 11.3).
   */
  private pitch(position: number, accidental: string | undefined): Pitch {
    const natural = naturalAt(position + 28);
    const sign = accidental === undefined ? undefined : ALTER[accidental];
    if (sign !== undefined) this.accidentals.set(natural.step, sign);
    const alter =
      sign ??
      this.tied.get(natural.step + natural.octave) ??
      this.accidentals.get(natural.step) ??
      alterIn(this.key, natural.step);
    return { ...natural, octave: Math.min(11, Math.max(-2, natural.octave)), alter };
  }

  private fullRests(element: ParsedElement) {
    const bars = Math.min(64, Math.max(1, Number(element.rest?.text ?? 1) || 1));
    const ticks = barTicks(this.metre) || WHOLE;
    for (let i = 0; i < bars; i++) {
      if (i > 0) this.closeBar("single");
      this.bar.events.push({ ticks, pitches: [] });
      this.fill += ticks;
    }
  }

  private barline(element: ParsedElement) {
    this.begun = true;
    const sign = BARLINES[element.type ?? ""] ?? { barline: "single" as const };
    const before = this.bars[this.bars.length - 1];
    if (this.bar.events.length > 0) {
      if (sign.ends) this.bar.repeatEnd = 2;
      if (element.endEnding) this.bar.endingStop = true;
      this.closeBar(sign.barline);
    } else if (before) {
      if (sign.ends) before.repeatEnd = 2;
      if (element.endEnding) before.endingStop = true;
      if (before.repeatEnd) before.barline = "final";
      else if (["double", "final", "heavy"].includes(sign.barline)) before.barline = sign.barline;
    }
    if (sign.starts) this.bar.repeatStart = true;
    if (element.startEnding) {
      const passes = endingPasses(element.startEnding);
      if (passes.length) this.bar.ending = passes;
    }
    this.words(element);
    const fullBars = this.count.full;
    const ends = sign.starts || sign.ends || (["double", "final", "heavy"].includes(sign.barline) && fullBars >= 4);
    this.closing = (this.closing || ends) && fullBars >= 1;
  }

  private closeBar(barline: Bar["barline"]) {
    this.accidentals.clear();
    if (this.bar.events.length === 0) return;
    if (this.fill >= barTicks(this.metre)) this.count.full += 1;
    this.count.bars += 1;
    this.within("bars");
    this.bars.push({ ...this.bar, barline });
    this.bar = emptyBar();
    this.fill = 0;
  }

  /** Stops where the tune becomes larger than one is; what follows need not be read. */
  private within(what: "bars" | "notes") {
    if (this.count[what] <= LARGEST[what]) return;
    throw new FormatError(
      `This tune has more than ${LARGEST[what]} ${what}. Split it into smaller tunes.`,
      this.spotOf(this.at),
    );
  }

  private closeStrain() {
    if (this.bars.length === 0) return;
    const label = this.label ?? nextLetter(this.strains);
    this.count.full = 0;
    this.strains.push({ label, ...(this.label ? { named: true } : {}), bars: this.bars });
    this.bars = [];
    this.label = undefined;
  }
}

const PLACES: Record<string, "above" | "below" | "left" | "right" | "near"> = {
  above: "above",
  below: "below",
  left: "left",
  right: "right",
  relative: "near",
};

const emptyBar = (): Bar => ({ events: [], chords: [], changes: [], barline: "single" });
