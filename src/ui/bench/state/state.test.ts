import { beforeEach, describe, expect, it, vi } from "vitest";
import { bowsOf, changeLine, type Derived, makeDeriver, newWork, type Work } from "../../../core/ensemble";
import { moveStep } from "../../../core/score";
import { tuneOf } from "../../../testing/abc";
import type { BenchState } from ".";

const saved: { step: string; work: Work }[] = [];
let refuse = "";
const FIRST = { id: 1, head: 1, canUndo: false, canRedo: false, step: "Brought in", saved: 0 };
const brought = (work = start) => ({ ...FIRST, work });
vi.mock("../../saving/ask", () => ({
  ask: async (_: number, name: string, { step, work }: { step: string; work: Work }) => {
    if (name === "travel") return { ok: true, value: { kind: "there", loaded: { ...brought(), canRedo: true } } };
    if (name === "since") return { ok: true, value: { kind: "same" } };
    if (refuse) return { ok: false, problem: refuse, again: true };
    saved.push({ step, work });
    return { ok: true, value: { kind: "kept", head: saved.length + 1 } };
  },
}));
const deriver = makeDeriver();
vi.mock("../../../workers/derive", () => ({
  deriveWork: async (work: Work, onTune: (tune: Pick<Derived, "analysis" | "weave">) => void) => {
    onTune(deriver.tune(work));
    await Promise.resolve();
    return deriver.whole(work);
  },
  rivalLineOf: async () => null,
  rivalPlanOf: async () => null,
}));
const { benchOf, chosenNote, rungsOf } = await import(".");

const start = newWork(tuneOf("|:A2|d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2:|"));
const LIKE = newWork(tuneOf("|:A2|d2fd Adfd|e2ge Bege|d2fd Adfd|gfed B2:|"));
let bench: ReturnType<typeof benchOf>;
const now = (): BenchState => bench.getState();
/** Lets everything that is on its way arrive. */
const settled = () => new Promise((done) => setTimeout(done, 20));

// What the page does once it stands, outside a browser: it only hears of its saver.
vi.stubGlobal("document", { addEventListener: () => {}, removeEventListener: () => {}, visibilityState: "visible" });
vi.stubGlobal("window", { addEventListener: () => {}, removeEventListener: () => {} });

beforeEach(() => {
  saved.length = 0;
  refuse = "";
  bench = benchOf(brought(), deriver.whole(start));
  now().start();
});

describe("the tempo ladder", () => {
  it.each([
    [{ from: 60, to: 80, step: 10, times: 2 }, [60, 70, 80]],
    [{ from: 60, to: 85, step: 10, times: 2 }, [60, 70, 80, 85]],
    [{ from: 90, to: 70, step: 10, times: 1 }, [90, 80, 70]],
    [{ from: 70, to: 70, step: 5, times: 3 }, [70]],
  ])("has its rungs: %o", (ladder, rungs) => expect(rungsOf(ladder)).toEqual(rungs));
});

describe("the bench's store", () => {
  it("shows a change at once, derives it, and saves it with its words", async () => {
    const line = start.lines[0]!.id;
    now().change("Harmony by Thirds", (w) => changeLine(w, line, { school: "Thirds" }));
    expect([now().work.lines[0]!.school, now().canUndo, now().step]).toEqual(["Thirds", true, "Harmony by Thirds"]);
    await settled();
    expect(now().derived.lines[0]!.school).toBe("Thirds");
    expect(saved.map((s) => s.step)).toEqual(["Harmony by Thirds"]);
    expect(now().head).toBe(2);
  });
  it("saves nothing where nothing changed", async () => {
    now().change("Nothing", (w) => ({ ...w }));
    await settled();
    expect(saved).toEqual([]);
    expect(now().canUndo).toBe(false);
  });
  it("draws the new tune before its chords are there", async () => {
    const seen: Derived[] = [];
    bench.setState({ ahead: (derived) => void seen.push(derived) });
    const { plan } = now().derived;
    expect(now().edit("Note moved up", (tune) => moveStep(tune, { bar: 1, event: 0 }, 1))).toBeUndefined();
    await settled();
    const moved = (d: Derived) => d.analysis.places[1]!.bar.events[0]!.pitches[0]!.step;
    expect(seen.map(moved)).toEqual(["E", "E"]);
    expect(seen[0]!.plan).toBe(plan);
    expect(now().derived.plan).not.toBe(plan);
  });
  it("says why an edit cannot be, and saves nothing", async () => {
    expect(now().edit("Nowhere", (tune) => moveStep(tune, { bar: 99, event: 0 }, 1))).toMatch(/\.$/);
    await settled();
    expect(saved).toEqual([]);
  });
  it("keeps what was done on the page when it could not be saved, and says so", async () => {
    refuse = "The disk is full.";
    now().change("Style Colour", (w) => ({ ...w, style: "Colour" }));
    await settled();
    expect([now().saving, now().work.style]).toEqual([{ kind: "waiting", problem: "The disk is full." }, "Colour"]);
    refuse = "";
    now().retry();
    await settled();
    expect([now().saving.kind, saved.map((s) => s.step)]).toEqual(["saved", ["Style Colour"]]);
  });
  it("goes back to what the collection says there was", async () => {
    now().change("Style Colour", (w) => ({ ...w, style: "Colour" }));
    now().travel("undo");
    await settled();
    expect([now().work, now().canRedo, now().derived]).toEqual([start, true, deriver.whole(start)]);
  });
  it("goes to the bar of what is chosen, and lets go of a loop", () => {
    now().pick(1, false);
    now().pick(3, true);
    expect(now().loop).toEqual({ from: 1, to: 3 });
    const index = now().derived.plan.chords.findIndex((c) => c.bar === 2);
    now().select({ kind: "chord", index });
    expect([now().bar, now().loop]).toEqual([2, null]);
  });
  it("locks the chosen chord, frees it again, and copies nothing where nothing is like it", async () => {
    const index = now().derived.plan.chords.findIndex((c) => c.bar === 2);
    const { symbol } = now().derived.plan.chords[index]!;
    now().select({ kind: "chord", index });
    now().toggleChordLock();
    await settled();
    expect(now().derived.plan.chords[index]).toMatchObject({ symbol, locked: true });
    now().toggleChordLock();
    await settled();
    // Unlocked it stays as it was chosen, and locks again; only a new plan lets go of it.
    expect(now().derived.plan.chords[index]).toMatchObject({ symbol, locked: false, kept: true });
    now().toggleChordLock();
    await settled();
    expect(now().derived.plan.chords[index]).toMatchObject({ symbol, locked: true });
    now().planChordAnew();
    await settled();
    expect(now().work.locks).toEqual([]);
    now().copyPhrase();
    expect(now().chordRefused).toMatch(/^No other phrase/);
    expect(now().writeChord("H#7")).toBe(false);
    expect(now().chordRefused).not.toBe("");
  });
  it("an unlocked harmony note stays as it was chosen until the line is planned anew", async () => {
    now().takeUp(2);
    const other = chosenNote(now())!.note.alternatives.find((a) => a.pitch)!;
    now().takeNote(other.pitch);
    await settled();
    now().toggleNoteLock();
    await settled();
    const { note } = chosenNote(now())!;
    expect(note).toMatchObject({ pitch: other.pitch, locked: false, kept: true });
    expect(note.alternatives.length).toBeGreaterThan(0);
    const line = now().work.lines[0]!.id;
    now().change("Harmony by Thirds", (w) => changeLine(w, line, { school: "Thirds" }));
    await settled();
    expect(now().work.lines[0]!.locks).toEqual([]);
  });
  it("offers to do the same in bars that had the same notes, all that was done in one at once", async () => {
    const sameBars = (bar: number) => JSON.stringify(now().work.tune.strains[0]!.bars[bar]!.events);
    const note = (event: number) => now().dragNote({ bar: 1, event }, 1);
    bench = benchOf(brought(LIKE), deriver.whole(LIKE));
    now().start();
    note(0);
    await settled();
    note(1);
    await settled();
    expect(now().offer).toMatchObject({ bar: 1, like: [3] });
    now().takeOffer();
    await settled();
    expect(now().offer).toBeNull();
    expect(sameBars(3)).toBe(sameBars(1));
    note(2);
    now().dropOffer();
    expect([now().offer, sameBars(3) === sameBars(1)]).toEqual([null, false]);
  });
  it("offers a chord to like bars that have another", async () => {
    bench = benchOf(brought(LIKE), deriver.whole(LIKE));
    now().start();
    now().select({ kind: "chord", index: now().derived.plan.chords.findIndex((c) => c.bar === 1) });
    now().takeChord("Bm");
    await settled();
    expect(now().offer).toMatchObject({ bar: 1, like: [3] });
    now().takeOffer();
    await settled();
    expect(
      now()
        .derived.plan.chords.filter((c) => [1, 3].includes(c.bar) && c.at === 0)
        .map((c) => c.symbol),
    ).toEqual(["Bm", "Bm"]);
  });
  it("takes up the harmony note of a bar, and goes from note to note", () => {
    now().takeUp(2);
    const first = now().selection;
    expect([first?.kind, now().bar]).toEqual(["note", 2]);
    now().walk(1);
    const second = now().selection;
    expect(second).not.toEqual(first);
    now().walk(-1);
    expect(now().selection).toEqual(first);
    now().takeUp(99);
    expect(now().selection).toEqual(first);
    for (let i = 0; i < 60; i++) now().walk(1);
    const last = now().selection;
    now().walk(1);
    expect(now().selection).toEqual(last);
  });
  it("turns a bow, locks it, frees it again, and goes from bow to bow", async () => {
    const stroke = () => {
      const { selection, work, derived } = now();
      return selection?.kind === "stroke" ? bowsOf(work, derived).strokes[selection.index]! : undefined;
    };
    now().takeUpStroke(2);
    expect([now().bar, stroke()?.direction, stroke()?.locked]).toEqual([2, "down", false]);
    now().turnStroke();
    await settled();
    expect([stroke()?.direction, stroke()?.locked]).toEqual(["up", true]);
    now().toggleStrokeLock();
    await settled();
    expect([stroke()?.direction, stroke()?.locked]).toEqual(["down", false]);
    now().toggleStrokeLock();
    await settled();
    expect(now().work.feel.bowing?.locks).toMatchObject([{ bar: 2, at: 0, value: "down" }]);
    const first = now().selection;
    now().walk(1);
    expect(now().selection).not.toEqual(first);
    now().walk(-1);
    expect(now().selection).toEqual(first);
  });
  it("settled bows go with their bars when the tune is edited", async () => {
    now().takeUpStroke(2);
    now().turnStroke();
    expect(now().edit("Note moved up", (tune) => moveStep(tune, { bar: 1, event: 0 }, 1))).toBeUndefined();
    await settled();
    expect(now().work.feel.bowing?.locks).toMatchObject([{ bar: 2, value: "up" }]);
  });
  it("takes the next note into a bow and lets the last one go; what no bow can do is told and changes nothing", async () => {
    now().takeUpStroke(1);
    const chosen = () => {
      const { selection, work, derived } = now();
      return selection?.kind === "stroke" ? bowsOf(work, derived).strokes[selection.index] : undefined;
    };
    const [notes, at] = [chosen()!.notes.length, chosen()!.at];
    now().lengthenStroke(1);
    await settled();
    expect(chosen()).toMatchObject({ at, locked: true });
    expect(chosen()!.notes).toHaveLength(notes + 1);
    const before = now().work;
    for (let i = 0; i < 8; i++) now().lengthenStroke(1);
    expect(now().strokeRefused).toContain("One bow cannot take these notes together");
    expect(chosen()!.notes.length).toBeGreaterThan(notes);
    now().lengthenStroke(-1);
    expect(now().work).not.toBe(before);
    now().select(null);
    expect(now().strokeRefused).toBe("");
  });
  it("each hand has its own strokes: another hand lets go of the chosen one, and locks are kept apart", async () => {
    now().takeUpStroke(1);
    now().toggleStrokeLock();
    await settled();
    expect(now().work.feel.bowing!.locks).toHaveLength(1);
    now().setHand("plectrum");
    expect(now().selection).toBeNull();
    now().takeUpStroke(1);
    now().turnStroke();
    await settled();
    expect(now().work.feel.plectrum!.locks).toHaveLength(1);
    now().setHand("strum");
    now().takeUpStroke(1);
    now().turnStroke();
    await settled();
    const { bowing, plectrum, strum } = now().work.feel;
    expect([bowing!.locks.length, plectrum!.locks.length, strum!.locks.length]).toEqual([1, 1, 1]);
    // The plectrum and the strum have no longer and shorter strokes.
    const before = now().work;
    now().lengthenStroke(1);
    expect(now().work).toBe(before);
  });
  it("taps nothing while nothing plays, and takes their mean as the device's delay when asked", () => {
    now().tap(100);
    expect(now().taps).toEqual([]);
    bench.setState({ taps: [30, 50, 40].map((late) => ({ late, bar: 1 })) });
    now().settleLatency();
    expect([now().latency, now().taps]).toEqual([40, []]);
    bench.setState({ taps: [{ late: 5, bar: 1 }] });
    now().setTappedOn("beats");
    expect([now().tappedOn, now().taps]).toEqual(["beats", []]);
  });
  it("is busy until what is shown has caught up, and its comparison with it", async () => {
    now().setRival("Dance band");
    now().change("School", (w) => ({ ...w, lines: w.lines.map((l) => ({ ...l, school: "Octave" })) }));
    expect(now().busy).toBe(true);
    await settled();
    expect([now().busy, now().derived.lines[0]!.school]).toEqual([false, "Octave"]);
  });
  it("long notes are silent until they are asked for", () => {
    expect([...now().muted]).toEqual(["first"]);
    now().mute("first");
    now().mute("melody");
    expect([...now().muted]).toEqual(["melody"]);
  });
});
