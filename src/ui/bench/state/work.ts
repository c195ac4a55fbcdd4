import { type Derived, type DerivedTune, withNewTune, withTune } from "../../../core/ensemble";
import type { Tune } from "../../../core/score";
import { saveStep, travelStep } from "../../../server/actions";
import type { Loaded } from "../../../server/collection";
import { deriveWork } from "../../../workers/derive";
import type { Get, Put, WorkSlice } from "./model";

/** What an action answered: what it gave, or what was wrong in words. */
const GONE = "This tune is no longer in the collection.";
const SILENT = "Not saved: the application does not answer. Start it again; then undo and redo once to save.";

export function workSlice(loaded: Loaded, derived: Derived, set: Put, get: Get): WorkSlice {
  /** Saves run one after another. An answer counts only if nothing newer has been done meanwhile. */
  let line: Promise<unknown> = Promise.resolve();
  let order = 0;
  let asked = 0;

  const take = (found: Derived) => {
    get().ahead(found);
    set({ derived: found });
  };
  const rederive = () => {
    const own = ++asked;
    const onTune = (tune: DerivedTune) => {
      const found = own === asked && withNewTune(get().derived, tune);
      if (found) take(found);
    };
    deriveWork(get().work, onTune).then(
      (found) => {
        if (own !== asked || !found) return;
        take(found);
        get().compareAgain();
      },
      (error: unknown) => set({ problem: `This tune could not be worked out: ${String(error)}` }),
    );
  };
  const show = (next: Loaded) => {
    set(next);
    rederive();
  };
  const enqueue = (run: () => Promise<{ problem?: string; loaded?: Loaded | null }>) => {
    const own = ++order;
    line = line.then(run).then(
      ({ problem = "", loaded: next }) => {
        set({ problem });
        if (next && own === order) show(next);
      },
      () => set({ problem: SILENT }),
    );
  };
  const change: WorkSlice["change"] = (step, edit) => {
    const before = get().work;
    const work = edit(before);
    if (JSON.stringify(work) === JSON.stringify(before)) return;
    set({ work, canUndo: true, canRedo: false, step });
    rederive();
    enqueue(async () => {
      const saved = await saveStep({ id: loaded.id, step, work });
      if (!saved.ok) return { problem: `Not saved: ${saved.problem}` };
      if (saved.value === null) return { problem: GONE };
      set({ head: saved.value });
      return {};
    });
  };
  return {
    ...loaded,
    derived,
    problem: "",
    ahead: () => {},
    change,
    edit: (step, make) => {
      const made = make(get().work.tune);
      if (made.tune) change(step, (work) => withTune(work, made.tune as Tune));
      return made.refused;
    },
    travel: (way) =>
      enqueue(async () => {
        const gone = await travelStep({ id: loaded.id, way });
        if (!gone.ok) return { problem: gone.problem };
        return gone.value ? { loaded: gone.value } : { problem: GONE };
      }),
    show,
  };
}
