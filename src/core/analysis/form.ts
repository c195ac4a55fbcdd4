import { beatTicks, type Place, type Timed, timeline, type Tune } from "../score";
import { midi } from "../theory";

export type Relation = "new" | "same" | "same start, new ending";

/** A phrase: a row of the bench. Bars are indexes into the tune's places, both ends included. */
export type Phrase = {
  /** Order in the tune from 0. */
  order: number;
  strain: number;
  /** "A1", "A2", "B1" ... */
  name: string;
  from: number;
  to: number;
  relation: Relation;
  /** The earlier phrase it repeats, by order. */
  model: number | undefined;
  /** First bar (index) that differs from the model. */
  parts: number | undefined;
};

export type Form = {
  phrases: Phrase[];
  /** Strains in playing order with repeats, such as "AABB". */
  sequence: string;
  /** Full bars written, and how many of them are new music. */
  bars: number;
  learn: number;
};

/** What is heard in a bar, for telling same from different: sounds and lengths, without ornaments. */
export const music = (place: Place): string => place.bar.events.map((e) => `${e.pitches.map(midi).join(".")}:${e.ticks}`).join(" ");

/** The first bar of a repeated phrase often takes another pickup into it; only full bars are compared. */
const fullBars = (places: readonly Place[], phrase: { from: number; to: number }) => places.slice(phrase.from, phrase.to + 1).filter((p) => !p.pickup);

/** Cuts a strain's bars into phrases of four full bars; a pickup goes with the phrase it leads to, one bar left over stays with the last. */
function cut(bars: readonly Place[]): Place[][] {
  const rows: Place[][] = [];
  let row: Place[] = [];
  let count = 0;
  for (const place of bars) {
    const leads = place.pickup || (place.bar.repeatStart && row.length > 0);
    if (row.length > 0 && ((leads && count > 0) || count === 4)) {
      rows.push(row);
      [row, count] = [[], 0];
    }
    row.push(place);
    if (!place.pickup && place.offset === 0) count += 1;
  }
  if (row.length > 0) {
    const last = rows[rows.length - 1];
    if (count <= 1 && last && !row[0]?.pickup) last.push(...row);
    else rows.push(row);
  }
  return rows;
}

/** Phrases of a tune with what each repeats, and the form in letters. */
export function findForm(tune: Tune, from: readonly Place[]): Form {
  const phrases: Phrase[] = [];
  tune.strains.forEach((strain, s) => {
    cut(from.filter((p) => p.strain === s)).forEach((row, i) => {
      const [first, last] = [row[0] as Place, row[row.length - 1] as Place];
      const phrase = { order: phrases.length, strain: s, name: `${strain.label.length <= 3 ? strain.label : strain.label.slice(0, 12)}${i + 1}`, from: first.index, to: last.index };
      phrases.push({ ...phrase, ...relate(from, phrases, phrase) });
    });
  });
  const full = from.filter((p) => !p.pickup && p.offset === 0).length;
  const known = phrases.reduce((sum, phrase) => {
    const bars = fullBars(from, phrase);
    const alike = phrase.relation === "same" ? bars.length : phrase.parts === undefined ? 0 : bars.filter((b) => b.index < (phrase.parts as number)).length;
    return sum + alike;
  }, 0);
  return { phrases, sequence: sequence(tune, from), bars: full, learn: Math.max(1, full - known) };
}

function relate(from: readonly Place[], earlier: readonly Phrase[], phrase: { from: number; to: number }): Pick<Phrase, "relation" | "model" | "parts"> {
  const own = fullBars(from, phrase).map(music);
  const bars = fullBars(from, phrase);
  let best = { alike: 0, model: -1, whole: false };
  for (const other of earlier) {
    const theirs = fullBars(from, other).map(music);
    const differs = own.findIndex((m, i) => m !== theirs[i]);
    const alike = differs < 0 ? own.length : differs;
    if (alike > best.alike) best = { alike, model: other.order, whole: differs < 0 && own.length === theirs.length };
  }
  if (best.whole) return { relation: "same", model: best.model, parts: undefined };
  if (best.alike >= Math.max(1, own.length / 2) && best.alike < own.length) {
    return { relation: "same start, new ending", model: best.model, parts: bars[best.alike]?.index };
  }
  return { relation: "new", model: undefined, parts: undefined };
}

/** "AABB": each strain's letter as often as its repeat says. */
function sequence(tune: Tune, from: readonly Place[]): string {
  return tune.strains.map((strain, s) => {
    const bars = from.filter((p) => p.strain === s);
    const times = Math.max(1, ...bars.map((p) => p.bar.repeatEnd ?? 1));
    const letter = strain.label.length <= 2 ? strain.label : ` ${strain.label} `;
    return letter.repeat(times);
  }).join("").replace(/\s+/g, " ").trim();
}

/** What the tune asks of hands: pitches with total length, range, held notes, leaps. Lengths in ticks. */
export function inventory(from: readonly Place[]) {
  const notes = timeline(from).filter((t) => t.event.pitches.length > 0);
  const pitches = new Map<number, { pitch: Timed["event"]["pitches"][number]; ticks: number; count: number }>();
  for (const { event } of notes) {
    for (const pitch of event.pitches) {
      const found = pitches.get(midi(pitch)) ?? { pitch, ticks: 0, count: 0 };
      pitches.set(midi(pitch), { ...found, ticks: found.ticks + event.ticks, count: found.count + 1 });
    }
  }
  const ordered = [...pitches.values()].sort((a, b) => midi(a.pitch) - midi(b.pitch));
  const held = notes.filter((n) => n.event.ticks > 1.5 * beatTicks(n.place.metre));
  const leaps = notes.filter((n, i) => i > 0 && Math.abs(midi(n.event.pitches[0] as never) - midi(notes[i - 1]?.event.pitches[0] as never)) > 4).length;
  return { pitches: ordered, lowest: ordered[0]?.pitch, highest: ordered[ordered.length - 1]?.pitch, held: held.length, leaps, notes: notes.length };
}
