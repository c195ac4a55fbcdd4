import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { barLabel, places, type Tune } from "../score";
import { moveBetween, transpose } from "../spelling";
import {
  analyse,
  barsAgain,
  findForm,
  fingerprint,
  formSentence,
  modeWords,
  relationWords,
  RELATIONS,
  roleOf,
  rhythmCells,
  shiftWords,
  usedScale,
  scaleWords,
  weave,
} from ".";
import { lieOn, secondFingerWords } from "../technique";
import { FIDDLE, instrument } from "../instruments";

type Header = Parameters<typeof tuneOf>[1];
const relations = (tune: Tune) => {
  const from = places(tune);
  const form = findForm(tune, from);
  return form.phrases.map((p) => relationWords(p, form, from));
};

/** Invented tunes, each phrase labelled by ear: the words stand for phrases A2, A3 … after a first that is new. */
const LABELLED: [string, string, string[], Header?][] = [
  ["the same again", "d2fd Adfd|e2ge Bege|d2fd Adfd|e8|d2fd Adfd|e2ge Bege|d2fd Adfd|e8|", ["same as A 1–4"]],
  ["the same with ornaments", "d4 e4|f4 g4|a4 b4|d8|{e}d4 ~e4|f4 Tg4|a4 .b4|d8|", ["same as A 1–4"]],
  [
    "another lead-in to what follows is not the same",
    "A2|d4 e4|f4 g4|a4 f4|d4 d2 A2|d4 e4|f4 g4|a4 f4|d4 d2 f2|",
    ["begins like A 1–4, parts in bar 8"],
  ],
  ["new last bar", "d4 e4|f4 g4|a4 f4|e8|d4 e4|f4 g4|a4 f4|d8|", ["begins like A 1–4, parts in bar 8"]],
  ["new second half", "d4 e4|f4 g4|a4 f4|e8|d4 e4|f4 g4|b2a2 g2e2|d8|", ["begins like A 1–4, parts in bar 7"]],
  [
    "only the first bar alike: told with the bar where they part",
    "d4 ef g2|f4 ga b2|a4 fe d2|e8|d4 ef g2|b4 ag f2|g2fe d4|A8|",
    ["begins like A 1–4, parts in bar 6"],
  ],
  [
    "an echo up a fifth",
    "d2f2 e2d2|f2a2 g2f2|e2d2 c2d2|d6 A2|a2c'2 b2a2|c'2e'2 d'2c'2|b2a2 g2a2|a6 e2|",
    ["echo of A 1–4, up a fifth"],
  ],
  [
    "an echo down an octave",
    "a2f2 e2d2|f2a2 b2a2|g2e2 c2e2|d8|A2F2 E2D2|F2A2 B2A2|G2E2 C2E2|D8|",
    ["echo of A 1–4, down an octave"],
  ],
  ["an echo up a second", "d4 f2e2|d2c2 d4|e2f2 g2e2|d8|e4 g2f2|e2d2 e4|f2g2 a2f2|e8|", ["echo of A 1–4, up a second"]],
  [
    "the notes in another rhythm",
    "d4 e2f2|g4 f2e2|d4 c2B2|A8|d2e4 f2|g2f4 e2|d2c4 B2|A8|",
    ["notes of A 1–4, new rhythm"],
  ],
  [
    "the notes with each doubled",
    "d4 e4|f4 g4|a4 f4|d8|d2d2 e2e2|f2f2 g2g2|a2a2 f2f2|d8|",
    ["notes of A 1–4, new rhythm"],
  ],
  [
    "the rhythm with other notes",
    "d3e f2d2|g3a b2g2|a3f d2e2|d8|b3a g2e2|a3g f2d2|c3d e2f2|e8|",
    ["rhythm of A 1–4, other notes"],
  ],
  [
    "running notes share no rhythm worth a name",
    "defg abag|fedc defd|gabg efge|fedc d4|bagf edcB|cdef gfed|AcBd cedf|edcB A4|",
    [""],
  ],
  ["another rhythm and other notes", "d4 e4|f4 g4|a8|d8|b2a2 g4|A6 c2|d2e2f2g2|e8|", [""]],
  [
    "the third phrase is the first",
    "d3e f2d2|g3a b2g2|a2f2 d4|e8|A2B2 c4|d2c2 B4|c3d e2c2|A8|d3e f2d2|g3a b2g2|a2f2 d4|e8|",
    ["", "same as A 1–4"],
  ],
  [
    "the nearest likeness counts: same before new ending",
    "d4 e4|f4 g4|a4 f4|e8|d4 e4|f4 g4|a4 f4|d8|d4 e4|f4 g4|a4 f4|d8|",
    ["begins like A 1–4, parts in bar 8", "same as A 5–8"],
  ],
  [
    "a jig's echo",
    "d3 f2e|d2c B2A|Bcd efg|f3 d3|e3 g2f|e2d c2B|cde fga|g3 e3|",
    ["echo of A 1–4, up a second"],
    { metre: "6/8" },
  ],
];

describe("phrase relations", () => {
  test.each(LABELLED)("%s", (_, music, words, header) =>
    expect(relations(tuneOf(music, header)).slice(1)).toEqual(words),
  );

  it("holds for any tune: a relation points back, and says what it claims", () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const form = findForm(tune, places(tune));
        for (const [i, p] of form.phrases.entries()) {
          expect(RELATIONS).toContain(p.relation);
          expect(p.model === undefined).toBe(p.relation === "new");
          if (p.model !== undefined) expect(p.model).toBeLessThan(i);
          expect(p.parts !== undefined).toBe(p.relation === "same start, new ending");
          expect(p.shift !== undefined).toBe(p.relation === "echo");
        }
        expect(form.learn).toBeLessThanOrEqual(Math.max(1, form.bars));
      }),
      { numRuns: 60 },
    );
  });
  it("a tune twice over repeats itself, phrase by phrase, and needs no more learning", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), (tune) => {
        fc.pre(tune.strains[0]!.bars.length >= 2 && tune.strains[0]!.bars.every((b) => !b.repeatEnd));
        const once: Tune = { ...tune, strains: [tune.strains[0]!] };
        const twice: Tune = { ...once, strains: [once.strains[0]!, { label: "B", bars: once.strains[0]!.bars }] };
        const form = findForm(twice, places(twice));
        expect(form.phrases.filter((p) => p.strain === 1).every((p) => p.relation === "same")).toBe(true);
        expect(form.learn).toBe(findForm(once, places(once)).learn);
      }),
      { numRuns: 40 },
    );
  });
});

describe("true sentences", () => {
  test.each([
    [
      "one note apart is not the same",
      "d2fd Adfd|e2ge Bege|d2fd Adfd|e8|d2fd Adfd|e2ge Bege|d2fd Adfd|d8|",
      ["bar 3 is bar 1", "begins like A 1–4, parts in bar 8"],
    ],
    [
      "an accidental apart is not the same",
      "d4 e4|f4 g4|a4 f4|e8|d4 e4|f4 ^g4|a4 f4|e8|",
      ["", "begins like A 1–4, parts in bar 6; bars 7–8 are bars 3–4"],
    ],
    [
      "bars that come again inside a phrase",
      "d4 e4|f4 g4|d4 e4|a8|b4 a4|g4 f4|d4 e4|f4 g4|",
      ["bar 3 is bar 1", "bars 7–8 are bars 1–2"],
    ],
    ["nothing is said of new music", "d4 e4|f4 g4|a4 f4|e8|b2a2 g4|A6 c2|d2e2f2g2|f8|", ["", ""]],
  ] as [string, string, string[]][])("%s", (_, music, words) => {
    expect(relations(tuneOf(music))).toEqual(words);
  });
  it("says same, and that a bar is another, only where every note is", () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const from = places(tune);
        const form = findForm(tune, from);
        const heard = (a: number, b: number) =>
          from
            .slice(a, b + 1)
            .filter((p) => !p.pickup)
            .map((p) => p.bar.events.map((e) => [e.ticks, e.pitches]));
        for (const p of form.phrases)
          if (p.relation === "same") {
            const model = form.phrases[p.model!]!;
            expect(heard(p.from, p.to)).toEqual(heard(model.from, model.to));
          }
        for (const { from: a, to: b, model } of barsAgain(from, 0, from.length - 1)) {
          expect(model).toBeLessThan(a);
          expect(heard(a, b)).toEqual(heard(model, model + b - a));
        }
      }),
      { numRuns: 60 },
    );
  });
  it("a bar with two endings counts once: 16 bars, and the second strain begins at 9", () => {
    const half = "d2fd Adfd|e2ge Bege|f2af dfaf|g2bg egbg|a2fa dafa|b2gb egbe|c2ec Acec|";
    const tune = tuneOf(`|:${half}1 d8:|2 d4 A4||\n|:${half}1 e8:|2 e4 A4|]`);
    const from = places(tune);
    const form = findForm(tune, from);
    expect(form.bars).toBe(16);
    expect(form.phrases.map((p) => p.name)).toEqual(["A 1–4", "A 5–8", "B 9–12", "B 13–16"]);
    expect(from.map(barLabel)).toEqual([
      ..."12345678".split(""),
      "8’",
      ...["9", "10", "11", "12", "13", "14", "15", "16", "16’"],
    ]);
  });
  test.each([
    ["endings of two bars and one", "|:d8|e8|1 f8|g8:|2 a8||\n|:b8|a8:|", ["1", "2", "3", "4", "3’", "5", "6"]],
    ["three endings", "|:d8|1 e8:|2 f8:|3 g8||a8|b8|", ["1", "2", "2’", "2’’", "3", "4"]],
    ["a longer second ending", "|:d8|1 e8:|2 f8|g8||a8|", ["1", "2", "2’", "3’", "4"]],
  ])("numbers %s", (_, music, labels) => {
    expect(places(tuneOf(music)).map(barLabel)).toEqual(labels);
  });
});

it("the weave keeps dye for notes, texture for rhythm, pales echoes, and leaves intros undyed", () => {
  const tune = tuneOf(
    "P:Intro\nd8|d8|d8|d8||\nP:A\nd3e f2d2|g3a b2g2|a3f d2e2|d8|e3f g2e2|a3b c'2a2|b3g e2f2|e8|b3a g2e2|a3g f2d2|c3d e2f2|e8|d2e4 f2|g2a4 b2|a2f4 d2|d8||",
  );
  const from = places(tune);
  const cells = weave(
    from,
    findForm(tune, from),
    tune.strains.map((s) => s.label),
  );
  const at = (bar: number) => cells[bar]!;
  expect([at(0).linen, at(4).linen]).toEqual([true, false]);
  expect([at(8).dye === at(4).dye, at(8).texture === at(4).texture, at(8).echo]).toEqual([true, true, "up a second"]);
  expect([at(12).dye === at(4).dye, at(12).texture === at(4).texture, at(12).says]).toEqual([
    false,
    true,
    "bar 13, A 13–16: rhythm of A 5–8, other notes",
  ]);
  expect([roleOf("Tag"), roleOf("Outro 2"), roleOf("B"), roleOf("vamp till ready")]).toEqual([
    "tag",
    "tag",
    "tune",
    "vamp",
  ]);
  expect([shiftWords(-7), shiftWords(3)]).toEqual(["down an octave", "up a fourth"]);
});

describe("what a teacher says", () => {
  it("sets a mode apart from plain major and minor", () => {
    expect(
      [
        ["E", "dorian"],
        ["D", "mixolydian"],
        ["G", "lydian"],
        ["A", "minor"],
        ["F#", "phrygian"],
      ].map(([tonic, mode]) => modeWords({ tonic: tonic!, mode: mode as "dorian" })),
    ).toEqual([
      "E minor with C sharp",
      "D major with C natural",
      "G major with C sharp",
      "",
      "F sharp minor with G natural",
    ]);
  });
  it("tells the form with repeats, pickup, endings and what to learn", () => {
    const tune = tuneOf("A2|:d4 e4|f4 g4|a4 f4|1 d6 A2:|2 d8|:f8|g8|a8|d8:|");
    expect(formSentence(tune, places(tune), findForm(tune, places(tune)))).toBe(
      "A part twice, B part twice; a pickup of 1 beat, 2 different endings; 8 bars written, 16 played. All 8 bars are different.",
    );
  });
  it("names gapped scales with the missing degrees, and does not call a short tune gapped with confidence", () => {
    const pentatonic = tuneOf("DEFA BAFE|D2F2 A2B2|A2F2 E2D2|E4 D4|DEFA BAFE|D2F2 A2B2|d2B2 A2F2|E4 D4|");
    const used = usedScale(places(pentatonic), pentatonic.key);
    expect([used.notes, used.missing, used.confidence > 0.8]).toEqual([5, [4, 7], true]);
    expect(scaleWords(used, pentatonic.key)).toBe("five-note scale, no fourth (G) or seventh (C#)");
    expect(usedScale(places(tuneOf("D2E2 F2A2|B2D2 E4|")), { tonic: "D", mode: "major" }).confidence).toBeLessThan(0.4);
  });
  it("lays a tune on strings: second finger, free strings, what is out of reach, crossings", () => {
    const lie = lieOn(FIDDLE, places(tuneOf("D2F2 =F2A2|=c2^c2 d2e2|g2 c'2 b4|")));
    expect(secondFingerWords(lie)).toBe("second finger low on E, high and low on D and A");
    expect([lie.free.map((p) => p.step), lie.tooHigh.map((p) => p.pitch.step), lie.crossings]).toEqual([
      ["G"],
      ["C"],
      2,
    ]);
    expect(
      lieOn(instrument("mountain dulcimer")!, places(tuneOf("D2E2 F2G2|A2B2 =c2d2|", { key: "Dmix" }))).strings.map(
        (s) => s.notes.map((n) => n.fret).join(" "),
      ),
    ).toEqual(["", "", "0 1 2 3 4 5 6 7"]);
  });
  it("counts the rhythms of beats", () => {
    expect(
      rhythmCells(places(tuneOf("d2fd Adfd|e2 e4 e2|")))
        .slice(0, 2)
        .map((c) => [c.lengths, c.count]),
    ).toEqual([
      [[1], 3],
      [[0.5, 0.5], 3],
    ]);
  });
  it("keeps each strain's own key in view", () => {
    const tune = tuneOf(
      "A2cA eAcA|d2fd eAcA|G2BG dGBG|A2cA A4|A2cA eAcA|d2fd e2ae|fedc dcBG|A4 A4||a2^ga ^f^ga2|^c'2ba ^f2e2|e^f^ga b^gea|a4 a4|a2^ga ^f^ga2|^c'2ba ^f2e2|e^fed ^cB^GB|A4 A4|]",
      { key: "Am" },
    );
    expect(analyse(tune).key.key).toEqual({ tonic: "A", mode: "minor" });
  });
});

describe("fingerprints", () => {
  it("are the same in any key and for any title, and differ where the music does", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.constantFrom("C", "Eb", "A"), (tune, tonic) => {
        const moved = transpose({ ...tune, title: "Another" }, moveBetween(tune.key.tonic, tonic));
        fc.pre(JSON.stringify(moved.strains).length > 0);
        expect(fingerprint(moved)).toBe(fingerprint(tune));
      }),
      { numRuns: 40 },
    );
    expect(new Set(["d2e2", "d2f2", "d3e", "d2z2", "d2e2 f2"].map((m) => fingerprint(tuneOf(`${m}|`)))).size).toBe(5);
  });
});
