import type { Analysis } from "../../analysis";
import type { ChordPlan } from "../../chords";
import type { Material } from "../../grading";
import { deriveHarmony, type HarmonyLine, THIRDS } from "../../harmony";
import { FIDDLE, type Instrument, instrument } from "../../instruments";
import { lineNotes } from "../../score";

/** What lines are written for, before they are moved by octaves to whoever plays them. */
const WRITTEN_FOR: Readonly<Record<"below" | "above", Instrument>> = {
  below: instrument("viola") ?? FIDDLE,
  above: FIDDLE,
};

/** What parts for a group are written from; harmony lines are made when they are asked for, each once. */
export function materialOf(analysis: Analysis, plan: ChordPlan, tick: number, dance: string | null): Material {
  const { places, form } = analysis;
  const phraseEnds = new Set(form.phrases.map((p) => p.to));
  const known = new Map<string, HarmonyLine>();
  return {
    places,
    chords: plan.chords,
    key: analysis.key.key,
    tick,
    phrases: form.phrases.map((p) => ({
      from: p.from,
      to: p.to,
      like: p.relation === "same" ? (p.model ?? null) : null,
    })),
    melody: lineNotes(places),
    dance,
    harmony: (side, other = false): HarmonyLine => {
      const name = `${side} ${other}`;
      const request = { places, plan, phraseEnds, side, instrument: WRITTEN_FOR[side] };
      const found = known.get(name) ?? deriveHarmony(other ? { ...request, school: THIRDS } : request);
      known.set(name, found);
      return found;
    },
  };
}
