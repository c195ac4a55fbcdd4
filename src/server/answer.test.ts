import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { z } from "zod";
import { databasePath } from "../db";
import { answer, problemOf } from "./answer";

const Input = z.object({ id: z.int().positive(), name: z.string().min(1, "Write a name") });

describe("an answer", () => {
  it("is the value of what was run on checked input", async () => {
    expect(await answer(Input, { id: 7, name: "reel" }, ({ id, name }) => `${id} ${name}`)).toEqual({
      ok: true,
      value: "7 reel",
    });
  });
  test.each([
    [{ id: 7, name: "" }, "name: Write a name. Reload the page and do this once more."],
    [{ id: -1, name: "x" }, /^id: /],
    [undefined, /^what was sent: /],
    ["constructor", /^what was sent: /],
  ])("to %j names the field and the remedy", async (input, words) => {
    const found = await answer(Input, input, () => "never");
    expect(found).toEqual({ ok: false, problem: expect.stringMatching(words), again: false });
  });
  it("never throws, whatever is sent", async () => {
    await fc.assert(
      fc.asyncProperty(fc.anything(), async (rubbish) => {
        const found = await answer(Input, rubbish, () => null);
        if (!found.ok) expect(found.problem.length).toBeGreaterThan(10);
      }),
    );
  });
  test.each([
    ["SQLITE_FULL", /disk is full/],
    ["SQLITE_READONLY", /may not be written/],
    ["SQLITE_BUSY", /another program/],
    ["SQLITE_CORRUPT", /backup/],
  ])("says what to do when the database answers %s", (code, words) => {
    const found = problemOf(Object.assign(new Error("raw words"), { code }));
    expect(found).toEqual({ problem: expect.stringMatching(words), again: true });
    expect(found.problem).toContain(databasePath());
  });
  it("says an unknown fault in its own words, and that nothing was changed", async () => {
    const found = await answer(Input, { id: 1, name: "x" }, () => {
      throw new Error("the cat sat on it");
    });
    expect(found).toEqual({
      ok: false,
      problem: "Something went wrong inside (the cat sat on it). Nothing was changed; try again.",
      again: false,
    });
  });
});
