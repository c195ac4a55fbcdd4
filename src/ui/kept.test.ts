import { afterEach, describe, expect, test, vi } from "vitest";
import { z } from "zod";
import { keep, kept, letGo } from "./kept";

const Left = z.object({ percent: z.number().min(1), lens: z.enum(["Tune", "Chords"]) });
const left = { percent: 85, lens: "Chords" };

/** A browser's store, with something in it. */
const stored = (text: string | null) => {
  const items = new Map(text === null ? [] : [["bench", text]]);
  vi.stubGlobal("localStorage", {
    getItem: (name: string) => items.get(name) ?? null,
    setItem: (name: string, value: string) => void items.set(name, value),
    removeItem: (name: string) => void items.delete(name),
  });
};
afterEach(() => vi.unstubAllGlobals());

describe("what this browser keeps", () => {
  test("is found as it was kept, until it is let go", () => {
    stored(null);
    keep("bench", left);
    expect(kept("bench", Left)).toEqual(left);
    letGo("bench");
    expect(kept("bench", Left)).toBeUndefined();
  });
  test.each([
    ["nothing kept", null],
    ["no JSON", "{"],
    ["another shape", "[1]"],
    ["a word that is gone", JSON.stringify({ ...left, lens: "Loom" })],
    ["a number out of bounds", JSON.stringify({ ...left, percent: -3 })],
  ])("%s is nothing", (_, text) => {
    stored(text);
    expect(kept("bench", Left)).toBeUndefined();
  });
  test("a browser without a store keeps nothing, and breaks nothing", () => {
    vi.stubGlobal("localStorage", undefined);
    keep("bench", left);
    letGo("bench");
    expect(kept("bench", Left)).toBeUndefined();
  });
});
