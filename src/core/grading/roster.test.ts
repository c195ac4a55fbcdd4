import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { INSTRUMENTS, LEVELS } from "../instruments";
import { type Learner, readRoster, readWord, WORDS, writeRoster } from ".";

const HEAD = "name,instrument,tuning,level,can,cannot,seat,notes\n";
const faults = (rows: string, head = HEAD) =>
  readRoster(head + rows).faults.map((f) => `${f.line} ${f.column}: ${f.words}`);

describe("a group as a table", () => {
  it("reads who is there, whatever the order of the columns, lists by semicolons, levels by name or number", () => {
    const { learners, faults: wrong } = readRoster(
      'level,name,instrument,can,notes\n3,Bo Marram,Violin,low2; fourth,"sits left, by the door"\nfluent,Cora,banjo,,\n',
    );
    expect(wrong).toEqual([]);
    expect(learners).toEqual([
      {
        name: "Bo Marram",
        instrument: "fiddle",
        tuning: null,
        level: "Moving",
        can: ["low2", "fourth"],
        cannot: [],
        seat: "",
        notes: "sits left, by the door",
      },
      { name: "Cora", instrument: "banjo", tuning: null, level: "Fluent", can: [], cannot: [], seat: "", notes: "" },
    ]);
  });
  it("tells every bad row by its line and column, and keeps the others", () => {
    const table = [
      "Bo,fiddle,,Steady,,,,",
      "Bo,fiddle,,Steady,,,,",
      ",fiddle,,Steady,,,,",
      "Cy,kazoo,,Steady,,,,",
      "Di,banjo,XYZ,Steady,,,,",
      "Ed,fiddle,,Wizard,flying,,,",
      "Fay,viola,,1,,range:D4-A4,,",
    ].join("\n");
    const read = readRoster(HEAD + table);
    expect(read.learners.map((l) => l.name)).toEqual(["Bo", "Fay"]);
    expect(read.faults.map((f) => [f.line, f.column])).toEqual([
      [3, "name"],
      [4, "name"],
      [5, "instrument"],
      [6, "tuning"],
      [7, "level"],
      [7, "can"],
    ]);
  });
  test.each([
    ["", "", "1 null: The table is empty. Begin with: name,instrument,tuning,level,can,cannot,seat,notes."],
    ["Bo,fiddle\n", "name,instrument\n", "1 level: The first line has no column level."],
    ["Bo,fiddle,Steady,x\n", "name,instrument,level,shoe\n", '1 null: There is no column "shoe".'],
  ])("a table %j under %j: %s", (rows, head, words) => {
    expect(faults(rows, head).join(" ")).toContain(words);
  });
  it("stops at sixty learners and at tables that are too long", () => {
    const many = Array.from({ length: 70 }, (_, i) => `P${i},fiddle,,Steady,,,,`).join("\n");
    expect(readRoster(HEAD + many).learners).toHaveLength(60);
    expect(readRoster("x".repeat(300_000)).faults[0]!.words).toContain("too long");
  });
  it("is read back as it was written, whatever stands in it", () => {
    const text = fc.string({ maxLength: 30 }).map((s) => s.replace(/[\s']+/g, " ").trim());
    const learner: fc.Arbitrary<Learner> = fc.record({
      name: fc.tuple(fc.constantFrom("Ann", "Ö, Li", 'Q "U"', "=SUM"), fc.nat(99)).map(([n, k]) => `${n} ${k}`),
      instrument: fc.constantFrom(...INSTRUMENTS.map((i) => i.name)),
      tuning: fc.constant(null),
      level: fc.constantFrom(...LEVELS),
      can: fc.uniqueArray(fc.constantFrom(...Object.keys(WORDS), "key:G", "shape:Am", "range:D4-B4"), { maxLength: 3 }),
      cannot: fc.uniqueArray(fc.constantFrom(...Object.keys(WORDS)), { maxLength: 2 }),
      seat: fc.constantFrom("", "1", "back row"),
      notes: text.filter((t) => !/^[=+@\-"]/.test(t)),
    });
    fc.assert(
      fc.property(
        fc.uniqueArray(learner, { selector: (l) => l.name.toLowerCase(), maxLength: 8, minLength: 1 }),
        (all) => {
          const { learners, faults: wrong } = readRoster(writeRoster(all));
          expect(wrong).toEqual([]);
          expect(learners.map((l) => ({ ...l, name: l.name.replace(/^'/, "") }))).toEqual(all);
        },
      ),
      { numRuns: 150 },
    );
  });
  it("writes no cell that a spreadsheet would work out", () => {
    const [, row] = writeRoster([
      {
        name: "=1+1",
        instrument: "fiddle",
        tuning: null,
        level: "Steady",
        can: [],
        cannot: [],
        seat: "@x",
        notes: "-2",
      },
    ]).split("\r\n");
    expect(row).toBe("'=1+1,fiddle,,Steady,,,'@x,'-2");
  });
  it("whatever is thrown at it is read, or told, and never thrown", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        const { learners, faults: wrong } = readRoster(HEAD + text);
        expect(learners.length + wrong.length).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 300 },
    );
  });
});

describe("words of a record", () => {
  test.each([
    ["LOW2", { word: "low2" }],
    ["key:Edor", { word: "key", key: "Edor" }],
    ["range:D4-B4", { word: "range", lowest: "D4", highest: "B4" }],
    ["shape:F#m", { word: "shape", symbol: "F#m" }],
  ])("%s", (text, word) => expect(readWord(text)).toEqual(word));
  test.each(["fly", "range:D4", "key:H", "shape:", "constructor"])("%s is refused with the list", (text) => {
    expect(() => readWord(text)).toThrow(/Words: low2/);
  });
});
