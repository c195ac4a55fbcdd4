import { type Derived, type DerivedTune, joined, withNewTune, withTune, type Work } from "../../../core/ensemble";
import type { Tune } from "../../../core/score";
import type { Loaded } from "../../../server/states";
import { deriveWork } from "../../../workers/derive";
import { wordsOf } from "../../answered";
import { ask } from "../../saving/ask";
import { saverOf } from "../../saving/saver";
import { leftBehind } from "../../saving/shelf";
import { listen } from "../../saving/tabs";
import type { Get, Put, WorkSlice } from "./model";

export function workSlice(loaded: Loaded, derived: Derived, set: Put, get: Get): WorkSlice {
  const saver = saverOf(loaded.id, loaded.head);
  let asked = 0;

  const take = (found: Derived) => {
    get().ahead(found);
    set({ derived: found });
  };
  const rederive = () => {
    const own = ++asked;
    set({ busy: true });
    const settled = () => own === asked && set({ busy: false });
    const onTune = (tune: DerivedTune) => {
      const found = own === asked && withNewTune(get().derived, tune);
      if (found) take(found);
    };
    deriveWork(get().work, onTune).then(
      (found) => {
        if (own !== asked || !found) return;
        take(found);
        void get().compareAgain().then(settled);
      },
      (error: unknown) => {
        set({ stalled: wordsOf(error) });
        settled();
      },
    );
  };
  const show = (next: Loaded, remark = "") => {
    set({ ...next, remark, problem: "" });
    rederive();
  };
  const showWork = (step: string, work: Work) => {
    set({ work, canUndo: true, canRedo: false, step, remark: "", problem: "", offer: null });
    rederive();
  };
  const change: WorkSlice["change"] = (step, edit) => {
    const before = get().work;
    const work = edit(before);
    if (JSON.stringify(work) === JSON.stringify(before)) return;
    showWork(step, work);
    saver.save(step, work);
  };

  /** Where the saver says the tune went apart: both changes in one, if neither touches the other. */
  const join = async () => {
    const { saving, work } = get();
    if (saving.kind !== "apart") return;
    const base = await ask(loaded.id, "state", { revision: saver.at });
    const both = base.ok && base.value ? joined(base.value as Work, work, saving.theirs.work) : undefined;
    if (get().saving === saving) set({ both });
  };

  /** What the page does once it stands: hears of saving and of other tabs, and finds what was left unsaved. */
  const start = () => {
    const unhear = saver.hear({
      saving: (saving, head) => {
        set({ saving, head, ...(saving.kind === "apart" ? {} : { both: undefined }) });
        void join();
      },
      show,
      fail: (problem) => set({ problem }),
    });
    const last = saver.unsaved.at(-1);
    if (last) showWork(last.step, last.work);
    const look = () => void saver.look();
    const seen = () => document.visibilityState === "visible" && look();
    const deaf = listen((news) => (news === null || (news.id === loaded.id && news.head !== saver.at)) && look());
    document.addEventListener("visibilitychange", seen);
    window.addEventListener("pageshow", look);
    look();
    void leftBehind(loaded.id).then((left) => left.length > 0 && set({ left }));
    return () => {
      unhear();
      deaf();
      document.removeEventListener("visibilitychange", seen);
      window.removeEventListener("pageshow", look);
    };
  };

  return {
    ...loaded,
    derived,
    busy: false,
    problem: "",
    remark: "",
    saving: { kind: "saved" },
    both: undefined,
    left: [],
    ahead: () => {},
    start,
    tryAgain: () => {
      set(({ attempt }) => ({ stalled: "", attempt: attempt + 1 }));
      rederive();
    },
    change,
    edit: (step, make) => {
      const made = make(get().work.tune);
      if (made.tune) change(step, (work) => withTune(work, made.tune as Tune));
      return made.refused;
    },
    travel: (way) => saver.travel(way),
    restore: (revision) => saver.restore(revision),
    retry: () => saver.retry(),
    settle: (choice) => void saver.settle(choice, get().both),
    leaveOut: () => void saver.leaveOut(),
    keepAnew: () => saver.keepAnew(get().step, get().work),
    takeLeft: () => {
      const { left } = get();
      const last = left.at(-1);
      if (!last) return;
      set({ left: [] });
      showWork(last.step, last.work);
      void saver.adopt(left);
    },
    setLeftAside: () => {
      const { left } = get();
      void saver.setAside(left).then((done) => done && set({ left: [] }));
    },
  };
}
