import { strokesOf } from "../../../core/ensemble";
import type { Get, Put, ViewSlice } from "./model";

export function viewSlice(set: Put, get: Get): ViewSlice {
  /** The bar of what is looked at. */
  const barOf = (next: ViewSlice["selection"]): number | undefined => {
    const { derived } = get();
    if (next?.kind === "event") return next.bar;
    if (next?.kind === "stroke") return strokesOf(get().work, derived, get().hand).strokes[next.index]?.place.index;
    if (next?.kind === "chord") return derived.plan.chords[next.index]?.bar;
    if (next?.kind === "note") return derived.lines.find((l) => l.id === next.line)?.notes[next.index]?.bar;
    return undefined;
  };
  return {
    selection: null,
    bar: 0,
    loop: null,
    shown: "all",
    hand: "bow",
    rivalBowing: null,
    strumDrawn: "slashes",
    cell: null,
    handShown: null,
    evening: null,
    pure: true,
    help: false,
    folded: true,
    page: "Say",
    refused: undefined,
    stalled: "",
    attempt: 0,
    select: (selection) => {
      const bar = barOf(selection);
      set({
        selection,
        chordRefused: "",
        strokeRefused: "",
        ...(selection?.kind === "event" ? { page: "Note" as const } : {}),
        ...(bar === undefined ? {} : { bar, loop: null }),
        ...(selection ? { folded: false } : {}),
      });
    },
    pick: (next, extend) =>
      set(({ bar }) =>
        extend ? { loop: { from: Math.min(bar, next), to: Math.max(bar, next) } } : { bar: next, loop: null },
      ),
    setLoop: (loop) => set({ loop }),
    setBar: (bar) => set({ bar }),
    setShown: (shown) => set({ shown }),
    setHand: (hand) => set(({ selection }) => ({ hand, selection: selection?.kind === "stroke" ? null : selection })),
    setRivalBowing: (rivalBowing) => set({ rivalBowing }),
    setStrumDrawn: (strumDrawn) => set({ strumDrawn }),
    setEvening: (evening) => set({ evening }),
    setHandShown: (handShown) => set({ handShown }),
    setPure: (pure) => set({ pure }),
    setCell: (cell) => set({ cell }),
    setHelp: (help) => set({ help }),
    setFolded: (folded) => set({ folded }),
    setPage: (page) => set({ page }),
    setRefused: (refused) => set({ refused }),
  };
}
