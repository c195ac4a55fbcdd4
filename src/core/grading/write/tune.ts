import type { Instrument } from "../../instruments";
import { barLabel, isCounted, type Place, strength } from "../../score";
import { midi } from "../../theory";
import { type Draft, isWithin, lieOn, type Material, type Request, topOf } from "./material";
import { type Lying, thinned, type Wanted } from "./thinned";

/** Octaves that are tried, the instrument's own first. */
const OCTAVES = [0, 12, -12, 24, -24];
const OCTAVE = 12;

/** Where pitches lie, for crossings: strings; registers of what is blown; one place for all others. */
export function lyingOn(on: Instrument, strings: readonly number[] | null): Lying {
  if (on.family === "wind") {
    const low = midi(on.lowest);
    return (pitch) => Math.floor((pitch - low) / OCTAVE);
  }
  if (on.strings.length === 0) return () => 0;
  const known = new Map<number, number>();
  return (pitch) => {
    const found = known.get(pitch) ?? lieOn(on, pitch, strings)?.order ?? on.strings.length - 1;
    known.set(pitch, found);
    return found;
  };
}

/** How much more of a line another octave must hold than its own, as a share of its notes, before it goes there. */
const BETTER = 0.08;

/** By how many semitones a line is moved, octaves only, so that most of it lies within the limits; its own first. */
export function octaveFor(
  own: number,
  notes: readonly Wanted[],
  { limits }: Pick<Request, "limits">,
  octaves: readonly number[] = OCTAVES,
): number {
  const fits = (by: number) => notes.filter((n) => isWithin(limits, n.pitch + by)).length;
  const tries = octaves.map((o) => own + o);
  const [first = own] = tries;
  const best = tries.reduce((a, b) => (fits(b) > fits(a) ? b : a));
  return fits(best) > fits(first) + notes.length * BETTER ? best : first;
}

/** Share of the notes in the usual octave that another must hold to be offered. */
const AS_GOOD = 0.8;
/** The octave beside the usual one that holds most of a line; the usual one where none holds nearly as much. */
function otherOctave(usual: number, notes: readonly Wanted[], limits: Request["limits"]): number {
  const fits = (by: number) => notes.filter((n) => isWithin(limits, n.pitch + by)).length;
  const others = [usual - OCTAVE, usual + OCTAVE].filter((by) => fits(by) >= fits(usual) * AS_GOOD);
  return others.reduce((a, b) => (fits(b) > fits(a) ? b : a), others[0] ?? usual);
}

/** How far a part sounds off its page. */
function octaveWords(off: number): string {
  const far = Math.abs(off) === OCTAVE ? "an octave" : "two octaves";
  return `It sounds ${far} ${off < 0 ? "lower" : "higher"} than its page would.`;
}

/** Share of the tune's beats below which a part only catches notes of it. */
const CATCHES = 0.7;

/** How much more of a phrase another octave must hold, as a share of its notes, before the phrase goes there. */
const FOLDS = 0.25;

/** The phrase a bar is in, by its order; a pickup belongs to the phrase it leads into. */
const phraseOf = ({ phrases }: Material, bar: number): number => phrases.findIndex((p) => p.to >= bar);

/** Phrases that lie badly for a learner where the tune as a whole lies best: by how many semitones each is moved. */
function foldsOf(
  material: Material,
  notes: readonly Wanted[],
  by: number,
  limits: Request["limits"],
): ReadonlyMap<number, number> {
  const folds = new Map<number, number>();
  material.phrases.forEach((_, phrase) => {
    const own = notes.filter((n) => phraseOf(material, n.bar) === phrase);
    const share = (fold: number) => own.filter((n) => isWithin(limits, n.pitch + by + fold)).length / own.length;
    if (own.length === 0 || share(0) >= CATCHES) return;
    const fold = [-OCTAVE, OCTAVE].reduce((a, b) => (share(b) > share(a) ? b : a));
    if (share(fold) >= share(0) + FOLDS) folds.set(phrase, fold);
  });
  return folds;
}

/** Which bars lie in another octave than the rest. */
function foldWords({ phrases, places }: Material, phrase: number, fold: number): string {
  const { from, to } = phrases[phrase] as Material["phrases"][number];
  // A pickup has no number of its own to speak of.
  const own = places.slice(from, to + 1);
  const full = own.filter(isCounted);
  const [first, last] = [full[0] ?? own[0], own.at(-1)].map((p) => barLabel(p as Place));
  return `Bars ${first} to ${last} lie an octave ${fold < 0 ? "lower" : "higher"} than the rest.`;
}

/** The tune, as much of it as the learner plays: kept notes at their instants, so that all versions sound together. */
export function writeTune(material: Material, { on, limits, role, avoid }: Request): Draft {
  const { melody, places } = material;
  const plain = melody.map(
    (n): Wanted => ({
      bar: n.place.index,
      at: n.at - n.place.at,
      abs: n.at,
      ticks: Math.min(n.ticks, n.place.at + n.place.ticks - n.at),
      pitch: topOf(n.pitches),
    }),
  );
  const usual = octaveFor(on.transposition, plain, { limits });
  const by = avoid ? otherOctave(usual, plain, limits) : usual;
  const folds = foldsOf(material, plain, by, limits);
  const wanted = plain.map((n) => ({ ...n, pitch: n.pitch + by + (folds.get(phraseOf(material, n.bar)) ?? 0) }));
  const notes = thinned(material, wanted, limits, lyingOn(on, limits.strings));
  const beats = wanted.filter((n) => {
    const place = places[n.bar];
    return place !== undefined && strength(place, n.abs) >= 2;
  });
  const has = new Set(notes.map((n) => `${n.bar}.${n.at}.${n.pitches[0]}`));
  const kept = beats.filter((n) => has.has(`${n.bar}.${n.at}.${n.pitch}`)).length / Math.max(1, beats.length);
  const left = melody.length - notes.length;
  const leftOut: string[] = [];
  if (left > 0 && role === "simple melody")
    leftOut.push(`${left} of ${melody.length} notes: the beats carry the tune.`);
  else if (left > 0) leftOut.push(`${left} of ${melody.length} notes, which are too quick or too far tonight.`);
  const remarks = [...folds].map(([phrase, fold]) => foldWords(material, phrase, fold));
  if (by !== on.transposition) remarks.unshift(octaveWords(by - on.transposition));
  if (kept < CATCHES) remarks.unshift("It catches notes of the tune: own notes, rests elsewhere.");
  return { notes, leftOut, remarks, kept };
}

/** A harmony line as far as the learner can play it. */
export function writeHarmony(material: Material, { on, limits, role, avoid }: Request): Draft {
  const side = role === "high harmony" ? "above" : "below";
  const { places } = material;
  const plain = material.harmony(side, avoid !== undefined).notes.flatMap((n): Wanted[] => {
    const place = places[n.bar];
    if (!n.pitch || !place) return [];
    const ticks = Math.min(n.ticks, place.at + place.ticks - n.at);
    return ticks > 0 ? [{ bar: n.bar, at: n.at - place.at, abs: n.at, ticks, pitch: midi(n.pitch) }] : [];
  });
  // A low line goes down by octaves and a high one up, so that neither crosses the tune.
  const away = side === "below" ? [0, -12, -24] : [0, 12, 24];
  const by = octaveFor(0, plain, { limits }, away);
  const wanted = plain.map((n) => ({ ...n, pitch: n.pitch + by }));
  const notes = thinned(material, wanted, limits, lyingOn(on, limits.strings));
  const left = wanted.length - notes.length;
  return {
    notes,
    leftOut: left > 0 ? [`${left} of ${wanted.length} notes of the line, which move too quickly or too far.`] : [],
    kept: notes.length / Math.max(1, wanted.length),
  };
}
