import { describe, expect, test } from "vitest";
import { anInterval, isHard, parsePitch } from ".";

describe("intervals as they are said and sung", () => {
  test.each([
    [1, "a unison"],
    [3, "a third"],
    [8, "an octave"],
    [9, "a ninth"],
    [11, "an eleventh"],
    [40, "an interval of 40"],
  ])("%i is %s", (number, words) => {
    expect(anInterval(number)).toBe(words);
  });
  test.each([
    // From, to, whether it is hard to sing: tritones and augmented intervals.
    ["C4", "F#4", true],
    ["F4", "B4", true],
    ["B3", "F4", true],
    ["C4", "F4", false],
    ["C4", "G4", false],
    ["F4", "G#4", true],
    ["F4", "Ab4", false],
    ["C4", "G#4", true],
    ["G#4", "C4", true],
    ["C4", "Ab4", false],
    ["C4", "C#4", true],
    ["A4", "A4", false],
    ["C4", "C5", false],
    ["C4", "B4", false],
    ["C4", "F#5", true],
    ["C4", "F5", false],
  ])("%s to %s: %s", (from, to, hard) => {
    expect(isHard(parsePitch(from), parsePitch(to))).toBe(hard);
    expect(isHard(parsePitch(to), parsePitch(from))).toBe(hard);
  });
});
