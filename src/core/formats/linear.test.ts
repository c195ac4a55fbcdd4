import { describe, expect, test } from "vitest";
import { type Bar, places, type Tune, tuneSheet } from "../score";
import { perform } from "../performance";
import { tuneOf } from "../../testing/abc";
import { performanceMidi, readAbcTune, readChordPro, readMidi, readMusicXml, sheetMusicXml, tuneAbc } from ".";
import { cutBook } from "./abc/book";

// Every reader and writer takes time in proportion to what it is given: twice as much takes at most two and a half
// times as long. What is measured is the fastest of several runs, so that other work beside it does not count.

const HEAD = "X:1\nT:T\nM:4/4\nL:1/8\nK:D\n";
const HALF = 14_000;
/** A pause of the machine's own that is forgiven. Milliseconds. */
const FORGIVEN = 25;
const RUNS = 4;
const TRIES = 4;

function fastest(run: () => unknown): number {
  let best = Number.POSITIVE_INFINITY;
  for (let i = 0; i < RUNS; i++) {
    const from = performance.now();
    try {
      run();
    } catch {
      // A refusal takes its time too.
    }
    best = Math.min(best, performance.now() - from);
  }
  return best;
}

function expectLinear(make: (size: number) => () => unknown, half: number) {
  const [one, two] = [make(half), make(2 * half)];
  one();
  // What is quadratic is so every time; a busy machine is not.
  const over = () => fastest(two) - (2.5 * fastest(one) + FORGIVEN);
  const measured: number[] = [];
  do measured.push(over());
  while ((measured.at(-1) as number) > 0 && measured.length < TRIES);
  expect(Math.min(...measured)).toBeLessThanOrEqual(0);
}
const tried = (run: () => unknown) => () => {
  try {
    run();
  } catch {
    // Refused; how long it took is what counts.
  }
};

const base = tuneOf("d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2|");
const ofBars = (count: number): Tune => {
  const strain = base.strains[0]!;
  const bars = Array.from({ length: count }, (_, i) => strain.bars[i % strain.bars.length] as Bar);
  return { ...base, strains: [{ ...strain, bars }] };
};
const sheetOf = (tune: Tune) => tuneSheet(tune, places(tune));

describe("ABC", () => {
  const UNITS = [
    ...'* !{}[]()|:"+&%$@~-.<c1\\^',
    "c|",
    "cdef gabc|",
    "cdef gabc|\n",
    "!x!",
    "!trill!c",
    "[K:D]a|",
    "c-",
    "(3abc",
    "(3",
    "a>",
    '"^x"c',
    "[ceg]",
    "|:",
    ":|",
    "|[1 ",
    "V:1\nc|\n",
    "w:a-\n",
    "%%x y\n",
    "{a}b",
    "c\\\n",
    "P:A\nc|\n",
    "[V:2]c|",
  ];
  test.each(UNITS)("of nothing but %j", (unit) => {
    const text = (size: number) => `${HEAD}${unit.repeat(Math.floor(size / unit.length))}c|\n`;
    expectLinear((size) => tried(() => readAbcTune({ text: text(size), line: 1, header: "" })), HALF);
  });
  test.each(["N:x\n", "T:x\n", "Z:x\n", "% \n", "x\n", " \n", "V:a\n"])("with a header of nothing but %j", (line) => {
    const text = (size: number) => `X:1\n${line.repeat(Math.floor(size / line.length))}K:D\nc|\n`;
    expectLinear((size) => tried(() => readAbcTune({ text: text(size), line: 1, header: "" })), HALF);
  });
  test.each(["\n", "X:1\n\n", "K:D\nc|\n\n", "x\n", "X:1\nK:D\n"])("a book of nothing but %j is cut", (unit) => {
    expectLinear((size) => () => cutBook(`X:1\nT:a\n${unit.repeat(size)}`), 60_000);
  });
  test("of a large tune, read and written", () => {
    expectLinear((bars) => tried(() => readAbcTune({ text: tuneAbc(ofBars(bars)), line: 1, header: "" })), 600);
    expectLinear((bars) => () => tuneAbc(ofBars(bars)), 600);
  });
});

describe("MIDI", () => {
  test("read and written", () => {
    const midi = (bars: number) => {
      const tune = ofBars(bars);
      return performanceMidi(perform(tune, sheetOf(tune), { straight: true, chords: false }));
    };
    const files = new Map([600, 1200].map((bars) => [bars, midi(bars)]));
    expectLinear((bars) => () => readMidi(files.get(bars)!), 600);
    expectLinear((bars) => () => midi(bars), 600);
  });
});

describe("MusicXML", () => {
  const NOTE = "<note><pitch><step>C</step><octave>5</octave></pitch><duration>1</duration></note>";
  const PART = '<part-list><score-part id="P1"><part-name>x</part-name></score-part></part-list>';
  const score = (inside: string) => `<score-partwise>${PART}<part id="P1">${inside}</part></score-partwise>`;
  const measure = (inside: string) => `<measure number="1">${inside}</measure>`;
  const inMeasure = (unit: string) => (times: number) => score(measure(unit.repeat(times) + NOTE));
  const GRACE = NOTE.replace("<note>", "<note><grace/>");
  const SHAPES: [string, (times: number) => string][] = [
    ["elements left open", (n) => `<score-partwise>${"<a ".repeat(n)}`],
    ["comments left open", (n) => `<score-partwise>${"<!--".repeat(n)}`],
    ["attributes", (n) => `<score-partwise ${'b="c" '.repeat(n)}/>`],
    ["entities", (n) => `<score-partwise>${"&amp;".repeat(n)}</score-partwise>`],
    ["tiny elements", inMeasure("<a/>")],
    ["notes", inMeasure(NOTE)],
    ["grace notes", inMeasure(GRACE)],
    [
      "changes of metre",
      inMeasure(`${NOTE}<attributes><time><beats>3</beats><beat-type>4</beat-type></time></attributes>`),
    ],
    ["repeats inside a bar", inMeasure(`${NOTE}<barline location="middle"><repeat direction="backward"/></barline>`)],
    ["chord signs", inMeasure("<harmony><root><root-step>C</root-step></root><kind>major</kind></harmony>")],
    [
      "verses",
      (n) => score(measure(NOTE.replace("</note>", `${'<lyric number="1"><text>a</text></lyric>'.repeat(n)}</note>`))),
    ],
    ["bars", (n) => score(measure(NOTE).repeat(n / 10))],
    ["parts", (n) => `<score-partwise>${`<part id="P1">${measure(NOTE)}</part>`.repeat(n / 100)}</score-partwise>`],
  ];
  test.each(SHAPES)("of nothing but %s", (_, make) => {
    expectLinear((size) => tried(() => readMusicXml(make(size))), 4000);
  });
  test("of a large tune, read and written", () => {
    const files = new Map([600, 1200].map((bars) => [bars, sheetMusicXml(sheetOf(ofBars(bars)))]));
    expectLinear((bars) => () => readMusicXml(files.get(bars)!), 600);
    expectLinear((bars) => () => sheetMusicXml(sheetOf(ofBars(bars))), 600);
  });
});

describe("ChordPro", () => {
  test.each(["[", "]", "{", "}", "[G]", "la ", "{c: x}\n", "[G]la\n", ":"])("of nothing but %j", (unit) => {
    expectLinear((size) => tried(() => readChordPro(unit.repeat(Math.floor(size / unit.length)))), 29_000);
  });
});
