import { describe, expect, test } from "vitest";
import { remembered } from "./useRemembered";

const left = { percent: 85, counting: false, muted: ["chords"], folded: true, lens: "Harmony" };

describe("how a bench was left", () => {
  test("is found as it was kept", () => {
    expect(remembered(JSON.stringify(left))).toEqual(left);
  });
  test.each([
    ["nothing kept", null],
    ["no JSON", "{"],
    ["another shape", "[1]"],
    ["a lens that is gone", JSON.stringify({ ...left, lens: "Loom" })],
    ["a tempo out of bounds", JSON.stringify({ ...left, percent: -3 })],
  ])("%s is nothing", (_, kept) => {
    expect(remembered(kept)).toBeUndefined();
  });
});
