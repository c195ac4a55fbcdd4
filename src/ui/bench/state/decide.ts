import {
  type ChordLock,
  copyToLike,
  lockBars,
  mergeChord,
  moveChange,
  type PlannedChord,
  splitChord,
  typedChord,
} from "../../../core/chords";
import { music } from "../../../core/analysis";
import {
  freeChords,
  lockChords,
  lockNote,
  settleStroke,
  strokesOf,
  unlockChords,
  unlockNote,
  type Work,
  withTune,
} from "../../../core/ensemble";
import { type HarmonyNote, steppedTo } from "../../../core/harmony";
import { type Edited, insertAfter, moveStep, remove, splitBar, type Tune } from "../../../core/score";
import { type Direction, otherWay, type Stroke } from "../../../core/strokes";
import { type Pitch, pitchName } from "../../../core/theory";
import type { BenchState, DecideSlice, Get, Offer, Put } from "./model";

/** The chord that is looked at, with the phrase it stands in. */
export function chosenChord({ selection, derived }: Pick<BenchState, "selection" | "derived">) {
  const index = selection?.kind === "chord" ? selection.index : undefined;
  const chord = index === undefined ? undefined : derived.plan.chords[index];
  const phrase = chord && derived.analysis.form.phrases.find((p) => p.from <= chord.bar && chord.bar <= p.to);
  return { index, chord, phrase };
}

/** The harmony note that is looked at, with its line. */
export function chosenNote({ selection, derived }: Pick<BenchState, "selection" | "derived">) {
  const line = selection?.kind === "note" ? derived.lines.find((l) => l.id === selection.line) : undefined;
  const note = selection?.kind === "note" ? line?.notes[selection.index] : undefined;
  return note && line ? { line, note } : undefined;
}

/** An edit of the tune as one of the work; one that cannot be made there leaves it as it is. */
const edited =
  (make: (tune: Tune, bar: number) => Edited) =>
  (work: Work, bar: number): Work => {
    const { tune } = make(work.tune, bar);
    return tune ? withTune(work, tune) : work;
  };

const NO_ROOM = "This change cannot go there: both chords keep at least a beat, and a change stops at the next one.";

export function decideSlice(set: Put, get: Get): DecideSlice {
  const places = () => get().derived.analysis.places;
  /** The place of a note as a lock names it: the whole of a note the line holds. */
  const placeOf = (note: HarmonyNote) => ({
    bar: note.bar,
    at: note.at - (places()[note.bar]?.at ?? 0),
    ticks: note.ticks,
  });
  const settleNote = (line: string, note: HarmonyNote, pitch: Pitch | null) =>
    get().change(`Harmony note ${pitch ? pitchName(pitch) : "rest"} locked`, (w) =>
      lockNote(w, line, placeOf(note), pitch),
    );
  const lockChordsAs: DecideSlice["lockChordsAs"] = (step, locks, why) => {
    set({ chordRefused: locks?.length ? "" : why });
    if (locks?.length) get().change(step, (w) => lockChords(w, locks));
  };
  const takeChord: DecideSlice["takeChord"] = (symbol, part) => {
    const { chord } = chosenChord(get());
    if (!chord) return;
    const { bar } = chord;
    if (symbol !== chord.symbol || !chord.locked) {
      const place = { bar, at: part?.at ?? chord.at, ticks: part?.ticks ?? chord.ticks };
      const [lock, before] = [{ ...place, symbol }, get().work];
      lockChordsAs(`Chord ${symbol} locked`, [lock], "");
      offerChord(before, lock);
      hearWhenDerived(bar);
    } else get().hear(bar, bar);
  };
  /** A taken chord is heard as soon as the plan holds it. */
  const hearWhenDerived = (bar: number) => {
    const before = get().derived;
    let tries = 0;
    const look = () => {
      if (get().derived !== before) get().hear(bar, bar);
      else if (tries++ < 40) setTimeout(look, 50);
    };
    look();
  };
  /** The last offer and the work it was made over: the next change of the same bar joins it. */
  let last: { offer: Offer; work: Work } | null = null;
  /** Offers to do in like bars what was just done in one, to the work as it was before. */
  const offer = (before: Work, bar: number, like: readonly number[], again: Offer["again"][number]) => {
    const open = last?.work === before && last.offer.bar === bar ? last.offer : { bar, like, again: [] };
    const next = open.like.length > 0 ? { ...open, again: [...open.again, again] } : null;
    last = next && { offer: next, work: get().work };
    set({ offer: next });
  };
  const forget = () => {
    last = null;
    set({ offer: null });
  };
  /** Bars with the notes of one, that are not the bar itself. */
  const likeBars = (bar: number): number[] => {
    const own = places()[bar];
    if (!own || own.pickup) return [];
    const notes = music(own);
    return places().flatMap((p) => (p.index !== bar && !p.pickup && music(p) === notes ? [p.index] : []));
  };
  /** Offers a chord settled in one bar to the like bars that have another there. */
  const offerChord = (before: Work, lock: ChordLock) => {
    const { derived } = get();
    const other = (bar: number) => {
      const there = derived.plan.chords.findLast((c) => c.bar === bar && c.at <= lock.at);
      return there !== undefined && !there.locked && there.symbol !== lock.symbol;
    };
    offer(before, lock.bar, likeBars(lock.bar).filter(other), (w, bar) => lockChords(w, [{ ...lock, bar }]));
  };
  const strokes = () => strokesOf(get().work, get().derived, get().hand).strokes;
  const chosenStroke = () => {
    const { selection } = get();
    return selection?.kind === "stroke" ? strokes()[selection.index] : undefined;
  };
  /** Settles a stroke in a direction and a length, or frees it; the one that stands on its notes then stays chosen. */
  const settle = (stroke: Stroke, direction: Direction | undefined, notes = stroke.notes) => {
    const { hand, work, derived, change } = get();
    const ticks = notes.length > 0 ? notes.reduce((sum, n) => sum + n.ticks, 0) : stroke.ticks;
    const place = { bar: stroke.place.index, at: stroke.at - stroke.place.at, ticks };
    const made = settleStroke(work, hand, place, direction);
    const found = strokesOf(made, derived, hand).strokes.find((s) => s.at === stroke.at);
    // What no bow can do is told, and nothing is changed.
    if (direction && notes.length > 0 && found?.notes.length !== notes.length)
      return set({ strokeRefused: "One bow cannot take these notes together." });
    change(direction ? `Stroke settled ${direction}` : "Stroke freed", () => made);
    const index = strokes().findIndex((s) => s.at <= stroke.at && stroke.at < s.at + s.ticks);
    if (index >= 0) set({ selection: { kind: "stroke", index }, strokeRefused: "" });
  };
  const asLock = ({ bar, at, ticks, symbol }: PlannedChord) => ({ bar, at, ticks, symbol });

  return {
    chordRefused: "",
    offer: null,
    takeOffer: () => {
      const { offer: open, change } = get();
      if (!open) return;
      const { like, again } = open;
      // From the last bar to the first, so that a bar keeps its number until its turn.
      const bars = [...like].sort((a, b) => b - a);
      change("The same in like bars", (w) =>
        bars.reduce((all, bar) => again.reduce((o, step) => step(o, bar), all), w),
      );
      forget();
    },
    dropOffer: forget,
    takeChord,
    lockChordsAs,
    writeChord: (text) => {
      const read = typedChord(text);
      if ("wrong" in read) set({ chordRefused: read.wrong });
      else takeChord(read.symbol);
      return !("wrong" in read);
    },
    toggleChordLock: () => {
      const { chord } = chosenChord(get());
      if (!chord) return;
      const { work, change } = get();
      const over = (l: { bar: number; at: number; ticks: number }) =>
        l.bar === chord.bar && l.at < chord.at + chord.ticks && l.at + l.ticks > chord.at;
      if (work.locks.some((l) => over(l) && !l.kept))
        change(`Chord ${chord.symbol} unlocked`, (w) => unlockChords(w, [chord]));
      else lockChordsAs(`Chord ${chord.symbol} locked`, [asLock(chord)], "");
    },
    planChordAnew: () => {
      const { chord } = chosenChord(get());
      if (chord) get().change("Chord worked out anew", (w) => freeChords(w, [chord]));
    },
    planNoteAnew: () => {
      const chosen = chosenNote(get());
      if (chosen)
        get().change("Harmony note worked out anew", (w) => lockNote(w, chosen.line.id, placeOf(chosen.note)));
    },
    moveChord: (index, beats) => {
      if (index === undefined) return;
      lockChordsAs("Change moved", moveChange(get().derived.plan, places(), index, beats), NO_ROOM);
    },
    splitChord: () => {
      const { index } = chosenChord(get());
      if (index === undefined) return;
      lockChordsAs("Chord split", splitChord(get().derived.plan, places(), index), "One beat is not split further.");
    },
    mergeChord: () => {
      const { index } = chosenChord(get());
      if (index === undefined) return;
      lockChordsAs("Chords joined", mergeChord(get().derived.plan, index), "This chord has the bar to itself.");
    },
    lockPhrase: () => {
      const { phrase } = chosenChord(get());
      if (!phrase) return;
      const { plan } = get().derived;
      const own = plan.chords.filter((c) => c.bar >= phrase.from && c.bar <= phrase.to);
      if (own.every((c) => c.locked)) get().change(`${phrase.name} unlocked`, (w) => unlockChords(w, own));
      else lockChordsAs(`Chords of ${phrase.name} locked`, lockBars(plan, phrase.from, phrase.to), "");
    },
    copyPhrase: () => {
      const { phrase } = chosenChord(get());
      if (!phrase) return;
      const { plan, analysis } = get().derived;
      const locks = copyToLike(plan, analysis.places, analysis.form.phrases, phrase.order);
      const none = `No other phrase has bars like those of ${phrase.name}.`;
      lockChordsAs(`Chords of ${phrase.name} copied`, locks, none);
    },
    takeNote: (pitch) => {
      const chosen = chosenNote(get());
      if (chosen) settleNote(chosen.line.id, chosen.note, pitch);
    },
    toggleNoteLock: () => {
      const chosen = chosenNote(get());
      if (!chosen) return;
      const { line, note } = chosen;
      if (note.locked) get().change("Harmony note unlocked", (w) => unlockNote(w, line.id, placeOf(note)));
      else settleNote(line.id, note, note.pitch);
    },
    stepNote: (line, index, steps) => {
      const note = get().derived.lines.find((l) => l.id === line)?.notes[index];
      const to = note && steppedTo(note, steps);
      get().select({ kind: "note", line, index });
      if (note && to) settleNote(line, note, to);
    },
    editNote: (what) => {
      const { selection, edit } = get();
      if (selection?.kind !== "event") return set({ refused: "Choose a note first: click it, or press Enter." });
      const { bar, event } = selection;
      const like = what.edit === splitBar ? [] : likeBars(bar);
      const before = get().work;
      const refused = edit(what.name, (tune) => what.edit(tune, { bar, event }));
      set({ refused });
      if (refused !== undefined) return;
      offer(
        before,
        bar,
        like,
        edited((tune, there) => what.edit(tune, { bar: there, event })),
      );
      const after = new Map([
        [insertAfter, { bar, event: event + 1 }],
        [remove, { bar, event: Math.max(0, event - 1) }],
        [splitBar, { bar: bar + 1, event: 0 }],
      ]).get(what.edit as typeof remove);
      if (after) set({ selection: { kind: "event", ...after } });
    },
    dragNote: (spot, steps) => {
      set({ selection: { kind: "event", ...spot }, page: "Note" });
      const step = steps > 0 ? "Note moved up" : "Note moved down";
      const [like, before] = [likeBars(spot.bar), get().work];
      const refused = get().edit(step, (tune) => moveStep(tune, spot, steps));
      set({ refused });
      if (refused === undefined)
        offer(
          before,
          spot.bar,
          like,
          edited((tune, bar) => moveStep(tune, { ...spot, bar }, steps)),
        );
    },
    takeUpStroke: (bar) => {
      const index = strokes().findIndex((s) => s.place.index >= bar);
      if (index >= 0) get().select({ kind: "stroke", index });
    },
    turnStroke: () => {
      const stroke = chosenStroke();
      if (stroke?.direction) settle(stroke, otherWay(stroke.direction));
    },
    toggleStrokeLock: () => {
      const stroke = chosenStroke();
      if (stroke?.direction) settle(stroke, stroke.locked ? undefined : stroke.direction);
    },
    strokeRefused: "",
    lengthenStroke: (notes) => {
      const { selection, hand } = get();
      const stroke = chosenStroke();
      if (hand !== "bow" || !stroke?.direction || selection?.kind !== "stroke") return;
      const next = strokes()[selection.index + 1]?.notes[0];
      const taken = notes > 0 ? [...stroke.notes, ...(next ? [next] : [])] : stroke.notes.slice(0, -1);
      if (taken.length > 0 && taken.length !== stroke.notes.length) settle(stroke, stroke.direction, taken);
    },
    takeUp: (bar) => {
      const line = get().derived.lines[0];
      const index = line?.notes.findIndex((n) => n.bar === bar && n.costs.length > 0) ?? -1;
      if (line && index >= 0) get().select({ kind: "note", line: line.id, index });
    },
    walk: (way) => {
      const { selection, select, derived } = get();
      if (selection?.kind === "note") {
        const notes = derived.lines.find((l) => l.id === selection.line)?.notes ?? [];
        // Rests of the melody's own are nobody's to choose.
        const open = notes.flatMap((n, index) => (n.costs.length > 0 ? [index] : []));
        const next = open[open.indexOf(selection.index) + way];
        return next === undefined ? undefined : select({ ...selection, index: next });
      }
      if (selection?.kind === "stroke") {
        const next = selection.index + way;
        return strokes()[next] ? select({ kind: "stroke", index: next }) : undefined;
      }
      if (selection?.kind !== "event") return;
      const all = places().flatMap((p) => p.bar.events.map((_, event) => ({ bar: p.index, event })));
      const here = all.findIndex((s) => s.bar === selection.bar && s.event === selection.event);
      const next = all[here + way];
      if (next) select({ kind: "event", ...next });
    },
  };
}
