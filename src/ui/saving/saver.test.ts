import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { newWork, type Work } from "../../core/ensemble";
import type { Loaded } from "../../server/states";
import { tuneOf } from "../../testing/abc";

/** A collection of one tune, as the server keeps it, that can be made silent, full or strange. */
const server = {
  head: 1,
  states: new Map<number, { work: Work; step: string; token: string }>(),
  problem: "" as "" | "silent" | "full" | "refused" | "lost answer" | "gone",
};
const work = newWork(tuneOf("d2fd Adfd|e2ge Bege|"));
const loadedNow = (): Loaded => {
  const { work: own, step } = server.states.get(server.head)!;
  return { id: 7, head: server.head, work: own, step, canUndo: server.head > 1, canRedo: false, saved: 0 };
};
type Sent = { head: number; token: string; work: Work; step: string; take: string; mine: Work; both: Work };
const asked: string[] = [];
vi.mock("./ask", () => ({
  ask: async (_: number, name: string, sent: Sent) => {
    asked.push(name);
    if (server.problem === "silent") return { ok: false, problem: "silent.", again: true };
    if (server.problem === "full") return { ok: false, problem: "full.", again: true };
    if (server.problem === "refused" && name === "save") return { ok: false, problem: "refused.", again: false };
    if (server.problem === "gone") return { ok: true, value: { kind: "gone" } };
    const value = ANSWERS[name]!(sent);
    if (server.problem === "lost answer") return { ok: false, problem: "silent.", again: true };
    return { ok: true, value };
  },
}));
const add = ({ token, work: own, step }: Pick<Sent, "token" | "work" | "step">) => {
  server.head = Math.max(...server.states.keys()) + 1;
  server.states.set(server.head, { work: own, step, token });
  return server.head;
};
const ANSWERS: Record<string, (sent: Sent) => unknown> = {
  save: (sent) => {
    const known = [...server.states].find(([, s]) => s.token === sent.token);
    if (known) return { kind: "kept", head: known[0] };
    if (sent.head !== server.head) return { kind: "apart", theirs: loadedNow() };
    return { kind: "kept", head: add(sent) };
  },
  travel: ({ head }) => {
    if (head !== server.head) return { kind: "apart", theirs: loadedNow() };
    server.head = Math.max(1, head - 1);
    return { kind: "there", loaded: loadedNow() };
  },
  since: ({ head }) => (head === server.head ? { kind: "same" } : { kind: "there", loaded: loadedNow() }),
  settle: ({ take, mine, both, token, step }) => {
    if (take !== "theirs") add({ token, step, work: take === "both" ? both : mine });
    return { kind: "there", loaded: loadedNow() };
  },
};
const { Saver } = await import("./saver");
type Hearing = import("./saver").Hearing;

const styled = (style: string): Work => ({ ...work, style });
let saver: InstanceType<typeof Saver>;
let heard: { kinds: string[]; shown: Loaded[]; failed: string[] };
const hearing = (): Hearing => ({
  saving: ({ kind }) => void (heard.kinds.at(-1) !== kind && heard.kinds.push(kind)),
  show: (loaded) => void heard.shown.push(loaded),
  fail: (problem) => void heard.failed.push(problem),
});
const settled = () => vi.advanceTimersByTimeAsync(20);
const steps = () => [...server.states.values()].map((s) => s.step);

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "Date"] });
  Object.assign(server, { head: 1, problem: "", states: new Map([[1, { work, step: "Brought in", token: "" }]]) });
  asked.length = 0;
  heard = { kinds: [], shown: [], failed: [] };
  saver = new Saver(7, 1);
  saver.hear(hearing());
});
afterEach(() => vi.useRealTimers());

describe("a saver", () => {
  it("saves steps in order, each on the head the one before it made", async () => {
    saver.save("one", styled("Colour"));
    saver.save("two", styled("Modal"));
    await settled();
    expect([steps(), saver.at, saver.unsaved]).toEqual([["Brought in", "one", "two"], 3, []]);
    expect(heard.kinds).toEqual(["saved", "saving", "saved"]);
  });
  it("holds everything while the application is silent, tries again by itself in growing pauses, and then saves it", async () => {
    server.problem = "silent";
    saver.save("one", styled("Colour"));
    saver.save("two", styled("Modal"));
    await settled();
    expect([heard.kinds.at(-1), saver.unsaved.length, saver.worthAsking]).toEqual(["waiting", 2, true]);
    await vi.advanceTimersByTimeAsync(60_000);
    expect(asked.length).toBeGreaterThan(4);
    expect(asked.length).toBeLessThan(10);
    server.problem = "";
    await vi.advanceTimersByTimeAsync(31_000);
    expect([steps(), heard.kinds.at(-1), saver.worthAsking]).toEqual([["Brought in", "one", "two"], "saved", false]);
  });
  it("tries at once when asked to", async () => {
    server.problem = "full";
    saver.save("one", styled("Colour"));
    await settled();
    server.problem = "";
    saver.retry();
    await settled();
    expect(steps()).toEqual(["Brought in", "one"]);
  });
  it("does not save twice what was saved though its answer was lost", async () => {
    server.problem = "lost answer";
    saver.save("one", styled("Colour"));
    await settled();
    server.problem = "";
    saver.save("two", styled("Modal"));
    saver.retry();
    await settled();
    expect([steps(), saver.at]).toEqual([["Brought in", "one", "two"], 3]);
  });
  it("goes back only once everything is saved, and not while something cannot be", async () => {
    saver.save("one", styled("Colour"));
    saver.travel("undo");
    await settled();
    expect([asked, heard.shown.map((l) => l.head), saver.at]).toEqual([["save", "travel"], [1], 1]);
    server.problem = "full";
    saver.save("two", styled("Modal"));
    await settled();
    saver.travel("undo");
    expect(heard.failed).toEqual(["Going back waits until everything is saved."]);
  });
  it("says what can never be saved, and shows the tune as it stands once that is left out", async () => {
    server.problem = "refused";
    saver.save("one", styled("Colour"));
    await settled();
    expect(heard.kinds.at(-1)).toBe("refused");
    await saver.leaveOut();
    expect([saver.unsaved, heard.shown.at(-1)?.work, heard.kinds.at(-1)]).toEqual([[], work, "saved"]);
  });
  it("stops where the tune was saved elsewhere, until one or both are taken", async () => {
    add({ token: "x", step: "elsewhere", work: styled("Modal") });
    saver.save("one", styled("Colour"));
    saver.save("two", styled("Colour"));
    await settled();
    expect([heard.kinds.at(-1), saver.unsaved.length, steps()]).toEqual(["apart", 2, ["Brought in", "elsewhere"]]);
    await saver.settle("mine");
    expect([steps().at(-1), heard.kinds.at(-1), saver.at]).toEqual(["one, two", "saved", 3]);
    saver.save("three", styled("Two-chord"));
    await settled();
    expect(steps().at(-1)).toBe("three");
  });
  it("of a tune that is gone holds everything, and saves it when the tune is back", async () => {
    server.problem = "gone";
    saver.save("one", styled("Colour"));
    await settled();
    expect([heard.kinds.at(-1), saver.unsaved.length]).toEqual(["gone", 1]);
    server.problem = "";
    await saver.look();
    await settled();
    expect([steps(), heard.kinds.at(-1), saver.unsaved]).toEqual([["Brought in", "one"], "saved", []]);
  });
  it("looks again by itself where what happened elsewhere could not be fetched", async () => {
    add({ token: "x", step: "elsewhere", work: styled("Modal") });
    server.problem = "silent";
    await saver.look();
    expect([heard.shown, saver.at]).toEqual([[], 1]);
    server.problem = "";
    await vi.advanceTimersByTimeAsync(600);
    expect([heard.shown.map((l) => l.step), saver.at]).toEqual([["elsewhere"], 2]);
  });
  it("follows what happens elsewhere while nothing here is unsaved", async () => {
    add({ token: "x", step: "elsewhere", work: styled("Modal") });
    await saver.look();
    expect([heard.shown.map((l) => l.step), saver.at]).toEqual([["elsewhere"], 2]);
    saver.save("one", styled("Colour"));
    await settled();
    expect(steps()).toEqual(["Brought in", "elsewhere", "one"]);
  });
});

describe("what a page leaves behind", () => {
  beforeEach(() => {
    vi.useRealTimers();
    globalThis.indexedDB = new IDBFactory();
    vi.resetModules();
  });
  it("is found by the next one, in order, and saved from there or set aside", async () => {
    server.problem = "silent";
    const first = new (await import("./saver")).Saver(7, 1);
    first.save("one", styled("Colour"));
    first.save("two", styled("Modal"));
    await new Promise((done) => setTimeout(done, 30));
    expect((await (await import("./shelf")).leftBehind(7)).length).toBe(0);
    // Another page: modules of its own, the browser's database the same.
    vi.resetModules();
    const { Saver: Next } = await import("./saver");
    const shelf = await import("./shelf");
    const left = await shelf.leftBehind(7);
    expect(left.map((s) => [s.step, s.head])).toEqual([
      ["one", 1],
      ["two", 1],
    ]);
    expect(await shelf.leftBehind(8)).toEqual([]);
    server.problem = "";
    const next = new Next(7, 1);
    await next.adopt(left);
    expect(steps()).toEqual(["Brought in", "one", "two"]);
    await new Promise((done) => setTimeout(done, 30));
    vi.resetModules();
    expect(await (await import("./shelf")).leftBehind()).toEqual([]);
  });
});
