import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Work } from "../../core/ensemble";
import { goneTabs, TAB } from "./tabs";

/** A step that the application has not acknowledged yet. */
export type Unsaved = {
  token: string;
  tune: number;
  /** The head it was made from, as far as this page knew. */
  head: number;
  step: string;
  work: Work;
  at: number;
};
type Shelved = Unsaved & { tab: string; order: number };
interface Schema extends DBSchema {
  unsaved: { key: string; value: Shelved; indexes: { tune: number } };
}

let opening: Promise<IDBPDatabase<Schema>> | undefined;
const open = () => {
  opening ??= openDB<Schema>("symphonos", 1, {
    upgrade: (db) => void db.createObjectStore("unsaved", { keyPath: "token" }).createIndex("tune", "tune"),
  });
  return opening;
};

let order = 0;

/** Where the browser keeps nothing (a private window, a full disk), work is still held by the page itself. */
const tried = async <T>(run: (db: IDBPDatabase<Schema>) => Promise<T>, otherwise: T): Promise<T> => {
  try {
    return await run(await open());
  } catch {
    return otherwise;
  }
};

/** Keeps a step in the browser's own database. */
export const keep = (step: Unsaved): Promise<void> =>
  tried(async (db) => void (await db.put("unsaved", { ...step, tab: TAB, order: order++ })), undefined);

/** Lets go of a step that is saved; the one after it was made from the new head. In one transaction. */
export const letGo = (token: string, next?: Unsaved): Promise<void> =>
  tried(async (db) => {
    const { store, done } = db.transaction("unsaved", "readwrite");
    await store.delete(token);
    const kept = next && (await store.get(next.token));
    if (kept) await store.put({ ...kept, head: next.head });
    await done;
  }, undefined);

/** Steps that tabs which are gone have left, in their order: of one tune, or of all. */
export const leftBehind = (tune?: number): Promise<Unsaved[]> =>
  tried(async (db) => {
    const all = tune === undefined ? await db.getAll("unsaved") : await db.getAllFromIndex("unsaved", "tune", tune);
    const gone = new Set(await goneTabs(all.map((step) => step.tab)));
    return all.filter((step) => gone.has(step.tab)).sort((a, b) => a.at - b.at || a.order - b.order);
  }, []);
