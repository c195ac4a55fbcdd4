import { readFileSync } from "node:fs";
import { describe, expect, it, test } from "vitest";
import { chooseGroup, newWork, settleWay, shapeWhole } from "../core/ensemble";
import { readRoster } from "../core/grading";
import { readMusicXml } from "../core/formats";
import { tuneOf } from "../testing/abc";
import { download } from "./files";
import { partPaper } from "./papers";

const { learners } = readRoster(readFileSync("demo/group.csv", "utf8"));
const tune = tuneOf("|:d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2:|", { key: "D" });
const work = chooseGroup(newWork(tune), { name: "Tuesday", learners });
const stored = JSON.stringify(work);
const text = (of: typeof work, part: string, format: string) => String(download(of, part, format)?.content);

describe("a learner’s part on paper", () => {
  const paper = partPaper(stored, "group-dov-pike");
  it("says whose it is, what they do, what to think of, and stands alone", () => {
    expect(paper?.own).toMatchObject({ name: "Dov Pike: one note", instrument: "fiddle" });
    expect(paper?.own?.coaching).toContain("Left out:");
    expect(paper?.sheet.staves.map((s) => s.name)).toEqual(["Dov Pike"]);
    expect(paper?.starts.length).toBeGreaterThan(0);
  });
  it("has its notes by name under a beginner’s, and bows over them", () => {
    const events = paper?.sheet.staves[0]?.bars.flat().filter((e) => e.pitches.length > 0) ?? [];
    expect(events[0]?.lyrics?.[0]?.text).toBe("D");
    expect(events[0]?.marks).toContain("down-bow");
  });
  it("has no names where someone reads without", () => {
    const anka = partPaper(stored, "group-anka-reed");
    expect(anka?.sheet.staves[0]?.bars.flat().some((e) => e.lyrics)).toBe(false);
  });
  it("is not there for who is not in the group, nor where no group was chosen", () => {
    expect(partPaper(stored, "group-nobody")).toBeNull();
    expect(partPaper(JSON.stringify(newWork(tune)), "group")).toBeNull();
  });
  it("the score of all has everyone, and no names under notes", () => {
    const all = partPaper(stored, "group");
    expect(all?.sheet.staves).toHaveLength(14);
    expect(all?.sheet.staves.some((s) => s.bars.flat().some((e) => e.lyrics))).toBe(false);
  });
});

describe("versions of the tune on paper", () => {
  test.each([
    ["basic", "Basic version"],
    ["advanced", "Advanced version"],
  ])("%s", (id, name) => {
    const paper = partPaper(stored, id);
    expect(paper?.own?.name).toBe(name);
    expect(paper?.own?.coaching).not.toBe("");
    expect(paper?.sheet.staves).toHaveLength(1);
  });
});

describe("files of parts", () => {
  it("a version is a file in every format", () => {
    expect(download(work, "basic", "musicxml")?.name).toBe("test-basic.musicxml");
    expect(readMusicXml(text(work, "advanced", "musicxml")).parts).toHaveLength(1);
    expect(text(work, "basic", "abc")).toContain("K:D");
    expect(String(download(work, "basic", "mid")?.content).length).toBeGreaterThan(100);
  });
  it("the sound of all is tonight as the roadmap has it: once through is shorter, with someone out it is another", () => {
    const midi = (of: typeof work) => download(of, "group", "mid")?.content as Uint8Array;
    const once = shapeWhole(work, { times: 1, introduction: 0, ending: "last note" });
    expect(midi(once).length).toBeLessThan(midi(work).length / 2);
    const column = { strain: "A", pass: 1, turn: 1 };
    expect(midi(settleWay(once, "strum", column, "rests")).length).toBeLessThan(midi(once).length);
  });
  it("a learner’s part by itself is once through, with their notes by name in the file", () => {
    expect(text(work, "group-dov-pike", "abc")).toMatch(/^w:/m);
    expect(text(work, "group-anka-reed", "abc")).not.toMatch(/^w:/m);
  });
});
