import { type Block, cell } from "./blocks";
import type { Beat } from "./features";
import { ROLES, SPOTS } from "./labels";

const CLOSING = SPOTS.indexOf("close");
/**
 * How much of a stressed note counts towards the chords players put under it, by stress; and one that leads off the
 * downbeat.
 */
const STRESS = { down: 2, on: 1.5, off: 1 };
const LEAD_OFF = 0.6;

type Take = (block: Block, index: number, value: number) => void;

/** Whether a pitch class is in a major or minor triad, by semitones above its root. */
export const inTriad = (minor: number, above: number): boolean =>
  above === 0 || above === 7 || above === (minor ? 3 : 4);

/** Which kind of foreign note an interval is: a seventh, the third of the other triad, or any other. */
function foreignKind(minor: number, above: number): number {
  if (above === 10 || above === 11) return 1;
  return above === (minor ? 4 : 3) ? 2 : 0;
}

/** Calls back with the weight and value of everything a chord gathers at a beat, block by block. */
export function gather(beat: Beat, label: number, take: Take): void {
  const [root, minor] = [label >> 1, label & 1];
  let [chordNotes, barNotes] = [0, 0];
  for (let degree = 0; degree < 12; degree++) {
    const above = (degree - root + 12) % 12;
    const heard = gatherNote(beat, label, degree, above, take);
    if (!inTriad(minor, above)) continue;
    if (heard) chordNotes += 1;
    if (beat.bar[degree]) barNotes += 1;
  }
  take("spelled", cell("spelled", minor, chordNotes, beat.start), 1);
  take("spelledBar", cell("spelledBar", minor, barNotes, beat.start), 1);
  if (beat.lead >= 0) take("lead", cell("lead", minor, (beat.lead - root + 12) % 12, beat.start), 1);
  take("place", cell("place", beat.table, label, beat.start), 1);
  take("spot", cell("spot", beat.table, label, beat.spot), 1);
}

/** What one degree above the tonic says of a chord; whether it sounds in the beat. */
function gatherNote(beat: Beat, label: number, degree: number, above: number, take: Take): boolean {
  const minor = label & 1;
  const own = degree * 3;
  const [down, on, off] = [beat.own[own] as number, beat.own[own + 1] as number, beat.own[own + 2] as number];
  if (down) take("note", cell("note", minor, above, 0), down);
  if (on) take("note", cell("note", minor, above, 1), on);
  if (off) take("note", cell("note", minor, above, 2), off);
  const stressed = STRESS.down * down + STRESS.on * on + STRESS.off * off;
  if (stressed) take("degree", cell("degree", beat.table, degree, label), stressed);
  if (beat.lead === degree) {
    take("degreeDown", cell("degreeDown", beat.table, degree, label), beat.start === 0 ? 1 : LEAD_OFF);
  }
  const [bar, before, after] = [
    beat.bar[degree] as number,
    beat.before[degree] as number,
    beat.after[degree] as number,
  ];
  if (bar) take("bar", cell("bar", minor, above, beat.start), bar);
  if (before) take("before", cell("before", minor, above, beat.start), before);
  if (after) take("after", cell("after", minor, above, beat.start), after);
  const heard = down > 0 || on > 0 || off > 0;
  if (!heard || inTriad(minor, above)) return heard;
  for (let role = 0; role < ROLES.length; role++) {
    const share = beat.roles[role * 12 + degree] as number;
    if (share) take("outside", cell("outside", role, foreignKind(minor, above)), share);
  }
  return heard;
}

/** The same for going from one chord to another; staying gathers nothing. */
export function gatherMove(beat: Beat, from: number, to: number, take: Take): void {
  if (from === to) return;
  const dark = beat.table > 1 ? 1 : 0;
  take("move", cell("move", dark, from, to), 1);
  if (beat.spot >= CLOSING) take("cadence", cell("cadence", dark, from, to), 1);
  take("change", cell("change", beat.build, beat.start), 1);
  take("changeSpot", cell("changeSpot", beat.start, beat.spot), 1);
  if (beat.phrase) take("phraseChange", 0, 1);
}

/** What the weights of a move into a beat depend on, beside the two chords. */
export const moveId = (beat: Beat): number =>
  (((Number(beat.table > 1) * 8 + beat.build) * 4 + beat.start) * 16 + beat.spot) * 2 + Number(beat.phrase);
