import { chmodSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { beforeAll, describe, expect, it, vi } from "vitest";
import { newWork } from "../core/ensemble";
import { tuneOf } from "../testing/abc";

vi.mock("next/cache", () => ({ revalidatePath: () => {} }));
process.env.SYMPHONOS_DB = join(mkdtempSync(join(tmpdir(), "actions-")), "tunes.db");
const actions = await import("./actions");
const { answerAsk } = await import("./asks");
const { addTunes } = await import("./collection");
const { load } = await import("./states");
const { countTunes, database } = await import("../db");

const tune = tuneOf("d2fd Adfd|e8|]");
let id: number;
beforeAll(async () => {
  const added = await actions.addTune({ tune, step: "Typed in", again: false });
  if (!added.ok) throw new Error(added.problem);
  id = added.value.added[0]!.id;
});

/** Things that look like what an action takes, and things that do not. */
const rubbish = fc.oneof(
  fc.anything(),
  fc.record({ id: fc.anything(), ids: fc.anything(), step: fc.anything(), work: fc.anything(), name: fc.anything() }),
  fc.record({ ids: fc.array(fc.integer()), name: fc.string(), on: fc.boolean(), aside: fc.boolean() }),
  fc.record({ id: fc.integer({ min: 2, max: 99 }), way: fc.constantFrom("undo", "redo", "constructor") }),
  fc.record({ cuttings: fc.array(fc.record({ text: fc.string(), line: fc.anything() })), again: fc.boolean() }),
);

describe("actions", () => {
  it("answer rubbish in words, and change nothing by it", async () => {
    const before = await actions.listVersions(id);
    await fc.assert(
      fc.asyncProperty(rubbish, fc.constantFrom(...Object.values(actions)), async (input, action) => {
        const found = await (action as (input: unknown) => Promise<{ ok: boolean; problem?: string }>)(input);
        if (!found.ok) expect(found.problem).toMatch(/\.$/);
      }),
      { numRuns: 300 },
    );
    expect(await actions.listVersions(id)).toEqual(before);
  });
});

describe("what a bench asks", () => {
  const work = () => newWork(tune);
  const asked = (ask: string, sent: object, own: unknown = id) => answerAsk(own, { ask, with: sent });
  const token = () => crypto.randomUUID();
  const headNow = async () => {
    const found = (await asked("since", { head: 0 })) as { value: { loaded: { head: number } } };
    return found.value.loaded.head;
  };

  it("saves a step, goes back over it and forward, and names what was", async () => {
    const step = { head: await headNow(), token: token(), step: "Style Colour", work: { ...work(), style: "Colour" } };
    const saved = (await asked("save", step)) as { value: { head: number } };
    expect(saved).toMatchObject({ ok: true, value: { kind: "kept", head: expect.any(Number) } });
    const { head } = saved.value;
    const back = (await asked("travel", { head, way: "undo" })) as { value: { loaded: { head: number } } };
    expect(back).toMatchObject({ value: { kind: "there", loaded: { work: { style: work().style }, canRedo: true } } });
    const on = await asked("travel", { head: back.value.loaded.head, way: "redo" });
    expect(on).toMatchObject({ ok: true, value: { loaded: { work: { style: "Colour" }, canRedo: false } } });
    const named = await actions.giveName({ id, revision: head, name: "for Tuesday" });
    expect(named.ok && named.value.find((v) => v.id === head)?.name).toBe("for Tuesday");
    expect(await asked("state", { revision: head })).toMatchObject({ ok: true, value: { style: "Colour" } });
  });
  it("is refused by its field where the work does not hold together", async () => {
    const broken = { ...work(), locks: [{ bar: -1, at: 0, ticks: 1, symbol: "D" }] };
    const found = await asked("save", { head: await headNow(), token: token(), step: "Broken", work: broken });
    expect(found).toEqual({ ok: false, problem: expect.stringMatching(/^(work\.)?locks\.0\.bar: /), again: false });
    const strange = await asked("save", {
      head: await headNow(),
      token: token(),
      step: "Strange",
      work: { ...work(), style: "constructor" },
    });
    expect(strange).toMatchObject({ ok: false, problem: expect.stringContaining("no style of chords") });
  });
  it("says that a tune is gone", async () => {
    const step = { head: 1, token: token(), step: "x", work: work() };
    expect(await asked("save", step, 999)).toEqual({ ok: true, value: { kind: "gone" } });
    expect(await asked("travel", { head: 1, way: "undo" }, 999)).toEqual({ ok: true, value: { kind: "gone" } });
  });
  it("answers rubbish in words, and changes nothing by it", async () => {
    const before = await actions.listVersions(id);
    const bodies = fc.oneof(
      rubbish,
      fc.record({ ask: fc.constantFrom("save", "travel", "settle", "constructor", "__proto__"), with: rubbish }),
    );
    await fc.assert(
      fc.asyncProperty(fc.oneof(fc.anything(), fc.constant(id)), bodies, async (own, body) => {
        const found = await answerAsk(own, body);
        if (!found.ok) expect(found.problem).toMatch(/\.$/);
      }),
      { numRuns: 200 },
    );
    expect(await actions.listVersions(id)).toEqual(before);
  });
  it("names the file and the remedy where it cannot be written", async () => {
    chmodSync(process.env.SYMPHONOS_DB!, 0o444);
    const found = await asked("save", { head: await headNow(), token: token(), step: "x", work: work() });
    chmodSync(process.env.SYMPHONOS_DB!, 0o644);
    expect(found).toMatchObject({ ok: false, again: true, problem: expect.stringContaining("may not be written") });
    expect((found as { problem: string }).problem).toContain(process.env.SYMPHONOS_DB!);
  });
});

describe("a batch with poison in it", () => {
  it("brings in the others, and tells the one by its place", async () => {
    const cutting = (title: string, music: string, line: number) => ({
      text: `X:1\nT:${title}\nM:4/4\nL:1/8\nK:D\n${music}`,
      line,
      header: "",
    });
    const cuttings = [
      cutting("Fair Wind", "d2fd Adfd|e2ge Bege|", 1),
      cutting("Endless", "d8|".repeat(2001), 8),
      cutting("Slack Tide", "f2fd Adfd|e2ge B4|", 2400),
    ];
    const taken = await actions.bringIn({ cuttings, again: false });
    if (!taken.ok) throw new Error(taken.problem);
    expect(taken.value.added.map((t) => t.title)).toEqual(["Fair Wind", "Slack Tide"]);
    expect(taken.value.refused).toMatchObject([{ line: 13, message: expect.stringMatching(/more than 2000 bars/) }]);
  });
  it("takes back only what a tune that breaks half way has done", () => {
    const db = database();
    const fine = tuneOf("g2fd Adfd|e8|]");
    const broken = { ...tuneOf("a2fd Adfd|e8|]"), title: "Broken" };
    // A tune whose analysis fails, whatever the reason may be.
    Object.defineProperty(broken, "rhythm", { get: () => "x".repeat(300) });
    const before = countTunes(db);
    const taken = addTunes(db, [
      { tune: broken, line: 4 },
      { tune: fine, line: 9 },
    ]);
    expect([taken.added.length, countTunes(db) - before]).toEqual([1, 1]);
    expect(taken.refused).toEqual([{ line: 4, column: 1, message: expect.stringMatching(/“Broken” was left out/) }]);
  });
  it("records rights of all but one that does not hold together", async () => {
    const fine = await actions.addTune({ tune: tuneOf("b2fd Adfd|c8|]"), step: "Typed in", again: true });
    const poison = await actions.addTune({ tune: tuneOf("c2fd Adfd|c8|]"), step: "Typed in", again: true });
    const ids = [fine, poison].map((a) => (a.ok ? a.value.added[0]!.id : 0));
    database().$client.prepare("UPDATE revisions SET work = '{}' WHERE tune_id = ?").run(ids[1]);
    const done = await actions.recordRightsOf({ ids, rights: "own", source: "" });
    expect(done).toMatchObject({ ok: true, value: [{ id: ids[1] }] });
    expect(load(database(), ids[0]!)!.work.tune.rights).toBe("own");
  });
});
