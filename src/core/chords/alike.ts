import { music } from "../analysis";
import type { Place } from "../score";
import type { LocalCost, Problem, Solution } from "../search";
import type { Candidate } from "./candidate";
import type { Segment } from "./segments";
import { TASTE } from "./taste";

/** Names a beat by its place: bars and ticks do not move when locks cut beats in two. */
const spotOf = ({ place, at }: Pick<Segment, "place" | "at">) => `${place.index}@${at}`;

/** What leaving the agreement of like bars is called among the costs. */
export const UNLIKE = "same music, other chord";

/** What like bars agree on at a beat, and what it costs to leave that. */
export type Agreed = { symbol: string; cost: number };

/**
 * What bars with the same notes agree on, beat by beat: the chord that costs all of them together least, by the place
 * of the beat. Bars with the same neighbours agree among themselves, and firmly. Worked out from the tune without the
 * teacher's locks, so that a lock in one place changes no price in another.
 */
export function agreement(
  cut: readonly Segment[],
  { states }: Problem<Candidate>,
  { marginals }: Solution<Candidate>,
): Map<string, Agreed> {
  const places = [...new Set(cut.map((s) => s.place))];
  const sounds = new Map(places.map((place) => [place, music(place)]));
  const beside = new Map(
    places.map((place, i) => [place, [places[i - 1], place, places[i + 1]].map((p) => p && sounds.get(p)).join("|")]),
  );
  const agreed = new Map<string, Agreed>();
  const agree = (names: ReadonlyMap<Place, string>, cost: number) => {
    for (const members of groupsOf(cut, names)) {
      const symbol = cheapestFor(members, states, marginals);
      for (const i of members) agreed.set(spotOf(cut[i] as Segment), { symbol, cost });
    }
  };
  agree(sounds, TASTE.unlike);
  agree(beside, TASTE.unlikeBetween);
  return agreed;
}

/** Beats at the same place of bars that go by the same name, where there are two or more. */
function groupsOf(cut: readonly Segment[], names: ReadonlyMap<Place, string>): number[][] {
  const groups = new Map<string, number[]>();
  cut.forEach(({ place, at }, i) => {
    const like = `${names.get(place)}@${at}`;
    groups.set(like, [...(groups.get(like) ?? []), i]);
  });
  return [...groups.values()].filter((members) => members.length > 1);
}

/** The symbol that costs all members of a group together least, among those most of them could take. */
function cheapestFor(
  members: readonly number[],
  states: Problem<Candidate>["states"],
  marginals: Solution<Candidate>["marginals"],
): string {
  const totals = new Map<string, { cost: number; votes: number }>();
  for (const i of members) {
    (states[i] as readonly Candidate[]).forEach((s, k) => {
      const known = totals.get(s.chord.symbol) ?? { cost: 0, votes: 0 };
      const cost = known.cost + (marginals[i]?.[k] as number);
      totals.set(s.chord.symbol, { cost, votes: known.votes + 1 });
    });
  }
  const most = Math.max(...[...totals.values()].map((t) => t.votes));
  const candidates = [...totals].filter(([, t]) => t.votes === most);
  return candidates.reduce((a, b) => (b[1].cost < a[1].cost - 1e-9 ? b : a))[0];
}

/**
 * A cost for leaving what like bars agreed on. A beat that a lock has cut in two keeps to what the whole beat agreed
 * on.
 */
export function unlike(
  cut: readonly Segment[],
  whole: readonly Segment[],
  agreed: ReadonlyMap<string, Agreed>,
): LocalCost<Candidate> {
  const wanted = cut.map((segment) => {
    const beat = cut === whole ? segment : whole.findLast((w) => w.place === segment.place && w.at <= segment.at);
    return beat && agreed.get(spotOf(beat));
  });
  return {
    name: UNLIKE,
    at: (i, s) => {
      const like = wanted[i];
      return like !== undefined && like.symbol !== (s.dress?.plain ?? s.chord.symbol) ? like.cost : 0;
    },
  };
}
