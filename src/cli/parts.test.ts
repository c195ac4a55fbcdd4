import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { bookFile, file, folder, run, type Run } from "../testing/commandLine";

const book = bookFile();

describe("difficulty and parts", () => {
  it("weighs a tune: the sum of its features, and its bars; a slower tempo is never harder", async () => {
    const [quick, slow] = await Promise.all(
      ["120", "60"].map((bpm) =>
        run(["difficulty", "--instrument", "fiddle", "--tempo", bpm, "--beat", "quarter", book]),
      ),
    );
    const of = (r: Run) => r.lines[0] as { difficulty: number; features: { points: number }[]; bars: number[] };
    expect(of(quick!).features.reduce((s, f) => s + f.points, 0)).toBeCloseTo(of(quick!).difficulty, 4);
    expect(of(slow!).difficulty).toBeLessThan(of(quick!).difficulty);
    expect(of(quick!).bars.length).toBeGreaterThan(3);
    expect(quick!.code).toBe(1);
  });
  it("writes a part for everyone who is there, and tells every bad row", async () => {
    const group = file(
      "crew.csv",
      [
        "name,instrument,tuning,level,can,cannot,seat,notes",
        "Ada,fiddle,,Fluent,,,,",
        "Ben,guitar,,Steady,,,,",
        "Cy,kazoo,,Steady,,,,",
        "Di,cello,,Moving,,,,",
        "",
      ].join("\n"),
    );
    const { code, lines, err } = await run(["parts", "--group", group, "--without", "di", book]);
    expect(code).toBe(1);
    expect(err).toContain(`${group}:4:2: instrument: There is no instrument "kazoo".`);
    const [first] = lines as {
      group: string;
      parts: { player: string; role: string; limits: object; notes: object[] }[];
    }[];
    expect(first!.group).toBe("crew");
    expect(first!.parts.map((p) => p.player)).toEqual(["Ada", "Ben"]);
    for (const p of first!.parts) {
      expect(p.notes.length).toBeGreaterThan(0);
      expect(Object.keys(p.limits).sort()).toEqual(
        "bow,changes,crossings,double_stops,gap,highest,leap,lowest,per_second,pitches,shapes,shortest,slur,strings".split(
          ",",
        ),
      );
    }
  });
  it("says what is missing", async () => {
    expect((await run(["parts", book])).err).toContain("parts needs --group FILE.csv.");
    const gone = await run(["parts", "--group", join(folder, "none.csv"), book]);
    expect([gone.code, gone.err]).toEqual([2, expect.stringContaining("There is no such file.")]);
    expect((await run(["difficulty", "--beat", "whole", book])).err).toContain(
      "--beat is quarter, half, dotted quarter",
    );
    expect((await run(["arrange", "--instrument", "hand drum", book])).err).toContain("has no pitches");
  });
});
