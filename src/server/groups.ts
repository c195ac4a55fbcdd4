import { analyse } from "../core/analysis";
import { type Before, grooveFor, readWork, type Work } from "../core/ensemble";
import { NO_DANCE, usualTempo } from "../core/feel";
import { difficultyOf, Group, Learner, readRoster, type RosterFault } from "../core/grading";
import { FIDDLE } from "../core/instruments";
import { beatTicks } from "../core/score";
import { type Db, dropGroup, findTune, keepGroup, storedGroups } from "../db";
import { collection } from "./collection";
import { Refusal } from "./answer";
import { instrumentsOf } from "./instruments";
import { load } from "./states";

/** Most groups of a teacher. */
const MOST_GROUPS = 60;

/** A teacher's groups; learners whose record no longer holds together are passed over. */
export const groupsOf = (db: Db): Group[] =>
  storedGroups(db).flatMap(({ name, learners }) => {
    const rows: unknown = JSON.parse(learners);
    if (!Array.isArray(rows)) return [];
    const whole = rows.flatMap((row) => {
      const found = Learner.safeParse(row);
      return found.success ? [found.data] : [];
    });
    return [{ name, learners: whole }];
  });

/** Keeps a group, in the place of the one called `before`. Throws where it does not hold together. */
export function saveGroup(db: Db, group: Group, before: string | null): Group[] {
  const checked = Group.parse(group);
  const all = groupsOf(db);
  const another = all.find((g) => g.name.toLowerCase() === checked.name.toLowerCase() && g.name !== before);
  if (another) throw new Refusal(`There is a group called ${another.name} already. Give this one another name.`);
  if (before === null && all.length >= MOST_GROUPS)
    throw new Refusal(`There are ${MOST_GROUPS} groups. Take one away first.`);
  keepGroup(db, checked.name, JSON.stringify(checked.learners), before);
  return groupsOf(db);
}

/** Takes a group away. */
export function removeGroup(db: Db, name: string): Group[] {
  dropGroup(db, name);
  return groupsOf(db);
}

/** What came of a table that was brought in: the groups as they are now, and every row that could not be read. */
export type BroughtIn = { groups: Group[]; faults: RosterFault[] };

/** Brings a group in from a table; nothing is kept where nobody in it can be read. */
export function bringGroupIn(db: Db, name: string, table: string): BroughtIn {
  const { learners, faults } = readRoster(table, instrumentsOf(db));
  if (learners.length === 0) return { groups: groupsOf(db), faults };
  const taken = new Set(groupsOf(db).map((g) => g.name.toLowerCase()));
  let own = name;
  for (let i = 2; taken.has(own.toLowerCase()); i++) own = `${name} ${i}`;
  return { groups: saveGroup(db, { name: own, learners }, null), faults };
}

/** Tunes that are looked at for what a group played, and how many of them count. */
const LOOKED_AT = 60;
const COUNTED = 3;

/** What everyone in a group played in the last tunes where that was noted, the latest first; one tune left out. */
export function rolesBefore(db: Db, group: string, except: number): Before {
  const roles = new Map<string, Before[number]["roles"]>();
  let counted = 0;
  for (const { id } of collection(db, { sort: "changed", down: true }, LOOKED_AT)) {
    if (id === except || counted >= COUNTED) continue;
    const stored = findTune(db, id)?.revision.work ?? "";
    if (!stored.includes('"played":')) continue;
    const { evening } = readWork(JSON.parse(stored));
    if (evening?.group !== group || !evening.played) continue;
    counted++;
    for (const { name, role } of evening.played) roles.set(name, [...(roles.get(name) ?? []), role]);
  }
  return [...roles].map(([name, own]) => ({ name, roles: own }));
}

/** A tune of the shelf that is easier than another: how hard both are, and what makes the difference. */
export type Easier = { id: number; title: string; difficulty: number; instead: number; because: string[] };

/** Points that make a tune easier, tunes that are offered, and reasons that are told. */
const EASIER = 8;
const OFFERED = 4;
const REASONS = 2;

/** How hard a tune is as it is written, on a fiddle at the middle of practice. */
function weigh(work: Work) {
  const analysis = analyse(work.tune);
  const groove = grooveFor(work, { analysis }) ?? NO_DANCE;
  const tick = 60 / (usualTempo(groove, work.tune.metre, "practice") * beatTicks(work.tune.metre));
  const { places } = analysis;
  return difficultyOf(
    places,
    places.map((p) => p.bar.events),
    FIDDLE,
    tick,
  );
}

/** Easier tunes of the shelf for tonight, the nearest first: those of the same dance, then others. */
export function easierTunes(db: Db, id: number): Easier[] {
  const here = load(db, id);
  const found = findTune(db, id);
  if (!here || !found) return [];
  const own = weigh(here.work);
  const easier = collection(db, {}, LOOKED_AT).flatMap((listed): (Easier & { same: boolean })[] => {
    const stored = listed.id === id ? undefined : findTune(db, listed.id)?.revision.work;
    if (!stored) return [];
    const other = weigh(readWork(JSON.parse(stored)));
    if (own.difficulty - other.difficulty < EASIER) return [];
    const less = own.features
      .map((f, i) => ({ name: f.name, by: f.points - (other.features[i]?.points ?? 0) }))
      .sort((a, b) => b.by - a.by);
    return [
      {
        id: listed.id,
        title: listed.title,
        difficulty: Math.round(other.difficulty),
        instead: Math.round(own.difficulty),
        because: less.slice(0, REASONS).map((l) => l.name),
        same: listed.dance === found.tune.dance,
      },
    ];
  });
  return easier
    .sort((a, b) => Number(b.same) - Number(a.same) || b.difficulty - a.difficulty)
    .slice(0, OFFERED)
    .map(({ same: _, ...tune }) => tune);
}
