import { describe, expect, it, test } from "vitest";
import { changeGroove, changeStrum, newWork } from "../core/ensemble";
import { readMusicXml } from "../core/formats";
import { places } from "../core/score";
import { tuneOf } from "../testing/abc";
import { download } from "./files";

const plain = newWork(tuneOf("|:d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2:|", { key: "D" }));
const text = (work: typeof plain, part: string, format: string) => String(download(work, part, format)?.content);

describe("files to take away", () => {
  test.each([
    ["melody", "abc", /^test-tune\.abc$/],
    ["melody+strum", "musicxml", /tune-and-strum\.musicxml$/],
    ["strum", "abc", /strum\.abc$/],
    ["all", "mid", /all-parts\.mid$/],
  ])("%s as %s are called by their tune and parts", (part, format, name) => {
    expect(download(plain, part, format)?.name).toMatch(name);
  });
  it("the strum stands under the tune, or alone, and with all parts once it was chosen", () => {
    expect(readMusicXml(text(plain, "melody+strum", "musicxml")).parts.map((p) => p.name)).toEqual([
      "Tune",
      "Strum: song bass",
    ]);
    expect(readMusicXml(text(plain, "strum", "musicxml")).parts).toHaveLength(1);
    const chosen = changeStrum(plain, { instrument: "banjo", style: "basic strum" });
    const names = (work: typeof plain) => readMusicXml(text(work, "all", "musicxml")).parts.map((p) => p.name);
    expect(names(plain)).not.toContain("Strum: basic strum");
    expect(names(chosen)).toContain("Strum: basic strum");
    const { tune } = readMusicXml(text(chosen, "strum", "musicxml"));
    expect(places(tune)).toHaveLength(4);
  });
  it("the sound has the dance and its opening chord: a bar longer, and not straight", () => {
    const midi = (work: typeof plain) => download(work, "all", "mid")?.content as Uint8Array;
    const opened = midi(changeGroove(plain, { opening: true }));
    expect(opened.length).toBeGreaterThan(midi(plain).length);
    expect(midi(changeGroove(plain, { strength: 0 }))).not.toEqual(midi(plain));
  });
  test.each([
    ["nobody", "abc"],
    ["melody", "pdf"],
  ])("there is no %s as %s", (part, format) => expect(download(plain, part, format)).toBeUndefined());
});
