"use client";
import { useMemo } from "react";
import { NOTE_EDITS } from "./noteEdits";
import { numberedCells } from "./usePulse";
import { voicesOf } from "./voices";
import { type BenchState, chosenChord, chosenNote, useBenchStore } from "./state";
import { type Keys, useKeys } from "./useKeys";
import { useLens } from "./useLens";

/** Percent of the written tempo that one press changes. */
const TEMPO_STEP = 5;

/**
 * The keys of the bench. What a key means is asked of the store when it is pressed, so that none of this makes
 * anything render.
 */
export function useBenchKeys(): void {
  const bench = useBenchStore();
  const { lens, setLens } = useLens();
  const keys = useMemo(
    (): Keys => ({
      ...playing(() => bench.getState()),
      ...looking(() => bench.getState(), lens),
      ...deciding(() => bench.getState()),
      t: () => setLens("Tune"),
      z: () => setLens("Pulse"),
      g: () => setLens("Chords"),
      y: () => setLens("Harmony"),
      d: () => setLens("Feel"),
      p: () => setLens("Parts"),
    }),
    [bench, lens, setLens],
  );
  useKeys((name) => {
    const { selection } = bench.getState();
    const edit = lens === "Tune" && selection?.kind === "event" ? noteKey(name) : undefined;
    if (edit) return () => bench.getState().editNote(edit);
    const own = lens === "Pulse" ? pulseKey(name, () => bench.getState()) : strokeKey(name, () => bench.getState());
    if (own) return own;
    return Object.hasOwn(keys, name) ? keys[name] : undefined;
  });
}

const NOTE_KEYS = new Map(NOTE_EDITS.flatMap((g) => g.edits).map((e) => [e.keys, e]));
const noteKey = (name: string) => NOTE_KEYS.get(name === "Backspace" ? "Delete" : name);

type Now = () => BenchState;

/** Keys of the rhythms: a tap along, and a cell by its number. */
function pulseKey(name: string, now: Now): (() => void) | undefined {
  if (name === "x") return () => now().tap(performance.now());
  const { derived, cell, setCell } = now();
  const found = numberedCells(derived.analysis.places)[Number(name) - 1];
  return found && (() => setCell(cell === found.name ? null : found.name));
}

/** Keys of a chosen stroke: the next note into it, its last one out of it. */
function strokeKey(name: string, now: Now): (() => void) | undefined {
  if (now().selection?.kind !== "stroke" || now().hand !== "bow") return undefined;
  if (name === "j") return () => now().lengthenStroke(1);
  return name === "s" ? () => now().lengthenStroke(-1) : undefined;
}

function playing(now: Now): Keys {
  const faster = () => now().setPercent(now().percent + TEMPO_STEP);
  const muteBy = (key: string) => () => {
    const voice = voicesOf(now().derived.parts).find((v) => v.key === key);
    if (voice) now().mute(voice.id);
  };
  return {
    " ": () => now().toggle(),
    "-": () => now().setPercent(now().percent - TEMPO_STEP),
    "+": faster,
    "=": faster,
    m: muteBy("M"),
    k: muteBy("K"),
    n: muteBy("N"),
    c: muteBy("C"),
    h: () => {
      const { selection, bar, hear } = now();
      if (selection) hear(bar, bar);
    },
  };
}

function looking(now: Now, lens: string): Keys {
  const last = () => now().derived.analysis.places.length - 1;
  /** What the arrows walk along, note by note. */
  const WALKED: Record<string, string | undefined> = { Tune: "event", Harmony: "note", Feel: "stroke" };
  const onNotes = () => WALKED[lens] !== undefined && now().selection?.kind === WALKED[lens];
  return {
    ArrowRight: () => {
      const { loop, bar, walk, pick } = now();
      if (onNotes()) walk(1);
      else pick(Math.min(last(), (loop?.to ?? bar) + 1), false);
    },
    ArrowLeft: () => {
      const { loop, bar, walk, pick } = now();
      if (onNotes()) walk(-1);
      else pick(Math.max(0, (loop?.from ?? bar) - 1), false);
    },
    "Shift+ArrowRight": () => {
      const { loop, bar, setLoop } = now();
      setLoop({ from: loop?.from ?? bar, to: Math.min(last(), (loop?.to ?? bar) + 1) });
    },
    "Shift+ArrowLeft": () => {
      const { loop, bar, setLoop } = now();
      const from = loop?.from ?? bar;
      setLoop({ from, to: Math.max(from, (loop?.to ?? bar) - 1) });
    },
    Enter: () => {
      const { bar, select, derived, takeUp, takeUpStroke, trying } = now();
      if (trying) return;
      if (lens === "Harmony") return takeUp(bar);
      if (lens === "Feel") return takeUpStroke(bar);
      if (lens === "Tune") return select({ kind: "event", bar, event: 0 });
      // A pickup has none: the first chord after it is meant.
      const index = derived.plan.chords.findIndex((c) => c.bar >= bar);
      if (index >= 0) select({ kind: "chord", index });
    },
    Escape: () => {
      const { help, setHelp, select, setLoop } = now();
      if (help) return setHelp(false);
      select(null);
      setLoop(null);
    },
    "?": () => now().setHelp(!now().help),
  };
}

function deciding(now: Now): Keys {
  /** Takes what the panel shows under a number: the chord as it is, without its addition, or a runner-up. */
  const take = (number: number) => () => {
    const { takeChord, takeNote } = now();
    const note = chosenNote(now())?.note;
    if (note && number > 0) {
      const choices = [note.pitch, ...note.alternatives.map((a) => a.pitch)].slice(0, 4);
      const pitch = choices[number - 1];
      if (pitch !== undefined) takeNote(pitch);
    }
    const { chord } = chosenChord(now());
    if (!chord) return;
    const others = chord.alternatives.filter((a) => a.symbol !== chord.added?.plain);
    if (number === 0) {
      if (chord.added) takeChord(chord.added.plain);
    } else if (number === 1) takeChord(chord.symbol);
    else {
      const other = others[number - 2];
      if (other) takeChord(other.symbol, other);
    }
  };
  const step = (steps: number) => () => {
    const { selection, stepNote } = now();
    if (selection?.kind === "note") stepNote(selection.line, selection.index, steps);
    if (selection?.kind === "stroke") now().turnStroke();
  };
  const move = (beats: number) => () => now().moveChord(chosenChord(now()).index, beats);
  const redo = () => now().canRedo && now().travel("redo");
  return {
    ArrowUp: step(1),
    ArrowDown: step(-1),
    l: () => {
      if (now().selection?.kind === "stroke") now().toggleStrokeLock();
      else if (chosenNote(now())) now().toggleNoteLock();
      else now().toggleChordLock();
    },
    a: () => (chosenNote(now()) ? now().planNoteAnew() : now().planChordAnew()),
    b: () => now().takeOffer(),
    L: () => now().lockPhrase(),
    D: () => now().copyPhrase(),
    s: () => now().splitChord(),
    j: () => {
      if (chosenChord(now()).chord) return now().mergeChord();
      const second = voicesOf(now().derived.parts).find((v) => v.key === "J");
      if (second) now().mute(second.id);
    },
    "[": move(-1),
    "]": move(1),
    ...Object.fromEntries([0, 1, 2, 3, 4].map((number) => [String(number), take(number)])),
    "Mod+z": () => {
      if (now().canUndo) now().travel("undo");
    },
    "Mod+Shift+z": redo,
    "Mod+y": redo,
  };
}
