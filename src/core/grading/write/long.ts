import type { Instrument } from "../../instruments";
import type { Place } from "../../score";
import { midi, semitoneOf } from "../../theory";
import { type Draft, type Material, type PartNote, type Request, rubsIn, segmentsOf } from "./material";
import {
  about,
  BREATHES,
  chosen,
  isOpen,
  laid,
  MOST,
  PRICES,
  type Slot,
  STILL,
  slotsOf,
  withBreath,
  within,
} from "./slots";

/** One note for each chord, near to the one before, with a shape of its own; from the third level two a bar. */
export function writeOneNote(material: Material, request: Request): Draft {
  const { limits, who, on } = request;
  const twice = !BREATHES.has(who.level);
  const plain = slotsOf(material, request, (place) => (twice && place.ticks % 2 === 0 ? [place.ticks / 2] : []));
  const slots = twice ? plain : withBreath(material, request, plain);
  const middle = (limits.lowest + limits.highest) / 2;
  const height =
    limits.pitches && limits.pitches.size < 12 ? middle : Math.min(middle, 64 + (on.transposition > 0 ? 12 : 0));
  const reach = Math.min(7, (limits.highest - limits.lowest) / 2);
  const pitches = chosen(
    material,
    request,
    slots,
    (slot) => (slot.segment ? about(within(request, slot.segment.chord.classes), height, MOST) : []),
    (slot, pitch) => {
      const { segment } = slot;
      if (!segment) return PRICES.foreign;
      const order = segment.chord.classes.indexOf(pitch % 12);
      // A phrase rises to its middle and comes home.
      const arch = height - reach / 2 + Math.sin(Math.PI * Math.min(1, slot.way * 1.15)) * reach;
      const edge = slot.first || slot.last ? ([PRICES.rootAtEdge, 0, PRICES.rootAtEdge / 2, 1][order] ?? 1) : 0;
      return (
        Math.abs(pitch - arch) * PRICES.arch +
        edge +
        (PRICES.inChord[Math.max(0, order)] ?? PRICES.seventh) +
        (isOpen(on, pitch) ? PRICES.open : 0)
      );
    },
  );
  return {
    notes: laid(material, request, slots, pitches),
    leftOut: ["The rhythm and the runs of the tune: one note to each chord."],
  };
}

/** Tonic or fifth, held: whichever does not rub, changing only where it must. */
export function writeDrone(material: Material, request: Request): Draft {
  const { limits, on, who } = request;
  const tonic = semitoneOf(material.key.tonic);
  const classes = [tonic, (tonic + 7) % 12];
  const beginner = BREATHES.has(who.level);
  const struck = slotsOf(material, request, (place) =>
    isStruckTwice(place) && place.ticks % 2 === 0 ? [place.ticks / 2] : [],
  );
  const halves = struck.filter((s, i, all) => {
    const before = all[i - 1];
    return !before || s.bar !== before.bar || s.at * 2 === s.place.ticks;
  });
  const whole = halves.map((s, i) => {
    const next = halves[i + 1];
    return { ...s, ticks: (next?.bar === s.bar ? next.at : s.place.ticks) - s.at };
  });
  const full = beginner ? withBreath(material, request, whole) : whole;
  const height = (limits.lowest + limits.highest) / 2;
  const pitches = chosen(
    material,
    request,
    full,
    () => about(within(request, classes), height, MOST),
    (slot, pitch) => {
      const chord = slot.segment?.chord;
      const inChord = chord?.classes.includes(pitch % 12) ?? true;
      const rub = chord && rubsIn(chord, pitch) ? PRICES.rub : 0;
      const home = pitch % 12 === tonic && slot.last ? 1 : 0;
      return (inChord ? 0 : 1.2) + rub + (isOpen(on, pitch) ? PRICES.open : 0) - home;
    },
    STILL,
  );
  const joined = held(full, pitches);
  const notes = laid(material, request, joined.slots, joined.pitches);
  const pairs = limits.doubleStops !== "none" && on.family === "bowed";
  const own = segmentsOf(material);
  /** Of tonic and fifth those that rub against no chord the note sounds in. */
  const still = ({ bar, at, ticks }: PartNote) =>
    classes.filter((c) => !own[bar]?.some((s) => s.at < at + ticks && s.at + s.ticks > at && rubsIn(s.chord, c)));
  return {
    notes: pairs ? notes.map((n) => paired(on, n, still(n))) : notes,
    leftOut: ["Everything that moves: the drone stands."],
  };
}

/** Notes that stay the same within a bar as one; those of every fourth bar are struck anew. */
function held(slots: readonly Slot[], pitches: readonly (number | null)[]) {
  const made: { slots: Slot[]; pitches: (number | null)[] } = { slots: [], pitches: [] };
  slots.forEach((slot, i) => {
    const before = made.slots.at(-1);
    const same = pitches[i] === made.pitches.at(-1) && before?.bar === slot.bar && !isStruckTwice(slot.place);
    if (before && same && before.at + before.ticks === slot.at)
      made.slots[made.slots.length - 1] = { ...before, ticks: before.ticks + slot.ticks };
    else {
      made.slots.push(slot);
      made.pitches.push(pitches[i] ?? null);
    }
  });
  return made;
}
/** Every fourth bar is struck twice, so that a drone never goes on unchanged. */
const isStruckTwice = ({ index }: Place): boolean => index % 4 === 3;

/** A second open string beside a drone's note, where it is of the drone too. */
export function paired(on: Instrument, note: PartNote, classes: readonly number[]): PartNote {
  const [pitch = 0] = note.pitches;
  const open = on.strings.map((s) => midi(s.open));
  const own = open.findIndex((o, i) => o <= pitch && (open[i + 1] ?? 200) > pitch);
  const beside = [open[own - 1], open[own + 1]].find((o) => o !== undefined && classes.includes(o % 12) && o !== pitch);
  return beside === undefined ? note : { ...note, pitches: [pitch, beside].sort((a, b) => a - b) };
}
