"use client";
import { type PointerEvent, type RefObject, useRef } from "react";
import { type Measured, noteAt } from "../../engraving";
import { lineNoteAt } from "./layout";
import { useBenchStore } from "./state";

/** A note picked up by the pointer. */
type Held = { staff: string; bar: number; event: number; y: number; step: number; steps: number; mark: Element | null };

/** How many of the drawing's own units so many pixels of the screen are. */
const scaleOf = (mark: Element, pixels: number): number =>
  pixels / ((mark as SVGGraphicsElement).getScreenCTM?.()?.a || 1);

const moveMark = (mark: Element | null, text: string) => {
  if (mark) (mark as SVGElement).style.transform = text;
};

/**
 * Drags a note of the tune, or of a line in the harmony lens, by whole steps of the staff; let go to take. Notes of
 * other staves stay.
 */
export function useNoteDrag(holder: RefObject<HTMLDivElement | null>, measured: Measured | null, lens: string) {
  const bench = useBenchStore();
  const held = useRef<Held | null>(null);
  /** Whether the notes of a part can be dragged under this lens. */
  const moves = (id: string): boolean => {
    const part = bench.getState().derived.parts.find((p) => p.id === id);
    return lens === "Tune" ? part?.role === "melody" : lens === "Harmony" && part?.line != null;
  };
  const pickUp = (event: PointerEvent) => {
    const box = holder.current?.getBoundingClientRect();
    if (!box || !measured || event.shiftKey || event.button !== 0) return;
    const hit = noteAt(measured, event.clientX - box.left, event.clientY - box.top);
    const staff = measured.staves.find((s) => s.bar === hit?.bar && s.staff === hit?.staff);
    if (!hit || !staff || !moves(hit.staff)) return;
    const mark = holder.current?.querySelector(`[data-id="${hit.staff}.${hit.bar}.${hit.event}"]`) ?? null;
    // A finger scrolls the page: it moves a note only once the note has been chosen.
    if (event.pointerType === "touch" && !mark?.hasAttribute("data-chosen")) return;
    held.current = { ...hit, y: event.clientY, step: (staff.bottom - staff.top) / 8, steps: 0, mark };
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent) => {
    const note = held.current;
    if (!note) return;
    note.steps = Math.round((note.y - event.clientY) / note.step);
    const shift = note.mark && note.steps ? -note.steps * scaleOf(note.mark, note.step) : 0;
    moveMark(note.mark, shift ? `translate(0, ${shift}px)` : "");
  };
  const letGo = () => {
    const note = held.current;
    held.current = null;
    if (!note) return;
    moveMark(note.mark, "");
    if (!note.steps) return;
    const { derived, dragNote, stepNote } = bench.getState();
    const part = derived.parts.find((p) => p.id === note.staff);
    const line = derived.lines.find((l) => l.id === part?.line);
    if (!line) return dragNote({ bar: note.bar, event: note.event }, note.steps);
    const index = lineNoteAt(line.notes, note);
    if (index >= 0) stepNote(line.id, index, note.steps);
  };
  return {
    style: lens === "Tune" || lens === "Harmony" ? { touchAction: "pan-y" as const } : {},
    handlers: { onPointerDown: pickUp, onPointerMove: move, onPointerUp: letGo, onPointerCancel: letGo },
  };
}
