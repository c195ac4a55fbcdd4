import { beatTicks, isCompound, type Place } from "../score";
import type { Bowing, BowRequest } from "./bows";
import { type Beats, beatsOf } from "./metre";
import type { StrokeNote } from "./model";
import { type Joint, leadInJoints, wantedJoints } from "./patterns";

/** Everything about one note that prices look at. */
export type Spot = {
  note: StrokeNote;
  beats: Beats;
  downbeat: boolean;
  main: boolean;
  weak: boolean;
  /** First of its group of running notes, and the joint its style wants before it. */
  opens: boolean;
  wanted: Joint | undefined;
  phrase: boolean;
  /** The first downbeat of its strain; and a metre of dotted beats. */
  leads: boolean;
  dotted: boolean;
  seconds: number;
};

export const near = (a: number, b: number) => Math.abs(a - b) < 1;

export function spotsOf(notes: readonly StrokeNote[], { places, style, bpm, phraseStarts }: BowRequest): Spot[] {
  const first = places[0];
  const beatSeconds = 60 / bpm / (first ? beatTicks(first.metre) : 1);
  const fine = isFine(places);
  const spots = notes.map((note): Spot => {
    const beats = beatsOf(note.place.metre, fine);
    const on = (every: number) => every > 0 && note.into % every === 0;
    return {
      note,
      beats,
      downbeat: on(beats.full),
      main: on(beats.main),
      weak: on(beats.weak) && !on(beats.main),
      opens: on(beats.group),
      wanted: undefined,
      phrase: phraseStarts.has(note.place.index) && note.at === note.place.at,
      leads:
        on(beats.full) &&
        !notes.some((n) => n.place.strain === note.place.strain && n.at < note.at && n.into % beats.full === 0),
      dotted: isCompound(note.place.metre),
      seconds: note.ticks * beatSeconds,
    };
  });
  withWanted(spots, style);
  return spots;
}

/** Whether a tune in two-four runs in sixteenths. */
export function isFine(places: readonly Place[]): boolean {
  const events = places.flatMap((p) =>
    p.bar.events.filter((e) => e.pitches.length > 0).map((e) => e.ticks / beatTicks(p.metre)),
  );
  return events.filter((share) => share <= 0.26).length > events.length * 0.4;
}

/** Writes down the joints a style wants inside every group that its notes fill. */
function withWanted(spots: Spot[], style: Bowing): void {
  spots.forEach((spot, i) => {
    if (!spot.opens) return;
    const { group, unit } = spot.beats;
    const own: Spot[] = [];
    for (let k = i, left = group; k < spots.length && left > 0; k++) {
      const { note } = spots[k] as Spot;
      if (k > i && note.rest > 0) return;
      own.push(spots[k] as Spot);
      left -= note.ticks;
      if (left < -1) return;
      if (near(left, 0)) left = 0;
    }
    const lengths = own.map((s) => s.note.ticks / unit);
    if (!near(lengths.reduce((a, b) => a + b, 0) * unit, group)) return;
    const before = spots[i - 1];
    const held = before !== undefined && before.note.ticks >= group && (spots[i] as Spot).note.rest === 0;
    const joints = wantedJoints(style, lengths, held);
    joints?.forEach((joint, k) => {
      (own[k + 1] as Spot).wanted = joint;
    });
  });
  // Pickups last: they begin groups of their own.
  withLeadIns(spots, style);
}

/** The joints a style wants in pickups of running notes. */
function withLeadIns(spots: Spot[], style: Bowing): void {
  spots.forEach((spot, i) => {
    const { place } = spot.note;
    if (!place.pickup || spots[i - 1]?.note.place === place) return;
    const own = spots.filter((s) => s.note.place === place);
    const joints = own.every((s) => s.note.ticks === s.beats.unit) ? leadInJoints(style, own.length) : undefined;
    if (!joints) return;
    spot.opens = true;
    joints.forEach((joint, k) => {
      (own[k + 1] as Spot).wanted = joint;
    });
  });
}
