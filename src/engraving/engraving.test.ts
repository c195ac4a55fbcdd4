import { pathToFileURL } from "node:url";
import { VerovioToolkit } from "verovio/esm";
import { beforeAll, describe, expect, it } from "vitest";
import { derive, newWork, sheetOf } from "../core/ensemble";
import { instrument } from "../core/instruments";
import { melodyStaff, places, type Sheet, slice, tuneSheet } from "../core/score";
import { tabStaff } from "../core/technique";
import { tuneOf } from "../testing/abc";
import { drawPages, drawRow } from "./draw";

let verovio: VerovioToolkit;
beforeAll(async () => {
  const { default: create } = (await import(pathToFileURL("node_modules/verovio/dist/verovio-module.mjs").href)) as {
    default: () => Promise<unknown>;
  };
  verovio = new VerovioToolkit(await create());
});

const work = newWork(
  tuneOf("|:A2|d2fd Adfd|e2ge Bege|d2fd (3AAA fa-|a2fe d2e2|^d2fd Adfd|e2ge Bege|1 f2e2 d4:|2 f2e2 d6|]"),
);
const derived = derive(work);
const all = sheetOf(work, derived);
const count = (svg: string, pattern: RegExp) => (svg.match(pattern) ?? []).length;

describe("a row", () => {
  const row = () =>
    drawRow(verovio, { ...slice(all, 0, 5), staves: slice(all, 0, 5).staves.slice(0, 2), chords: [] }, 790);
  it("is one system of the bars asked for, with nothing to complain of", () => {
    const { svg, log } = row();
    expect(count(svg, / class="measure/g)).toBe(5);
    expect(count(svg, / class="system"/g)).toBe(1);
    expect(log).toBe("");
  });
  it("carries the ids of its notes and bars", () => {
    const { svg } = row();
    for (const id of ["m.melody.0", "melody.1.0", "melody.3.2", "moving.1.0", "moving.4.3"])
      expect(svg).toContain(`data-id="${id}"`);
  });
  it("shows no names, no tempo, and the metre only where the tune starts", () => {
    const later = drawRow(verovio, { ...slice(all, 5, 8), chords: [] }, 790).svg;
    expect(row().svg).not.toContain("Tune");
    expect(count(row().svg, / class="meterSig/g)).toBeGreaterThan(0);
    expect(count(later, / class="meterSig"[^>]*>\s*<use/g)).toBe(0);
  });
  it("is as wide as it was asked to be", () => {
    for (const width of [400, 790])
      expect(Number(/viewBox="0 0 (\d+)/.exec(drawRow(verovio, slice(all, 1, 4), width).svg)?.[1])).toBeCloseTo(
        width,
        -1,
      );
  });
});

describe("paper", () => {
  it("starts a system at each phrase and names parts only when there are several", () => {
    const systems = derived.analysis.form.phrases.map((p) => p.from);
    const together = drawPages(verovio, all, systems);
    expect(together.log).toBe("");
    expect(count(together.pages.join(""), / class="system"/g)).toBe(systems.length);
    expect(together.pages.join("")).toContain("One note per chord");
    const alone = drawPages(verovio, sheetOf(work, derived, "first"), systems);
    expect(alone.pages.join("")).not.toContain("One note per chord");
    expect(count(alone.pages.join(""), / class="measure/g)).toBe(all.places.length);
  });
});

describe("tablature", () => {
  const lute = { on: instrument("mountain dulcimer")! };
  const tune = tuneOf("D2E2 F2G2|A2B2 c2d2|");
  const staff = tabStaff(melodyStaff(places(tune)), lute.on);
  const sheet: Sheet = { ...tuneSheet(tune, places(tune)), staves: [staff], chords: [] };
  it("has a line for each course, the frets the instrument has, half frets by their plus, and no stems' clef", () => {
    const { svg, log, measured } = drawRow(verovio, sheet, 600);
    expect(log).toBe("");
    const [first] = measured.staves;
    expect(first!.notes).toHaveLength(4);
    const frets = [...svg.matchAll(/data-id="melody-tab[^>]*>.*?<text[^>]*>(?:<tspan[^>]*>)*([0-9+]+)</g)].map(
      (m) => m[1],
    );
    const played = staff.bars.flat().map((e) => e.technique?.notes?.[0]?.fret);
    expect(frets).toEqual(played);
    expect(played).toContain("6+");
  });
});
