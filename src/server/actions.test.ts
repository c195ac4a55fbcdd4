import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { beforeAll, describe, expect, it, vi } from "vitest";
import { newWork } from "../core/ensemble";
import { tuneOf } from "../testing/abc";

vi.mock("next/cache", () => ({ revalidatePath: () => {} }));
process.env.SYMPHONOS_DB = join(mkdtempSync(join(tmpdir(), "actions-")), "tunes.db");
const actions = await import("./actions");

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
  it("save a step, go back over it and forward, and name what was", async () => {
    const work = { ...newWork(tune), style: "Colour" };
    const saved = await actions.saveStep({ id, step: "Style Colour", work });
    expect(saved).toMatchObject({ ok: true, value: expect.any(Number) });
    const back = await actions.travelStep({ id, way: "undo" });
    expect(back).toMatchObject({ ok: true, value: { work: { style: newWork(tune).style }, canRedo: true } });
    const on = await actions.travelStep({ id, way: "redo" });
    expect(on).toMatchObject({ ok: true, value: { work: { style: "Colour" }, canRedo: false } });
    const revision = saved.ok ? saved.value! : 0;
    const named = await actions.giveName({ id, revision, name: "for Tuesday" });
    expect(named.ok && named.value.find((v) => v.id === revision)?.name).toBe("for Tuesday");
  });
  it("refuse work that does not hold together, by its field", async () => {
    const broken = { ...newWork(tune), locks: [{ bar: -1, at: 0, ticks: 1, symbol: "D" }] };
    const found = await actions.saveStep({ id, step: "Broken", work: broken });
    expect(found).toEqual({ ok: false, problem: expect.stringMatching(/^(work\.)?locks\.0\.bar: /) });
  });
  it("say that a tune is gone", async () => {
    expect(await actions.saveStep({ id: 999, step: "x", work: newWork(tune) })).toEqual({ ok: true, value: null });
    expect(await actions.travelStep({ id: 999, way: "undo" })).toEqual({ ok: true, value: null });
  });
});
