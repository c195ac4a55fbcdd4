"use client";
import { useEffect, useRef } from "react";

/** Keys by name, with "Mod+" for Ctrl or Cmd and "Shift+" where it matters. */
export type Keys = Record<string, () => void>;

/** Answers keys anywhere on the page, except while something is being typed or a control wants the key itself. */
export function useKeys(keyed: (name: string) => (() => void) | undefined) {
  const latest = useRef(keyed);
  latest.current = keyed;
  useEffect(() => {
    const answer = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.altKey || target.closest("input, textarea, select, [contenteditable], [role=slider]")) return;
      if ((event.key === " " || event.key === "Enter") && target.closest("button, a, [role=button], [role=radio]"))
        return;
      const mod = event.ctrlKey || event.metaKey;
      const name =
        event.key.length === 1 && (mod || event.key !== event.key.toUpperCase()) ? event.key.toLowerCase() : event.key;
      const shift = event.shiftKey && (mod || name.length > 1);
      const run =
        latest.current(`${mod ? "Mod+" : ""}${shift ? "Shift+" : ""}${name}`) ??
        (mod ? undefined : latest.current(name.toLowerCase()));
      if (!run) return;
      event.preventDefault();
      run();
    };
    // A button clicked with the pointer gives the keys back to the page, so that Space still plays.
    const release = (event: MouseEvent) => {
      if (event.detail > 0)
        (event.target as HTMLElement)
          .closest<HTMLElement>("#rows button, header button, footer button, aside button")
          ?.blur();
    };
    window.addEventListener("keydown", answer);
    window.addEventListener("click", release);
    return () => {
      window.removeEventListener("keydown", answer);
      window.removeEventListener("click", release);
    };
  }, []);
}
