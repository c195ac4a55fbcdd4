import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { BookCutter, cutBook, readAbc } from ".";
import { tidy } from "./tidy";

/** Pieces a book may be made of; each tune has a number of its own to be known by. */
const piece = fc.constantFrom(
  "X:#\nT:Plain\nM:4/4\nL:1/8\nK:D\nabc def|\n",
  "X:#\nT:Late body\n\nK:G\nGAB|\n",
  "Words about where these were found.\n",
  "%%scale 0.7\n",
  "\n\n",
  "X:#\nT:Two lines\nK:Am\nABc|\nw:one two three\ncde|\n",
  "X:#\nT:No notes\nK:C\n",
);
const books = fc
  .array(piece, { minLength: 1, maxLength: 12 })
  .map((pieces) => pieces.map((p, i) => p.replace("#", String(i + 1))));

describe("cutting a book", () => {
  it("finds a tune for every X:, in order, wherever the empty lines fall", () => {
    fc.assert(
      fc.property(books, fc.constantFrom("\n", "\n\n"), (pieces, gap) => {
        const text = pieces.join(gap);
        const wanted = pieces.filter((p) => p.startsWith("X:")).map((p) => p.split("\n")[0]);
        expect(cutBook(text).map((c) => c.text.split("\n")[0])).toEqual(wanted);
      }),
    );
  });
  it("says the line each tune starts on", () => {
    fc.assert(
      fc.property(books, (pieces) => {
        const text = pieces.join("\n");
        const lines = text.split("\n");
        for (const cutting of cutBook(text)) expect(lines[cutting.line - 1]).toBe(cutting.text.split("\n")[0]);
      }),
    );
  });
  it("gives the same tunes whatever ends the lines", () => {
    fc.assert(
      fc.property(books, fc.constantFrom("\r\n", "\r"), (pieces, end) => {
        const text = pieces.join("\n");
        expect(cutBook(text.replaceAll("\n", end))).toEqual(cutBook(text));
      }),
    );
  });
  it("works line by line, holding one tune", () => {
    const cutter = new BookCutter();
    const done = ["X:1", "K:D", "abc|", "", "X:2", "K:G", "GAB|"].map((line) => cutter.push(line)?.text.split("\n")[0]);
    expect(done).toEqual([undefined, undefined, undefined, "X:1", undefined, undefined, undefined]);
    expect(cutter.end()?.line).toBe(5);
  });
  it("lends the file's header to its tunes, and takes a byte-order mark off", () => {
    const { tunes } = readAbc("\uFEFFM:6/8\nL:1/8\nO:Here\n\nX:1\nT:a\nK:D\nabc def|\n\nX:2\nT:b\nM:2/4\nK:D\nabcd|\n");
    expect(tunes.map((t) => [t.tune.metre.beats, t.tune.origin])).toEqual([
      [6, "Here"],
      [2, "Here"],
    ]);
  });
  it("takes a pasted fragment without X:", () => {
    expect(readAbc("T:Pasted\nM:3/4\nK:G\nG2B2d2|").tunes[0]?.tune.title).toBe("Pasted");
  });
});

describe("tidying", () => {
  it("keeps the length of every line it mends, so that columns stay true", () => {
    const chars = " |:[]!*$=20abcdefg'\"1 2\n";
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...chars), { maxLength: 80 }), (music) => {
        const text = `K:D\n${music.join("")}`;
        const [before, after] = [text, tidy(text, 1).text].map((t) => t.split("\n")) as [string[], string[]];
        expect(after.length).toBe(before.length);
        after.forEach((line, i) => {
          const own = before[i]!;
          // Only a line that ends inside a chord grows, by the rest of the chord at its end.
          if (/\[[^\]]*$/.test(own)) expect(line.length).toBeGreaterThanOrEqual(own.trimEnd().length);
          else expect(Math.max(1, line.length)).toBe(Math.max(1, own.length));
        });
      }),
    );
  });
  test.each([
    ["abc!|def!", "abc |def "],
    ["!trill!abc", "!trill!abc"],
    ["a8|1 b8:| 2 c8", "a8|1 b8:|2  c8"],
    ["ab*", "ab "],
    ["ab|[ cd|]", "ab|  cd|]"],
    ["ab =20", "ab    "],
    ['"!"ab|', '"!"ab|'],
    ["!staccato!a", "         .a"],
  ])("%j becomes %j", (from, to) => {
    expect(tidy(`K:D\n${from}`, 1).text.split("\n")[1]).toBe(to);
  });
  test.each([
    ["Play this one slowly the second time", true],
    ["abc def|gab c'd'e'|", false],
    ["|: GABc dedB | dedB dedB |", false],
    ["(3abc zxy HTLM abc|", false],
    ["w:these are words", false],
    ["kd2z vkA2z | vBAG D2z |", false],
    ["kd2z vkA2z vBAG", false],
    ["Slowly the first time, then quickly", true],
    ["To be played twice | with spirit", true],
  ])("%j read as prose: %s", (line, prose) => {
    expect(tidy(`K:D\n${line}`, 1).remarks.length > 0).toBe(prose);
  });
  test.each([
    // Music, the notes of it, what is said to have been left out.
    ["kd2z vkA2z | vBAG D2z |", 6, ["“k” means nothing here and was left out (2 times)."]],
    ["[D2A2][\nGB] d2 [FA]2 e4 | d8 |", 6, []],
    ["d4 [FA\nw: la\nd]4 | d8 |", 3, []],
    ["d4 e4 | some fifth abc | d8 |", 9, ["This line was read as notes. If it is text, put N: before it."]],
  ] as [string, number, string[]][])("no note of %j is lost", (music, notes, left) => {
    const { tunes } = readAbc(`X:1\nT:T\nM:none\nL:1/8\nK:D\n${music}\n`);
    const events = tunes[0]!.tune.strains.flatMap((s) => s.bars.flatMap((b) => b.events));
    expect(events.filter((e) => e.pitches.length > 0)).toHaveLength(notes);
    expect(
      tunes[0]!.remarks
        .filter((r) => r.left)
        .map((r) => r.message)
        .slice(0, left.length || 2),
    ).toEqual(left);
  });
});
