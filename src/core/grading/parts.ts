import type { ChordPlan } from "../chords";
import { type HarmonyLine, harmonyStaff } from "../harmony";
import { FIDDLE, type Instrument } from "../instruments";
import { melodyStaff, type Place, type Sheet, type SheetChord, tempoOf, type Tune } from "../score";
import { firstSounds } from "./firstSounds";
import type { Part } from "./model";

export type PartRequest = {
  places: readonly Place[];
  plan: ChordPlan;
  line: HarmonyLine;
  /** A second line, where one is asked for. */
  upper?: HarmonyLine | null;
  instrument?: Instrument;
};

/** Three graded parts to play together: the tune, the harmony line, and one long note per chord. */
export function writeParts({ places, plan, line, upper = null, instrument = FIDDLE }: PartRequest): Part[] {
  const staff = { clef: instrument.clef, program: instrument.program };
  const harmony = (own: HarmonyLine, id: string, name: string): Part => ({
    level: "Moving",
    role: own.side === "below" ? "low harmony" : "high harmony",
    instrument: instrument.name,
    staff: harmonyStaff(own, places, { id, name, loudness: 0.78, ...staff }),
    coaching: `You move with the tune, ${own.side === "below" ? "below" : "above"} it. Learn where the line does not run in thirds; those are the places to listen for.`,
    leftOut: ["Ornaments and grace notes, which stay with the tune so that it sounds clear."],
  });
  return [
    {
      level: "Leading",
      role: "melody",
      instrument: instrument.name,
      staff: { ...melodyStaff(places, "Leading"), ...staff },
      coaching:
        "You carry the tune: everyone listens to you for the pulse. Start quietly enough to hear the long notes under you.",
      leftOut: [],
    },
    harmony(line, "moving", "Moving"),
    ...(upper ? [harmony(upper, "second", "Moving, second line")] : []),
    {
      level: "First sounds",
      role: "one-note line",
      instrument: instrument.name,
      staff: {
        id: "first",
        name: "First sounds",
        loudness: 0.55,
        ...staff,
        bars: firstSounds(places, plan, instrument),
      },
      coaching:
        "One long bow on each note, starting exactly with the chord. Leave the finger down where the next note is the same.",
      leftOut: ["The rhythm and the runs of the tune: one note to each chord keeps both hands calm."],
    },
  ];
}

/** The chords of a plan as a sheet prints them: where they change, and at the start of each strain. */
export function printedChords(plan: ChordPlan, places: readonly Place[]): SheetChord[] {
  return plan.chords
    .filter((c, i) => {
      const before = plan.chords[i - 1];
      return (
        !before || before.symbol !== c.symbol || (c.at === 0 && places[c.bar]?.strain !== places[before.bar]?.strain)
      );
    })
    .map(({ bar, at, symbol }) => ({ bar, at, symbol }));
}

/** One part, or several, as a sheet to engrave, print or save. */
export function partSheet(
  tune: Tune,
  places: readonly Place[],
  parts: readonly Part[],
  chords: readonly SheetChord[],
): Sheet {
  const names = parts.length === 1 ? `${parts[0]?.level}, ${parts[0]?.instrument}` : "All parts";
  return {
    title: tune.title,
    subtitle: names,
    composer: tune.composer,
    places,
    staves: parts.map((p) => p.staff),
    chords,
    tempo: tempoOf(tune),
  };
}
