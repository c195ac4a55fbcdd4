"use client";
// The bench's one store: the work and what follows from it, what is looked at, what sounds, what is compared.
// Components take what they need by selector; nothing renders for what it does not show.
import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { createStore, type StoreApi, useStore } from "zustand";
import type { Derived } from "../../../core/ensemble";
import type { Loaded } from "../../../server/states";
import { compareSlice } from "./compare";
import { decideSlice } from "./decide";
import type { BenchState } from "./model";
import { soundSlice } from "./sound";
import { viewSlice } from "./view";
import { workSlice } from "./work";

export { chosenChord, chosenNote } from "./decide";
export * from "./model";

type Bench = StoreApi<BenchState>;

/** The store of one tune's bench. Long notes start silent: they are there to be played to. */
export const benchOf = (loaded: Loaded, derived: Derived): Bench =>
  createStore<BenchState>()((set, get) => ({
    ...workSlice(loaded, derived, set, get),
    ...viewSlice(set, get),
    ...soundSlice(
      derived.parts.filter((p) => p.role === "one-note harmony").map((p) => p.id),
      set,
      get,
    ),
    ...compareSlice(set, get),
    ...decideSlice(set, get),
  }));

const Context = createContext<Bench | null>(null);

export function BenchProvider({
  loaded,
  derived,
  children,
}: {
  loaded: Loaded;
  derived: Derived;
  children: ReactNode;
}) {
  const [bench] = useState(() => benchOf(loaded, derived));
  useEffect(() => bench.getState().start(), [bench]);
  useEffect(() => () => bench.getState().close(), [bench]);
  return <Context.Provider value={bench}>{children}</Context.Provider>;
}

/** The store itself, for handlers that read it when something happens. */
export function useBenchStore(): Bench {
  const bench = useContext(Context);
  if (!bench) throw new Error("The bench's parts stand inside a BenchProvider.");
  return bench;
}

/** What a component needs of the bench; it renders again only when that changes. */
export const useBench = <T,>(pick: (state: BenchState) => T): T => useStore(useBenchStore(), pick);
