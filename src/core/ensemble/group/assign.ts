import { bassOrder, knows, type Learner, ROLE_GROUPS, ROLE_RULES, type RoleGroup, type RoleName } from "../../grading";
import { type Instrument, LEVELS } from "../../instruments";

// Who plays what: the cheapest way to give everyone a role, exact. Each group of roles has places, the first ones
// wanted most; where beginners sit beside somebody, one of those places is for a stronger player.

/** One who is to have a role: the roles there are for them, each with what it costs by itself. */
export type Candidate = {
  learner: Learner;
  on: Instrument;
  /** Roles they can have, by name; what speaks against each, in points. */
  roles: ReadonlyMap<RoleName, number>;
  /** The role that was settled by hand. */
  settled: RoleName | null;
};
export type Assignment = { roles: (RoleName | null)[]; cost: number; unmet: string[] };

/** What speaks for and against, in points: teachers' judgement. Each outweighs all below it. */
export const ASSIGN_PRICES = {
  /** Nobody carries the tune; nobody is there for a beginner to follow; a part without anyone. */
  noTune: 2000,
  unled: 600,
  noRole: 5000,
  /** A place that is wanted and stays empty, and one more than is wanted. */
  empty: 40,
  crowd: 14,
  /** The same role a third time running, and the second. */
  again: 25,
  twice: 6,
} as const;

/** Places by how many play: teachers' judgement; between the columns by their shares. */
const PLACES: readonly { players: number; places: Readonly<Record<RoleGroup, number>> }[] = [
  { players: 3, places: { tune: 1, harmony: 0, "long notes": 1, chords: 1, bass: 0, drum: 0 } },
  { players: 8, places: { tune: 4, harmony: 1, "long notes": 1, chords: 1, bass: 1, drum: 0 } },
  { players: 14, places: { tune: 6, harmony: 2, "long notes": 2, chords: 2, bass: 1, drum: 1 } },
  { players: 20, places: { tune: 8, harmony: 4, "long notes": 3, chords: 3, bass: 1, drum: 1 } },
];

/** How many of each group of roles are wanted of so many players. */
export function placesFor(players: number): Record<RoleGroup, number> {
  const above = PLACES.find((p) => p.players >= players) ?? (PLACES.at(-1) as (typeof PLACES)[number]);
  const below = PLACES.findLast((p) => p.players <= players) ?? (PLACES[0] as (typeof PLACES)[number]);
  const way = above === below ? 0 : (players - below.players) / (above.players - below.players);
  return Object.fromEntries(
    ROLE_GROUPS.map((g) => [g, Math.round(below.places[g] + (above.places[g] - below.places[g]) * way)]),
  ) as Record<RoleGroup, number>;
}

const order = ({ learner }: Candidate): number => LEVELS.indexOf(learner.level) + 1;
const MOVING = 3;
const FLUENT = 4;
/** Groups with one line only: a second bass or drum is no help. */
const SINGLE: ReadonlySet<RoleGroup> = new Set(["bass", "drum"]);
/** Beginners who need someone to follow: the first level, and whoever has not learned to be alone. */
const needsLead = (c: Candidate): boolean =>
  order(c) === 1 || (order(c) < MOVING && knows(c.learner, "alone") !== true);
/** Roles beginners may have by themselves: the beats of a drum and open roots. */
const ALONE: ReadonlySet<RoleGroup> = new Set(["drum", "bass"]);

/** The dearest role of a candidate within a group of roles, and what it costs. */
function bestIn(c: Candidate, group: RoleGroup): { role: RoleName; cost: number } | undefined {
  const own = [...c.roles].filter(([role]) => ROLE_RULES[role].group === group && (!c.settled || c.settled === role));
  return own
    .map(([role, cost]) => ({ role, cost }))
    .reduce<{ role: RoleName; cost: number } | undefined>((a, b) => (a && a.cost <= b.cost ? a : b), undefined);
}

/** The best of each group for each candidate. */
const bestsOf = (candidates: readonly Candidate[]) =>
  candidates.map((c) => new Map(ROLE_GROUPS.map((g) => [g, bestIn(c, g)] as const)));

/** A place in a group: who may take it, and what it costs or spares to fill it. */
type Place = { group: RoleGroup; fits: (c: Candidate) => boolean; price: number };

const FORBIDDEN = 1e7;

/** What an assignment costs by its roles alone: everything that is weighed, so that any two can be compared. */
export function costOf(candidates: readonly Candidate[], roles: readonly (RoleName | null)[]): number {
  const wanted = placesFor(candidates.length);
  let cost = 0;
  candidates.forEach((c, i) => {
    const role = roles[i];
    cost += role ? (c.roles.get(role) ?? FORBIDDEN) : ASSIGN_PRICES.noRole;
    if (role && c.settled && c.settled !== role) cost += FORBIDDEN;
  });
  for (const group of ROLE_GROUPS) {
    const own = candidates.filter((_, i) => roles[i] && ROLE_RULES[roles[i] as RoleName].group === group);
    cost += Math.max(0, wanted[group] - own.length) * ASSIGN_PRICES.empty;
    cost += crowding(own.length - wanted[group], group);
    if (!ALONE.has(group) && own.some(needsLead) && !own.some((c) => order(c) >= MOVING)) cost += ASSIGN_PRICES.unled;
  }
  return cost + (isCarried(candidates, roles) ? 0 : ASSIGN_PRICES.noTune);
}
/** Whether one Fluent or two Moving have the tune. */
function isCarried(candidates: readonly Candidate[], roles: readonly (RoleName | null)[]): boolean {
  const tune = candidates.filter((_, i) => roles[i] && ROLE_RULES[roles[i] as RoleName].group === "tune");
  return tune.some((c) => order(c) >= FLUENT) || tune.filter((c) => order(c) >= MOVING).length >= 2;
}
/** What so many players more than are wanted cost: each one more than the one before. */
function crowding(more: number, group: RoleGroup): number {
  let sum = 0;
  for (let k = 1; k <= more; k++) sum += crowd(k, group);
  return sum;
}
const crowd = (k: number, group: RoleGroup): number => (SINGLE.has(group) ? 300 : ASSIGN_PRICES.crowd * k);

/** Who leads: which groups have beginners with a stronger player among them, and how the tune is carried. */
type Plan = {
  led: ReadonlySet<RoleGroup>;
  /** Groups where beginners are among themselves. */
  unled: ReadonlySet<RoleGroup>;
  carried: "fluent" | "two" | "nobody";
};

function placesOf(candidates: readonly Candidate[], { led, unled, carried }: Plan): Place[] {
  const wanted = placesFor(candidates.length);
  return ROLE_GROUPS.flatMap((group): Place[] => {
    const may = (c: Candidate) => ALONE.has(group) || !needsLead(c) || led.has(group) || unled.has(group);
    return candidates.map((_, k): Place => {
      const price = k < wanted[group] ? -ASSIGN_PRICES.empty : crowd(k + 1 - wanted[group], group);
      // The places that carry the tune, and the one beside beginners, are for those who are strong enough.
      const carries = group === "tune" && ((carried === "fluent" && k === 0) || (carried === "two" && k < 2));
      const forTune = carried === "fluent" ? FLUENT : MOVING;
      const forLead = led.has(group) && k === 0 ? MOVING : 0;
      const least = carries ? forTune : forLead;
      const must = carries || (led.has(group) && k === 0) ? -FORBIDDEN / 100 : 0;
      return { group, fits: (c) => may(c) && order(c) >= least, price: price + must };
    });
  });
}

/**
 * Roles for everyone, the cheapest there are: exact, by the best matching of players to places under each way that
 * beginners can be led. What could not be had is named.
 */
export function assign(candidates: readonly Candidate[]): Assignment {
  if (candidates.length === 0) return { roles: [], cost: 0, unmet: [] };
  const bests = bestsOf(candidates);
  // Nothing costs less than roles that nobody has to be led for.
  const least = freeCost(candidates);
  let best: Assignment = { roles: candidates.map(() => null), cost: Number.POSITIVE_INFINITY, unmet: [] };
  for (const plan of plans(candidates)) {
    const spent = plan.unled.size * ASSIGN_PRICES.unled + (plan.carried === "nobody" ? ASSIGN_PRICES.noTune : 0);
    if (least + spent >= best.cost) continue;
    const roles = matched(candidates, placesOf(candidates, plan), bests);
    const cost = costOf(candidates, roles);
    if (cost < best.cost - 1e-9) best = { roles, cost, unmet: [] };
  }
  return { ...best, unmet: unmetOf(candidates, best.roles) };
}

/** Whether beginners of a group have nobody to follow. */
const isUnled =
  (candidates: readonly Candidate[], roles: readonly (RoleName | null)[]) =>
  (group: RoleGroup): boolean => {
    const own = candidates.filter((_, i) => roles[i] && ROLE_RULES[roles[i] as RoleName].group === group);
    return own.some(needsLead) && !own.some((c) => order(c) >= MOVING);
  };

/** What roles cost where nobody has to be led and the tune need not be carried: no more than any assignment. */
function freeCost(candidates: readonly Candidate[]): number {
  const roles = matched(candidates, placesOf(candidates, { led: new Set(), unled: new Set(LED), carried: "nobody" }));
  const unled = LED.filter(isUnled(candidates, roles)).length * ASSIGN_PRICES.unled;
  return costOf(candidates, roles) - unled - (isCarried(candidates, roles) ? 0 : ASSIGN_PRICES.noTune);
}

/** Groups in which beginners may need someone to follow. */
const LED: readonly RoleGroup[] = ROLE_GROUPS.filter((g) => !ALONE.has(g));

function plans(candidates: readonly Candidate[]): Plan[] {
  const strong = candidates.filter((c) => order(c) >= MOVING).length;
  const out: Plan[] = [];
  // Groups that no beginner can be in need nobody to lead.
  const open = LED.filter((g) => candidates.some((c) => needsLead(c) && bestIn(c, g)));
  // Each group is led, or has no beginners, or has them among themselves.
  for (let n = 0; n < 3 ** open.length; n++) {
    const state = open.map((_, i) => Math.floor(n / 3 ** i) % 3);
    const led = new Set(open.filter((_, i) => state[i] === 1));
    const unled = new Set(open.filter((_, i) => state[i] === 2));
    if (led.size > strong) continue;
    for (const carried of ["fluent", "two", "nobody"] as const) out.push({ led, unled, carried });
  }
  const dear = (p: Plan) => p.unled.size + (p.carried === "nobody" ? 4 : 0);
  return out.sort((a, b) => dear(a) - dear(b));
}

/** Players matched to places so that all together cost least (Kuhn 1955, in the form of Jonker and Volgenant). */
function matched(
  candidates: readonly Candidate[],
  places: readonly Place[],
  bests = bestsOf(candidates),
): (RoleName | null)[] {
  const n = candidates.length;
  const m = places.length + n;
  const price = candidates.map((c, i) => [
    ...places.map((p) => {
      const own = bests[i]?.get(p.group);
      return own && p.fits(c) ? own.cost + p.price : FORBIDDEN;
    }),
    ...candidates.map(() => ASSIGN_PRICES.noRole),
  ]);
  const [u, v] = [new Array<number>(n + 1).fill(0), new Array<number>(m + 1).fill(0)];
  const [p, way] = [new Array<number>(m + 1).fill(0), new Array<number>(m + 1).fill(0)];
  for (let i = 1; i <= n; i++) {
    p[0] = i;
    let j0 = 0;
    const least = new Array<number>(m + 1).fill(Number.POSITIVE_INFINITY);
    const used = new Array<boolean>(m + 1).fill(false);
    do {
      used[j0] = true;
      const i0 = p[j0] as number;
      let [delta, j1] = [Number.POSITIVE_INFINITY, 0];
      for (let j = 1; j <= m; j++) {
        if (used[j]) continue;
        const now = (price[i0 - 1]?.[j - 1] as number) - (u[i0] as number) - (v[j] as number);
        if (now < (least[j] as number)) {
          least[j] = now;
          way[j] = j0;
        }
        if ((least[j] as number) < delta) {
          delta = least[j] as number;
          j1 = j;
        }
      }
      for (let j = 0; j <= m; j++) {
        if (used[j]) {
          u[p[j] as number] = (u[p[j] as number] as number) + delta;
          v[j] = (v[j] as number) - delta;
        } else least[j] = (least[j] as number) - delta;
      }
      j0 = j1;
    } while (p[j0] !== 0);
    do {
      const j1 = way[j0] as number;
      p[j0] = p[j1] as number;
      j0 = j1;
    } while (j0);
  }
  const roles = new Array<RoleName | null>(n).fill(null);
  for (let j = 1; j <= places.length; j++) {
    const i = (p[j] as number) - 1;
    if (i < 0 || (price[i]?.[j - 1] as number) >= FORBIDDEN) continue;
    roles[i] = bests[i]?.get((places[j - 1] as Place).group)?.role ?? null;
  }
  return roles;
}

function unmetOf(candidates: readonly Candidate[], roles: readonly (RoleName | null)[]): string[] {
  const unmet: string[] = [];
  if (!isCarried(candidates, roles)) unmet.push("the tune is carried");
  for (const group of LED.filter(isUnled(candidates, roles))) unmet.push(`someone stronger among the ${group}`);
  candidates.forEach((c, i) => {
    if (!roles[i]) unmet.push(`a part for ${c.learner.name}`);
  });
  return unmet;
}

/** Levels a role suits best, from and to; and what each level beside them costs. */
const SUITS: Readonly<Record<RoleName, readonly [number, number]>> = {
  melody: [3, 5],
  "simple melody": [2, 3],
  "low harmony": [3, 5],
  "high harmony": [4, 5],
  "one-note harmony": [1, 2],
  drone: [1, 3],
  bass: [1, 5],
  strum: [1, 5],
  "off-beats": [2, 4],
  "shuffle drone": [2, 4],
  "counter-figure": [4, 5],
  "hand drum": [1, 5],
};
const OFF = 6;

/** What a role costs a learner by itself: how far it is from their level and instrument, and what they played last. */
export function roleCost(
  role: RoleName,
  { learner, on }: Pick<Candidate, "learner" | "on">,
  before: readonly RoleName[],
): number {
  const level = LEVELS.indexOf(learner.level) + 1;
  const [from, to] = SUITS[role];
  const away = Math.max(0, from - level, level - to) * OFF;
  const thrice = before[0] === role && before[1] === role;
  const again = before[0] === role ? ASSIGN_PRICES.twice : 0;
  const run = thrice ? ASSIGN_PRICES.again : again;
  const basses = role === "bass" ? Math.max(0, bassOrder(on)) * 4 : 0;
  // A bass does the bass, a drum drums; a guitar, a ukulele and a banjo strum before they pick.
  const own = on.name.includes("bass") && on.family !== "voice" && role !== "bass" ? 20 : 0;
  const strums = on.frets && on.strings.length > 3 && !["mandolin", "tenor banjo"].includes(on.name);
  const hands = strums && ROLE_RULES[role].kind !== "chords" && role !== "bass" ? 14 : 0;
  // What is blown has the tune; a box is loud enough to carry it; bows sustain.
  const long = ROLE_RULES[role].group === "long notes" && level > 1 && on.family !== "bowed" ? 7 : 0;
  const box = on.family === "box" && ROLE_RULES[role].group === "chords" ? 6 : 0;
  const sings = on.family === "voice" && role !== "melody" && role !== "simple melody" ? 3 : 0;
  return away + run + basses + own + hands + long + box + sings;
}
