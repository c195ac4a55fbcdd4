import type { ChordLock } from "../chords";
import type { HarmonyLock } from "../harmony";
import { type Bar, barLabel, type Event, metreName, type Place, places, type Tune } from "../score";
import { keyName, pitchName } from "../theory";
import { readWork } from "./migrate";
import type { Feel, Line, Player, Work } from "./work";

// One tune changed in two places: what differs, and both changes in one where neither touches the other.

/** Something in which two states of a work differ. `bar` is an index; what concerns no bar has none. */
export type Difference = { place: string; bar?: number; here: string; there: string };

type Value = unknown;
const isRecord = (value: Value): value is Record<string, Value> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** Whether two values of stored data are the same; the order of keys means nothing. */
export function same(a: Value, b: Value): boolean {
  if (a === b) return true;
  if (Array.isArray(a)) return Array.isArray(b) && a.length === b.length && a.every((item, i) => same(item, b[i]));
  if (!isRecord(a) || !isRecord(b)) return false;
  const keys = (of: Record<string, Value>) => Object.keys(of).filter((key) => of[key] !== undefined);
  return keys(a).length === keys(b).length && keys(a).every((key) => Object.hasOwn(b, key) && same(a[key], b[key]));
}

const eventWords = ({ pitches, ticks }: Event): string =>
  `${pitches.length ? pitches.map(pitchName).join("+") : "rest"}:${ticks}`;
/** The notes of a bar; with their lengths only where the names alone would not tell two bars apart. */
function barWords(bar: Bar | undefined, other: Bar | undefined): string {
  if (!bar) return "no such bar";
  const names = (of: Bar) => of.events.map((e) => eventWords(e).replace(/:.*/, "")).join(" ");
  if (!other || names(bar) !== names(other)) return names(bar);
  return same(bar.events, other.events) ? `${names(bar)}, other signs` : `${names(bar)}, other lengths or signs`;
}

/** Facts of a tune a teacher would name, as words. */
const FACTS: readonly (readonly [string, (tune: Tune) => string])[] = [
  ["title", (t) => t.title],
  ["key", (t) => keyName(t.key)],
  ["metre", (t) => metreName(t.metre)],
  ["tempo", (t) => (t.tempo ? `${t.tempo.bpm}` : "none given")],
  ["composer", (t) => t.composer],
  ["source", (t) => t.source],
  ["rights", (t) => t.rights],
  ["words", (t) => t.verses.join(" / ").slice(0, 80)],
];

/** What a teacher says of how a tune feels, as words. */
const FEELS: readonly (readonly [string, (feel: Feel) => string])[] = [
  ["danced as", (f) => f.groove ?? "its own dance"],
  ["strength of the feel", (f) => `${f.strength ?? 100} percent`],
  ["accents", (f) => f.own?.accents.join(" ") ?? "as the dance has them"],
  ["bowed", (f) => f.bowing?.style ?? "not chosen"],
  ["picked", (f) => f.plectrum?.style ?? "not chosen"],
  ["strummed", (f) => (f.strum ? `${f.strum.grid ?? f.strum.style} on the ${f.strum.instrument}` : "not chosen")],
  ["feel of single times through", (f) => `${f.passes?.length ?? 0} set`],
];
/** What is settled of the strokes of a bar, and of its fingering. */
const strokeWords = ({ feel: { bowing, plectrum, strum } }: Work, bar: number): string =>
  listed(
    [bowing, plectrum, strum].flatMap((plan) => plan?.locks.filter((l) => l.bar === bar).map((l) => l.value) ?? []),
  );
const fingerWords = ({ hands = [] }: Work, bar: number): string =>
  listed(hands.flatMap((h) => h.locks.filter((l) => l.bar === bar).map((l) => `string ${l.string}, fret ${l.fret}`)));

const lineWords = (line: Line | undefined): string =>
  line ? `${line.school}, ${line.side}, for the ${line.instrument}` : "none";
const playerWords = (player: Player | undefined): string =>
  player ? `${player.role} on the ${player.instrument}` : "nobody";
const unlocked = ({ kept }: { kept?: true | undefined }) => (kept ? ", unlocked" : "");
const lockWords = (lock: ChordLock): string => `${lock.symbol}${unlocked(lock)}`;
const noteWords = (lock: HarmonyLock): string => `${lock.pitch ? pitchName(lock.pitch) : "rest"}${unlocked(lock)}`;
const listed = (words: readonly string[]): string => words.join(", ") || "nothing settled";

/**
 * What differs between the state here and the one there, as a teacher would say it: the whole first, then bar by bar.
 */
export function differences(here: Work, there: Work): Difference[] {
  const found: Difference[] = [];
  const tell = (place: string, a: string, b: string, bar?: number) => {
    if (a !== b) found.push({ place, here: a, there: b, ...(bar === undefined ? {} : { bar }) });
  };
  for (const [name, words] of FACTS) tell(name, words(here.tune), words(there.tune));
  tell("style of the chords", here.style, there.style);
  tell("chords of the file", here.fileChords ? "kept" : "not kept", there.fileChords ? "kept" : "not kept");
  tell("chords sound as", here.backing, there.backing);
  const ids = (key: "lines" | "players") => [...new Set([...here[key], ...there[key]].map((one) => one.id))];
  const of = <T extends { id: string }>(list: readonly T[], id: string) => list.find((one) => one.id === id);
  for (const id of ids("lines")) tell("harmony", lineWords(of(here.lines, id)), lineWords(of(there.lines, id)));
  for (const id of ids("players"))
    tell("player", playerWords(of(here.players, id)), playerWords(of(there.players, id)));
  for (const [name, words] of FEELS) tell(name, words(here.feel), words(there.feel));
  const on = ({ hands = [] }: Work) => new Map(hands.map((h) => [h.instrument, `${h.kind}, ${h.level}`]));
  for (const name of new Set([...on(here).keys(), ...on(there).keys()]))
    tell(`on the ${name}`, on(here).get(name) ?? "not yet", on(there).get(name) ?? "not yet");
  const [a, b] = [places(here.tune), places(there.tune)];
  const barName = (i: number) => {
    const place = a[i] ?? (b[i] as Place);
    return place.number ? `bar ${barLabel(place)}` : "bar 0, the pickup";
  };
  for (let i = 0; i < Math.max(a.length, b.length); i++) {
    const [mine, theirs] = [a[i]?.bar, b[i]?.bar];
    if (!same(mine, theirs))
      found.push({
        place: `${barName(i)}, notes`,
        bar: i,
        here: barWords(mine, theirs),
        there: barWords(theirs, mine),
      });
    const chords = ({ locks }: Work) => listed(locks.filter((l) => l.bar === i).map(lockWords));
    tell(`${barName(i)}, chords`, chords(here), chords(there), i);
    const notes = ({ lines }: Work) => listed(lines.flatMap((l) => l.locks.filter((k) => k.bar === i).map(noteWords)));
    tell(`${barName(i)}, harmony`, notes(here), notes(there), i);
    const schools = ({ lines }: Work) =>
      listed(lines.flatMap((l) => l.bars.filter((k) => k.bar === i).map((k) => k.school)));
    tell(`${barName(i)}, school`, schools(here), schools(there), i);
    tell(`${barName(i)}, strokes`, strokeWords(here, i), strokeWords(there, i), i);
    tell(`${barName(i)}, fingering`, fingerWords(here, i), fingerWords(there, i), i);
  }
  if (found.length === 0 && !same(here, there)) tell("something that is not shown", "one way", "another");
  return found;
}

/** Lists whose members are known by a name of their own rather than by their order. */
const NAMED: ReadonlyMap<string, (member: Record<string, Value>) => string> = new Map([
  ["lines", (m) => String(m.id)],
  ["players", (m) => String(m.id)],
  ["locks", (m) => `${m.bar}.${m.at}`],
  ["bars of a line", (m) => String(m.bar)],
  ["hands", (m) => String(m.instrument)],
  ["passes", (m) => `${m.strain}.${m.pass}`],
]);
/** Those whose members are joined within; a settled place, or one time through, is one thing. */
const WITHIN: ReadonlySet<string> = new Set(["lines", "players", "hands"]);

/** Both changes to one state in one, or undefined where they touch the same thing. */
function both(base: Value, mine: Value, theirs: Value, name: string, inLine = false): { value: Value } | undefined {
  const one = whole(base, mine, theirs);
  if (one) return one;
  if (isRecord(base) && isRecord(mine) && isRecord(theirs)) {
    const keys = new Set([...Object.keys(theirs), ...Object.keys(mine)]);
    const made: [string, Value][] = [];
    for (const key of keys) {
      const one = both(base[key], mine[key], theirs[key], key, inLine || name === "lines");
      if (!one) return undefined;
      if (one.value !== undefined) made.push([key, one.value]);
    }
    return { value: Object.fromEntries(made) };
  }
  const named = NAMED.get(name === "bars" && inLine ? "bars of a line" : name);
  // A list of named things that was not there yet was an empty one.
  const from = base ?? (named ? [] : undefined);
  if (!Array.isArray(from) || !Array.isArray(mine) || !Array.isArray(theirs)) return undefined;
  return named ? bothNamed(from, mine, theirs, name, named) : bothInOrder(from, mine, theirs, name);
}

/** One of two changes to a thing that is not divided; undefined where both changed it. */
function whole(base: Value, mine: Value, theirs: Value): { value: Value } | undefined {
  if (same(mine, base) || same(mine, theirs)) return { value: theirs };
  return same(theirs, base) ? { value: mine } : undefined;
}

function bothNamed(
  base: readonly Value[],
  mine: readonly Value[],
  theirs: readonly Value[],
  name: string,
  nameOf: (member: Record<string, Value>) => string,
): { value: Value } | undefined {
  const by = (list: readonly Value[]) => new Map(list.filter(isRecord).map((m) => [nameOf(m), m] as const));
  const [from, own, other] = [by(base), by(mine), by(theirs)];
  const made: Value[] = [];
  for (const key of new Set([...other.keys(), ...own.keys()])) {
    const [was, here, there] = [from.get(key), own.get(key), other.get(key)];
    const one = WITHIN.has(name) ? both(was, here, there, name) : whole(was, here, there);
    if (!one) return undefined;
    if (one.value !== undefined) made.push(one.value);
  }
  return { value: WITHIN.has(name) || name === "passes" ? made : inPlace(made) };
}

/** Settled places in the order of the tune. */
const inPlace = (list: readonly Value[]): Value[] =>
  list.filter(isRecord).sort((a, b) => Number(a.bar) - Number(b.bar) || Number(a.at ?? 0) - Number(b.at ?? 0));

function bothInOrder(
  base: readonly Value[],
  mine: readonly Value[],
  theirs: readonly Value[],
  name: string,
): { value: Value } | undefined {
  // A bar is one thing: two changes inside it are weighed by the teacher. So is a list that grew or shrank.
  if (name !== "strains" && name !== "bars") return undefined;
  if (base.length !== mine.length || base.length !== theirs.length) return undefined;
  const made = base.map((item, i) => both(item, mine[i], theirs[i], name === "strains" ? "strain" : "bar"));
  return made.every((one) => one !== undefined) ? { value: made.map((one) => one.value) } : undefined;
}

/** Whether settled places of one list overlap. */
const overlap = (locks: readonly { bar: number; at: number; ticks?: number | undefined }[]): boolean =>
  locks.some((a, i) =>
    locks.some((b, k) => k < i && a.bar === b.bar && a.at < b.at + (b.ticks ?? 1) && b.at < a.at + (a.ticks ?? 1)),
  );

/**
 * Both changes to a state in one work. Undefined where they touch the same bar, place or setting, or where one changed
 * the number of bars: then one of them has to be chosen.
 */
export function joined(base: Work, mine: Work, theirs: Work): Work | undefined {
  const count = ({ tune }: Work) => tune.strains.map((s) => s.bars.length).join();
  if (count(base) !== count(mine) || count(base) !== count(theirs)) return undefined;
  const made = both(base, mine, theirs, "work");
  if (!made) return undefined;
  const work = readWork(made.value);
  const { bowing, plectrum, strum } = work.feel;
  const strokes = [bowing, plectrum, strum].flatMap((plan) => (plan ? [plan.locks] : []));
  const lists = [
    work.locks,
    ...work.lines.map((l) => l.locks),
    ...work.players.map((p) => p.locks),
    ...strokes,
    ...(work.hands ?? []).map((h) => h.locks),
  ];
  return lists.some(overlap) ? undefined : work;
}
