import fc from "fast-check";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Cutting } from "../../core/formats";

/** Titles that a batch dies of, and how often it was asked. */
const poison = new Set<string>();
const server = { asked: 0, trouble: "" };
vi.mock("../../server/actions", () => ({
  bringIn: async ({ cuttings }: { cuttings: Cutting[] }) => {
    server.asked += 1;
    if (server.trouble === "gone") throw new Error("fetch failed");
    if (server.trouble) return { ok: false, problem: server.trouble, again: true };
    if (cuttings.some((c) => poison.has(c.text))) return { ok: false, problem: "It takes too long.", again: false };
    const added = cuttings.map((c) => ({ id: c.line, title: c.text }));
    return { ok: true, value: { added, refused: [], remarks: [], duplicates: [] } };
  },
}));
const { batches, taken } = await import("./batches");

const cutting = (text: string, line = 1): Cutting => ({ text, line, header: "" });
beforeEach(() => {
  poison.clear();
  Object.assign(server, { asked: 0, trouble: "" });
});

describe("a book on its way in", () => {
  it("is cut by tunes and by letters, in order and whole", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 90_000 }), { maxLength: 120 }), (lengths) => {
        const all = lengths.map((n, i) => cutting("x".repeat(n), i));
        const cut = [...batches(all)];
        expect(cut.flat()).toEqual(all);
        for (const batch of cut) {
          const letters = batch.reduce((sum, c) => sum + c.text.length, 0);
          expect(batch.length).toBeLessThanOrEqual(40);
          expect(batch.length === 1 || letters <= 200_000).toBe(true);
        }
      }),
      { numRuns: 40 },
    );
  });
  it("loses only the tune that spoils its batch, told by its line", async () => {
    const all = Array.from({ length: 40 }, (_, i) => cutting(`tune ${i}`, i));
    poison.add("tune 7").add("tune 33");
    const parts = await taken(all, false);
    expect(parts.flatMap((p) => p.added.map((t) => t.title))).toEqual(
      all.map((c) => c.text).filter((t) => !poison.has(t)),
    );
    expect(parts.flatMap((p) => p.refused)).toEqual([
      { line: 7, column: 1, message: "It takes too long." },
      { line: 33, column: 1, message: "It takes too long." },
    ]);
    expect(server.asked).toBeLessThan(30);
  });
  it("stops, and does not try the rest piece by piece, where the disk is full or nobody answers", async () => {
    server.trouble = "The disk is full.";
    await expect(taken([cutting("a"), cutting("b")], false)).rejects.toThrow("The disk is full.");
    server.trouble = "gone";
    await expect(taken([cutting("a"), cutting("b")], false)).rejects.toThrow("does not answer");
    expect(server.asked).toBe(2);
  });
});
