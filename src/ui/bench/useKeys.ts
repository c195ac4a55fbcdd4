"use client";
import { useEffect, useRef } from "react";

/** Keys by name, with "Mod+" for Ctrl or Cmd and "Shift+" where it matters. */
export type Keys = Record<string, () => void>;

/** Where something is typed, and controls that go by arrows: they want their own keys. */
const TYPED = "input:not([type=radio], [type=checkbox], [type=range]), textarea, [contenteditable]";
const STEERED = "input, select, [role=slider], [role=radio]";

/**
 * Answers keys anywhere on the page, except while something is being typed or a control wants the key itself. Space is
 * the page's own everywhere but in text and dialogs; a control used with the pointer gives the keys back.
 */
export function useKeys(keyed: (name: string) => (() => void) | undefined) {
  const latest = useRef(keyed);
  latest.current = keyed;
  useEffect(() => {
    const answer = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      byPointer = false;
      if (event.altKey || target.closest(TYPED)) return;
      const plays = event.key === " " && !target.closest("[role=dialog]");
      if (!plays && target.closest(STEERED)) return;
      if (!plays && (event.key === " " || event.key === "Enter") && target.closest("button, a, [role=button]")) return;
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
    let byPointer = false;
    const point = () => {
      byPointer = true;
    };
    const release = ({ target, type }: Event) => {
      const control = (target as HTMLElement).closest<HTMLElement>(`button, ${STEERED}`);
      if (!byPointer || !control || control.closest(`[role=dialog], ${TYPED}`)) return;
      // A list that has just been opened is not done with.
      if (control.matches("select") && type !== "change") return;
      // What the control does with its click or its new value comes first.
      requestAnimationFrame(() => {
        const focused = document.activeElement as HTMLElement | null;
        if (focused && !focused.matches(TYPED) && !focused.closest("[role=dialog]")) focused.blur();
      });
    };
    window.addEventListener("keydown", answer);
    window.addEventListener("pointerdown", point, true);
    window.addEventListener("change", release);
    window.addEventListener("click", release);
    window.addEventListener("pointerup", release);
    return () => {
      window.removeEventListener("keydown", answer);
      window.removeEventListener("pointerdown", point, true);
      window.removeEventListener("change", release);
      window.removeEventListener("click", release);
      window.removeEventListener("pointerup", release);
    };
  }, []);
}
