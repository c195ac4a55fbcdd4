import { strToU8, zipSync } from "fflate";
import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { perform } from "../../performance";
import { places, playingOrder, timeline, type Tune, tuneSheet } from "../../score";
import { pitchName } from "../../theory";
import { readAbc, tuneAbc } from "../abc";
import { FormatError } from "../problem";
import { decodeText } from "../text";
import { readMusicXml, scoreInContainer, sheetMusicXml } from ".";

const note = (step: string, octave: number, duration: number, more = "") =>
  `<note>${more.includes("<grace") ? more : ""}<pitch><step>${step}</step><octave>${octave}</octave></pitch>${duration ? `<duration>${duration}</duration>` : ""}${more.includes("<grace") ? "" : more}</note>`;
const score = (inside: string, list = '<score-part id="P1"><part-name>Fiddle</part-name></score-part>') =>
  `<?xml version="1.0"?><score-partwise version="3.1"><part-list>${list}</part-list><part id="P1">${inside}</part></score-partwise>`;
const attributes = (more = "") =>
  `<attributes><divisions>2</divisions><key><fifths>2</fifths><mode>major</mode></key><time><beats>4</beats><beat-type>4</beat-type></time>${more}</attributes>`;
const bars = (...inside: string[]) =>
  score(inside.map((b, i) => `<measure number="${i + 1}">${i === 0 ? attributes() : ""}${b}</measure>`).join(""));
const body = (xml: string) => tuneAbc(readMusicXml(xml).tune).trim().split("\n").at(-1);
const sounds = (tune: Tune) => {
  const from = places(tune);
  return perform(tune, tuneSheet(tune, from), { straight: true, chords: false }).notes.map((s) => [
    s.at,
    s.ticks,
    s.noteNumber,
  ]);
};

/** What stands in a measure, and the ABC a musician would write for it (L:1/8, two sharps). */
const MEASURES: [string, string[], string][] = [
  ["plain notes, the key's sharps spelled out", [note("D", 5, 2) + note("E", 5, 2)], "d2e2|"],
  ["a chord is one moment", [note("D", 4, 4) + note("A", 4, 4, "").replace("<note>", "<note><chord/>")], "[DA]4|"],
  [
    "a second voice is left out",
    [
      `${note("D", 5, 4, "<voice>1</voice>")}<backup><duration>4</duration></backup>${note("D", 4, 4, "<voice>2</voice>")}`,
    ],
    "d4|",
  ],
  ["a gap made by forward is a rest", [`${note("D", 5, 2)}<forward><duration>2</duration></forward>`], "d2z2|"],
  [
    "a whole rest fills its bar",
    ['<note><rest measure="yes"/><duration>4</duration></note>', note("D", 5, 4)],
    "z4|d4|",
  ],
  ["grace notes stay with the next note", [`${note("E", 5, 0, '<grace slash="yes"/>')}${note("D", 5, 4)}`], "{/e}d4|"],
  [
    "ties hold over the bar line",
    [note("D", 5, 4, '<tie type="start"/>'), note("D", 5, 4, '<tie type="stop"/>')],
    "d4-|d4|",
  ],
  [
    "a repeat with two endings",
    [
      note("D", 5, 4),
      `<barline location="left"><ending number="1" type="start"/></barline>${note("E", 5, 4)}<barline location="right"><ending number="1" type="stop"/><repeat direction="backward"/></barline>`,
      `<barline location="left"><ending number="2" type="start"/></barline>${note("D", 5, 4)}<barline location="right"><ending number="2" type="discontinue"/></barline>`,
    ],
    "d4|[1 e4:|[2 d4|",
  ],
  [
    "a note that gives only its type has its length from it",
    ["<note><pitch><step>D</step><octave>5</octave></pitch><type>half</type></note>"],
    "d4|",
  ],
  [
    "cue notes belong to someone else",
    [`${note("D", 5, 2)}${note("E", 5, 2).replace("<note>", "<note><cue/>")}`],
    "d2z2|",
  ],
  [
    "chord signs keep their place",
    [
      `<harmony><root><root-step>D</root-step></root><kind>major</kind></harmony>${note("D", 5, 2)}<harmony><root><root-step>A</root-step></root><kind>dominant</kind></harmony>${note("E", 5, 2)}`,
    ],
    '"D"d2 "A7"e2|',
  ],
];

describe("reading MusicXML", () => {
  test.each(MEASURES)("%s", (_, inside, abc) =>
    expect(body(bars(...inside))?.replaceAll(" ", "")).toBe(abc.replaceAll(" ", "").replace(/^\|?/, "")),
  );

  it("turns a timewise score round, takes the first part with notes, and names what it leaves out", () => {
    const timewise = `<score-timewise><part-list><score-part id="D"><part-name>Drum</part-name></score-part><score-part id="F"><part-name>Fiddle</part-name></score-part></part-list><measure number="1"><part id="D">${attributes()}<note><unpitched/><duration>4</duration></note></part><part id="F">${attributes()}${note("D", 5, 4)}</part></measure></score-timewise>`;
    const { tune, remarks, parts, chosen } = readMusicXml(timewise);
    expect([parts.map((p) => p.name), chosen, pitchName(timeline(places(tune))[0]!.event.pitches[0]!)]).toEqual([
      ["Drum", "Fiddle"],
      1,
      "D5",
    ]);
    expect(remarks[0]?.message).toContain("Drum");
    expect(() => readMusicXml(timewise, { part: 0 })).toThrow(/no note with a pitch/);
    expect(() => readMusicXml(timewise, { part: 5 })).toThrow(/There is no part 6/);
  });
  it("keeps the title, the maker, words under notes, tempo and key", () => {
    const xml = bars(
      `<direction><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>96</per-minute></metronome></direction-type></direction>${note("D", 5, 4, "<lyric><syllabic>begin</syllabic><text>har</text></lyric>")}`,
      note("E", 5, 4, "<lyric><syllabic>end</syllabic><text>bour</text></lyric>"),
    ).replace(
      "<part-list>",
      '<work><work-title>Nets  in\nthe Loft</work-title></work><identification><creator type="composer">Odda Penhale</creator><rights>Ours</rights></identification><part-list>',
    );
    const { tune } = readMusicXml(xml);
    expect([tune.title, tune.composer, tune.notes, tune.tempo?.bpm, tune.key]).toEqual([
      "Nets in the Loft",
      "Odda Penhale",
      "The file says: Ours",
      96,
      { tonic: "D", mode: "major" },
    ]);
    expect(timeline(places(tune)).map((t) => t.event.lyrics?.[0]?.text)).toEqual(["har", "bour"]);
  });
  it("reads tuplets with and without brackets", () => {
    const triplet = (mark = "") =>
      `<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>${mark}`;
    const xml = bars(
      ["D", "E", "F"]
        .map((s) =>
          note(s, 5, 0, `<type>eighth</type>${triplet()}`).replace("</pitch>", "</pitch><duration>2</duration>"),
        )
        .join("")
        .replaceAll("<duration>2</duration>", "<duration>1</duration>"),
    ).replace("<divisions>2</divisions>", "<divisions>3</divisions>");
    const places0 = timeline(places(readMusicXml(xml).tune)).map((t) => t.event.tuplet?.place);
    expect(places0.slice(0, 3)).toEqual(["first", "inner", "last"]);
  });

  /** Odd things scores hold, and how they are read: sounding names, metre or key, and what is remarked. */
  const ODD: [string, string, { notes?: string[]; metre?: object; key?: object; remark?: RegExp; bars?: number }][] = [
    [
      "double sharps and flats",
      bars(
        note("F", 4, 2, "").replace("<octave>", "<alter>2</alter><octave>") +
          note("B", 4, 2).replace("<octave>", "<alter>-2</alter><octave>"),
      ),
      { notes: ["F##4", "Bbb4"] },
    ],
    [
      "quarter tones",
      bars(note("C", 5, 4).replace("<octave>", "<alter>0.5</alter><octave>")),
      { notes: ["C#5"], remark: /Quarter tones were rounded/ },
    ],
    [
      "a transposing part",
      bars(note("D", 5, 4)).replace("</attributes>", "<transpose><chromatic>-2</chromatic></transpose></attributes>"),
      { notes: ["D5"], remark: /sounds 2 semitones lower/ },
    ],
    [
      "percussion between notes",
      bars(
        `${note("D", 5, 2)}<note><unpitched><display-step>E</display-step></unpitched><duration>2</duration></note>`,
      ),
      { notes: ["D5"], remark: /percussion/ },
    ],
    [
      "three and two",
      bars(note("D", 5, 5)).replace(
        "<beats>4</beats><beat-type>4</beat-type>",
        "<beats>3+2</beats><beat-type>8</beat-type>",
      ),
      { metre: { beats: 5, unit: 8 } },
    ],
    [
      "two metres added",
      bars(note("D", 5, 7)).replace(
        "<beats>4</beats><beat-type>4</beat-type>",
        "<beats>3</beats><beat-type>8</beat-type><beats>2</beats><beat-type>4</beat-type>",
      ),
      { metre: { beats: 7, unit: 8 } },
    ],
    [
      "no metre",
      bars(note("D", 5, 7)).replace(/<time>.*?<\/time>/, "<time><senza-misura/></time>"),
      { metre: { beats: 4, unit: 4, symbol: "free" } },
    ],
    ["no time element at all", bars(note("D", 5, 4)).replace(/<time>.*?<\/time>/, ""), { notes: ["D5"] }],
    [
      "a church mode",
      bars(note("D", 5, 4)).replace("<mode>major</mode>", "<mode>dorian</mode>"),
      { key: { tonic: "E", mode: "dorian" } },
    ],
    [
      "a key of its own",
      bars(note("D", 5, 4)).replace(
        /<key>.*?<\/key>/,
        "<key><key-step>B</key-step><key-alter>-1</key-alter><key-step>F</key-step><key-alter>1</key-alter></key>",
      ),
      { key: { tonic: "C", mode: "major", extra: { F: 1, B: -1 } } },
    ],
    [
      "a repeat inside a measure",
      bars(`${note("D", 5, 2)}<barline location="middle"><repeat direction="backward"/></barline>${note("E", 5, 2)}`),
      { notes: ["D5", "E5"], bars: 2 },
    ],
    ["an empty measure", bars(note("D", 5, 4), ""), { notes: ["D5"], bars: 2 }],
    ["no divisions named", bars(note("D", 5, 1)).replace("<divisions>2</divisions>", ""), { notes: ["D5"] }],
    [
      "divisions that change",
      bars(note("D", 5, 2), `<attributes><divisions>4</divisions></attributes>${note("E", 5, 4)}`),
      { notes: ["D5", "E5"] },
    ],
    ["a voice whose name is not one", bars(note("D", 5, 4, "<voice>5</voice>")), { notes: ["D5"] }],
    [
      "notes of one voice on top of each other",
      bars(`${note("D", 5, 4)}<backup><duration>4</duration></backup>${note("E", 5, 4)}`),
      { notes: ["D5"], remark: /overlap/ },
    ],
    [
      "grace notes with nothing after them",
      bars(`${note("D", 5, 4)}${note("E", 5, 0, "<grace/>")}`),
      { notes: ["D5"], remark: /Grace notes with no note after them/ },
    ],
    [
      "a chord sign on no root",
      bars(`<harmony><function>IV</function><kind>major</kind></harmony>${note("D", 5, 4)}`),
      { notes: ["D5"], remark: /not built on a root/ },
    ],
  ];
  test.each(ODD)("reads %s", (_, xml, { notes, metre, key, remark, bars: count }) => {
    const { tune, remarks } = readMusicXml(xml);
    const from = places(tune);
    if (notes) expect(timeline(from).flatMap((t) => t.event.pitches.map(pitchName))).toEqual(notes);
    if (metre) expect(tune.metre).toEqual(metre);
    if (key) expect(tune.key).toEqual(key);
    if (remark) expect(remarks.map((r) => r.message).join(" ")).toMatch(remark);
    if (count) expect(from).toHaveLength(count);
    expect(tuneAbc(tune)).toContain("K:");
  });

  const REFUSED: [string, string, RegExp, number][] = [
    [
      "entities of its own",
      '<?xml version="1.0"?>\n<!DOCTYPE s [<!ENTITY a "b">]><score-partwise>&a;</score-partwise>',
      /declares entities/,
      2,
    ],
    [
      "bottomless nesting",
      `<score-partwise>${"<a>".repeat(5000)}${"</a>".repeat(5000)}</score-partwise>`,
      /nest more than/,
      1,
    ],
    ["a file cut short", '<score-partwise>\n<part-list><score-part id="P1"', /XML is broken/, 2],
    ["another kind of document", "<html><body>notes</body></html>", /not a score/, 1],
    ["nothing at all", "", /broken/, 1],
    ["rests only", bars("<note><rest/><duration>4</duration></note>"), /No part of this score has a note/, 1],
  ];
  test.each(REFUSED)("refuses %s, and says where", (_, xml, message, line) => {
    try {
      readMusicXml(xml);
      expect.unreachable();
    } catch (error) {
      expect(error).toBeInstanceOf(FormatError);
      expect((error as FormatError).message).toMatch(message);
      expect((error as FormatError).spot.line).toBe(line);
    }
  });
  it("takes markup in titles for plain words", () => {
    const { tune } = readMusicXml(
      bars(note("D", 5, 4)).replace(
        "<part-list>",
        "<movement-title>&lt;script&gt;alert(1)&lt;/script&gt;</movement-title><part-list>",
      ),
    );
    expect(tune.title).toBe("<script>alert(1)</script>");
    expect(sheetMusicXml(tuneSheet(tune, places(tune)))).not.toContain("<script>");
  });
});

describe("compressed MusicXML", () => {
  const container = strToU8('<container><rootfiles><rootfile full-path="deep/score.xml"/></rootfiles></container>');
  it("opens the score its container names", () => {
    const zip = zipSync({
      "META-INF/container.xml": container,
      "deep/score.xml": strToU8(bars(note("D", 5, 4))),
      "other.xml": strToU8("<no/>"),
    });
    expect(readMusicXml(scoreInContainer(zip)).tune.key.tonic).toBe("D");
  });
  it("reads past elements and words named like parts of the language itself", () => {
    const odd =
      "<notations><articulations><constructor/><toString/></articulations></notations><lyric><text>la</text></lyric>";
    const end = "<barline><bar-style>constructor</bar-style></barline>";
    const { tune } = readMusicXml(bars(note("D", 5, 4, odd) + end));
    expect(timeline(places(tune))[0]!.event.marks).toBeUndefined();
    expect(places(tune)[0]!.bar.barline).toBe("single");
  });
  it("refuses a container that claims more files than it can hold, at once", () => {
    const zip = zipSync({ "META-INF/container.xml": container, "deep/score.xml": new Uint8Array(10) });
    // The count of entries stands ten bytes into the record that ends the container.
    const end = zip.length - 22;
    zip.set([255, 255], end + 10);
    zip.set([255, 255], end + 8);
    const from = performance.now();
    expect(() => scoreInContainer(zip)).toThrow(/claims far more files/);
    expect(performance.now() - from).toBeLessThan(200);
  });
  it("refuses what unfolds beyond measure, and what is no container", () => {
    const bomb = zipSync({ "META-INF/container.xml": container, "deep/score.xml": new Uint8Array(40_000_000) });
    expect(() => scoreInContainer(bomb)).toThrow(/unfolds to far more/);
    expect(() => scoreInContainer(strToU8("PK\u0003\u0004 but no more"))).toThrow(/not a sound compressed score/);
    expect(() => scoreInContainer(zipSync({ "a.txt": strToU8("x") }))).toThrow(/no score in this container/);
  });
  it("reads text in the encodings scores come in", () => {
    const words = '<?xml version="1.0"?><é/>';
    const wide = new Uint8Array([
      0xff,
      0xfe,
      ...[...words].flatMap((c) => [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8]),
    ]);
    expect([
      decodeText(wide).endsWith(words),
      decodeText(Uint8Array.from([...words].map((c) => c.charCodeAt(0)))),
      decodeText(new TextEncoder().encode(words)),
    ]).toEqual([true, words, words]);
  });
});

it("ABC to MusicXML to ABC keeps every pitch, spelling, time and repeat, for any tune", () => {
  fc.assert(
    fc.property(arbitraryTune(), (tune) => {
      const there = readMusicXml(sheetMusicXml(tuneSheet(tune, places(tune)))).tune;
      const back = readAbc(tuneAbc(there)).tunes[0]!.tune;
      expect(sounds(back)).toEqual(sounds(tune));
      expect(playingOrder(places(back))).toEqual(playingOrder(places(tune)));
      expect(back.key).toEqual(tune.key);
    }),
    { numRuns: 60 },
  );
});
