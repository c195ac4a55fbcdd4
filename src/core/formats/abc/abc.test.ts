import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { type Event, places, QUARTER, quarters, timeline, type Tune } from "../../score";
import { keyName, midi, pitchName } from "../../theory";
import { cutBook, readAbc, tuneAbc } from ".";

const events = (tune: Tune): Event[] => tune.strains.flatMap((s) => s.bars.flatMap((b) => b.events));
const names = (tune: Tune) =>
  events(tune)
    .map((e) => (e.pitches.length ? e.pitches.map(pitchName).join("+") : "z"))
    .join(" ");
const lengths = (tune: Tune) => events(tune).map((e) => quarters(e.ticks));
const only = (text: string) => {
  const { tunes, refused } = readAbc(text);
  if (refused[0]) throw refused[0].error;
  return tunes[0]!;
};

/** Snippets with what is hard about each, and the pitches and quarter-note lengths they mean. */
const SNIPPETS: [string, string, { key?: string; metre?: string; unit?: string }, string, number[]?][] = [
  ["key signature", "fcFC|", {}, "F#5 C#5 F#4 C#4", [0.5, 0.5, 0.5, 0.5]],
  ["accidental holds to the bar line, in every octave", "^gG=gG|g2|", {}, "G#5 G#4 G5 G4 G5"],
  ["tie carries an accidental over the bar line", "^g4-|g2g2|", {}, "G#5 G#5 G5"],
  ["double accidentals", "^^c__d=e|", { key: "C" }, "C##5 Dbb5 E5"],
  ["broken rhythm", "a>b c<d e>>f|", { key: "C" }, "A5 B5 C5 D5 E5 F5", [0.75, 0.25, 0.25, 0.75, 0.875, 0.125]],
  ["triplet", "(3abc d2|", { key: "C" }, "A5 B5 C5 D5", [1 / 3, 1 / 3, 1 / 3, 1].map((n) => Math.round(n * 1e6) / 1e6)],
  ["four in the time of three in compound time", "(4abcd efg|", { key: "C", metre: "6/8" }, "A5 B5 C5 D5 E5 F5 G5"],
  ["five in the time of two", "(5abcde f2|", { key: "C" }, "A5 B5 C5 D5 E5 F5"],
  ["tuplet with longer notes", "(3:2:2a2b c2|", { key: "C" }, "A5 B5 C5"],
  ["grace notes and slash", "{/g}a{gfe}d2|", { key: "C" }, "A5 D5"],
  ["chord and double stops", "[Ad]2 [FAd]|", {}, "A4+D5 F#4+A4+D5", [1, 0.5]],
  ["rests of all kinds", "z2 x a Z|", { key: "C" }, "z z A5 z"],
  ["several bars' rest", "Z2|a2|", { key: "C" }, "z z A5", [4, 4, 1]],
  ["inline key and metre", "a2c2|[K:G][M:3/4]c6|", {}, "A5 C#5 C5"],
  ["dorian", "EFGABcd|", { key: "Edor" }, "E4 F#4 G4 A4 B4 C#5 D5"],
  ["mixolydian with a space and capital", "c2|", { key: "A Mix" }, "C#5"],
  ["minor written out", "f2|", { key: "A minor" }, "F5"],
  ["key with extra accidentals", "cf|", { key: "D =c" }, "C5 F#5"],
  ["pipes", "cfg|", { key: "HP" }, "C#5 F#5 G5"],
  ["no key signature at all", "cf|", { key: "none" }, "C5 F5"],
  ["comment after the key", "f|", { key: " Am % the player's note" }, "F5"],
  ["octave marks", "A,, a'' C, c'|", { key: "C" }, "A2 A7 C3 C6"],
  ["decorations old and new", "~a .b +trill+c !fermata!d Te uf vg !>!a|", { key: "C" }, "A5 B5 C5 D5 E5 F5 G5 A5"],
  ["fingerings", "!0!A !3!d !4!e|", {}, "A4 D5 E5"],
  ["slurs inside slurs and over the bar", "(a(bc)|d)e|", { key: "C" }, "A5 B5 C5 D5 E5"],
  ["words and chords together", '"^slowly""Em"a "_dark"b "1st time"c|', { key: "C" }, "A5 B5 C5"],
  ["line end with a backslash", "ab\\\ncd|", { key: "C" }, "A5 B5 C5 D5"],
  ["a lone exclamation mark ends a line", "ab!\ncd|", { key: "C" }, "A5 B5 C5 D5"],
  ["the sign :|: for a double repeat", "a8:|:b8:|", { key: "C" }, "A5 B5"],
  ["ending numbers away from their bar line", "a8| 1 b8:| 2 c8|]", { key: "C" }, "A5 B5 C5"],
  ["bar of the wrong length", "abc|d8|e9|", { key: "C" }, "A5 B5 C5 D5 E5 E5"],
  [
    "unit of a sixteenth and fractions",
    "a2b/c3/2d/|",
    { key: "C", unit: "1/16" },
    "A5 B5 C5 D5",
    [0.5, 0.125, 0.375, 0.125],
  ],
  ["stray text among the music", "ab|\nVariation for the second fiddle\ncd|", { key: "C" }, "A5 B5 C5 D5"],
  ["two-voice tune: the first is taken", "V:1\nab|\nV:2\nAB|", { key: "C" }, "A5 B5"],
];

describe("reading tricky snippets", () => {
  test.each(SNIPPETS)("%s", (_, music, header, expected, wanted) => {
    const tune = tuneOf(music, header);
    expect(names(tune)).toBe(expected);
    if (wanted) expect(lengths(tune)).toEqual(wanted);
  });
});

describe("writing what was read", () => {
  const again = (tune: Tune) => only(tuneAbc(tune)).tune;
  test.each(SNIPPETS)("%s comes back the same", (_, music, header) => {
    const tune = tuneOf(music, header);
    expect(again(tune)).toEqual(tune);
  });
  test.each([
    ["words under the notes in two verses", "abcd|efga|\nw:one two-three four|five * six\nw:un deux trois quatre", {}],
    ["a syllable with a hyphen in it", "ab|\nw:well\\-made so", {}],
    [
      "strain names, tempo and verses",
      "P:A\n|:abcd efga:|\nP:Coda\n[Q:1/4=60]a8|]\nW:Sing it low\nW:Sing it slow",
      {
        more: "T:Other name\nC:Someone\nO:Somewhere\nS:A book\nR:Hornpipe\nQ:1/4=96\nN:Play twice\nN:Rights: permission\n",
      },
    ],
    ["pickup, repeats, endings, change of key", "A2|:d8|1 e6 A2:|2 e8||[K:Bb]b8|(3bag f6|]", {}],
    ["cut time and common time", "a8|[M:C]b8|[M:C|]c8|", { metre: "C|" }],
    ["signs of the road", "!segno!a8|!coda!b8|!D.S.!c8|!fine!d8|]", {}],
    ["loud and soft", "!p!a !crescendo(!b!crescendo)!c !ff!d|", {}],
  ] as [string, string, Parameters<typeof tuneOf>[1]][])("%s", (_, music, header) => {
    const tune = tuneOf(music, header);
    expect(again(tune)).toEqual(tune);
  });
  it("holds for random tunes", () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const back = again(tune);
        const sounds = (t: Tune) =>
          timeline(places(t)).map((e) => [e.at, e.event.ticks, e.event.pitches.map(midi), e.event.tie ?? false]);
        expect(sounds(back)).toEqual(sounds(tune));
        expect(keyName(back.key)).toBe(keyName(tune.key));
      }),
      { numRuns: 150 },
    );
  });
  it("cuts a held note where a chord changes inside it", () => {
    const tune = tuneOf("d8|");
    tune.strains[0]!.bars[0]!.chords.push({ at: 0, symbol: "D" }, { at: 2 * QUARTER, symbol: "A" });
    expect(tuneAbc(tune)).toContain('"D"d4-"A"d4');
  });
});

describe("header fields", () => {
  it("are kept", () => {
    const { tune } = only(
      "X:7\nT:First Name\nT:Second Name\nC:Maker\nO:Place\nS:Book\nR:Reel\nN:A note\nM:C|\nQ:1/2=80\nK:G % sharp\nGABc|\n",
    );
    expect(tune).toMatchObject({
      title: "First Name",
      otherTitles: ["Second Name"],
      composer: "Maker",
      origin: "Place",
      source: "Book",
      rhythm: "reel",
      notes: "A note",
      rights: "unknown",
      metre: { beats: 2, unit: 2, symbol: "cut" },
      tempo: { beat: 2 * QUARTER, bpm: 80 },
      unit: QUARTER / 2,
    });
  });
  test.each([
    ["C", 0.5],
    ["2/4", 0.25],
    ["6/8", 0.5],
    ["3/4", 0.5],
    ["9/8", 0.5],
  ])("no L: with M:%s makes a plain note %d quarters", (metre, expected) => {
    expect(lengths(only(`X:1\nT:a\nM:${metre}\nK:C\nCDEF|\n`).tune)[0]).toBe(expected);
  });
  it("takes the metre from the bars where M: is missing, and says so", () => {
    const { tune, remarks } = only("X:1\nT:a\nL:1/8\nK:D\nabc abc|def def|abc abc|\n");
    expect(tune.metre).toEqual({ beats: 6, unit: 8 });
    expect(remarks.map((r) => r.message).join()).toContain("There is no M: line");
  });
  it("text with markup stays text", () => {
    expect(only("X:1\nT:<script>alert(1)</script> & co\nK:C\nabc|\n").tune.title).toBe(
      "<script>alert(1)</script> & co",
    );
  });
});

describe("books", () => {
  const book =
    "%abc-2.1\nM:3/4\n\nX:1\nT:One\nK:D\nabc|\n\nSome words between tunes.\nMore of them.\n\nX:2\r\nT:Two\r\n\r\nK:G\r\nGAB|\r\nX:3\rT:Three\rK:Q\rabc|\r\r\nX:4\nT:Four\nK:C\n\n";
  it("are cut at X: and empty lines, whatever ends the lines", () => {
    expect(cutBook(book).map((c) => [c.line, c.text.split("\n")[0]])).toEqual([
      [4, "X:1"],
      [12, "X:2"],
      [17, "X:3"],
      [22, "X:4"],
    ]);
  });
  it("keep the good tunes and refuse the others with the place", () => {
    const { tunes, refused } = readAbc(book);
    expect(tunes.map((t) => [t.index, t.tune.title, t.tune.metre.beats])).toEqual([
      [1, "One", 3],
      [2, "Two", 3],
    ]);
    expect(refused.map((r) => [r.index, r.error.spot.line, r.error.spot.column])).toEqual([
      [3, 19, 3],
      [4, 24, 1],
    ]);
    expect(refused[0]?.error.message).toContain('"Q" is not a key');
    expect(refused[1]?.error.message).toContain("no notes");
  });
  test.each([
    ["", 1],
    ["just words about a tune", 1],
    ["X:1\nT:No key\nabc|\n", 1],
  ])("%j is refused", (text, line) => {
    const { tunes, refused } = readAbc(text);
    expect(tunes).toHaveLength(0);
    expect(refused[0]?.error.spot.line).toBe(line);
    expect(refused[0]?.error.message).toMatch(/K:/);
  });
  it("points at strange signs with line and column", () => {
    const { remarks } = only("X:1\nT:a\nK:C\nabc ¤ def|\n");
    expect(remarks[0]).toMatchObject({ line: 4, column: 5 });
  });
  it("refuses a monster without choking on it", () => {
    const { refused } = readAbc(`X:1\nT:Long\nK:C\n${"abcdefga|".repeat(60_000)}\n`);
    expect(refused[0]?.error.message).toContain("characters long");
  });
  it("never crashes on mangled text", () => {
    const chars = " |:[](){}<>~\"!^_=/123abcdefgABCDEFGzxyZ-.,'\\\n%&*+KMLQVPw¤\u0000";
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...chars), { maxLength: 120 }), (music) => {
        const { tunes, refused } = readAbc(`X:1\nT:Noise\nM:4/4\nK:D\n${music.join("")}\n`);
        expect(tunes.length + refused.length).toBeGreaterThan(0);
      }),
      { numRuns: 400 },
    );
  });
});
