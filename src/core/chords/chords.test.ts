import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { analyse, strainKeys } from "../analysis";
import { type Tune, QUARTER } from "../score";
import { MODES, parseChord, semitoneOf } from "../theory";
import { borrowed, chordOn } from "./styles";
import { moveBetween, transpose } from "../spelling";
import { type ChordLock, deriveChords, fileLocks, NOTE_ROLES, settled, STYLES, THREE_CHORD } from ".";

const DANCE = STYLES.find((s) => s.name === "Dance band")!;
const request = (tune: Tune) => {
  const analysis = analyse(tune);
  return { places: analysis.places, phrases: analysis.form.phrases, keys: strainKeys(tune, analysis) };
};
const plan = (tune: Tune, locks: ChordLock[] = []) => deriveChords({ ...request(tune), locks });
const symbols = (tune: Tune) =>
  plan(tune)
    .chords.map((c) => c.symbol)
    .join(" ");

describe("chords under clear music", () => {
  test.each([
    ["arpeggios spell their chords", "d2fd Adfd|g2bg dgbg|a2ec Ace2|d2fd A2d2|", {}, "D G A D"],
    ["a seventh is heard", "d4 f4|gece gece|d4 f4|d8|", {}, "D A7 D D"],
    ["the flat seventh of a mixolydian tune", "A2ce A2ce|=GBdB =GBdB|A2ce A2ce|A8|", { key: "Amix" }, "A G A A"],
    ["minor and its flat seventh", "E2GB E2GB|DFAF DFAF|E2GB E2GB|E8|", { key: "Edor" }, "Em D Em Em"],
    ["a minor tune with its dominant", "A2ce A2ce|E2^GB E2^Ge|A2ce A2ce|A8|", { key: "Amin" }, "Am E Am Am"],
    ["passing notes do not move the chord", "dfef dAFA|dcde dAFA|", {}, "D D"],
  ] as [string, string, Parameters<typeof tuneOf>[1], string][])("%s", (_, music, header, expected) => {
    expect(symbols(tuneOf(music, header))).toBe(expected);
  });
  it("leaves the pickup bare", () => {
    expect(plan(tuneOf("A2|d8|")).chords.map((c) => c.bar)).toEqual([1]);
  });
  it("says why, function and place first, then the notes", () => {
    const [first] = plan(tuneOf("d2fe dAFA|d8|")).chords;
    expect(first?.reason).toMatch(/^The opening: the tonic. D, F# and A belong to it; E passes. /);
    expect(first?.notes.find((n) => n.name === "D")?.role).toBe("root");
  });
  it("chords the same music alike", () => {
    const found = plan(tuneOf("d2fd Adfd|e2ce Aece|d2fd Adfd|g2dg Bgdg|d2fd Adfd|e2ce Aece|a2fa dafa|d8|"));
    const at = (bar: number) =>
      found.chords
        .filter((c) => c.bar === bar)
        .map((c) => c.symbol)
        .join();
    expect([at(2), at(4)]).toEqual([at(0), at(0)]);
    expect(at(5)).toBe(at(1));
  });
});

describe("odd tunes", () => {
  const all = (tune: Tune, style = DANCE) => deriveChords({ ...request(tune), style });
  test.each([
    ["a tune on one chord", "d2fd Adfd|dAFA dfaf|d2fd Adfd|d8|", {}, ["D"]],
    ["a single note", "d8|", {}, ["D"]],
  ] as [string, string, Parameters<typeof tuneOf>[1], string[]][])("%s", (_, music, header, used) => {
    expect([...new Set(all(tuneOf(music, header)).chords.map((c) => c.symbol))]).toEqual(used);
  });
  it("an unmetred tune has chords to its end", () => {
    const tune = tuneOf("d2 f2 a4 g2 e2 | a2 c'2 d'8 |", { metre: "none" });
    const { places } = request(tune);
    for (const style of STYLES)
      expect(all(tune, style).chords.reduce((sum, c) => sum + c.ticks, 0)).toBe(
        places.filter((p) => !p.pickup).reduce((sum, p) => sum + p.ticks, 0),
      );
  });
  it("strains in different keys each have their own chords", () => {
    const found = all(
      tuneOf("P:A\nd2fd Adfd|a2ec Ace2|d2fd Adfd|d8||\nP:B\nK:G\ng2bg dgbg|d2fd Adfd|g2bg dgbg|g8|]"),
      THREE_CHORD,
    );
    expect(found.vocabulary).toEqual([
      ["D", "G", "A", "A7"],
      ["G", "C", "D", "D7"],
    ]);
    expect([found.chords[0]?.roman, found.chords.at(-1)?.roman]).toEqual(["I", "I"]);
  });
  it("a chromatic melody keeps to the style, and every note has a role", () => {
    const found = all(tuneOf("d2^de f^fg^g|a^ab=c' c'^c'd'2|d8|"));
    for (const c of found.chords) for (const n of c.notes) expect(NOTE_ROLES).toContain(n.role);
    expect(found.chords.at(-1)?.symbol).toBe("D");
  });
  it("each ending goes on from the bar before the first", () => {
    const found = all(tuneOf("|:d2fd Adfd|g2bg dgbg|a2ec Ace2|1 d2fd A4:|2 d8|]"), THREE_CHORD);
    expect([3, 4].map((bar) => found.chords.find((c) => c.bar === bar)?.symbol)).toEqual(["D", "D"]);
  });
  it("says how well each bar fits: all of it in an arpeggio, less where notes lean", () => {
    const { fits } = all(tuneOf("d2fd Adfd|d2^de f2^gf|z8|"));
    expect([fits[0], fits[2]]).toEqual([1, 1]);
    expect(fits[1]!).toBeLessThan(1);
  });
});

describe("locks and runners-up", () => {
  const locked = fc.record({
    tune: arbitraryTune({ maxBars: 4 }),
    bar: fc.nat(20),
    half: fc.boolean(),
    symbol: fc.constantFrom("Bb7", "F#m", "C", "Ebdim", "G5"),
  });
  it("every lock holds exactly, whatever the chord", () => {
    fc.assert(
      fc.property(locked, ({ tune, bar, half, symbol }) => {
        const { places } = analyse(tune);
        const place = places[bar % places.length]!;
        const lock: ChordLock = {
          bar: place.index,
          at: half ? Math.floor(place.ticks / 2) : 0,
          ticks: Math.ceil(place.ticks / (half ? 2 : 1)),
          symbol,
          by: "teacher",
        };
        const inside = plan(tune, [lock]).chords.filter(
          (c) => c.bar === lock.bar && c.at < lock.at + lock.ticks && c.at + c.ticks > lock.at,
        );
        expect(inside.reduce((sum, c) => sum + c.ticks, 0)).toBe(Math.min(lock.ticks, place.ticks - lock.at));
        for (const c of inside) expect([c.symbol, c.locked]).toEqual([symbol, true]);
      }),
      { numRuns: 60 },
    );
  });
  it("every stated price is what the whole plan costs more when that runner-up is locked, in every style", () => {
    const setting = fc.record({
      tune: arbitraryTune({ maxBars: 3 }),
      style: fc.constantFrom(...STYLES),
      before: fc.option(
        fc.record({ bar: fc.nat(6), at: fc.constantFrom(0, 1680, 3360), symbol: fc.constantFrom("Em", "A7", "F") }),
      ),
      pick: fc.array(fc.nat(99), { minLength: 6, maxLength: 6 }),
    });
    fc.assert(
      fc.property(setting, ({ tune, style, before, pick }) => {
        const { places, phrases, keys } = request(tune);
        const place = before && places[before.bar % places.length];
        const given: ChordLock[] =
          before && place && before.at < place.ticks
            ? [
                {
                  bar: place.index,
                  at: before.at,
                  ticks: place.ticks - before.at,
                  symbol: before.symbol,
                  by: "teacher",
                },
              ]
            : [];
        const now = deriveChords({ places, phrases, keys, style, locks: given });
        const stated = now.chords.flatMap((c) => c.alternatives.map((a) => ({ c, a })));
        for (const { c, a } of pick.map((n) => stated[n % stated.length]!)) {
          const [at, ticks] = [a.at ?? c.at, a.ticks ?? c.ticks];
          expect([at >= c.at, at + ticks <= c.at + c.ticks]).toEqual([true, true]);
          const locks = settled(given, [{ bar: c.bar, at, ticks, symbol: a.symbol }]);
          const after = deriveChords({ places, phrases, keys, style, locks });
          expect(after.cost - now.cost, `${a.symbol} for ${c.symbol} in ${style.name}`).toBeCloseTo(a.cost, 6);
        }
      }),
      { numRuns: 80 },
    );
  });
  it("named costs of all chords add up to the whole plan", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.constantFrom(...STYLES), (tune, style) => {
        const found = deriveChords({ ...request(tune), style });
        const paid = found.chords.flatMap((c) => c.costs).reduce((sum, c) => sum + c.cost, 0);
        expect(paid).toBeCloseTo(found.cost, 6);
      }),
      { numRuns: 30 },
    );
  });
  it("keeps the chords printed in the file, and says so", () => {
    const tune = tuneOf('"Em"d4 "C"d4|d8|"G"d8|');
    const found = plan(tune, fileLocks(analyse(tune).places));
    expect(found.chords.map((c) => [c.bar, c.at / QUARTER, c.symbol])).toEqual([
      [0, 0, "Em"],
      [0, 2, "C"],
      [1, 0, "C"],
      [2, 0, "G"],
    ]);
    expect(found.chords[0]?.reason).toBe("The file gives E minor here.");
  });
  it("refuses a lock that is no chord", () => {
    expect(() => plan(tuneOf("d8|"), [{ bar: 0, at: 0, ticks: 99, symbol: "hum" }])).toThrow('"hum" is not a chord');
  });
});

describe("properties of every plan", () => {
  it("fills every bar but the pickup, inside the style, with three runners-up and no better one", () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const found = plan(tune);
        const { places } = analyse(tune);
        for (const place of places.filter((p) => !p.pickup)) {
          expect(found.chords.filter((c) => c.bar === place.index).reduce((sum, c) => sum + c.ticks, 0)).toBe(
            place.ticks,
          );
        }
        for (const c of found.chords) {
          expect(found.vocabulary[places[c.bar]!.strain]).toContain(c.symbol);
          expect(c.alternatives.length).toBeGreaterThanOrEqual(3);
          expect(c.alternatives.map((a) => a.cost)).toEqual(
            [...c.alternatives.map((a) => a.cost)].sort((a, b) => a - b),
          );
          expect(c.alternatives[0]!.cost).toBeGreaterThanOrEqual(-1e-9);
          expect(c.reason).toMatch(/^[A-Z].*\.$/);
        }
        expect(plan(tune)).toEqual(found);
      }),
      { numRuns: 60 },
    );
  });
  it("keeps to the vocabulary of every style, and opens fifths in Modal", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.constantFrom(...STYLES), (tune, style) => {
        const { keys } = request(tune);
        const found = deriveChords({ ...request(tune), style });
        const { places } = analyse(tune);
        for (const c of found.chords) {
          const { strain } = places[c.bar]!;
          expect(found.vocabulary[strain]).toContain(c.symbol);
          // Fifths alone, but for the dominant that a sounding leading note calls.
          if (style.name === "Modal" && c.symbol !== chordOn("5M", keys[strain]!)) expect(c.symbol).toMatch(/5$/);
        }
        for (const mode of MODES)
          for (const set of style.sets[mode])
            for (const word of set) expect(parseChord(chordOn(word, { tonic: "D", mode }))).not.toBeNull();
      }),
      { numRuns: 40 },
    );
  });
  it("moves with the tune: another key, the same chords moved", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.constantFrom("C", "G", "E", "F"), (tune, tonic) => {
        const by = moveBetween(tune.key.tonic, tonic);
        const roots = (t: Tune, shift: number) =>
          deriveChords({ ...request(t), style: DANCE }).chords.map((c) => [
            c.bar,
            c.at,
            (semitoneOf(parseChord(c.symbol)!.root) + shift + 120) % 12,
            parseChord(c.symbol)!.suffix,
          ]);
        expect(roots(transpose(tune, by), 0)).toEqual(roots(tune, by.semitones));
      }),
      { numRuns: 30 },
    );
  });
  it("has sets of good chords for every mode", () => {
    expect(STYLES).toContain(THREE_CHORD);
    for (const mode of MODES)
      for (const set of THREE_CHORD.sets[mode]) expect(new Set(set.map((w) => w[0])).size).toBe(3);
    expect(parseChord("A7")).not.toBeNull();
  });
});

describe("chords the tune's own accidentals spell", () => {
  it.each([
    ["no accidental, nothing borrowed", "D", "major", ["D", "E", "F#", "A"], []],
    ["F natural in D major: the tonic darkens", "D", "major", ["D", "F", "A"], ["Dm"]],
    ["G# in D major: the dominant of the dominant, and C# minor", "D", "major", ["G#"], ["C#m", "E"]],
    ["C# in A minor: the tonic brightens, F major's third degree does not", "A", "minor", ["C#"], ["A"]],
    ["G# in A minor: the dominant", "A", "minor", ["G#"], ["E"]],
    ["D# in E minor is no Eb: B major, and no C minor", "E", "minor", ["D#"], ["B"]],
    ["F and C natural together in D major", "D", "major", ["F", "C"], ["Am", "C", "Dm", "F"]],
    ["Bb in F major is its own", "F", "major", ["Bb", "A"], []],
  ] as const)("%s", (_, tonic, mode, heard, expected) => {
    expect(borrowed(new Set(heard), { tonic, mode }).sort()).toEqual(expected);
  });
  it("a dance band follows a tune printed in D major that is sung in D minor, and so do three chords", () => {
    const tune = tuneOf("d2d2 =f2e2|d2A2 A4|d2d2 =f2a2|=f2e2 d4:|", { metre: "2/2" });
    const heard = (name: string) =>
      deriveChords({ ...request(tune), style: STYLES.find((s) => s.name === name)! }).chords.map((c) => c.symbol);
    expect(heard("Dance band")).toContain("Dm");
    expect(heard("Dance band")).not.toContain("D");
    expect(heard("Three-chord")).toContain("Dm");
    expect(heard("Three-chord")).not.toContain("D");
  });
  it("an accidental that only passes off the beat borrows nothing; on the beat it does", () => {
    const set = (music: string) =>
      deriveChords({ ...request(tuneOf(music, { metre: "2/2" })), style: DANCE }).vocabulary[0];
    expect(set("d2^d2 e2f2|d8|a4 d4|d8:|")).not.toContain("B");
    expect(set("d4 e4|^d4 e4|a4 d4|d8:|")).toContain("B");
  });
});

describe("what a good player would call wrong", () => {
  const named = (name: string) => STYLES.find((s) => s.name === name)!;
  const chordsOf = (tune: Tune, name: string, infer = false) => {
    const analysis = analyse(tune);
    const { places, form } = analysis;
    return deriveChords({ places, phrases: form.phrases, keys: strainKeys(tune, analysis, infer), style: named(name) });
  };
  const inBar = (found: ReturnType<typeof chordsOf>, bar: number) =>
    found.chords.filter((c) => c.bar === bar).map((c) => c.symbol);

  it("Colour has the chord on the seventh degree, in dorian, mixolydian and minor", () => {
    for (const [key, symbol] of [
      ["Ador", "G"],
      ["Amix", "G"],
      ["Amin", "G"],
    ] as const) {
      const found = chordsOf(tuneOf("A2ce A2ce|=G2Bd =G2Bd|A2ce A2ce|A8|", { key }), "Colour");
      expect(found.vocabulary[0]).toContain(symbol);
      expect(inBar(found, 1).join(" "), key).toMatch(/^G/);
    }
  });
  it.each([
    // Music, key, style, bar, what may not stand there, what may.
    ["a printed F natural is no D major", "d2fd Adfd|=f2ac' a2=fd|g2bg dgbg|d8|", "D", "Dance band", 1, /^D7?$/],
    ["the same with three chords", "d2fd Adfd|=f2ac' a2=fd|g2bg dgbg|d8|", "D", "Three-chord", 1, /^D7?$/],
    ["a held C sharp is no seventh of D", "d2fd Adfd|^c4 A4|e2c2 A4|d8|", "G", "Dance band", 1, /^D7$/],
    ["a G sharp is no G", "A2ce A2ce|^G4 B4|c2e2 a4|A8|", "Amin", "Modal", 1, /^G/],
  ] as const)("%s", (_, music, key, style, bar, never) => {
    for (const symbol of inBar(chordsOf(tuneOf(music, { key }), style), bar)) expect(symbol).not.toMatch(never);
  });
  it.each(["Two-chord", "Three-chord", "Modal", "Dance band", "Colour"])(
    "a sounding leading note calls the major dominant, and the cadence closes with it: %s",
    (style) => {
      const found = chordsOf(tuneOf("A2ce A2ce|d2fd e2c2|B2^GB E2^GB|A8|", { key: "Amin" }), style);
      expect(inBar(found, 2).join(" ")).toMatch(/^E/);
      expect(inBar(found, 2).some((symbol) => ["E", "E7"].includes(symbol))).toBe(true);
      expect(inBar(found, 3)[0]).toMatch(/^A/);
    },
  );
  it("plain styles take their chords from the strain's own key", () => {
    const tune = tuneOf("B2df b2fd|e2ge c'2ge|f2ac' f2ec|B8:|\nf2ac' f2ac'|g2bg =e2gb|c2=eg b2ge|f8:|", { key: "Bb" });
    const found = chordsOf(tune, "Three-chord", true);
    expect(inBar(found, 6).join(" ")).toMatch(/^C7?$/);
    expect(found.vocabulary[1]).not.toContain("Eb");
  });
  it("identical bars between identical bars have identical chords, in every style", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.constantFrom(...STYLES), (once, style) => {
        // The same strain twice over: every bar but the first and last of each has a twin.
        const [strain] = once.strains;
        if (!strain) return;
        const tune = { ...once, strains: [strain, { ...strain, label: "B" }] };
        const analysis = analyse(tune);
        const { places, form } = analysis;
        const keys = strainKeys(tune, analysis);
        const { chords } = deriveChords({ places, phrases: form.phrases, keys, style });
        const half = places.length / 2;
        // What is added says why for itself: like bars are compared by their plain chords.
        const at = (bar: number) => {
          const own = chords.filter((c) => c.bar === bar).map((c) => ({ at: c.at, plain: c.added?.plain ?? c.symbol }));
          return own.filter((c, i) => c.plain !== own[i - 1]?.plain);
        };
        for (let bar = 2; bar < half - 1; bar++) {
          const told = chords
            .filter((c) => c.bar === bar || c.bar === bar + half)
            .some((c) => c.reason.includes("has the same notes over"));
          if (!told) expect(at(bar + half)).toEqual(at(bar));
        }
      }),
      { numRuns: 60 },
    );
  });
  it("a note that leans into the dominant where a line ends is heard over it", () => {
    const found = chordsOf(
      tuneOf("g2b2 d'2b2|c'2a2 g2e2|d2g2 b2g2|g2 f6|g2b2 d'2b2|c'2a2 g2e2|d2e2 f2d2|g8|", { key: "G" }),
      "Dance band",
    );
    expect(inBar(found, 3).map((s) => s[0])).toEqual(["D"]);
  });
  it("reasons name function and place first, and never say the same of two chords that compete", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), fc.constantFrom(...STYLES), (tune, style) => {
        const analysis = analyse(tune);
        const { places, form } = analysis;
        const found = deriveChords({ places, phrases: form.phrases, keys: strainKeys(tune, analysis), style });
        found.chords.forEach((c, i) => {
          expect(c.reason).not.toMatch(/\d\.\d/);
          expect(c.reason).not.toMatch(/undefined|NaN/);
          if (c.reason.includes("comes home")) expect(i).toBe(found.chords.length - 1);
        });
      }),
      { numRuns: 60 },
    );
  });
});
