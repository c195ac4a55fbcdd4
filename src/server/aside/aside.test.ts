import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { derive, newWork } from "../../core/ensemble";
import { tuneOf } from "../../testing/abc";
import { opened } from "../sealed";

process.env.SYMPHONOS_DB = join(mkdtempSync(join(tmpdir(), "aside-")), "tunes.db");
const { LIMITS } = await import("./limits");
const patience = { derive: LIMITS.derive.most };
const { aside } = await import(".");
const { DatabaseTrouble } = await import("../../db");
const { Refusal } = await import("../answer");

const work = newWork(tuneOf('"D"d2fd Adfd|"A"e2ge Bege|"D"d8|]'));
const strain = work.tune.strains[0]!;
/** A work that takes far longer than any tune: thousands of notes in one bar. */
const endless = {
  ...work,
  tune: {
    ...work.tune,
    strains: [
      { ...strain, bars: [{ ...strain.bars[0]!, events: Array(4000).fill(strain.bars[0]!.events[1]!).flat() }] },
    ],
  },
};
/** Runs with another limit for derivations. */
async function within<T>(most: number, run: () => Promise<T>): Promise<T> {
  LIMITS.derive.most = most;
  try {
    return await run();
  } finally {
    LIMITS.derive.most = patience.derive;
  }
}

describe("work aside", () => {
  it("gives what the same work gives here", async () => {
    expect(await aside("derive", work)).toEqual(derive(work));
    const file = await aside("file", work, "melody", "abc");
    expect(file).toMatchObject({ type: expect.stringContaining("abc"), content: expect.stringContaining("K:D") });
    expect(await aside("file", work, "nobody", "abc")).toBeNull();
    const chart = opened(await aside("chart", JSON.stringify(work)));
    expect(chart.rows.letters[0]!.bars.map((b) => b.cells.map((c) => c.symbol).join())).toEqual(["D", "A", "D"]);
    expect(chart.rows.numerals[0]!.bars[1]!.cells[0]!.name).toBe("V");
    const part = await aside("part", JSON.stringify(work), "moving");
    expect(opened(part!)).toMatchObject({ heading: { title: "Test" }, own: { instrument: "fiddle" } });
    expect(await aside("part", JSON.stringify(work), "constructor")).toBeNull();
  });
  it("passes on what is thrown there, trouble with the file of tunes as what it is", async () => {
    await expect(aside("chart", "{}")).rejects.toThrow();
    writeFileSync(process.env.SYMPHONOS_DB!, "no database ".repeat(500));
    const failed = await aside("intake", [], false).catch((error: unknown) => error);
    expect(failed).toBeInstanceOf(DatabaseTrouble);
    expect(failed).toMatchObject({ trouble: "damaged", path: process.env.SYMPHONOS_DB });
  });
  it("ends what takes too long, in words, and does what waited behind it", async () => {
    const [long, next] = await within(700, async () => {
      const both = [aside("derive", endless as never), aside("derive", work)] as const;
      return Promise.allSettled(both);
    });
    expect(long).toMatchObject({ status: "rejected", reason: expect.any(Refusal) });
    expect((long as PromiseRejectedResult).reason.message).toMatch(/takes too long to work out\. Split it/);
    // The thread that comes after may still be starting when so little time is left; it answers once there is enough.
    if (next.status === "rejected") expect(next.reason).toBeInstanceOf(Refusal);
    expect(await aside("derive", work)).toEqual(derive(work));
  });
  it("of books and of pages does not wait for each other", async () => {
    const order: string[] = [];
    await within(3000, () =>
      Promise.all([
        aside("derive", endless as never).catch(() => order.push("page")),
        aside("backups").then(() => order.push("book")),
      ]),
    );
    expect(order).toEqual(["book", "page"]);
  });
});
