"use client";
import { useEffect, useMemo, useState } from "react";
import type { Sheet } from "../../core/score";
import { drawingKey } from "../../engraving";
import type { Drawing } from "../../server/drawings";
import { startEngraver } from "../../workers/engrave";

/** Rows drawn in this browser, the latest used; undoing or another lens finds them again. */
const MOST = 120;
const kept = new Map<string, string>();
function keep(name: string, svg: string): void {
  kept.delete(name);
  kept.set(name, svg);
  for (const oldest of kept.keys()) {
    if (kept.size <= MOST) break;
    kept.delete(oldest);
  }
}

/** A drawing may be stretched by this many pixels before it is drawn anew. */
const STRETCH = 3;

/**
 * The drawing of a row: the server's, one kept, or one made now while the row is near the screen. Until a new one is there the old
 * one stays.
 */
export function useDrawn(sheet: Sheet, width: number, near: boolean, given: Record<string, Drawing>): string {
  const key = useMemo(() => drawingKey(sheet), [sheet]);
  const own = Object.hasOwn(given, key) ? given[key] : undefined;
  const ready = kept.get(`${key} ${width}`) ?? (own && Math.abs(own.width - width) <= STRETCH ? own.svg : undefined);
  const [drawn, setDrawn] = useState(ready ?? own?.svg ?? "");
  // biome-ignore lint/correctness/useExhaustiveDependencies: `key` stands for `sheet`, which is new at every change of any row
  useEffect(() => {
    if (ready) return setDrawn(ready);
    if (!near) return;
    let current = true;
    void startEngraver()
      .row(sheet, width)
      .then(({ svg }) => {
        keep(`${key} ${width}`, svg);
        if (current) setDrawn(svg);
      });
    return () => {
      current = false;
    };
  }, [key, width, near, ready]);
  return ready ?? drawn;
}
