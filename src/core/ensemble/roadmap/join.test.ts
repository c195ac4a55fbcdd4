import { describe, expect, it } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { analyse } from "../../analysis";
import type { Learner } from "../../grading";
import { type Instrument, instrument } from "../../instruments";
import { joinedOf, joinOf } from ".";

const joined = (music: string, header: Parameters<typeof tuneOf>[1]) => {
  const tune = tuneOf(music, header);
  return joinedOf(tune, analyse(tune));
};
const player = (name: string, on: string, more: Partial<Learner> = {}) => ({
  learner: {
    name,
    instrument: on,
    tuning: null,
    level: "Steady",
    can: [],
    cannot: [],
    seat: "",
    notes: "",
    ...more,
  } as Learner,
  on: instrument(on) as Instrument,
});
const IN_D = joined("d2fd Adfd|e2ge c2A2|dcde fdAF|E2A2 D4|", { key: "D" });
const IN_G = joined("G2BG DGBd|c2ec A2F2|GABc dBGB|A2F2 G4|", { key: "G" });
const IN_A = joined("A2cA EAce|d2fd B2G2|ABcd ecAc|B2G2 A4|", { key: "A" });
const JIG = joined("GAB DGB|cde FAc|BGB dBG|AFD G3|", { key: "G", metre: "6/8" });
const DORIAN = joined("E2BE dEBE|E2BE AFDF|E2BE dEBA|BAGF E4|", { key: "Edor" });

describe("one tune into another", () => {
  it("the last beat takes the dominant of the new key where that holds the last note", () => {
    expect(joinOf(IN_D, IN_G, 96, [])).toMatchObject({ lead: "D7", waits: [] });
    expect(joinOf(IN_G, IN_D, 96, []).lead).toBe("A7");
    expect(joinOf(IN_A, IN_D, 96, []).says[0]).toBe(
      "The last beat takes A7, which holds the last note: it leads into D major.",
    );
  });
  it("ends at home where the dominant would rub against the last note, and goes straight on in the same key", () => {
    expect(joinOf(IN_D, IN_A, 96, []).lead).toBe("E7");
    expect(joinOf(IN_G, IN_A, 96, [])).toMatchObject({ lead: null });
    expect(joinOf(IN_G, IN_A, 96, []).says[0]).toContain("A key a step away lifts by itself.");
    expect(joinOf(IN_G, JIG, 96, []).says[0]).toBe("Both are in G major: go straight on.");
  });
  it("into a modal tune leads the chord under its tonic", () => {
    expect(joinOf(IN_D, DORIAN, 96, []).lead).toBe("D");
  });
  it("the felt beat carries over, and what it divides into is said", () => {
    expect(joinOf(IN_D, IN_G, 96, []).says[1]).toBe("The beat goes on as it is.");
    expect(joinOf(IN_D, JIG, 96, []).says[1]).toBe(
      "One beat stays one beat, 96 a minute. It divides in three now, in two before: say it once aloud. " +
        "A bar has 2 of them, not 4.",
    );
  });
  it("beginners wait two bars, whoever changes an instrument eight; nobody else", () => {
    const room = [
      player("Ada", "fiddle", { level: "First sounds" }),
      player("Ben", "guitar", { can: ["capo"] }),
      player("Cas", "whistle"),
      player("Dee", "fiddle"),
    ];
    expect(joinOf(IN_D, IN_G, 96, room).waits.map((w) => [w.name, w.bars])).toEqual([
      ["Ada", 2],
      ["Ben", 8],
    ]);
    expect(joinOf(IN_D, IN_A, 96, room).waits.map((w) => [w.name, w.bars])).toEqual([
      ["Ada", 2],
      ["Ben", 8],
      ["Cas", 8],
    ]);
    expect(joinOf(IN_G, JIG, 96, room).waits.map((w) => w.name)).toEqual(["Ada"]);
  });
});
