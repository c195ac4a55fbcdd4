import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { lengthOf } from "../score";
import {
  derive,
  formsOf,
  isVersion,
  newWork,
  stepsOf,
  takeForm,
  versionOf,
  versionSheet,
  writeBar,
  chooseGroup,
} from ".";

const TUNE = tuneOf("|:d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2:|", { key: "D" });
const work = newWork(TUNE);
const derived = derive(work);
const forms = formsOf(work, derived);

describe("a tune in its versions", () => {
  it("the basic one is barer than the page and still the tune; the advanced one the richest there is", () => {
    const [basic, advanced] = [versionOf(work, derived, "basic"), versionOf(work, derived, "advanced")];
    const written = forms.find((f) => f.name === "as it is written")!;
    expect(basic.difficulty).toBeLessThan(written.difficulty);
    expect(basic.kept).toBeGreaterThanOrEqual(0.7);
    expect(advanced.difficulty).toBeGreaterThanOrEqual(written.difficulty);
    expect(advanced).toBe(forms.at(-1));
  });
  it("each is a sheet of one staff over the tune’s own bars", () => {
    for (const version of ["basic", "advanced"] as const) {
      const sheet = versionSheet(work, derived, version);
      expect(sheet.staves).toHaveLength(1);
      expect(sheet.staves[0]?.bars.map(lengthOf)).toEqual(derived.analysis.places.map((p) => p.ticks));
      expect(sheet.subtitle).toContain(`${version} version`);
    }
  });
  it("only those are versions", () => {
    expect(["basic", "advanced", "melody", ""].map(isVersion)).toEqual([true, true, false, false]);
  });
  it("forms and steps are made once for all who look", () => {
    expect(formsOf(work, derived)).toBe(forms);
    expect(stepsOf(work, derived)).toBe(stepsOf(work, derived));
  });
});

describe("a form that is taken into the tune", () => {
  const beats = forms.find((f) => f.name === "the beats")!;
  const counts = (w: typeof work) => w.tune.strains.flatMap((s) => s.bars.map((b) => b.events.length));
  it("stands in the bars that were chosen, and in no others", () => {
    const taken = takeForm(work, beats.bars, 1, 2);
    const [before, after] = [counts(work), counts(taken)];
    expect([after[0], after[3]]).toEqual([before[0], before[3]]);
    expect([after[1], after[2]]).toEqual([4, 4]);
    expect(work.tune).toBe(TUNE);
  });
  it("keeps repeats, strains and everything around the notes", () => {
    const taken = takeForm(work, beats.bars, 0, 3);
    expect(taken.tune.strains.map((s) => s.label)).toEqual(TUNE.strains.map((s) => s.label));
    expect(taken.tune.strains[0]?.bars.at(-1)?.repeatEnd).toBe(TUNE.strains[0]?.bars.at(-1)?.repeatEnd);
    expect(counts(taken)).toEqual([4, 4, 4, 4]);
  });
  it("leaves what was written by hand for a learner where it was", () => {
    const learner = {
      name: "Ann",
      instrument: "fiddle",
      tuning: null,
      level: "Moving" as const,
      can: [],
      cannot: [],
      seat: "",
      notes: "",
    };
    const tonight = chooseGroup(work, { name: "T", learners: [learner] });
    const written = writeBar(tonight, "Ann", 2, [{ at: 0, ticks: 3360, pitches: [69] }]);
    expect(takeForm(written, beats.bars, 0, 3).evening?.edits).toEqual(written.evening?.edits);
  });
});
