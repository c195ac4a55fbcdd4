import { ROLE_RULES, type RoleGroup, type RoleName } from "../../grading";
import { LEVELS } from "../../instruments";
import { type Place, playingOrder } from "../../score";
import { fullBars, stretchesOf, type Turn, turnsOf } from "./columns";
import type { Column, Manner, Roadmap, RoadmapChoice, Voice } from "./model";

// Who plays when, by teachers' judgement: a dance keeps its pulse and grows time by time, a concert begins alone.

/** What each manner does where a teacher has said nothing. */
const USUAL = {
  dance: { times: 3, introduction: 4, vamp: 0, tag: 0, ending: "last note and a chord" },
  concert: { times: 3, introduction: 0, vamp: 0, tag: 2, ending: "slow, open chord" },
} as const satisfies Record<Manner, Omit<Roadmap, "columns" | "stretches" | "manner">>;

/** Bars that a beginner sits out at most. */
const PATIENCE = 16;

/** When a role comes into a dance: in the first time through, the second, or the last. */
const ENTERS: Readonly<Record<RoleName, number>> = {
  melody: 1,
  "simple melody": 1,
  bass: 1,
  strum: 1,
  "off-beats": 1,
  "hand drum": 1,
  "one-note harmony": 1,
  drone: 1,
  "shuffle drone": 2,
  "low harmony": 2,
  "counter-figure": 2,
  "high harmony": 3,
};

/** A column as a rule looks at it: which stage of the whole, which turn of it, which turn of its strain. */
type Seen = { stage: number; order: number; first: boolean; second: boolean };
type Rule = (voice: Voice, seen: Seen) => boolean;

const group = ({ role }: Voice): RoleGroup => ROLE_RULES[role].group;
const isTune = (voice: Voice): boolean => group(voice) === "tune";
const isBeginner = ({ level }: Voice): boolean => LEVELS.indexOf(level) === 0;

const RULES: Readonly<Record<Manner, Rule>> = {
  // Long notes come in with the second strain; a beginner's part never waits for a later time through.
  dance: (voice, { stage, first }) => {
    const enters = isBeginner(voice) ? 1 : ENTERS[voice.role];
    return stage >= enters && !(group(voice) === "long notes" && stage === 1 && first);
  },
  // The tune alone, long notes when it comes again, bass under the second strain; then harmony, and the second strain
  // once with what is plucked; at last the tune without bass and drum, and everybody.
  concert: (voice, { stage, order, first, second }) => {
    const own = group(voice);
    if (stage === 1) {
      const entered: readonly RoleGroup[] = first ? ["tune", "long notes"] : ["tune", "long notes", "bass"];
      return own === "tune" || (order > 0 && entered.includes(own));
    }
    if (stage === 2) return own === "tune" || !second || voice.plucked;
    return order > 0 || (own !== "bass" && own !== "drum");
  },
};

/** Which stage of the whole a time through is: the first, the middle, the last; the only one is the last. */
function stageOf(pass: number, times: number): number {
  if (pass === times) return 3;
  return pass === 1 ? 1 : 2;
}

/** Players in a column by the plan alone: the tune always, and those who have waited long enough. */
function byRule(voices: readonly Voice[], manner: Manner, seen: Seen, waited: (voice: Voice) => boolean): Voice[] {
  const own = voices.filter((v) => RULES[manner](v, seen) || waited(v));
  const carried = own.some(isTune) ? own : voices.filter((v) => isTune(v) || own.includes(v));
  const [only] = carried;
  // Who may not play alone is not left alone.
  return carried.length === 1 && only && !only.alone ? [...voices] : carried;
}

/**
 * The roadmap of a tune for the parts there are: turns through the strains as columns with who plays in each, and
 * everything that is heard, from the introduction to the last chord. What a teacher has settled goes before.
 */
export function roadmapOf(
  places: readonly Place[],
  label: (bar: number) => string,
  voices: readonly Voice[],
  choice: RoadmapChoice = {},
  usual: Manner = "dance",
): Roadmap {
  const manner = choice.manner ?? usual;
  const usually = USUAL[manner];
  const { set = [] } = choice;
  const shape = {
    manner,
    times: choice.times ?? usually.times,
    introduction: choice.introduction ?? usually.introduction,
    vamp: choice.vamp ?? usually.vamp,
    tag: choice.tag ?? usually.tag,
    ending: choice.ending ?? usually.ending,
  };
  const turns = turnsOf(places, label);
  const order = playingOrder(places);
  const opening = turns[0]?.strain;
  const following = turns.find((t) => t.strain !== opening)?.strain;
  const waited = new Map<string, number>();
  const columns = Array.from({ length: shape.times }, (_, t) => t + 1).flatMap((pass) =>
    turns.map((turn, i): Column => {
      const seen: Seen = {
        stage: stageOf(pass, shape.times),
        order: i,
        first: turns.length > 1 && (following === undefined ? i === 0 : turn.strain === opening),
        second: turn.strain === following && turn.turn === 1,
      };
      const bars = fullBars(places, order, turn.from, turn.to);
      const rested = ({ id }: Voice) => waited.get(id) ?? 0;
      const ruled = byRule(voices, manner, seen, (v) => isBeginner(v) && rested(v) + bars > PATIENCE);
      const ways = voices.map((voice) => {
        const way = settledWay(set, voice, turn, pass) ?? (ruled.includes(voice) ? "plays" : "rests");
        waited.set(voice.id, way === "rests" ? rested(voice) + bars : 0);
        return { id: voice.id, way };
      });
      return {
        strain: turn.strain,
        pass,
        turn: turn.turn,
        plays: ways.filter((w) => w.way !== "rests").map((w) => w.id),
        louder: ways.filter((w) => w.way === "louder").map((w) => w.id),
      };
    }),
  );
  return { columns, stretches: stretchesOf(turns, columns, shape), ...shape };
}

/** What is settled for someone in a column: by name before by role. */
function settledWay(set: NonNullable<RoadmapChoice["set"]>, voice: Voice, { strain, turn }: Turn, pass: number) {
  const here = set.filter((s) => s.strain === strain && s.pass === pass && s.turn === turn);
  return (here.find((s) => s.who === voice.name) ?? here.find((s) => s.who === voice.role))?.way;
}
