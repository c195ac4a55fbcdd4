import { Group, Learner, readRoster, type RosterFault } from "../core/grading";
import { type Before, readWork } from "../core/ensemble";
import { type Db, dropGroup, findTune, keepGroup, storedGroups } from "../db";
import { collection } from "./collection";
import { Refusal } from "./answer";
import { instrumentsOf } from "./instruments";

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
