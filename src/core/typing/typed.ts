import type { Instrument } from "../instruments";
import {
  type Bar,
  barred,
  barTicks,
  type Event,
  isCompound,
  laidTune,
  lengthOf,
  type Metre,
  QUARTER,
  type Strain,
  type Tune,
  tupletPlace,
  BLANK,
} from "../score";
import { semitonesOf } from "../technique";
import {
  alterIn,
  className,
  type Key,
  midi,
  naturalAt,
  diatonic,
  type Pitch,
  spell,
  STEPS,
  type Step,
} from "../theory";
import { stringName, SYLLABLES } from "../spelling";

/** Spellings in which notes can be typed. */
export const TYPED = ["letters", "string and finger", "syllables", "frets"] as const;
export type TypedSpelling = (typeof TYPED)[number];

export type TypedSetting = {
  spelling: TypedSpelling;
  key: Key;
  metre: Metre;
  /** Ticks of one step. */
  step: number;
  on: Instrument;
  title?: string;
};
/**
 * Something typed that cannot be read, or a bar that does not add up: characters from and to (exclusive), what it is,
 * what to do.
 */
export type TypedProblem = { from: number; to: number; message: string };
export type TypedTune = { tune: Tune | undefined; problems: TypedProblem[]; notes: number };

/** Most characters taken. */
const LONGEST = 20_000;
/** Notes in the time of how many, for groups in brackets. */
const GROUPS: Record<number, number> = { 2: 3, 3: 2, 4: 3, 5: 4, 6: 4, 7: 6 };
/** Where the first note is looked for: the second line of a treble staff, so that D is the fiddle's own. */
const HOME: Pitch = { step: "G", alter: 0, octave: 4 };

/** The usual step of a metre: an eighth. */
export const stepOf = (metre: Metre): number => (metre.unit >= 8 ? (4 * QUARTER) / metre.unit : QUARTER / 2);

type State = { last: Pitch; string: number | undefined };

/**
 * Reads typed notes. Notes stand apart by spaces; each lasts one step. `-` after a note or alone holds it one step
 * more, `/` halves it,
 * `.` makes it half as long again; `_` is a rest; `!` an accent; brackets squeeze (three in the time of two); `>` and
 * `<` before a
 * name ask for the next one up or down; `|`, `||`, `|:` and `:|` are bar lines. Without bar lines, bars fill by the
 * metre.
 * What cannot be read is left out and named with its place; the rest is read all the same.
 */
export function readTyped(text: string, setting: TypedSetting): TypedTune {
  const problems: TypedProblem[] = [];
  if (text.length > LONGEST)
    problems.push({
      from: LONGEST,
      to: text.length,
      message: `Only the first ${LONGEST} characters are read. Type longer tunes in pieces.`,
    });
  const bars: { bar: Bar; from: number; to: number }[] = [];
  let bar = emptyBar();
  let opened = 0;
  const state: State = { last: { ...HOME, alter: alterIn(setting.key, "G") }, string: undefined };
  let group: { from: number; events: Event[] } | undefined;
  let notes = 0;
  let lined = false;
  const close = (to: number) => {
    if (bar.events.length) bars.push({ bar, from: opened, to });
    bar = bar.events.length ? emptyBar() : bar;
    opened = to;
  };
  const last = (): Event | undefined => group?.events.at(-1) ?? bar.events.at(-1) ?? bars.at(-1)?.bar.events.at(-1);
  for (const { 0: word, index } of text.slice(0, LONGEST).matchAll(/\|:|:\||\|\||\||[()]|[^\s|()]+(?<!:(?=\|))/g)) {
    const end = index + word.length;
    const problem = (message: string) => problems.push({ from: index, to: end, message });
    if (BARS[word]) {
      lined = true;
      if (group) problem("A bracket is still open here. Close it before the bar line.");
      group = undefined;
      if (word === ":|") (bar.events.length ? bar : (bars.at(-1)?.bar ?? bar)).repeatEnd = 2;
      const line = BARS[word].barline;
      if (bar.events.length) bar.barline = line;
      else if (bars.length && line !== "single") (bars.at(-1) as { bar: Bar }).bar.barline = line;
      close(end);
      if (word === "|:") bar.repeatStart = true;
    } else if (word === "(") group = { from: index, events: [] };
    else if (word === ")") {
      if (!group) problem("There is no open bracket before this one.");
      else squeeze(group.events, (message) => problems.push({ from: group?.from ?? index, to: end, message }));
      group = undefined;
    } else if (/^-+$/.test(word)) {
      const held = last();
      const ticks = word.length * setting.step;
      if (!held) problem("There is no note before this to hold.");
      else if (bar.events.length || group) held.ticks += ticks;
      else {
        if (held.pitches.length) held.tie = true;
        bar.events.push({ ticks, pitches: held.pitches });
      }
    } else {
      const read = note(word, setting, state);
      if ("string" in read) state.string = read.string;
      else if ("message" in read) problem(read.message);
      else {
        (group?.events ?? bar.events).push(read.event);
        if (group) bar.events.push(read.event);
        if (read.event.pitches.length) {
          notes += 1;
          state.last = read.event.pitches[0] as Pitch;
        }
      }
    }
  }
  if (group)
    problems.push({
      from: group.from,
      to: group.from + 1,
      message: "This bracket is never closed. Write ) after the last note of the group.",
    });
  close(text.length);
  const full = barTicks(setting.metre);
  const music =
    lined || full === 0
      ? bars.map((b) => b.bar)
      : barred(
          bars.flatMap((b) => b.bar.events),
          [full],
        ).map((events): Bar => ({ ...emptyBar(), events }));
  if (lined && full > 0)
    for (const [i, b] of bars.entries()) measure(b, i === 0 || i === bars.length - 1, full, setting, problems);
  if (notes === 0) return { tune: undefined, problems, notes };
  const end = music.at(-1);
  if (end && end.barline === "single") end.barline = "final";
  return { tune: laidTune(tuneOf(music, setting)), problems: problems.sort((a, b) => a.from - b.from), notes };
}

const BARS: Record<string, { barline: Bar["barline"] }> = {
  "|": { barline: "single" },
  "||": { barline: "double" },
  "|:": { barline: "single" },
  ":|": { barline: "final" },
};
const emptyBar = (): Bar => ({ events: [], chords: [], changes: [], barline: "single" });

function squeeze(events: Event[], problem: (message: string) => void) {
  const normal = GROUPS[events.length];
  if (!normal) return problem("A bracket holds two to seven notes.");
  const total = Math.round((lengthOf(events) * normal) / events.length);
  events.forEach((e, i) => {
    e.ticks = Math.round((e.ticks * normal) / events.length);
    e.tuplet = { actual: events.length, normal, place: tupletPlace(i, events.length) };
  });
  const off = total - lengthOf(events);
  if (off) (events.at(-1) as Event).ticks += off;
}

function measure(
  { bar, from, to }: { bar: Bar; from: number; to: number },
  edge: boolean,
  full: number,
  { step, metre }: TypedSetting,
  problems: TypedProblem[],
) {
  const ticks = lengthOf(bar.events);
  if (ticks === full || (edge && ticks < full)) return;
  const steps = (n: number) => `${Math.round((n / step) * 100) / 100}`;
  const holds = `This bar holds ${steps(ticks)} steps, and ${metre.beats}/${metre.unit} takes ${steps(full)}.`;
  problems.push({ from, to, message: `${holds} ${ticks < full ? TOO_SHORT : TOO_LONG}` });
}

const TOO_SHORT = "Hold a note longer with -, or add a rest _.";
const TOO_LONG = "Shorten a note with /, or move the bar line.";

type Read = { event: Event } | { string: number } | { message: string };

const LENGTH = /([-/.!]*)$/;
/** What each sign after a note makes of its length; an accent leaves it alone. */
const LENGTHENED: Record<string, (ticks: number, step: number) => number> = {
  "-": (ticks, step) => ticks + step,
  "/": (ticks) => ticks / 2,
  ".": (ticks) => ticks * 1.5,
};

function note(word: string, setting: TypedSetting, state: State): Read {
  const string = /^([A-Ga-g](?:#|b)?\d?|\d):$/.exec(word);
  if (string) return stringCalled(string[1] as string, setting.on);
  const marks = LENGTH.exec(word)?.[1] ?? "";
  const name = word.slice(0, word.length - marks.length);
  let ticks = setting.step;
  for (const sign of marks) ticks = LENGTHENED[sign]?.(ticks, setting.step) ?? ticks;
  if (!Number.isInteger(ticks) || ticks < 1) return { message: `"${word}" is shorter than can be written.` };
  const accent = marks.includes("!") ? { marks: ["accent" as const] } : {};
  if (name === "_") return { event: { ticks, pitches: [] } };
  const pitch = NAMERS[setting.spelling](name, setting, state);
  return "message" in pitch ? pitch : { event: { ticks, pitches: [pitch], ...accent } };
}

function stringCalled(name: string, on: Instrument): Read {
  const wanted = name[0]?.toUpperCase() + name.slice(1);
  const string = on.strings.findIndex(
    ({ number, open }, i) => stringName(on, i) === wanted || className(open) === wanted || String(number) === name,
  );
  if (string >= 0) return { string };
  const strings = on.strings.map((_, i) => stringName(on, i)).join(", ");
  return { message: `The ${on.name} has no ${wanted} string. Its strings are ${strings}.` };
}

const SIGNS: Record<string, number> = { "#": 1, "♯": 1, "##": 2, b: -1, "♭": -1, bb: -2, n: 0, "♮": 0 };

/** The nearest note of a name to the last one; each arrow asks for the next one further up or down. */
function placed(step: Step, alter: number, arrows: string, octave: string, last: Pitch): Pitch {
  if (octave) return { step, alter, octave: Number(octave) };
  const base = STEPS.indexOf(step);
  const from = diatonic(last);
  const near = base + 7 * Math.round((from - base) / 7);
  const ups = arrows.split(">").length - 1;
  const downs = arrows.split("<").length - 1;
  const lower = downs ? base + 7 * (Math.ceil((from - base) / 7) - downs) : near;
  const next = ups ? base + 7 * (Math.floor((from - base) / 7) + ups) : lower;
  return { ...naturalAt(Math.max(-14, Math.min(76, next))), alter };
}

type Namer = (name: string, setting: TypedSetting, state: State) => Pitch | { message: string };

const NAMERS: Record<TypedSpelling, Namer> = {
  letters: (name, { key }, { last }) => {
    const match = /^([<>]*)([A-Ga-g])(##|#|♯|bb|b|♭|n|♮)?(\d)?$/.exec(name);
    if (!match) return { message: `"${name}" is not a note letter. Write A to G, with # b or n: F#, Bb, Fn.` };
    const step = (match[2] as string).toUpperCase() as Step;
    return placed(step, match[3] ? (SIGNS[match[3]] ?? 0) : alterIn(key, step), match[1] ?? "", match[4] ?? "", last);
  },
  syllables: (name, { key }, { last }) => {
    const match = /^([<>]*)(do|ut|re|ré|mi|fa|sol|so|la|si|ti)(##|#|♯|bb|b|♭|n|♮)?(\d)?$/i.exec(name);
    if (!match) return { message: `"${name}" is not a syllable. Write do re mi fa sol la si, with # b or n.` };
    const word = (match[2] as string).toLowerCase();
    const index = (SYLLABLES as readonly string[]).indexOf(
      ({ ut: "do", ré: "re", so: "sol", ti: "si" } as Record<string, string>)[word] ?? word,
    );
    const step = STEPS[index] as Step;
    return placed(step, match[3] ? (SIGNS[match[3]] ?? 0) : alterIn(key, step), match[1] ?? "", match[4] ?? "", last);
  },
  "string and finger": (name, { key, on }, { string }) => {
    const match = /^([LHlh]?)([0-4])$/.exec(name);
    if (!match)
      return { message: `"${name}" is not a finger. Write 0 to 4, L2 for a low second, H3 for a high third.` };
    if (string === undefined)
      return { message: `Name the string first, such as ${stringName(on, Math.min(1, on.strings.length - 1))}:` };
    const above = semitonesOf(on, Number(match[2]), (match[1] ?? "").toUpperCase() as "" | "L" | "H");
    return above === undefined
      ? { message: `There is no ${name} in first position.` }
      : spell(midi(on.strings[string]?.open as Pitch) + above, key);
  },
  frets: (name, { key, on }, { string }) => {
    if (string === undefined)
      return { message: `Name the string first, such as ${stringName(on, on.strings.length - 1)}:` };
    const fret = (on.frets ?? []).find((f) => f.label === name);
    return fret
      ? spell(midi(on.strings[string]?.open as Pitch) + fret.semitones, key)
      : { message: `The ${on.name} has no fret "${name}".` };
  },
};

function tuneOf(music: readonly Bar[], { key, metre, step, title }: TypedSetting): Tune {
  const strains: Strain[] = [];
  let open: Bar[] = [];
  music.forEach((bar, i) => {
    if (open.length && (bar.repeatStart || music[i - 1]?.repeatEnd || music[i - 1]?.barline === "double")) {
      strains.push({ label: String.fromCharCode(65 + strains.length), bars: open });
      open = [];
    }
    open.push(bar);
  });
  strains.push({ label: String.fromCharCode(65 + strains.length), bars: open });
  return {
    ...BLANK,
    title: title || "Untitled",
    key,
    metre,
    unit: isCompound(metre) || step <= QUARTER / 2 ? Math.max(QUARTER / 4, Math.min(step, QUARTER / 2)) : QUARTER / 2,
    strains,
  };
}

const accidental = (alter: number): string => (alter > 0 ? "#".repeat(alter) : "b".repeat(-alter) || "n");

/**
 * What to type for a sounding note, given what was typed before: the token that reads back as that note. Undefined
 * where the instrument cannot play it.
 */
export function tokenFor(noteNumber: number, text: string, setting: TypedSetting): string | undefined {
  const { key, on, spelling } = setting;
  const before = lastOf(text, setting);
  if (spelling === "letters" || spelling === "syllables") {
    const pitch = spell(noteNumber, key);
    const plain = spelling === "letters" ? pitch.step : (SYLLABLES[STEPS.indexOf(pitch.step)] as string);
    const sign = pitch.alter === alterIn(key, pitch.step) ? "" : accidental(pitch.alter);
    const tries = ["", ">", "<", ">>", "<<"].map((arrows) => `${arrows}${plain}${sign}`);
    return (
      tries.find((t) => {
        const read = NAMERS[spelling](t, setting, before);
        return !("message" in read) && midi(read) === noteNumber;
      }) ?? `${plain}${sign}${pitch.octave}`
    );
  }
  const fits = on.strings.flatMap(({ open }, string) => {
    const above = noteNumber - midi(open);
    const names =
      spelling === "frets"
        ? (on.frets ?? []).filter((f) => f.semitones === above).map((f) => f.label)
        : ["0", "1", "L1", "2", "L2", "3", "H3", "4"].filter(
            (n) => semitonesOf(on, Number(n.at(-1)), n.length > 1 ? (n[0] as "L" | "H") : "") === above,
          );
    return names.map((name) => ({ string, name, above }));
  });
  const best = fits.sort(
    (a, b) =>
      Number(b.string === before.string && b.above > 0) - Number(a.string === before.string && a.above > 0) ||
      a.above - b.above,
  )[0];
  if (!best) return undefined;
  return best.string === before.string ? best.name : `${stringName(on, best.string)}: ${best.name}`;
}

/** Where typing has got to: the last note and the string in force. */
function lastOf(text: string, setting: TypedSetting): State {
  const state: State = { last: { ...HOME, alter: alterIn(setting.key, "G") }, string: undefined };
  for (const word of text.split(/[\s|()]+/).filter(Boolean)) {
    const read = note(word, setting, state);
    if ("string" in read) state.string = read.string;
    else if ("event" in read && read.event.pitches[0]) state.last = read.event.pitches[0];
  }
  return state;
}
