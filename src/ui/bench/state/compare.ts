import { lockBars } from "../../../core/chords";
import { lockChords } from "../../../core/ensemble";
import { rivalLineOf, rivalPlanOf } from "../../../workers/derive";
import { wordsOf } from "../../answered";
import type { CompareSlice, Get, Put } from "./model";

export function compareSlice(set: Put, get: Get): CompareSlice {
  const deriveRival = async (rival: string) => {
    if (!rival) return set({ rivalPlan: null });
    await rivalPlanOf(get().work, rival).then(
      (rivalPlan) => get().rival === rival && set({ rivalPlan }),
      (error: unknown) => set({ rivalPlan: null, stalled: wordsOf(error) }),
    );
  };
  const deriveLine = async (school: string) => {
    const line = get().work.lines[0]?.id;
    if (!school || line === undefined) return set({ rivalLine: null });
    await rivalLineOf(get().work, line, school).then(
      (rivalLine) => get().school === school && set({ rivalLine }),
      (error: unknown) => set({ rivalLine: null, stalled: wordsOf(error) }),
    );
  };
  return {
    rival: "",
    rivalPlan: null,
    setRival: (rival) => {
      set({ rival, rivalPlan: null });
      void deriveRival(rival);
    },
    takeRivalBars: (from, to) => {
      const { rival, rivalPlan, change } = get();
      if (rivalPlan) change(`Chords of ${rival} taken`, (w) => lockChords(w, lockBars(rivalPlan, from, to)));
    },
    school: "",
    rivalLine: null,
    setSchool: (school) => {
      set({ school, rivalLine: null });
      void deriveLine(school);
    },
    numbers: false,
    ghost: false,
    trying: false,
    setNumbers: (numbers) => set({ numbers }),
    setGhost: (ghost) => set({ ghost }),
    setTrying: (trying) => set({ trying }),
    hearRival: (what, from, to, which) => {
      const { hear, rivalLine, rivalPlan } = get();
      const theirs = what === "line" ? { line: rivalLine } : { plan: rivalPlan };
      hear(from, to, which === "theirs" ? theirs : {});
    },
    compareAgain: async () => {
      const { rival, school } = get();
      await Promise.all([rival && deriveRival(rival), school && deriveLine(school)]);
    },
  };
}
