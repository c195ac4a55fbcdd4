import {
  barTicks,
  beatTicks,
  cutAt,
  type Change,
  type Event,
  laidEvents,
  type Metre,
  QUARTER,
  rest,
  type Sheet,
  type Staff,
  type Tune,
  tuneSheet,
  places as placesOf,
  type Place,
} from "../../score";
import { alterIn, type Key, type Pitch, STEPS, type Step } from "../../theory";
import { BARLINE_SIGN, DECORATIONS, MODE_SUFFIX, SHORT_SIGNS } from "./words";

const WHOLE = 4 * QUARTER;
const NAME_OF = new Map([...DECORATIONS].reverse().map(([name, mark]) => [mark, name]));
const PLACE_SIGN = { above: "^", below: "_", left: "<", right: ">", near: "@0,0 " } as const;

/** Writes a tune as ABC 2.1, header and all. Reading it again gives the same tune. */
export function tuneAbc(tune: Tune, number = 1): string {
  const from = placesOf(tune);
  const fields: [string, string][] = [
    ["X", String(number)],
    ["T", tune.title],
    ...tune.otherTitles.map((t): [string, string] => ["T", t]),
    ["C", tune.composer],
    ["O", tune.origin],
    ["R", danceText(tune)],
    ["S", tune.source],
    ...tune.notes.split("\n").map((n): [string, string] => ["N", n]),
    ...(tune.rights === "unknown" ? [] : [["N", `Rights: ${tune.rights}`] as [string, string]]),
  ];
  const labels = new Map<number, string>();
  let first = 0;
  for (const strain of tune.strains) {
    if (strain.named) labels.set(first, strain.label);
    first += strain.bars.length;
  }
  const strainStarts = new Set(from.filter((p, i) => i === 0 || from[i - 1]?.strain !== p.strain).map((p) => p.index));
  return joinedLines([
    ...heading(fields),
    ...setting(tune.metre, tune.unit, tune.tempo),
    `K:${keyText(tune.key)}`,
    ...body(tuneSheet(tune, from), tune.key, tune.unit, labels, strainStarts),
    ...tune.verses.map((v) => `W:${oneLine(v)}`),
  ]);
}

/** Writes a sheet as ABC 2.1, one voice a staff. */
export function sheetAbc(sheet: Sheet, number = 1): string {
  const start = sheet.places[0];
  if (!start) return "";
  const fields: [string, string][] = [
    ["X", String(number)],
    ["T", sheet.title],
    ["T", sheet.subtitle],
    ["C", sheet.composer],
  ];
  const unit = WHOLE / 8;
  return joinedLines([
    ...heading(fields),
    ...setting(start.metre, unit, sheet.tempo),
    `K:${keyText(start.key)}`,
    ...body(sheet, start.key, unit, new Map(), new Set()),
  ]);
}

/**
 * Capitals keep a widespread player from bending a hornpipe's written rhythm, or refusing it in cut time; reading
 * lowers them again.
 */
const danceText = ({ rhythm }: Tune) => (rhythm.startsWith("hornpipe") ? rhythm.toUpperCase() : rhythm);

/** Everything some reader takes for the end of a line. */
const BREAKS = /[\r\n\v\f\u0085\u2028\u2029]+/g;
/** Lines as a text. What comes from words, chords or syllables never starts a line, which could be a field. */
const joinedLines = (lines: readonly string[]): string =>
  lines.map((line) => `${line.replace(BREAKS, " ")}\n`).join("");

const oneLine = (text: string) => text.replace(BREAKS, " ").replaceAll("%", "\\%").trim();
/** Text between quotes in a line of music. */
const quoted = (text: string) => oneLine(text.replaceAll("\\", "/")).replaceAll('"', "'");
const heading = (fields: [string, string][]) =>
  fields.filter(([, v]) => v).map(([letter, value]) => `${letter}:${oneLine(value)}`);
const setting = (metre: Metre, unit: number, tempo: Tune["tempo"]) => [
  `M:${metreText(metre)}`,
  `L:${fraction(unit, WHOLE)}`,
  ...(tempo ? [`Q:${tempoText(tempo)}`] : []),
];

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);
const fraction = (n: number, d: number) => `${n / gcd(n, d)}/${d / gcd(n, d)}`;
const tempoText = (tempo: NonNullable<Tune["tempo"]>) => `${fraction(tempo.beat, WHOLE)}=${tempo.bpm}`;
const SYMBOLS = { common: "C", cut: "C|", free: "none" } as const;
const metreText = (metre: Metre) => (metre.symbol ? SYMBOLS[metre.symbol] : `${metre.beats}/${metre.unit}`);

function keyText(key: Key): string {
  const extra = STEPS.filter((s) => key.extra?.[s] !== undefined).map(
    (s) => ` ${ACCIDENTAL[String(key.extra?.[s])]}${s.toLowerCase()}`,
  );
  return key.tonic + MODE_SUFFIX[key.mode] + extra.join("");
}

const ACCIDENTAL: Record<string, string> = { "-2": "__", "-1": "_", "0": "=", "1": "^", "2": "^^" };

/** Music lines: four bars a line, voices in turn, words under the first staff. */
function body(
  sheet: Sheet,
  key: Key,
  unit: number,
  labels: ReadonlyMap<number, string>,
  breaks: ReadonlySet<number>,
): string[] {
  const writers = sheet.staves.map((staff, i) => new VoiceWriter(sheet, staff, key, unit, i === 0));
  const lines: string[] = [];
  if (writers.length > 1) {
    sheet.staves.forEach(({ name, clef }, i) => {
      const signed = clef === "treble" ? "" : ` clef=${clef}`;
      lines.push(`V:${i + 1} name="${oneLine(name).replaceAll('"', "'")}"${signed}`);
    });
  }
  for (let i = 0; i < sheet.places.length; ) {
    const label = labels.get(i);
    if (label) lines.push(`P:${oneLine(label)}`);
    let end = i + 1;
    while (
      end < sheet.places.length &&
      end < i + (sheet.places[i]?.pickup ? 5 : 4) &&
      !labels.has(end) &&
      !breaks.has(end)
    )
      end += 1;
    writers.forEach((writer, v) => {
      if (writers.length > 1) lines.push(`V:${v + 1}`);
      lines.push(...writer.line(i, end));
    });
    i = end;
  }
  return lines;
}

/** Writes one staff bar by bar, remembering the key and the accidentals in force. */
class VoiceWriter {
  private accidentals = new Map<Step, { alter: number; octave: number }>();
  private tied = new Set<string>();
  /** Events of the bar being written. */
  private now: readonly Event[] = [];

  constructor(
    private sheet: Sheet,
    private staff: Staff,
    private key: Key,
    private unit: number,
    private leads: boolean,
  ) {}

  line(from: number, to: number): string[] {
    let text = "";
    const verses: string[][] = [];
    this.sung = 0;
    for (let i = from; i < to; i++) {
      const place = this.sheet.places[i] as Place;
      const events = laidEvents(this.staff.bars[i] ?? [rest(place.ticks)], place.metre, place.offset);
      text +=
        this.opening(i) +
        this.bar(place, events, this.leads ? this.sheet.chords.filter((c) => c.bar === i) : []) +
        this.closing(i);
      this.sing(events, verses);
    }
    return [
      text,
      ...(this.leads && this.staff.lyrics !== false
        ? verses.filter((v) => v.some((s) => s.trim() !== "*")).map((v) => `w:${v.join("")}`)
        : []),
    ];
  }

  /** Repeat and ending signs before a bar. */
  private opening(i: number): string {
    const { bar } = this.sheet.places[i] as Place;
    return (bar.repeatStart ? "|:" : "") + (bar.ending ? `[${bar.ending.join(",")} ` : "");
  }

  private closing(i: number): string {
    const { bar } = this.sheet.places[i] as Place;
    if (bar.repeatEnd) return ":|";
    if (bar.barline === "single" && this.sheet.places[i + 1]?.bar.repeatStart) return "";
    return BARLINE_SIGN[bar.barline];
  }

  private bar(place: Place, events: readonly Event[], chords: readonly { at: number; symbol: string }[]): string {
    this.accidentals.clear();
    this.now = events;
    const beat = beatTicks(place.metre);
    const beam =
      barTicks(place.metre) % (2 * beat) === 0 && place.metre.unit <= 4 && place.metre.beats !== 2 ? 2 * beat : beat;
    let text = "";
    let at = 0;
    const waiting = [...chords].sort((a, b) => a.at - b.at);
    for (const event of events) {
      for (const change of place.bar.changes.filter((c) => c.at === at || (c.at > at && c.at < at + event.ticks)))
        text += this.changeText(change, place, at);
      for (const piece of cutAt(
        event,
        waiting.map((c) => c.at - at),
      )) {
        let signs = "";
        while (waiting[0] && waiting[0].at <= at) signs += `"${quoted(waiting.shift()?.symbol ?? "")}"`;
        text += this.event(piece, signs);
        at += piece.ticks;
      }
      if ((place.offset + at) % beam === 0 || event.ticks >= QUARTER) text += " ";
    }
    return `${text.trimEnd()} `;
  }

  private changeText(change: Change, place: Place, at: number): string {
    let text = "";
    if (change.metre && !(place.index === 0 && at === 0)) text += `[M:${metreText(change.metre)}]`;
    if (change.tempo) text += `[Q:${tempoText(change.tempo)}]`;
    if (change.key) {
      text += `[K:${keyText(change.key)}]`;
      this.key = change.key;
    }
    return text;
  }

  private event(event: Event, signs: string): string {
    const { tuplet } = event;
    const open = tuplet?.place === "first" ? `(${tuplet.actual}:${tuplet.normal}:${this.tupletCount(event)}` : "";
    const words = (event.words ?? []).map((w) => `"${PLACE_SIGN[w.place]}${quoted(w.text)}"`).join("");
    const continues = event.pitches.some((p) => this.tied.has(`${p.step}${p.octave}:${p.alter}`));
    // Named marks before short signs, and no short sign on a note held from the last: other readers stumble there.
    const short = (event.marks ?? []).filter((m) => SHORT_SIGNS[m] && !continues);
    const marks = [
      ...fingersOf(event).map((f) => `!${f}!`),
      ...(event.marks ?? []).filter((m) => !short.includes(m)).map((m) => `!${NAME_OF.get(m)}!`),
      ...short.map((m) => SHORT_SIGNS[m]),
    ].join("");
    const graces = event.grace?.map((g) => this.pitch(g.pitches[0] as Pitch, false) + length(g.ticks, QUARTER / 2));
    const grace = graces ? `{${event.graceSlash ? "/" : ""}${graces.join("")}}` : "";
    const slurs = event.slurs ?? { open: 0, close: 0 };
    const written = tuplet ? (event.ticks * tuplet.actual) / tuplet.normal : event.ticks;
    const sound = event.pitches.map((p) => this.pitch(p, true));
    const rest = event.invisible ? "x" : "z";
    const body = sound.length > 1 ? `[${sound.join("")}]` : (sound[0] ?? rest);
    this.tied = new Set(event.tie ? event.pitches.map((p) => `${p.step}${p.octave}:${p.alter}`) : []);
    return (
      open +
      signs +
      words +
      "(".repeat(slurs.open) +
      grace +
      marks +
      body +
      length(written, this.unit) +
      (event.tie ? "-" : "") +
      ")".repeat(slurs.close)
    );
  }

  /** Notes of the tuplet that starts here: up to its last, or as far as tuplet notes go on in the bar. */
  private tupletCount(first: Event): number {
    const rest = this.now.slice(this.now.indexOf(first) + 1);
    const after = rest.findIndex((e) => !e.tuplet || e.tuplet.place === "first");
    const inside = after < 0 ? rest : rest.slice(0, after);
    const last = inside.findIndex((e) => e.tuplet?.place === "last");
    return 1 + (last < 0 ? inside.length : last + 1);
  }

  private pitch(pitch: Pitch, ties: boolean): string {
    const now = this.accidentals.get(pitch.step);
    const tied = ties && this.tied.has(`${pitch.step}${pitch.octave}:${pitch.alter}`);
    const expected = now ? now.alter : alterIn(this.key, pitch.step);
    // An accidental set in another octave is written again, for readers that keep octaves apart.
    const sign =
      !tied && (expected !== pitch.alter || (now && now.octave !== pitch.octave))
        ? ACCIDENTAL[String(pitch.alter)]
        : "";
    if (sign) this.accidentals.set(pitch.step, { alter: pitch.alter, octave: pitch.octave });
    const letter =
      pitch.octave >= 5
        ? pitch.step.toLowerCase() + "'".repeat(pitch.octave - 5)
        : pitch.step + ",".repeat(4 - pitch.octave);
    return sign + letter;
  }

  private sing(events: readonly Event[], verses: string[][]) {
    const notes = events.filter((e) => e.pitches.length > 0);
    const count = Math.max(verses.length, ...notes.map((e) => e.lyrics?.length ?? 0));
    for (let v = 0; v < count; v++) {
      verses[v] ??= [];
      if (verses[v]?.length === 0 && this.sung > 0) verses[v]?.push("* ".repeat(this.sung));
      for (const event of notes) {
        const syllable = event.lyrics?.[v];
        const text = syllable?.text
          .replace(/[-_*|~\\%]/g, "\\$&")
          .replace(BREAKS, " ")
          .replaceAll(" ", "~");
        verses[v]?.push(text ? text + (syllable?.hyphen ? "-" : " ") : "* ");
      }
    }
    this.sung += notes.length;
  }

  private sung = 0;
}

/** The fingers of an event's notes, from the lowest; none where they are marked already, and none twice. */
function fingersOf({ technique, marks = [] }: Event): number[] {
  if (marks.some((m) => m.startsWith("finger "))) return [];
  return [...new Set((technique?.notes ?? []).flatMap(({ finger }) => finger ?? []))];
}

/** A length as ABC writes it after a note: nothing for the unit, 2, 3/2, /2. */
function length(ticks: number, unit: number): string {
  const [n, d] = [ticks / gcd(ticks, unit), unit / gcd(ticks, unit)];
  if (d === 1) return n === 1 ? "" : String(n);
  return `${n === 1 ? "" : n}/${d}`;
}
