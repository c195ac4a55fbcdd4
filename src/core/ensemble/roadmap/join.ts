import type { Analysis } from "../../analysis";
import type { Learner } from "../../grading";
import type { Instrument } from "../../instruments";
import { barTicks, beatTicks, isCompound, lineNotes, type Metre, metreName, type Tune } from "../../score";
import { chord, fifthsName, fifthsOf, type Key, keyName, midi, semitoneOf, signature } from "../../theory";

/** What is known of a tune where it joins another: how it stands, and its last note as a pitch class. */
export type Joined = { title: string; key: Key; metre: Metre; final: number | null };
/** Who waits at a join: how many bars, and why. */
export type Wait = { name: string; bars: number; why: string };
export type Join = {
  /** The chord of the last beat that leads into the new key; null where nothing leads, or the final forbids it. */
  lead: string | null;
  /** What happens, as a leader would say it. */
  says: string[];
  waits: Wait[];
};
type Player = { learner: Learner; on: Instrument };

/** A tune as it stands where it joins another. */
export function joinedOf({ title, metre }: Tune, { places, key }: Pick<Analysis, "places" | "key">): Joined {
  const last = lineNotes(places).at(-1)?.pitches.at(-1);
  return { title, key: key.key, metre, final: last ? midi(last) % 12 : null };
}

/** Bars that a beginner waits in another tune; and whoever moves a capo, tunes a string or takes a whistle. */
const BEGINNER_WAITS = 2;
const CHANGE_WAITS = 8;
/** Sharps (flats below 0) of the keys that lie on a whistle in D. */
const WHISTLE_KEYS = [1, 2];

/** Chords that lead into a key, the likeliest first: the dominant seventh; of modal keys the chord under the tonic. */
function leadsTo({ tonic, mode }: Key): string[] {
  const home = fifthsOf(tonic);
  if (mode === "major" || mode === "minor" || mode === "lydian") return [`${fifthsName(home + 1)}7`];
  return [fifthsName(home - 2), `${fifthsName(home + 1)}m`];
}

function leadWords(from: Joined, to: Joined): { lead: string | null; says: string } {
  const same = signature(from.key) === signature(to.key) && from.key.tonic === to.key.tonic;
  if (same) return { lead: null, says: `Both are in ${keyName(to.key)}: go straight on.` };
  const { final } = from;
  const leads = leadsTo(to.key);
  const lead = leads.find((symbol) => final !== null && chord(symbol).classes.includes(final)) ?? null;
  if (lead)
    return { lead, says: `The last beat takes ${lead}, which holds the last note: it leads into ${keyName(to.key)}.` };
  const rise = Math.abs(semitoneOf(from.key.tonic) - semitoneOf(to.key.tonic)) % 12;
  const lift = rise === 2 || rise === 10 ? " A key a step away lifts by itself." : "";
  return {
    lead: null,
    says: `${leads[0]} would rub against the last note: end at home, ${keyName(to.key)} begins at once.${lift}`,
  };
}

const parts = (metre: Metre): string => (isCompound(metre) ? "three" : "two");

/** How the beat goes over. */
function beatWords(from: Metre, to: Metre, bpm: number): string {
  if (metreName(from) === metreName(to)) return "The beat goes on as it is.";
  const split =
    parts(from) === parts(to) ? "" : ` It divides in ${parts(to)} now, in ${parts(from)} before: say it once aloud.`;
  const [a, b] = [from, to].map((m) => Math.round(barTicks(m) / beatTicks(m)));
  const bar = a === b || !a || !b ? "" : ` A bar has ${b} of them, not ${a}.`;
  return `One beat stays one beat, ${Math.round(bpm)} a minute.${split}${bar}`;
}

/** Who waits, and why: whoever changes an instrument longer than a beginner. */
function waitOf({ learner, on }: Player, from: Key, to: Key): Wait[] {
  const wait = (bars: number, why: string) => [{ name: learner.name, bars, why }];
  const moves = signature(from) !== signature(to);
  if (moves && learner.tuning)
    return wait(CHANGE_WAITS, `the ${on.name} is tuned ${learner.tuning}: look whether it holds`);
  const whistle = on.family === "wind" && on.transposition !== 0;
  if (moves && whistle && !WHISTLE_KEYS.includes(signature(to))) return wait(CHANGE_WAITS, "another whistle");
  const capo = on.family === "plucked" && learner.can.some((w) => w.toLowerCase() === "capo");
  if (moves && capo) return wait(CHANGE_WAITS, "the capo moves");
  return learner.level === "First sounds" ? wait(BEGINNER_WAITS, "finds the new tune first") : [];
}

/**
 * How one tune goes over into another, by teachers' judgement: the chord of the last beat, the beat, who waits. `bpm`
 * is felt beats a minute.
 */
export function joinOf(from: Joined, to: Joined, bpm: number, players: readonly Player[]): Join {
  const { lead, says } = leadWords(from, to);
  return {
    lead,
    says: [says, beatWords(from.metre, to.metre, bpm)],
    waits: players.flatMap((p) => waitOf(p, from.key, to.key)),
  };
}
