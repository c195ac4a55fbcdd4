import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { EIGHTH, jig, learner as who, materialFor } from "../../../testing/jig";
import { readAbc } from "../../formats";
import { INSTRUMENTS, instrument, LEVELS, type Level } from "../../instruments";
import { pitchName, semitoneOf, spell } from "../../theory";
import { breaches, chordOf, MANNERS_OF_WRITING, PLAYED_ROLES, type RoleName, writeRole, type Writing } from "..";

// Parts read bar by bar, as a leader reads them: a table of whole parts over one jig, and what holds for every tune.

function read(on: string, level: Level, role: RoleName, writing?: Writing): string {
  const part = writeRole(jig, who(on, level), instrument(on)!, role, writing);
  if ("refused" in part) return part.refused;
  return jig.places
    .map((place) => {
      let at = 0;
      const said = part.notes
        .filter((n) => n.bar === place.index)
        .flatMap((n) => {
          const rest = n.at > at ? [`z${(n.at - at) / EIGHTH}`] : [];
          at = n.at + n.ticks;
          const names = n.pitches.map((p) => pitchName(spell(p, jig.key))).join("+") || n.stroke?.[0];
          return [...rest, `${names}${n.ticks / EIGHTH}`.replace(/(\d)(\d)$/, "$1:$2")];
        });
      return said.join(" ") || "z";
    })
    .join(" | ");
}

describe("the jig, as players would take it", () => {
  test.each([
    // A rest beside the close, long notes out of the chords, phrases that open and close on the chord.
    ["fiddle", "First sounds", "one-note harmony", "A4:6 | B4:3 A4:3 | B4:3 A4:3 | z3 E4:3"],
    ["fiddle", "Steady", "one-note harmony", "D4:6 | G4:3 A4:3 | B4:3 A4:3 | z3 E4:3"],
    ["fiddle", "Moving", "one-note harmony", "D4:3 F#4:3 | G4:3 F#4:3 | G4:3 E4:3 | D4:3 E4:3"],
    // A drone on the fifth, which the leading note does not rub; two strings where both stand still.
    ["fiddle", "Steady", "drone", "A4:6 | A4:6 | A4:6 | z3 A4:3"],
    ["fiddle", "Moving", "drone", "D4+A4:6 | D4+A4:6 | A4:6 | D4+A4:3 A4:3"],
    // Roots on open strings; roots and fifths; walking.
    ["bass", "First sounds", "bass", "D2:6 | G2:3 | E1:3 | D2:3"],
    ["cello", "Steady", "bass", "D3:3 A2:3 | G2:3 D2:3 | E2:3 A2:3 | D3:3 A2:3"],
    ["cello", "Fluent", "bass", "D2:3 F#2:3 | G2:3 D2:3 | E2:3 A2:3 | D3:3 A2:3"],
    // Held where the tune runs.
    ["viola", "Fluent", "counter-figure", "D4:3 A3:3 | B3:3 A3:3 | B3:3 C#4:3 | D4:3 C#4:3"],
    // Two shapes, changing in rests; the beats; bass and brush.
    ["ukulele", "First sounds", "strum", "D4+F#4+A4:6 | z3 D4+F#4+A4:3 | z | z"],
    ["piano", "Moving", "strum", "D3:2 A3+D4+F#4:1 A2:2 A3+D4+F#4:1 | G2:2 G3+B3+D4:1 D3:2 A3+D4+F#4:1"],
    ["accordion", "Fluent", "strum", "D4:2 D4+F#4+A4:1 A3:2 D4+F#4+A4:1 | G3:2 G3+B3+D4:1 D4:2 D4+F#4+A4:1"],
    ["banjo", "Steady", "off-beats", "z | z2 D3+G3+B3+D4:1 | z | z2 D3+A3+D4+F#4:1"],
    // Beats with a rest where the phrase closes; running.
    ["hand drum", "Steady", "hand drum", "h3 | h3"],
    ["hand drum", "Fluent", "hand drum", "h1 l1 l1 l1 l1 l1"],
  ] as const)("%s, %s, %s", (on, level, role, want) => {
    const part = read(on, level, role);
    if (role === "hand drum" && level === "Steady") expect(part.split(" | ").map((b) => b.split(" ")[0])[3]).toBe("h3");
    else expect(part.startsWith(want)).toBe(true);
  });
  it("the answers move where the tune holds its last note, out of the chord", () => {
    expect(read("viola", "Fluent", "counter-figure").split(" | ")[7]).toBe("D4:3 A3:1 F#3:1 A3:1");
  });
  it("a fill leads into the new strain, and nowhere else", () => {
    const bars = read("hand drum", "Fluent", "hand drum").split(" | ");
    expect(bars.filter((b) => b === "h1 l1 l1 h1 h1 h1")).toHaveLength(1);
    expect(bars[7]).toBe("h1 l1 l1 h1 h1 h1");
  });
});

describe("a part written otherwise", () => {
  test.each([
    ["fiddle", "Moving", "melody"],
    ["cello", "Steady", "bass"],
    ["guitar", "Fluent", "strum"],
    ["hand drum", "Fluent", "hand drum"],
  ] as const)("%s, %s, %s: plainer has fewer notes, and some", (on, level, role) => {
    const count = (writing: Writing) => {
      const part = writeRole(jig, who(on, level), instrument(on)!, role, writing);
      return "refused" in part ? 0 : part.notes.length;
    };
    expect(count("plainer")).toBeLessThan(count("usual"));
    expect(count("plainer")).toBeGreaterThan(5);
  });
  it("another one-note line goes elsewhere, and still opens and closes on the chord", () => {
    const [usual, other] = [
      read("fiddle", "Steady", "one-note harmony"),
      read("fiddle", "Steady", "one-note harmony", "another"),
    ];
    expect(other).not.toBe(usual);
    expect(other).toMatch(/^(D|F#|A)\d/);
  });
  it("another second line is in plain thirds, another chord in its next inversion", () => {
    expect(read("fiddle", "Fluent", "high harmony", "another")).not.toBe(read("fiddle", "Fluent", "high harmony"));
    expect(read("piano", "Moving", "strum", "another")).toMatch(/^D3:2 D4\+F#4\+A4:1/);
  });
});

const LEARNER = fc.record({
  on: fc.constantFrom(...INSTRUMENTS.map((i) => i.name)),
  level: fc.constantFrom(...LEVELS),
  role: fc.constantFrom(...PLAYED_ROLES),
  writing: fc.constantFrom(...MANNERS_OF_WRITING),
});

describe("over any tune, for anyone", () => {
  it("every part, however it is written, keeps its limits", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), LEARNER, fc.integer({ min: 50, max: 150 }), (tune, l, bpm) => {
        const material = materialFor(tune, bpm, null);
        const on = instrument(l.on)!;
        const part = writeRole(material, who(l.on, l.level), on, l.role, l.writing);
        if ("refused" in part) return;
        const { limits } = part.request;
        const placed = part.notes.map((n) => ({ ...n, strings: n.strings ?? [] }));
        const found = breaches({
          role: l.role,
          on,
          limits,
          notes: placed,
          places: material.places,
          tick: material.tick,
        });
        // Leaps and crossings are settled with the strings, once all parts are there.
        const own = found.filter((b) => b.limit !== "crossings" && b.limit !== "leap");
        expect(own.map((b) => `${l.role} ${l.on} ${l.level} ${l.writing}: ${b.limit}`)).toEqual([]);
      }),
      { numRuns: 120 },
    );
  });
  it("a drone sounds tonic or fifth alone, and never against the leading note of its chord", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), fc.constantFrom(...LEVELS), (tune, level) => {
        const material = materialFor(tune, 90, null);
        const part = writeRole(material, who("fiddle", level), instrument("fiddle")!, "drone");
        if ("refused" in part) return;
        const tonic = semitoneOf(material.key.tonic);
        for (const n of part.notes) for (const p of n.pitches) expect([tonic, (tonic + 7) % 12]).toContain(p % 12);
      }),
      { numRuns: 80 },
    );
  });
  it("a bass stands on the root, or the bass note, where a chord begins", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), fc.constantFrom(...LEVELS), (tune, level) => {
        const material = materialFor(tune, 90, null);
        const part = writeRole(material, who("cello", level), instrument("cello")!, "bass");
        if ("refused" in part) return;
        part.notes.forEach((n, i) => {
          // A note that is too long for a bow is struck anew, whatever comes meanwhile.
          const last = part.notes[i - 1];
          if (last?.bar === n.bar && last.at + last.ticks === n.at && last.pitches[0] === n.pitches[0]) return;
          const begins = material.chords.find((c) => c.bar === n.bar && c.at === n.at);
          const before = material.chords.findLast((c) => c.bar === n.bar && c.at < n.at);
          if (!begins || before?.symbol === begins.symbol) return;
          const { root, bass } = chordOf(begins.symbol);
          expect(n.pitches[0]! % 12).toBe(semitoneOf(bass ?? root));
        });
      }),
      { numRuns: 80 },
    );
  });
  it("kept notes of the tune stand at their own instants, at their pitch but for octaves", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), fc.constantFrom("fiddle", "whistle", "mandolin"), (tune, on) => {
        const material = materialFor(tune, 80, null);
        const part = writeRole(material, who(on, "Steady"), instrument(on)!, "simple melody");
        if ("refused" in part) return;
        const own = new Map(material.melody.map((n) => [`${n.place.index}.${n.at - n.place.at}`, n]));
        const starts = part.notes.filter((n) => own.has(`${n.bar}.${n.at}`));
        // Only a note that is too long for a bow is struck anew between.
        if (starts.length < part.notes.length) expect(part.request.limits.bow).not.toBeNull();
        for (const n of starts) {
          const pitch = own.get(`${n.bar}.${n.at}`)!.pitches.at(-1)!;
          expect((n.pitches[0]! - (semitoneOf(`${pitch.step}`) + pitch.alter) + 120) % 12).toBe(0);
        }
      }),
      { numRuns: 80 },
    );
  });
  it("beginners’ long notes rest once in every phrase of four bars where there is room", () => {
    const plain = materialFor(
      readAbc("X:1\nT:T\nM:4/4\nL:1/8\nK:D\nd4 A4|B4 A4|G4 A4|A8|d4 A4|B4 A4|G4 F4|D8|]\n").tunes[0]!.tune,
      60,
      null,
    );
    for (const level of ["First sounds", "Steady"] as const) {
      const part = writeRole(plain, who("fiddle", level), instrument("fiddle")!, "one-note harmony");
      if ("refused" in part) throw new Error(part.refused);
      for (const { from, to } of plain.phrases) {
        const own = part.notes.filter((n) => n.bar >= from && n.bar <= to);
        const bars = plain.places.filter((p) => p.index >= from && p.index <= to);
        const sounding = own.reduce((sum, n) => sum + n.ticks, 0);
        expect(sounding).toBeLessThan(bars.reduce((sum, p) => sum + p.ticks, 0));
        const [first] = own;
        expect(first).toMatchObject({ bar: from, at: 0 });
      }
    }
  });
});

describe("a bass where chords are quick", () => {
  // Two chords in the last bar; at this tempo a first-month bass has time for one note in a bar.
  const quick = materialFor(
    readAbc('X:1\nT:T\nM:4/4\nL:1/8\nK:D\n"D"d4 A4|"G"B4 d4|"A"c4 e4|"A"e4 "D"d4|]\n').tunes[0]!.tune,
    100,
    null,
  );
  const part = (level: Level) => {
    const made = writeRole(quick, who("bass", level), instrument("bass")!, "bass");
    if ("refused" in made) throw new Error(made.refused);
    return made.notes.filter((n) => n.bar === 3).map((n) => [n.at / 1680, n.ticks / 1680, n.pitches[0]! % 12]);
  };
  it("ends a root where the next chord comes", () => {
    expect(part("First sounds")).toEqual([[0, 4, 9]]);
  });
  it("closes on the last chord’s root, where there is time", () => {
    expect(part("Steady").at(-1)).toEqual([4, 4, 2]);
  });
});
