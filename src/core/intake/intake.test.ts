import { readFileSync } from "node:fs";
import { zipSync } from "fflate";
import { describe, expect, it, test } from "vitest";
import { mutate, numbers } from "../../testing/mutate";
import { tuneOf } from "../../testing/abc";
import { performanceMidi, readAbc, sheetMusicXml, tuneAbc } from "../formats";
import { firstIssue } from "../formats/problem";
import { perform } from "../performance";
import { places, Tune, tuneSheet } from "../score";
import { kindOf, readFile } from ".";

const text = (s: string) => new TextEncoder().encode(s);
const tune = readAbc(readFileSync("demo/tunes.abc", "utf8")).tunes[1]!.tune;
const sheet = tuneSheet(tune, places(tune));
const FILES: Record<string, Uint8Array> = {
  "a.abc": text(tuneAbc(tune)),
  "a.musicxml": text(sheetMusicXml(sheet)),
  "a.mid": performanceMidi(perform(tune, sheet, { straight: true, chords: false })),
  "a.mxl": zipSync({
    "META-INF/container.xml": text('<container><rootfiles><rootfile full-path="s.xml"/></rootfiles></container>'),
    "s.xml": text(sheetMusicXml(sheet)),
  }),
};

describe("files of any kind", () => {
  test.each([
    ["a.abc", "abc"],
    ["a.musicxml", "musicxml"],
    ["a.mid", "midi"],
    ["a.mxl", "mxl"],
  ])("%s is told by its bytes, whatever its name, and read", (name, kind) => {
    expect(kindOf("nameless", FILES[name]!)).toBe(kind);
    const { tunes, refused } = readFile(name, FILES[name]!);
    expect(refused).toEqual([]);
    expect(tunes[0]!.tune.title).toBe("Herring at the Quay");
    expect(tunes[0]!.tune.metre).toEqual({ beats: 6, unit: 8 });
  });
  it("spells a MIDI file without a key by what its notes say", () => {
    const flat = tuneOf("F2A2 c2A2|B2d2 c4|A2c2 f2e2|d2c2 c4|F2A2 c2A2|B2d2 c2B2|A2G2 C2E2|F4 F4|", { key: "F" });
    const own = performanceMidi({
      ...perform(flat, tuneSheet(flat, places(flat)), { straight: true, chords: false }),
      keys: [],
    });
    const { tunes } = readFile("x.mid", own);
    expect(tunes[0]!.tune.key).toEqual({ tonic: "F", mode: "major" });
    expect(tunes[0]!.tune.strains[0]!.bars[1]!.events[0]!.pitches[0]).toMatchObject({ step: "B", alter: -1 });
  });
  it("refuses with a place and a remedy, and never throws", () => {
    for (const [name, bytes] of [
      ["x.abc", text("")],
      ["x.mid", text("MThd")],
      ["x.xml", text("<a>")],
      ["x.mxl", text("PK")],
      ["x.abc", text("X:1\nK:Q\nabc|")],
    ] as const) {
      const { tunes, refused } = readFile(name, bytes);
      expect(tunes).toEqual([]);
      expect(refused[0]!.line).toBeGreaterThanOrEqual(1);
      expect(refused[0]!.message.length).toBeGreaterThan(20);
    }
  });
  it("stands 600 mutated files: each is read into a sound tune or refused", () => {
    const next = numbers(20);
    const names = Object.keys(FILES);
    for (let i = 0; i < 600; i++) {
      const name = names[i % names.length] as string;
      const { tunes, refused } = readFile(name, mutate(FILES[name]!, next));
      expect(tunes.length + refused.length).toBeGreaterThan(0);
      for (const t of tunes) expect(Tune.safeParse(t.tune).success).toBe(true);
      for (const r of refused) expect(r.message).not.toMatch(/is not a function|Cannot read prop/);
    }
  });
});

describe("files that hold no notes", () => {
  const read = (name: string, start: string) =>
    readFile(
      name,
      Uint8Array.from(start, (c) => c.charCodeAt(0)),
    ).refused[0]?.message;
  it.each([
    ["a picture", "scan.png", "\x89PNG\r\n"],
    ["a picture", "scan.jpg", "\xff\xd8\xff\xe0"],
    ["a PDF", "page.pdf", "%PDF-1.7"],
    ["a recording", "take.mp3", "ID3\x03"],
    ["a recording", "take.wav", "RIFF\x00\x00\x00\x00WAVE"],
  ])("%s is called that, and what to do instead is said", (what, name, start) => {
    expect(read(name, start)).toMatch(new RegExp(`^${name} is ${what}.*type the tune in instead`));
  });
  it("text is read as notes", () => expect(read("tune.abc", "X:1\nK:D\nabc|")).toBeUndefined());
});

describe("what a schema has against a score, in words", () => {
  it.each([
    [
      ["strains", 1, "bars", 6, "events", 2, "ticks"],
      "too_big",
      "part 2, bar 7 of it, note 3, its length is more than",
    ],
    [["verses", 3], "too_big", "the verses is more than"],
    [["strains", 0, "bars", 0, "chords", 0, "symbol"], "custom", "part 1, bar 1 of it, the chords over it cannot be"],
  ])("%o", (path, code, words) => {
    expect(firstIssue({ issues: [{ path, code, message: "" }] })).toContain(words);
  });
});
