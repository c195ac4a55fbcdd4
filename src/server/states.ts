import { readWork, same, type Work } from "../core/ensemble";
import { type Rights, tooLarge } from "../core/score";
import {
  addAside,
  addRevision,
  type Db,
  findRevision,
  findTune,
  headOf,
  history,
  inOne,
  insertTune,
  type Moved,
  moveHead,
  nameRevision,
  newestChild,
  troubleOf,
} from "../db";
import { Refusal } from "./answer";
import { factsOf } from "./collection";
import { equipped } from "./instruments";

/** A tune's work as the bench opens it, with the head it stands at. */
export type Loaded = {
  id: number;
  head: number;
  work: Work;
  canUndo: boolean;
  canRedo: boolean;
  step: string;
  /** When this state was saved, in milliseconds. */
  saved: number;
};

/**
 * What became of a change: it counts and this is the head; the tune has gone on since and this is how it stands; or
 * there is no such tune.
 */
export type Kept = { kind: "kept"; head: number } | { kind: "apart"; theirs: Loaded } | { kind: "gone" };
/** The same of a step back or forward, with the state it led to. */
export type Travelled = { kind: "there"; loaded: Loaded } | Exclude<Kept, { kind: "kept" }>;

const LONGEST_STEP = 200;
const LONGEST_NAME = 80;

/** How a tune stands now, for a page that shows it at a head: there only where that is another one. */
export function since(db: Db, id: number, head: number): Travelled | { kind: "same" } {
  if (headOf(db, id) === head) return { kind: "same" };
  return standing(db, id);
}

/** A tune at its head with its work as stored text, which a thread or the browser reads. */
export type Unread = Omit<Loaded, "work"> & { title: string; work: string };

/** A tune at its head, its work unread; undefined when there is none. */
export function unread(db: Db, id: number): Unread | undefined {
  const found = findTune(db, id);
  if (!found) return undefined;
  const { tune, revision } = found;
  return {
    id,
    title: tune.title,
    head: tune.head,
    work: equipped(db, revision.work),
    step: revision.step,
    canUndo: revision.parent !== null,
    canRedo: newestChild(db, id, revision.id) !== undefined,
    saved: revision.created.getTime(),
  };
}

/** A tune with its work read. Throws when that does not hold together. */
export const opened = ({ title: _, work, ...rest }: Unread): Loaded => ({ ...rest, work: readWork(JSON.parse(work)) });

/** Opens a tune at its head; undefined when there is none. Throws when the stored work does not hold together. */
export function load(db: Db, id: number): Loaded | undefined {
  const found = unread(db, id);
  return found && opened(found);
}

/** A tune as it stands. */
function standing(db: Db, id: number): Travelled {
  const loaded = load(db, id);
  return loaded ? { kind: "there", loaded } : { kind: "gone" };
}

function keptOf(db: Db, id: number, moved: Moved): Kept {
  if (typeof moved === "object") return { kind: "kept", ...moved };
  const theirs = moved === "apart" ? load(db, id) : undefined;
  return theirs ? { kind: "apart", theirs } : { kind: "gone" };
}

/** A state to be saved on top of the head it was made from. */
export type Step = { id: number; head: number; step: string; work: Work; token?: string | undefined };

/** Saves a new state of a tune on top of the head it was made from. Throws where the work does not hold together. */
export function save(db: Db, { id, head, step, work, token }: Step): Kept {
  const checked = readWork(work);
  const before = findRevision(db, id, head);
  const old = before && readWork(JSON.parse(before.work)).tune;
  // The facts of the list follow from the tune alone; a step that leaves it alone need not work them out again.
  const unchanged = old !== undefined && same(old, checked.tune);
  // A tune from before there were limits may be worked on, not made into another one that is too large.
  const wrong = unchanged || (old && tooLarge(old)) ? undefined : tooLarge(checked.tune);
  if (wrong) throw new Refusal(`${wrong}. Nothing was saved.`);
  const state = {
    facts: unchanged ? undefined : factsOf(checked),
    step: step.slice(0, LONGEST_STEP),
    work: JSON.stringify(checked),
    token,
  };
  return keptOf(db, id, addRevision(db, id, head, state));
}

/** Goes one step back from a head, or forward again to the newest state made from it. Does nothing at either end. */
export function travel(db: Db, { id, head, way }: { id: number; head: number; way: "undo" | "redo" }): Travelled {
  const now = load(db, id);
  if (!now) return { kind: "gone" };
  if (now.head !== head) return { kind: "apart", theirs: now };
  const parent = findRevision(db, id, head)?.parent ?? null;
  const before = () => (parent === null ? undefined : findRevision(db, id, parent));
  const target = way === "redo" ? newestChild(db, id, head) : before();
  if (!target) return { kind: "there", loaded: now };
  return arrived(db, id, moveHead(db, id, head, target.id, factsOf(readWork(JSON.parse(target.work)))));
}

function arrived(db: Db, id: number, moved: Moved): Travelled {
  const kept = keptOf(db, id, moved);
  return kept.kind === "kept" ? standing(db, id) : kept;
}

/** A state of a tune as its history shows it. */
export type Version = { id: number; step: string; name: string | null; at: number; current: boolean };

/** States of a tune, newest first. */
export const versions = (db: Db, id: number): Version[] => {
  const head = findTune(db, id)?.tune.head;
  return history(db, id).map((r) => ({
    id: r.id,
    step: r.step,
    name: r.name,
    at: r.created.getTime(),
    current: r.id === head,
  }));
};

const named = (name: string) => name.replace(/\s+/g, " ").trim().slice(0, LONGEST_NAME);

/** Names the state a tune is in; an empty name takes it away. */
export function nameVersion(db: Db, id: number, revision: number, name: string): void {
  nameRevision(db, id, revision, named(name) || null);
}

/** The work of any state a tune has been in; undefined where there is none. */
export function stateOf(db: Db, id: number, revision: number): Work | undefined {
  const found = findRevision(db, id, revision);
  return found && readWork(JSON.parse(found.work));
}

/** Brings an earlier state back as a new step on top, so that nothing after it is lost. */
export function bringBack(db: Db, { id, head, revision }: { id: number; head: number; revision: number }): Travelled {
  const found = findRevision(db, id, revision);
  if (!found) return { kind: "gone" };
  const step = `Back to ${found.name ? `“${found.name}”` : found.step.toLowerCase()}`;
  const kept = save(db, { id, head, step, work: readWork(JSON.parse(found.work)) });
  return kept.kind === "kept" ? standing(db, id) : kept;
}

/** Where a tune was changed in two places: what is taken, and the state that was never saved. */
export type Settling = {
  id: number;
  /** The head that was seen beside the own state. */
  head: number;
  token: string;
  take: "mine" | "theirs" | "both";
  step: string;
  mine: Work;
  /** Both changes in one, where both are taken. */
  both?: Work | undefined;
};

/** Settles it. What is not taken stays as a named version. */
export function settle(db: Db, { id, head, token, take, step, mine, both }: Settling): Travelled {
  const now = load(db, id);
  if (!now) return { kind: "gone" };
  if (now.head !== head) return { kind: "apart", theirs: now };
  if (take === "theirs") {
    const name = named(`Not taken: ${step}`);
    addAside(db, id, { name, step: step.slice(0, LONGEST_STEP), work: JSON.stringify(readWork(mine)), token });
    return { kind: "there", loaded: now };
  }
  return inOne(db, () => {
    const current = versions(db, id).find((v) => v.current);
    if (take === "mine" && !current?.name) nameVersion(db, id, head, `Not taken: ${now.step}`);
    const work = take === "both" && both ? both : mine;
    const kept = save(db, {
      id,
      head,
      token,
      step: take === "both" ? `${step}, and what was saved elsewhere` : step,
      work,
    });
    return kept.kind === "kept" ? standing(db, id) : kept;
  });
}

/** Keeps work whose tune is gone as a new tune; gives its id. */
export const keepAnew = (db: Db, step: string, work: Work): number => {
  const checked = readWork(work);
  return insertTune(db, factsOf(checked), step.slice(0, LONGEST_STEP), JSON.stringify(checked));
};

/** A tune of several to which something could not be done, and why. */
export type Left = { id: number; problem: string };

/** Records source and rights of several tunes, a step in each, in one transaction. Gives those that were left out. */
export function recordRights(db: Db, ids: readonly number[], rights: Rights, source: string | undefined): Left[] {
  return inOne(db, () =>
    ids.flatMap((id): Left[] => {
      try {
        const loaded = load(db, id);
        if (!loaded) return [];
        const { tune } = loaded.work;
        const recorded = { ...tune, rights, ...(source ? { source: source.slice(0, 2000) } : {}) };
        save(db, { id, head: loaded.head, step: "Rights recorded", work: { ...loaded.work, tune: recorded } });
        return [];
      } catch (error) {
        if (troubleOf(error, db.$client.name)) throw error;
        return [{ id, problem: error instanceof Error ? error.message.slice(0, 200) : String(error) }];
      }
    }),
  );
}
