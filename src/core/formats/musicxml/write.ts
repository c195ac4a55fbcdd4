import {
  type Event,
  type Metre,
  type Place,
  QUARTER,
  rest,
  type Sheet,
  type SheetChord,
  type Staff,
} from "../../score";
import { alterIn, type Key, parseChord, parseClass, type Pitch, signature, STEPS } from "../../theory";
import { beams } from "./beams";
import { DYNAMICS, headsOf, KINDS, NOTATIONS, type Shape, SIGNS, shapeOf, WEDGES, WORDS } from "./tables";
import { el, text } from "./xml";

export type MusicXmlOptions = {
  /** Ids on notes and bars ("STAFF.BAR.EVENT"), so that a drawing can be matched with the score. */
  ids?: boolean;
  /**
   * A row of a longer page: one system without names, tempo or metre, but for the metre where the tune starts or
   * changes it.
   */
  row?: boolean;
  /** Bars (by place in the sheet) that start a new system; a single part then goes without its name. */
  systems?: ReadonlySet<number>;
};

const CLEFS = { treble: ["G", 2], alto: ["C", 3], bass: ["F", 4] } as const;

/** A sheet as a MusicXML 4.0 partwise document: one part a staff. */
export function sheetMusicXml(sheet: Sheet, options: MusicXmlOptions = {}): string {
  const parts = sheet.staves.map((staff, i) => ({ staff, id: `P${i + 1}` }));
  const list = parts.map(({ staff, id }) =>
    el(
      "score-part",
      { id },
      text("part-name", staff.name, {
        "print-object": options.row || (options.systems && sheet.staves.length === 1) ? "no" : undefined,
      }),
      el("score-instrument", { id: `${id}-I1` }, text("instrument-name", staff.name)),
      el(
        "midi-instrument",
        { id: `${id}-I1` },
        text("midi-channel", channel(Number(id.slice(1)))),
        text("midi-program", staff.program + 1),
      ),
    ),
  );
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">',
    el(
      "score-partwise",
      { version: "4.0" },
      el("work", {}, text("work-title", sheet.title || "Untitled")),
      sheet.subtitle ? text("movement-title", sheet.subtitle) : undefined,
      el(
        "identification",
        {},
        sheet.composer ? text("creator", sheet.composer, { type: "composer" }) : undefined,
        el("encoding", {}, text("software", "Symphonos")),
      ),
      el("part-list", {}, ...list),
      ...parts.map(({ staff, id }, i) =>
        el("part", { id }, ...new PartWriter(sheet, staff, i === 0, options).measures()),
      ),
    ),
    "",
  ].join("\n");
}

/** MIDI channels 1 to 16 without the drums' tenth. */
const channel = (part: number) => {
  const c = ((part - 1) % 15) + 1;
  return c >= 10 ? c + 1 : c;
};

class PartWriter {
  private slurs: Map<Event, { open: number[]; close: number[] }>;
  private accidentals = new Map<string, number>();
  private tied = new Map<string, number>();
  private key: Key;
  private ending: string | undefined;

  constructor(
    private sheet: Sheet,
    private staff: Staff,
    private leads: boolean,
    private options: MusicXmlOptions,
  ) {
    this.slurs = pairSlurs(staff.bars.flat());
    this.key = sheet.places[0]?.key ?? { tonic: "C", mode: "major" };
  }

  measures(): string[] {
    return this.sheet.places.map((place, i) => {
      const implicit = place.pickup || place.offset > 0 || (i > 0 && this.sheet.places[i - 1]?.number === place.number);
      return el(
        "measure",
        {
          number: place.pickup && place.index > 0 ? `X${place.index}` : place.number,
          implicit: implicit ? "yes" : undefined,
          id: this.options.ids ? `m.${this.staff.id}.${place.index}` : undefined,
        },
        (this.options.row && i === 0) || (i > 0 && this.leads && this.options.systems?.has(i))
          ? el("print", { "new-system": "yes" })
          : undefined,
        this.leftBar(place),
        this.attributes(place, i),
        this.leads && i === 0 && !this.options.row ? this.tempo(this.sheet.tempo) : undefined,
        this.music(place, i),
        this.rightBar(place, i),
      );
    });
  }

  private attributes(place: Place, i: number): string | undefined {
    const change = place.bar.changes.filter((c) => c.at === 0);
    const key = i === 0 ? place.key : change.find((c) => c.key)?.key;
    const fresh = i === 0 && !(this.options.row && place.index > 0);
    const metre = fresh ? place.metre : change.find((c) => c.metre)?.metre;
    if (key) this.key = key;
    const [sign, line] = CLEFS[this.staff.clef];
    const inner = [
      i === 0 ? text("divisions", QUARTER) : "",
      key ? keyXml(key) : "",
      metre ? timeXml(metre) : i === 0 ? timeXml(place.metre, false) : "",
      i === 0 ? el("clef", {}, text("sign", sign), text("line", line)) : "",
    ].join("");
    const tempo = i > 0 && this.leads ? change.find((c) => c.tempo)?.tempo : undefined;
    return (inner ? el("attributes", {}, inner) : "") + (this.tempo(tempo) ?? "");
  }

  private tempo(tempo: Sheet["tempo"]): string | undefined {
    if (!tempo) return undefined;
    const beat = shapeOf(tempo.beat) ?? { type: "quarter", dots: 0 };
    const perQuarter = Math.round(((tempo.bpm * tempo.beat) / QUARTER) * 1000) / 1000;
    return el(
      "direction",
      { placement: "above" },
      el(
        "direction-type",
        {},
        el(
          "metronome",
          {},
          text("beat-unit", beat.type),
          ...Array.from({ length: beat.dots }, () => el("beat-unit-dot")),
          text("per-minute", tempo.bpm),
        ),
      ),
      el("sound", { tempo: perQuarter }),
    );
  }

  private leftBar(place: Place): string | undefined {
    const { bar } = place;
    if (bar.ending) this.ending = bar.ending.join(",");
    if (!bar.repeatStart && !bar.ending) return undefined;
    return el(
      "barline",
      { location: "left" },
      bar.repeatStart ? text("bar-style", "heavy-light") : undefined,
      this.leads && bar.ending ? el("ending", { number: this.ending, type: "start" }, `${this.ending}.`) : undefined,
      bar.repeatStart ? el("repeat", { direction: "forward" }) : undefined,
    );
  }

  private rightBar(place: Place, i: number): string | undefined {
    const { bar } = place;
    const next = this.sheet.places[i + 1];
    const closes =
      this.ending !== undefined &&
      (bar.endingStop || bar.repeatEnd !== undefined || next === undefined || next.bar.ending !== undefined);
    const style = bar.repeatEnd
      ? "light-heavy"
      : (
          { double: "light-light", final: "light-heavy", heavy: "heavy-light", dotted: "dotted" } as Record<
            string,
            string
          >
        )[bar.barline];
    const ending =
      closes && this.leads
        ? el("ending", { number: this.ending, type: bar.repeatEnd ? "stop" : "discontinue" })
        : undefined;
    if (closes) this.ending = undefined;
    if (!style && !ending) return undefined;
    return el(
      "barline",
      { location: "right" },
      style ? text("bar-style", style) : undefined,
      ending,
      bar.repeatEnd
        ? el("repeat", { direction: "backward", times: bar.repeatEnd > 2 ? bar.repeatEnd : undefined })
        : undefined,
    );
  }

  private music(place: Place, i: number): string {
    this.accidentals.clear();
    const events = this.staff.bars[i] ?? [rest(place.ticks)];
    const chords = this.leads ? this.sheet.chords.filter((c) => c.bar === i).sort((a, b) => a.at - b.at) : [];
    const beamWords = beams(place, events);
    let at = 0;
    let out = "";
    events.forEach((event, e) => {
      const last = e === events.length - 1;
      for (const c of place.bar.changes.filter((c) => c.at > 0 && c.at >= at && c.at < at + event.ticks && c.key)) {
        this.key = c.key as Key;
        out += el("attributes", {}, keyXml(this.key));
      }
      out += chords
        .filter((c) => c.at >= at && (last || c.at < at + event.ticks))
        .map((c) => harmonyXml(c, c.at - at))
        .join("");
      out += this.directions(event);
      out += this.event(event, beamWords[e] ?? [], `${this.staff.id}.${place.index}.${e}`);
      at += event.ticks;
    });
    return out;
  }

  private directions(event: Event): string {
    const direction = (inner: string, placement = "above") =>
      el("direction", { placement }, el("direction-type", {}, inner));
    const words = (event.words ?? []).map((w) =>
      direction(text("words", w.text), w.place === "below" ? "below" : "above"),
    );
    const marks = (event.marks ?? []).map((m) =>
      WORDS[m]
        ? direction(text("words", WORDS[m] as string))
        : SIGNS[m]
          ? direction(el(SIGNS[m] as string))
          : WEDGES[m]
            ? direction(el("wedge", { type: WEDGES[m] }), "below")
            : DYNAMICS.has(m)
              ? direction(el("dynamics", {}, el(m)), "below")
              : "",
    );
    return [...words, ...marks].join("");
  }

  private event(event: Event, beamWords: readonly string[], id: string): string {
    const grace = (event.grace ?? [])
      .map((g, i, all) =>
        g.pitches
          .map((p, n) =>
            el(
              "note",
              {},
              el("grace", { slash: event.graceSlash ? "yes" : undefined }),
              n > 0 ? el("chord") : undefined,
              this.pitch(p),
              text("voice", 1),
              text("type", all.length > 1 ? "16th" : "eighth"),
              this.accidental(p, false),
              ...(all.length > 1 && n === 0
                ? [1, 2].map((level) =>
                    text("beam", i === 0 ? "begin" : i === all.length - 1 ? "end" : "continue", { number: level }),
                  )
                : []),
            ),
          )
          .join(""),
      )
      .join("");
    const { heads, modification } = written(event);
    const notes = heads
      .map((head, h) => this.heads(event, head, h, heads.length, modification, heads.length === 1 ? beamWords : [], id))
      .join("");
    this.tied = new Map(event.tie ? event.pitches.map((p) => [`${p.step}${p.octave}`, p.alter]) : []);
    return grace + notes;
  }

  /** One head of an event, with all its pitches. An event longer than any head is several, tied. */
  private heads(
    event: Event,
    head: Shape & { sounds: number },
    h: number,
    count: number,
    modification: [number, number] | undefined,
    beamWords: readonly string[],
    id: string,
  ): string {
    const [first, last] = [h === 0, h === count - 1];
    const pitches: (Pitch | null)[] = event.pitches.length ? event.pitches : [null];
    return pitches
      .map((pitch, n) => {
        const continues = pitch !== null && (!first || this.tied.get(`${pitch.step}${pitch.octave}`) === pitch.alter);
        const goesOn = pitch !== null && (!last || event.tie === true);
        return el(
          "note",
          {
            id: this.options.ids && first && n === 0 ? id : undefined,
            color: this.staff.color && pitch ? this.staff.color : undefined,
            "print-object": event.invisible ? "no" : undefined,
          },
          n > 0 ? el("chord") : undefined,
          pitch ? this.pitch(pitch) : el("rest"),
          text("duration", head.sounds),
          continues ? el("tie", { type: "stop" }) : undefined,
          goesOn ? el("tie", { type: "start" }) : undefined,
          text("voice", 1),
          text("type", head.type),
          ...Array.from({ length: head.dots }, () => el("dot")),
          pitch ? this.accidental(pitch, continues) : undefined,
          modification
            ? el("time-modification", {}, text("actual-notes", modification[0]), text("normal-notes", modification[1]))
            : undefined,
          pitch && event.marks?.includes("ghost") ? text("notehead", "x") : undefined,
          ...(n === 0 ? beamWords.map((word, level) => text("beam", word, { number: level + 1 })) : []),
          this.notations(event, first, last, n, continues, goesOn),
          ...(n === 0 && first && this.staff.lyrics !== false ? lyricsXml(event) : []),
        );
      })
      .join("");
  }

  private notations(
    event: Event,
    first: boolean,
    last: boolean,
    n: number,
    continues: boolean,
    goesOn: boolean,
  ): string | undefined {
    const slurs = this.slurs.get(event);
    const grouped = { ornaments: "", technical: "", articulations: "" };
    for (const mark of first && n === 0 ? (event.marks ?? []) : []) {
      const shown = NOTATIONS[mark];
      if (shown) grouped[shown.group] += shown.text ? text(shown.element, shown.text) : el(shown.element);
    }
    const tuplet =
      event.tuplet && n === 0
        ? event.tuplet.place === "first" && first
          ? "start"
          : event.tuplet.place === "last" && last
            ? "stop"
            : undefined
        : undefined;
    const inner = [
      continues ? el("tied", { type: "stop" }) : "",
      goesOn ? el("tied", { type: "start" }) : "",
      ...(n === 0 && last ? (slurs?.close ?? []).map((number) => el("slur", { type: "stop", number })) : []),
      ...(n === 0 && first ? (slurs?.open ?? []).map((number) => el("slur", { type: "start", number })) : []),
      tuplet ? el("tuplet", { type: tuplet, bracket: tuplet === "start" ? "yes" : undefined }) : "",
      ...Object.entries(grouped).map(([group, marks]) => (marks ? el(group, {}, marks) : "")),
      first && n === 0 && event.marks?.includes("fermata") ? el("fermata") : "",
    ].join("");
    return inner ? el("notations", {}, inner) : undefined;
  }

  private pitch = (p: Pitch): string =>
    el("pitch", {}, text("step", p.step), p.alter ? text("alter", p.alter) : undefined, text("octave", p.octave));

  /** The sign to draw, by the rule of the staff: it holds in its octave to the end of the bar. */
  private accidental(p: Pitch, continues: boolean): string | undefined {
    const place = `${p.step}${p.octave}`;
    const expected = this.accidentals.get(place) ?? alterIn(this.key, p.step);
    if (continues || expected === p.alter) return undefined;
    this.accidentals.set(place, p.alter);
    return text(
      "accidental",
      (
        {
          "-2": "flat-flat",
          "-1": "flat",
          0: "natural",
          1: "sharp",
          2: "double-sharp",
          3: "triple-sharp",
          "-3": "triple-flat",
        } as Record<string, string>
      )[p.alter] as string,
    );
  }
}

/** Heads of an event with the ticks each sounds, and the tuplet ratio they are written in. */
function written(event: Event): { heads: (Shape & { sounds: number })[]; modification: [number, number] | undefined } {
  const ratios: [number, number][] = event.tuplet
    ? [[event.tuplet.actual, event.tuplet.normal]]
    : [
        [1, 1],
        [3, 2],
        [5, 4],
        [7, 4],
        [7, 8],
        [9, 8],
      ];
  for (const [actual, normal] of ratios) {
    const shape = shapeOf((event.ticks * actual) / normal);
    if (shape)
      return {
        heads: [{ ...shape, sounds: event.ticks }],
        modification: actual === normal ? undefined : [actual, normal],
      };
  }
  const [actual, normal] = ratios[0] as [number, number];
  const heads = headsOf((event.ticks * actual) / normal).map((s) => ({ ...s, sounds: (s.ticks * normal) / actual }));
  const left = event.ticks - heads.reduce((sum, s) => sum + s.sounds, 0);
  if (heads.length === 0)
    return { heads: [{ type: "128th", dots: 0, ticks: event.ticks, sounds: event.ticks }], modification: undefined };
  (heads[heads.length - 1] as { sounds: number }).sounds += left;
  return { heads, modification: actual === normal ? undefined : [actual, normal] };
}

/** Pairs slur signs and numbers them; signs without a partner in these events are left out. */
function pairSlurs(events: readonly Event[]): Map<Event, { open: number[]; close: number[] }> {
  const pairs = new Map<Event, { open: number[]; close: number[] }>();
  const at = (event: Event) =>
    pairs.get(event) ?? (pairs.set(event, { open: [], close: [] }).get(event) as { open: number[]; close: number[] });
  const waiting: Event[] = [];
  const free = [6, 5, 4, 3, 2, 1];
  const open: { number: number; from: Event; to: Event }[] = [];
  for (const event of events) {
    for (let k = 0; k < (event.slurs?.close ?? 0); k++) {
      const from = waiting.pop();
      if (from) open.push({ number: 0, from, to: event });
    }
    for (let k = 0; k < (event.slurs?.open ?? 0); k++) waiting.push(event);
  }
  const order = new Map(events.map((e, i) => [e, i]));
  const starts = [...open].sort((a, b) => (order.get(a.from) as number) - (order.get(b.from) as number));
  let live: typeof open = [];
  for (const pair of starts) {
    const now = order.get(pair.from) as number;
    for (const done of live.filter((p) => (order.get(p.to) as number) <= now)) free.push(done.number);
    live = live.filter((p) => (order.get(p.to) as number) > now);
    const number = free.pop();
    if (number === undefined || pair.from === pair.to) continue;
    pair.number = number;
    live.push(pair);
    at(pair.from).open.push(number);
    at(pair.to).close.push(number);
  }
  return pairs;
}

function keyXml(key: Key): string {
  if (!key.extra) return el("key", {}, text("fifths", signature(key)), text("mode", key.mode));
  const altered = STEPS.filter((s) => alterIn(key, s) !== 0);
  if (altered.length === 0) return el("key", {}, text("fifths", 0));
  return el("key", {}, ...altered.flatMap((s) => [text("key-step", s), text("key-alter", alterIn(key, s))]));
}

function timeXml(metre: Metre, shown = true): string {
  if (metre.symbol === "free") return el("time", { "print-object": "no" }, el("senza-misura"));
  return el(
    "time",
    { symbol: metre.symbol, "print-object": shown ? undefined : "no" },
    text("beats", metre.beats),
    text("beat-type", metre.unit),
  );
}

function harmonyXml(chord: SheetChord, offset: number): string {
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
    text("kind", KINDS[parsed.suffix] ?? "other", { text: parsed.suffix || undefined }),
    parsed.bass ? note(parsed.bass, "bass") : undefined,
    offset > 0 ? text("offset", offset) : undefined,
  );
}

function lyricsXml(event: Event): string[] {
  return (event.lyrics ?? []).flatMap((syllable, verse) =>
    syllable
      ? [
          el(
            "lyric",
            { number: verse + 1 },
            text("syllabic", syllable.hyphen ? "begin" : "single"),
            text("text", syllable.text),
          ),
        ]
      : [],
  );
}
