"use client";
import { useEffect, useMemo, useState } from "react";
import type { Sheet } from "../../core/score";
import { type Drawing, drawingKey, Recent } from "../../engraving";
import { engraveRow } from "../../workers/engrave";
import { wordsOf } from "../answered";
import { useBench, useBenchStore } from "./state";

/** Rows drawn in this browser, the latest used; undoing or another lens finds them again. */
const MOST = 120;
const kept = new Recent<Drawing>(MOST);
/** Rows that are being drawn, by the same names. */
const asked = new Map<string, Promise<Drawing>>();

const nameOf = (key: string, width: number) => `${key} ${width}`;

/**
 * Asks for a row's drawing, once. It may be asked for ahead of the page's own rendering, to be there when that is
 * done.
 */
export function drawAhead(sheet: Sheet, width: number, key = drawingKey(sheet)): Promise<Drawing> {
  const name = nameOf(key, width);
  const found = kept.get(name);
  if (found) return Promise.resolve(found);
  const asking = asked.get(name) ?? engraveRow(sheet, width);
  asked.set(name, asking);
  return asking.then((drawing) => kept.put(name, drawing)).finally(() => asked.delete(name));
}

/** A drawing may be stretched by this many pixels before it is drawn anew. */
const STRETCH = 3;

/**
 * The drawing of a row: the server's, one kept, or one made now while the row is near the screen. Until a new one is
 * there the old one stays.
 */
export function useDrawn(
  sheet: Sheet,
  width: number,
  near: boolean,
  given: Record<string, Drawing>,
): Drawing | undefined {
  const key = useMemo(() => drawingKey(sheet), [sheet]);
  const own = Object.hasOwn(given, key) ? given[key] : undefined;
  const fits = own && Math.abs(own.width - width) <= STRETCH ? own : undefined;
  const ready = kept.get(nameOf(key, width)) ?? fits;
  const [drawn, setDrawn] = useState(ready ?? own);
  const bench = useBenchStore();
  const attempt = useBench((s) => s.attempt);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `key` stands for `sheet`, which is new at every change
  useEffect(() => {
    if (ready) return setDrawn(ready);
    if (!near) return;
    let current = true;
    drawAhead(sheet, width, key).then(
      (drawing) => {
        if (current) setDrawn(drawing);
      },
      (error: unknown) => {
        if (current) bench.setState({ stalled: wordsOf(error) });
      },
    );
    return () => {
      current = false;
    };
  }, [key, width, near, ready, attempt]);
  return ready ?? drawn;
}
