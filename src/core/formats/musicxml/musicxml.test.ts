import { execFileSync } from "node:child_process";
import { existsSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { XMLParser, XMLValidator } from "fast-xml-parser";
import fc from "fast-check";
import { VerovioToolkit } from "verovio/esm";
import { beforeAll, describe, expect, it, test } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { derive, newWork, sheetOf } from "../../ensemble";
import { places, type Sheet, tuneSheet } from "../../score";
import { sheetMusicXml } from ".";

let verovio: VerovioToolkit;
beforeAll(async () => {
  const { default: create } = (await import(pathToFileURL("node_modules/verovio/dist/verovio-module.mjs").href)) as {
    default: () => Promise<unknown>;
  };
  verovio = new VerovioToolkit(await create());
});

const xmlOf = (music: string, header?: Parameters<typeof tuneOf>[1]) => {
  const tune = tuneOf(music, header);
  return sheetMusicXml(tuneSheet(tune, places(tune)));
};

const TRICKY: [string, string, Parameters<typeof tuneOf>[1]?][] = [
  ["pickup, repeats, endings", "A2|:d2f2 A2d2|[1 e8:|[2 d6|]"],
  ["triplets, ties over the bar, slurs", "(3abc d4-|d2 (ef) g4|"],
  ["lengths no one head can show", "a5 b3|a7 b|"],
  ["grace notes, marks, fingering", "{/g}a{gf}d ~b .c Td Hf !1!A uB vc|"],
  ["chords of many kinds", '"D"a2"Em7"b2"A7/C#"c2"G5"d2|"Bdim"a2"F#sus4"b2"Caug"c4|'],
  ["changes of key and metre", "a8|[K:Gmin]b8|[M:3/4]g6|[K:D =c]c6|"],
  ["two verses", "ab cd|\nw:one two-three four\nw:un deux trois quatre"],
  ["double stops and rests", "[Ad]2 z2 [FA]4|Z|"],
  ["jig", "abc def|a3 b3|", { metre: "6/8" }],
  ["markup in every text", '"^<b>&"a8|', { more: 'C:<i>A & "B"</i>\n' }],
  ["free metre", "abc def|ga|", { metre: "none" }],
  ["thirds of an eighth", "a/3b/3c/3 d/5|"],
];

describe("MusicXML", () => {
  test.each(TRICKY)("%s is read by the engraver with nothing to complain of", (_, music, header) => {
    const xml = xmlOf(music, header);
    expect(XMLValidator.validate(xml)).toBe(true);
    expect(verovio.loadData(xml)).toBe(1);
    verovio.renderToSVG(1);
    expect(verovio.getLog()).toBe("");
  });

  it("fills every bar of random tunes exactly", () => {
    const parser = new XMLParser({
      ignoreAttributes: false,
      isArray: (name) => ["measure", "note", "part"].includes(name),
    });
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 3 }), (tune) => {
        const sheet = tuneSheet(tune, places(tune));
        const parsed = parser.parse(sheetMusicXml(sheet));
        const measures = parsed["score-partwise"].part[0].measure as {
          note?: { duration?: number; chord?: string; grace?: string }[];
        }[];
        measures.forEach((m, i) => {
          const sum = (m.note ?? [])
            .filter((n) => n.chord === undefined && n.grace === undefined)
            .reduce((total, n) => total + Number(n.duration), 0);
          expect(sum).toBe(sheet.places[i]?.ticks);
        });
      }),
      { numRuns: 60 },
    );
  });

  it("puts a chord on its note, and inside a held note by an offset", () => {
    const tune = tuneOf("d8|");
    const sheet: Sheet = {
      ...tuneSheet(tune, places(tune)),
      chords: [
        { bar: 0, at: 0, symbol: "D" },
        { bar: 0, at: 6720, symbol: "Am7/E" },
      ],
    };
    const xml = sheetMusicXml(sheet);
    expect(xml).toContain("<root-step>D</root-step></root><kind>major</kind></harmony>");
    expect(xml).toContain(
      '<kind text="m7">minor-seventh</kind><bass><bass-step>E</bass-step></bass><offset>6720</offset>',
    );
  });

  it("beams by the half bar in common time, by the beat in a jig, and never over a rest", () => {
    const words = (xml: string) => [...xml.matchAll(/<beam number="1">(\w+)</g)].map((m) => m[1]).join(" ");
    expect(words(xmlOf("abcd efga|"))).toBe("begin continue continue end begin continue continue end");
    expect(words(xmlOf("abc def|", { metre: "6/8" }))).toBe("begin continue end begin continue end");
    expect(words(xmlOf("abzd|"))).toBe("begin end");
  });

  it("draws an accidental once a bar, not on a tied note, and a natural where it is needed", () => {
    const signs = [...xmlOf("^g2 g2 =g2 g2|^g8-|g4 z4|", { key: "C" }).matchAll(/<accidental>(\w+)</g)].map(
      (m) => m[1],
    );
    expect(signs).toEqual(["sharp", "natural", "sharp"]);
  });

  const schema = process.env.MUSICXML_SCHEMA;
  it.skipIf(!schema || !existsSync(schema))("is valid against the published schema", () => {
    const folder = mkdtempSync(join(tmpdir(), "musicxml-"));
    const tunes = [
      ...TRICKY.map(([, music, header]) => tuneOf(music, header)),
      ...fc.sample(arbitraryTune({ maxBars: 4 }), { numRuns: 20, seed: 7 }),
    ];
    const files = tunes.map((tune, i) => {
      const work = newWork(tune);
      const file = join(folder, `${i}.musicxml`);
      writeFileSync(file, sheetMusicXml(sheetOf(work, derive(work)), { ids: i % 2 === 0 }));
      return file;
    });
    execFileSync("xmllint", ["--nonet", "--noout", "--schema", schema as string, ...files], { stdio: "pipe" });
  });
});
