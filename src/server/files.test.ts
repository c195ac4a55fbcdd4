import { describe, expect, it, test } from "vitest";
import { changeGroove, changeHand, changeStrum, newWork } from "../core/ensemble";
import { readAbc, readMusicXml } from "../core/formats";
import { places } from "../core/score";
import { midi } from "../core/theory";
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

describe("files of a hand", () => {
  const banjo = changeHand(plain, "banjo", { kind: "melody with chords" });
  it("carry strings, frets, fingers and tuning in MusicXML, and read back to what sounds", () => {
    const xml = text(banjo, "hand-banjo", "musicxml");
    for (const what of ["<sign>TAB</sign>", "<string>", "<fret>", "<fingering>", "<staff-tuning"])
      expect(xml).toContain(what);
    expect(download(banjo, "hand-banjo", "musicxml")?.name).toBe("test-banjo.musicxml");
    const read = places(readMusicXml(xml).tune).flatMap((p) => p.bar.events.flatMap((e) => e.pitches.at(-1) ?? []));
    const written = places(plain.tune).flatMap((p) => p.bar.events.flatMap((e) => e.pitches.at(-1) ?? []));
    expect(read.map(midi)).toEqual(written.map((p) => midi(p) - 12));
  });
  it("carry the fingers in ABC, each note its own", () => {
    const abc = text(changeHand(plain, "fiddle", { kind: "double stops" }), "hand-fiddle", "abc");
    expect(abc).toMatch(/![0-4]!/);
    expect(readAbc(abc).refused).toEqual([]);
    const fingers = text(plain, "hand-fiddle", "abc").match(/![0-4]!/g) ?? [];
    expect(fingers).toHaveLength(places(plain.tune).flatMap((p) => p.bar.events).length);
  });
  it("sound as the hand plays: chords under the notes that have them", () => {
    const bare = download(plain, "hand-guitar", "mid")?.content as Uint8Array;
    const full = download(changeHand(plain, "guitar", { kind: "melody with chords" }), "hand-guitar", "mid");
    expect((full as { content: Uint8Array }).content.length).toBeGreaterThan(bare.length);
  });
  it("are there for what has strings", () => {
    expect(download(plain, "hand-whistle", "abc")).toBeUndefined();
    expect(download(plain, "hand-", "abc")).toBeUndefined();
  });
});
