import { beatTicks, type Event, isCompound, type Place, QUARTER, writtenShape } from "../../score";

const FLAGGED = ["eighth", "16th", "32nd", "64th", "128th"];

/** Flags of a written length: 1 for an eighth, 2 for a sixteenth, 0 for a quarter and longer. */
const flags = (event: Event): number => {
  if (event.pitches.length === 0) return 0;
  return FLAGGED.indexOf(writtenShape(event)?.type ?? "") + 1;
};

/**
 * Ticks that one beam may span: half a bar in common and cut time, the whole of a 2/4 bar of eighths, otherwise a beat.
 */
function span(place: Place, events: readonly Event[]): number {
  const beat = beatTicks(place.metre);
  const { beats, unit } = place.metre;
  if (isCompound(place.metre)) return beat;
  if (beats === 4 && unit === 4) return 2 * QUARTER;
  if (unit === 2) return beat;
  return beats === 2 && unit === 4 && events.every((e) => e.ticks >= QUARTER / 2) ? 2 * QUARTER : beat;
}

/** For every event, the word of each beam level from the first down: "begin", "continue", "end" or a hook. */
export function beams(place: Place, events: readonly Event[]): string[][] {
  const limit = span(place, events);
  const groups: number[][] = [];
  let at = place.offset;
  let group = -1;
  events.forEach((event, i) => {
    const own = Math.floor(at / limit);
    if (flags(event) > 0) {
      const last = groups[groups.length - 1];
      if (last && own === group && last[last.length - 1] === i - 1) last.push(i);
      else groups.push([i]);
      group = own;
    }
    at += event.ticks;
  });
  const words: string[][] = events.map(() => []);
  for (const members of groups.filter((g) => g.length > 1)) {
    members.forEach((i, k) => {
      const [own, before, after] = [
        flags(events[i] as Event),
        k > 0 ? flags(events[members[k - 1] as number] as Event) : 0,
        k < members.length - 1 ? flags(events[members[k + 1] as number] as Event) : 0,
      ];
      words[i] = Array.from({ length: own }, (_, level) => {
        const [left, right] = [before > level, after > level];
        if (left) return right ? "continue" : "end";
        if (right) return "begin";
        return k > 0 ? "backward hook" : "forward hook";
      });
    });
  }
  return words;
}
