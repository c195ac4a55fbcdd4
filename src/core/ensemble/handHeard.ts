import type { Performance, PlayedNote, Sheet } from "../score";
import { pureCents } from "../technique";
import { midi } from "../theory";
import type { Derived } from "./derive";
import { HAND_STAFF, handSheet, playedBy } from "./hands";
import { performed } from "./performed";
import type { Hand, Work } from "./work";

type Known = Pick<Derived, "analysis" | "parts" | "plan">;

/**
 * A sheet of a work as it is danced, with the tune as one hand plays it: its double stops, its chords, its roll. Under
 * a bow double stops ring pure where that is asked for. Chords that the hand plays itself are not played again.
 */
export function performedBy(
  hand: Hand,
  work: Work,
  derived: Known,
  sheet: Sheet,
  { percent, pure, chords = true }: { percent?: number; pure: boolean; chords?: boolean },
): Performance {
  const melody = derived.parts.find((p) => p.role === "melody")?.id;
  const own = handSheet(work, derived, { ...sheet, staves: [] }, hand).staves.find((s) => s.id === HAND_STAFF);
  const others = sheet.staves.filter((s) => s.id !== HAND_STAFF);
  const staves = own ? others.map((s) => (s.id === melody ? { ...own, id: s.id, name: s.name } : s)) : others;
  const backed = chords && hand.kind !== "melody with chords";
  const heard = performed(work, derived, { ...sheet, staves }, { chords: backed, ...(percent ? { percent } : {}) });
  const on = playedBy(work, hand);
  if (!own || !pure || on.family !== "bowed") return heard;
  const open = new Set(on.strings.map((s) => midi(s.open)));
  const together = new Map<number, PlayedNote[]>();
  for (const n of heard.notes) if (n.line === melody) together.set(n.at, [...(together.get(n.at) ?? []), n]);
  const moved = new Map<PlayedNote, number>();
  for (const notes of together.values()) {
    const [low, high] = notes.sort((a, b) => a.noteNumber - b.noteNumber);
    if (!low || !high || notes.length !== 2) continue;
    const stopped = (n: PlayedNote) => ({ noteNumber: n.noteNumber, open: open.has(n.noteNumber) });
    const cents = pureCents(stopped(low), stopped(high));
    moved.set(low, cents.low).set(high, cents.high);
  }
  return { ...heard, notes: heard.notes.map((n) => ({ ...n, cents: moved.get(n) ?? n.cents })) };
}
