import { mkdirSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { BAD, bookFile, file, folder, GOOD, run } from "../testing/commandLine";

const book = bookFile();

describe("the command line", () => {
  it("analyses a book, line by line, and refuses one tune with its place", async () => {
    const { code, lines, err } = await run(["analyse", book]);
    expect(code).toBe(1);
    expect(lines.map((l) => [l.index, l.title])).toEqual([
      [1, "Tar and Twine"],
      [3, "Third"],
    ]);
    expect(err).toBe(`${book}:10:3: "Q" is not a key. Write a tonic and a mode, such as K:D, K:Edor or K:Amix.\n`);
    expect(lines[0]).toMatchObject({
      metre: "2/4",
      pickup: 0.5,
      danceType: { name: "polka" },
      key: { tonic: "G", mode: "major", declared: { tonic: "G", mode: "major" } },
      strains: [
        {
          label: "A",
          bars: 4,
          key: { tonic: "G", mode: "major" },
          phrases: [{ from: 1, to: 4, relation: "new", to_phrase: null, from_bar: null }],
        },
      ],
      inventory: { lowest: "D4", highest: "D5" },
    });
    expect((lines[0]!.keys as unknown[]).length).toBeGreaterThanOrEqual(3);
  });
  it("infers the key from the notes alone", async () => {
    const wrong = file("wrong.abc", "X:1\nT:a\nM:4/4\nL:1/8\nK:Bmin\nd2fd Adfd|e2ge cege|d2fd Adfa|gfec d2d2|\n");
    const { lines } = await run(["analyse", "--infer-key", wrong]);
    expect(lines[0]).toMatchObject({ key: { tonic: "D", mode: "major", declared: { tonic: "B", mode: "minor" } } });
  });
  it("chords: keeps those of the file, derives with --infer, three runners-up each", async () => {
    const kept = await run(["chords", book]);
    expect((kept.lines[0]!.chords as { symbol: string }[]).map((c) => c.symbol)).toEqual(["G", "G", "G", "G"]);
    const { lines } = await run(["chords", "--infer", "--style", "three-chord", book]);
    const chords = lines[0]!.chords as {
      bar: number;
      beat: number;
      at: number;
      duration: number;
      symbol: string;
      roman: string;
      reason: string;
      alternatives: { symbol: string; cost: number }[];
    }[];
    expect(chords[0]).toMatchObject({ bar: 1, beat: 1, at: 0.5, symbol: "G", roman: "I" });
    expect(chords.every((c) => c.alternatives.length >= 3 && c.reason.length > 10)).toBe(true);
    expect(chords.reduce((sum, c) => sum + c.duration, 0)).toBe(7.5);
  });
  it("harmony: school, side, instrument, note by note", async () => {
    const { lines } = await run(["harmony", "--school", "thirds", "--side", "above", "--instrument", "viola", book]);
    expect(lines[0]).toMatchObject({ school: "Thirds", side: "above", instrument: "viola" });
    const high = await run(["harmony", "--school", "high line", book]);
    expect(high.lines[0]).toMatchObject({ school: "High line", side: "above" });
    expect((lines[0]!.line as unknown[])[0]).toMatchObject({
      bar: 0,
      at: 0,
      duration: 0.5,
      pitch: "F#4",
      melody: "D4",
      interval: 3,
      chord: null,
    });
  });
  const ENDS = "X:1\nT:Ends\nM:4/4\nL:1/8\nK:G\nD2|:G2BG dGBd|c2ec A2FA|1 B2AG F2D2:|2 B2AF G4|]\n";
  type Entry = { bar: number; ending?: number; beat: number; duration: number; alternatives: Priced[] };
  type Priced = { symbol?: string; pitch?: string | null; cost: number; beat?: number; duration?: number };
  it.each([
    ["chords", "chords", ["--style", "dance band"]],
    ["chords", "chords", ["--style", "colour"]],
    ["harmony", "line", ["--school", "drone and pedal"]],
    ["harmony", "line", ["--school", "chord-fit"]],
  ])("%s: anyone can check a price by locking it (%s %j)", async (verb, list, options) => {
    const { lines } = await run([verb, ...options, "-"], ENDS);
    const total = lines[0]!.total as number;
    const entries = lines[0]![list] as Entry[];
    const priced = entries.flatMap((e) => e.alternatives.slice(0, 2).map((a) => ({ e, a })));
    expect(priced.some(({ e }) => e.ending === 2)).toBe(true);
    for (const { e, a } of priced.filter((_, i) => i % 5 === 0)) {
      const where = `${e.bar}${e.ending ? `/${e.ending}` : ""}:${a.beat ?? e.beat}+${a.duration ?? e.duration}`;
      const value = a.symbol ?? a.pitch ?? "rest";
      const locked = await run([verb, ...options, "--lock", `${where}=${value}`, "-"], ENDS);
      expect((locked.lines[0]!.total as number) - total, `${where}=${value}`).toBeCloseTo(a.cost, 5);
    }
  });
  it("a lock goes by bar, ending and beat, holds as long as what stood there, and is refused where nothing stands", async () => {
    const chord = async (lock: string) => {
      const { code, lines, err } = await run(["chords", "--lock", lock, "-"], ENDS);
      const found = (lines[0]?.chords as (Entry & { symbol: string; locked: boolean })[] | undefined)?.find(
        (c) => c.locked,
      );
      return [code, found && [found.bar, found.ending, found.beat, found.duration, found.symbol], err.slice(0, 200)];
    };
    expect(await chord("3:1+4=Em")).toEqual([0, [3, undefined, 1, 4, "Em"], ""]);
    expect(await chord("3/2:3+2=Em")).toEqual([0, [3, 2, 3, 2, "Em"], ""]);
    expect(await chord("9:1=Em")).toEqual([
      1,
      undefined,
      expect.stringContaining("bar 9, which this tune does not have"),
    ]);
    expect(await chord("2:9=Em")).toEqual([1, undefined, expect.stringContaining("beat 9 of bar 2")]);
    expect(await chord("2:1=hum")).toEqual([1, undefined, expect.stringContaining('"hum", which is no chord')]);
    const note = await run(["harmony", "--lock", "1:1=G3", "-"], ENDS);
    expect((note.lines[0]!.line as { locked: boolean; pitch: string }[]).find((n) => n.locked)?.pitch).toBe("G3");
    const broken = await run(["harmony", "--lock", "1:1=A5", "-"], ENDS);
    const named = (broken.lines[0]!.line as { broken?: string[] }[]).find((n) => n.broken);
    expect(named?.broken).toEqual(["never across the melody"]);
  });
  it("feel: the tune as it is danced, straight at strength 0, by another dance where one is asked for", async () => {
    const jig = file("jig.abc", "X:1\nT:Slip\nR:jig\nM:6/8\nL:1/8\nK:D\nABc dcB|A3 d3|\n");
    type Felt = { dance: string; tempo: number; groove: { shares: number[][]; accents: object[] } };
    type Heard = Felt & { cells: { name: string }[]; events: { onset: number; velocity: number; pitch: string }[] };
    const felt = async (...more: string[]) => (await run(["feel", ...more, jig])).lines[0] as unknown as Heard;
    const found = await felt();
    expect([found.dance, found.tempo, found.cells[0]?.name]).toEqual(["jig", 119, "Jig run"]);
    expect(found.groove.shares).toEqual([
      [0.35, 0.31, 0.34],
      [0.35, 0.31, 0.34],
    ]);
    expect(found.groove.accents).toHaveLength(6);
    expect(found.events.map((e) => e.pitch)).toEqual(["A4", "B4", "C#5", "D5", "C#5", "B4", "A4", "D5"]);
    const straight = await felt("--strength", "0", "--tempo", "60");
    expect(straight.events.map((e) => e.onset)).toEqual([0, 0.333333, 0.666667, 1, 1.333333, 1.666667, 2, 3]);
    expect(new Set(straight.events.map((e) => e.velocity)).size).toBe(1);
    expect((await felt("--dance", "march")).dance).toBe("march");
    expect((await run(["feel", "--dance", "tango", jig])).err).toContain('There is no dance "tango"');
  });
  it("strokes: bows, picks and strums, with locks at the price that was stated", async () => {
    const tune = file("reel.abc", "X:1\nT:Reel\nR:reel\nM:4/4\nL:1/8\nK:D\nd2Bc dcAB|d2fd e4|\n");
    type Plan = {
      total: number;
      style: string;
      downbeats: object;
      strokes: { direction: string; duration: number; notes: object[]; alternatives: { cost: number }[] }[];
    };
    const plan = async (...more: string[]) => (await run(["strokes", ...more, tune])).lines[0] as unknown as Plan;
    const bows = await plan("--plan", "bowing");
    expect([bows.style, bows.downbeats]).toEqual(["Down on the beat", { down: 2, all: 2 }]);
    expect(bows.strokes.flatMap((s) => s.notes)).toHaveLength(11);
    const locked = await plan("--plan", "bowing", "--lock", "1:1=up");
    expect(locked.total - bows.total).toBeCloseTo(bows.strokes[0]!.alternatives[0]!.cost, 5);
    expect(locked.strokes[0]!.direction).toBe("up");
    expect((await plan("--plan", "plectrum", "--instrument", "mandolin")).strokes).toHaveLength(11);
    const strum = await plan("--plan", "strum", "--instrument", "guitar");
    expect(strum.strokes.reduce((sum, s) => sum + s.duration, 0)).toBe(8);
    expect((await run(["strokes", tune])).err).toContain("strokes needs --plan");
    expect((await run(["strokes", "--plan", "bowing", "--style", "Backwards", tune])).err).toContain("Slurred threes");
    expect((await run(["strokes", "--plan", "bowing", "--lock", "1:1.25=up", tune])).err).toContain("no stroke starts");
  });
  it("arrange: where every note lies, what sounds with it, with locks at the price that was stated", async () => {
    const tune = file("waltz.abc", 'X:1\nT:Waltz\nM:3/4\nL:1/4\nK:G\n"C"e2d|"G"B3|\n');
    type Note = { string: number; fret: string; finger: number; pitch: string; role: string };
    type Made = {
      shift: number;
      total: number;
      tuning: string;
      left_out: string[];
      limits: { span: { from: number; span: number }[] };
      strokes: { at: number; notes: Note[]; alternatives: { string: number; fret: string; cost: number }[] }[];
    };
    const made = async (...more: string[]) => (await run(["arrange", ...more, tune])).lines[0] as unknown as Made;
    const guitar = await made("--instrument", "guitar", "--kind", "melody with chords");
    expect([guitar.shift, guitar.tuning, guitar.limits.span[0]]).toEqual([-12, "EADGBE", { from: 1, span: 4 }]);
    expect(guitar.strokes[0]!.notes.map((n) => `${n.string}:${n.fret}`).join(" ")).toBe("1:0 2:1 3:0 4:2 5:3");
    expect(guitar.strokes[0]!.notes[0]).toMatchObject({ pitch: "E4", role: "melody", finger: 0 });
    const plain = await made("--instrument", "mandolin");
    const other = plain.strokes[0]!.alternatives[0]!;
    const locked = await made("--instrument", "mandolin", "--lock", `1:1=${other.string}:${other.fret}`);
    expect(locked.total - plain.total).toBeCloseTo(other.cost, 5);
    expect((await made("--instrument", "guitar", "--capo", "2")).strokes[0]!.notes[0]).toMatchObject({ pitch: "E4" });
    expect((await run(["arrange", "--kind", "yodel", tune])).err).toContain("melody with chords");
    expect((await run(["arrange", "--lock", "1:1=9:9", tune])).err).toContain("where no note of it lies");
    expect((await run(["arrange", "--lock", "1:1=high", tune])).err).toContain("Write string and fret");
    const box = await made("--instrument", "button accordion D/G");
    expect(box.strokes[0]!.notes[0]).toMatchObject({ bellows: "pull", pitch: "E5", role: "melody" });
    expect((await run(["arrange", "--instrument", "whistle", "--kind", "double stops", tune])).err).toContain(
      "melody only",
    );
  });
  it("instruments: every one with its tunings, frets and ranges by level", async () => {
    const { lines, code } = await run(["instruments"]);
    expect(code).toBe(0);
    const found = (name: string) => lines.find((l) => (l as { name?: string }).name === name);
    expect(found("banjo")).toMatchObject({
      transposition: -12,
      tunings: [{ name: "GDGBD", strings: [{ number: 5, open: "G4", short_from: 5 }, {}, {}, {}, {}] }, {}, {}, {}, {}],
    });
    expect(found("flute")).toMatchObject({ tunings: [], levels: [{ lowest: "G4", highest: "D5" }, {}, {}, {}, {}] });
  });
  it("converts to ABC on standard output and to files by index and title", async () => {
    const abc = await run(["convert", "--to", "abc", "-"], GOOD);
    expect([abc.code, abc.out.startsWith("X:1\nT:Tar and Twine\n")]).toEqual([0, true]);
    const out = join(folder, "out");
    expect((await run(["convert", "--to", "musicxml", "--out", out, book])).code).toBe(1);
    await run(["convert", "--to", "midi", "--out", out, book]);
    expect(readdirSync(out).sort()).toEqual([
      "0001-tar-and-twine.mid",
      "0001-tar-and-twine.musicxml",
      "0003-third.mid",
      "0003-third.musicxml",
    ]);
    expect(readFileSync(join(out, "0001-tar-and-twine.musicxml"), "utf8")).toContain(
      "<work-title>Tar and Twine</work-title>",
    );
  });
  it("reads folders, old encodings and every kind of line end", async () => {
    mkdirSync(join(folder, "books", "old"), { recursive: true });
    file("books/a.abc", GOOD.replaceAll("\n", "\r"));
    file(
      "books/old/b.abc",
      Buffer.from(GOOD.replace("Tar and Twine", "Fianc\u00e9").replaceAll("\n", "\r\n"), "latin1"),
    );
    const { code, lines } = await run(["analyse", join(folder, "books")]);
    expect([code, ...lines.map((l) => l.title)]).toEqual([0, "Tar and Twine", "Fiancé"]);
  });
  it.each([
    [[], "Name a verb"],
    [["dance", "x.abc"], '"dance" is not a verb'],
    [["analyse"], "Name at least one file"],
    [["chords", "--style", "loud", "x.abc"], 'no style "loud"'],
    [["harmony", "--side", "left", "x.abc"], "--side is below or above"],
    [["convert", "x.abc"], "convert needs --to"],
    [["convert", "--to", "midi", "x.abc"], "add --out DIR"],
    [["analyse", "--style", "x", "x.abc"], "analyse has no option --style"],
    [["analyse", "--wrong", "x.abc"], "--wrong"],
    [["constructor", "x.abc"], '"constructor" is not a verb'],
    [["chords", "--style", "constructor", "x.abc"], 'no style "constructor"'],
    [["chords", "--lock", "first bar", "x.abc"], '"first bar" is not a lock'],
    [["analyse", "--lock", "1:1=D", "x.abc"], "analyse has no option --lock"],
  ])("wrong usage %j ends with 2", async (args, message) => {
    const { code, err } = await run(args);
    expect(code).toBe(2);
    expect(err).toContain(message);
  });
  it("says when a file is missing, empty, or of another kind", async () => {
    const { code, err } = await run([
      "analyse",
      join(folder, "none.abc"),
      file("empty.abc", ""),
      file("x.mid", "MThd"),
    ]);
    expect(code).toBe(1);
    expect(
      err
        .split("\n")
        .slice(0, 3)
        .map((l) => l.replace(/^.*?:\d+:\d+: /, "")),
    ).toEqual([
      "There is no such file. Check the name.",
      expect.stringContaining("No tune found"),
      expect.stringContaining("not a MIDI file"),
    ]);
  });
  it("reads MusicXML and MIDI, from files and from a pipe, and names the part it was asked for", async () => {
    const out = join(folder, "scores");
    await run(["convert", "--to", "musicxml", "--out", out, "-"], GOOD);
    await run(["convert", "--to", "midi", "--out", out, "-"], GOOD);
    const { code, lines } = await run(["analyse", out]);
    expect([code, lines.map((l) => (l.inventory as { notes: number }).notes)]).toEqual([
      0,
      lines.map(() => (lines[0]!.inventory as { notes: number }).notes),
    ]);
    expect(lines).toHaveLength(2);
    const piped = await run(
      ["convert", "--to", "abc", "-"],
      readFileSync(join(out, "0001-tar-and-twine.musicxml"), "utf8"),
    );
    expect(piped.out).toContain("T:Tar and Twine");
    const none = await run(["analyse", "--part", "3", join(out, "0001-tar-and-twine.musicxml")]);
    expect([none.code, none.err]).toEqual([1, expect.stringContaining("There is no part 3")]);
    expect((await run(["analyse", "--part", "0", out])).code).toBe(2);
  });
  it("tells the dance from the notes alone when asked, with its reasons", async () => {
    const march = GOOD.replace("T:Tar", "R:reel\nT:Tar");
    const { lines } = await run(["analyse", "--infer-type", "-"], march);
    const dance = lines[0]!.danceType as {
      name: string;
      confidence: number;
      evidence: string[];
      alternatives: unknown[];
    };
    expect([dance.name, dance.evidence.length > 0, dance.alternatives.length > 1]).toEqual(["polka", true, true]);
    expect(lines[0]!.scale).toMatchObject({ notes: expect.any(Number), missing: expect.any(Array) });
  });
  it("prints its help", async () => {
    const { code, out } = await run(["--help"]);
    expect([code, out.startsWith("Usage: symphonos VERB")]).toEqual([0, true]);
  });
  it("reads books of two bytes a letter, with a mark and without, whatever their line ends", async () => {
    for (const [name, encode] of [
      ["le", (t: string) => Buffer.from(`\uFEFF${t}`, "utf16le")],
      ["be", (t: string) => Buffer.from(`\uFEFF${t}`, "utf16le").swap16()],
      ["plain", (t: string) => Buffer.from(t, "utf16le")],
    ] as const) {
      const text = `${GOOD.replace("Tar", "Öl").replaceAll("\n", "\r\n")}${BAD}`;
      const { lines, err, code } = await run(["analyse", file(`${name}.abc`, encode(text))]);
      expect([lines.map((l) => l.title), code]).toEqual([["Öl and Twine"], 1]);
      expect(err).toMatch(/:\d+:3: .*not a key/);
    }
  });
});
