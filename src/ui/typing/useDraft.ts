"use client";
import { useEffect, useRef } from "react";
import { z } from "zod";
import { Mode } from "../../core/theory";
import { TYPED } from "../../core/typing";
import { keep, kept, letGo } from "../kept";

/** What stands on the typing page. */
const Draft = z.object({
  spelling: z.enum(TYPED),
  title: z.string().max(200),
  tonic: z.string().max(3),
  mode: Mode,
  metre: z.string().max(20),
  step: z.number().min(1),
  instrument: z.string().max(40),
  text: z.string().max(40_000),
});
type Draft = z.infer<typeof Draft>;

const NAME = "symphonos.typing";

/** Keeps what is typed in this browser until it is kept as a tune, and finds it again. Gives what lets go of it. */
export function useDraft(draft: Draft, worth: boolean, onFound: (draft: Draft) => void): () => void {
  const found = useRef(onFound);
  const ready = useRef(false);
  useEffect(() => {
    const old = kept(NAME, Draft);
    if (old) found.current(old);
  }, []);
  const written = JSON.stringify(draft);
  useEffect(() => {
    // The first look only finds what is there.
    if (ready.current && worth) keep(NAME, JSON.parse(written));
    ready.current = true;
  }, [written, worth]);
  return () => letGo(NAME);
}
