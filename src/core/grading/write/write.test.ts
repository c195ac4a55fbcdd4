import { describe, expect, it, test } from "vitest";
import { EIGHTH, jig, learner, materialFor } from "../../../testing/jig";
import { readAbc } from "../../formats";
import { instrument, type Level } from "../../instruments";
import { pitchName, spell } from "../../theory";
import { breaches, type RoleName, writeRole, type Written } from "..";

const { places, tick } = jig;
const who = (on: string, level: Level, can: string[] = []) => learner(on, level, { can });
const written = (on: string, level: Level, role: RoleName, can: string[] = []): Written =>
  writeRole(jig, who(on, level, can), instrument(on)!, role);
/** A part as it is read: pitches and lengths in eighths, rests between, a bar line after each bar. */
function read(on: string, level: Level, role: RoleName, can: string[] = [], bars = 8): string {
  const part = written(on, level, role, can);
  if ("refused" in part) return part.refused;
  expect(
    breaches({
      role,
      on: instrument(on)!,
      limits: part.request.limits,
      notes: part.notes,
      places,
      tick,
    }),
  ).toEqual([]);
  return places
    .slice(0, bars)
    .map((place) => {
      let at = 0;
      const said: string[] = [];
      for (const n of part.notes.filter((x) => x.bar === place.index)) {
        if (n.at > at) said.push(`z${(n.at - at) / EIGHTH}`);
        const name = n.pitches.map((p) => pitchName(spell(p, jig.key))).join("+") || n.stroke?.[0];
        said.push(`${name}:${n.ticks / EIGHTH}`);
        at = n.at + n.ticks;
      }
      return said.join(" ") || "z";
    })
    .join(" | ");
}

describe("the jig by level", () => {
  it("Moving has it as it is written", () => {
    expect(read("fiddle", "Moving", "melody", [], 2)).toBe("F#4:2 A4:1 D5:1 A4:1 F#4:1 | G4:2 B4:1 A4:1 F#4:1 D4:1");
  });
  it("Steady has long and short of every beat, each at its instant", () => {
    expect(read("fiddle", "Steady", "simple melody", [], 4)).toBe(
      "F#4:2 A4:1 D5:2 F#4:1 | G4:2 B4:1 A4:2 D4:1 | E4:2 G4:1 A4:2 E4:1 | F#4:2 D5:1 C#5:2 A4:1",
    );
  });
  it("a first-month fiddle has notes of the chords on two strings, and rests beside the cadence", () => {
    const part = read("fiddle", "First sounds", "one-note harmony");
    expect(
      part
        .replace(/:\d| \|/g, "")
        .split(" ")
        .every((n) => ["D4", "E4", "A4", "B4", "z3"].includes(n)),
    ).toBe(true);
    expect(part.split(" | ")[3]).toMatch(/^z3 /);
    expect(part.split(" | ").slice(0, 2)).toEqual(part.split(" | ").slice(4, 6));
  });
  it("a second line keeps its notes in the key, under the tune", () => {
    expect(read("fiddle", "Moving", "low harmony", [], 2)).toBe("D4:2 F#4:1 A4:1 F#4:1 D4:1 | D4:2 G4:1 F#4:1 D4:2");
  });
  it("the bass has roots, then fifths between them", () => {
    expect(read("cello", "Steady", "bass", [], 3)).toBe("D3:3 A2:3 | G2:3 D2:3 | E2:3 A2:3");
    expect(read("bass", "First sounds", "bass", [], 2)).toMatch(/^D2:6 \| G\d:3/);
  });
  it("chords begin with the first beat and few changes; then bass and brush", () => {
    expect(read("guitar", "First sounds", "strum", [], 1)).toMatch(/:6$/);
    expect(read("guitar", "Moving", "strum", [], 2)).toBe(
      "D3:2 A3+D4+F#4:1 A2:2 A3+D4+F#4:1 | G2:2 G3+B3+G4:1 D3:2 A3+D4+F#4:1",
    );
    expect(read("guitar", "Steady", "strum", ["shape:Em"], 3)).toContain("E2");
  });
  it("off-beats are short and on the third part of the beat", () => {
    expect(read("guitar", "Moving", "off-beats", [], 1)).toBe("z2 D3+A3+D4+F#4:1 z2 D3+A3+D4+F#4:1");
  });
  it("a drone holds tonic or fifth, and never four bars unchanged", () => {
    const bars = read("fiddle", "Steady", "drone").split(" | ");
    expect(
      bars
        .join(" ")
        .match(/[A-G]#?\d/g)!
        .every((n) => /^[AD]\d$/.test(n)),
    ).toBe(true);
    for (let i = 0; i + 3 < bars.length; i++) expect(new Set(bars.slice(i, i + 4)).size).toBeGreaterThan(1);
  });
  it("a drum has heavy and light, then running", () => {
    expect(read("hand drum", "Steady", "hand drum", [], 1)).toBe("h:3 l:3");
    expect(read("hand drum", "Moving", "hand drum", [], 1)).toBe("h:1 l:1 l:1 l:1 l:1 l:1");
  });
  test.each([
    ["whistle", "Moving", "low harmony", "sounds above the tune"],
    ["guitar", "Fluent", "high harmony", "sounds below the tune"],
    ["whistle", "Fluent", "strum", "There is no strum on the whistle"],
    ["fiddle", "Steady", "melody", "melody is for Moving and on"],
    ["accordion", "Steady", "strum", "want both hands"],
    ["mandolin", "Fluent", "bass", "does not sound low enough"],
    ["viola", "Moving", "counter-figure", "counter-figure is for Fluent and on"],
  ] as const)("there is no part on the %s for %s as %s: %s", (on, level, role, words) => {
    const part = written(on, level, role);
    expect("refused" in part && part.refused).toContain(words);
  });
  it("a record opens what the level does not: a low second finger, the upper octave, the next speed", () => {
    const pitches = (can: string[]) => {
      const part = written("fiddle", "Steady", "one-note harmony", can);
      return "refused" in part ? [] : [...part.request.limits.pitches!];
    };
    expect(pitches([])).not.toContain(72);
    expect(pitches(["low2"])).toContain(72);
    expect(pitches(["allstrings"])).toContain(55);
    const speed = (can: string[]) => {
      const part = written("fiddle", "Steady", "simple melody", can);
      return "refused" in part ? 0 : part.request.limits.perSecond;
    };
    expect([speed([]), speed(["quick"])]).toEqual([3, 4.5]);
  });
});

describe("a tune for two strings", () => {
  /** The simple tune of a Steady fiddle, in notes of the tune in G at 80 quarters. */
  const simple = (bars: string) => {
    const own = readAbc(`X:1\nT:Test\nM:4/4\nL:1/8\nQ:1/4=80\nK:G\n${bars}\n`).tunes[0]!.tune;
    const of = materialFor(own, 80, null);
    const part = writeRole(of, who("fiddle", "Steady"), instrument("fiddle")!, "simple melody");
    if ("refused" in part) throw new Error(part.refused);
    const said = part.notes.map((n) => `${n.bar + 1}:${n.at / EIGHTH} ${pitchName(spell(n.pitches[0]!, of.key))}`);
    return { said, remarks: part.remarks };
  };
  it("moves a phrase that lies too high down an octave, and says which bars", () => {
    const { said, remarks } = simple("G4 A4|B4 A4|G4 F4|G8|g4 a4|b4 a4|g4 f4|g8|]");
    const line = ["G4", "A4", "B4", "A4", "G4", "F#4", "G4"];
    expect(said.map((s) => s.split(" ")[1])).toEqual([...line, ...line]);
    expect(remarks).toContain("Bars 5 to 8 lie an octave lower than the rest.");
  });
  it("leaves a short half out with its long one", () => {
    const { said } = simple("G4 A4|B4 A4|e3d B2A2|G8|G4 A4|B4 A4|G4 F4|G8|]");
    expect(said.filter((s) => s.startsWith("3:"))).toEqual(["3:4 B4", "3:6 A4"]);
  });
});
