import type { Metre } from "../../score";
import { alterIn, fifthsName, type Key, MODE_FIFTHS, type Mode, STEPS, type Step } from "../../theory";
import { all, child, type Node, numberOf, textOf } from "./document";

const MODES_OF: Record<string, Mode> = {
  major: "major",
  ionian: "major",
  minor: "minor",
  aeolian: "minor",
  dorian: "dorian",
  phrygian: "phrygian",
  lydian: "lydian",
  mixolydian: "mixolydian",
  locrian: "locrian",
};

/** The key of a <key> element: by its fifths and mode, or by the steps it bends one by one. */
export function keyOf(node: Node | undefined): Key | undefined {
  if (!node) return undefined;
  const fifths = numberOf(node, "fifths");
  const mode = MODES_OF[textOf(node, "mode").toLowerCase()] ?? "major";
  if (fifths !== undefined)
    return { tonic: fifthsName(Math.max(-11, Math.min(11, Math.round(fifths))) - MODE_FIFTHS[mode]), mode };
  const steps = all(node, "key-step").map((n) => n.text.trim().toUpperCase() as Step);
  const alters = all(node, "key-alter").map((n) => Math.max(-2, Math.min(2, Math.round(Number(n.text)) || 0)));
  if (steps.length === 0) return undefined;
  const given = new Map(steps.map((s, i) => [s, alters[i] ?? 0]));
  const base: Key = { tonic: "C", mode: "major" };
  const extra = Object.fromEntries(
    STEPS.filter((s) => (given.get(s) ?? 0) !== alterIn(base, s)).map((s) => [s, given.get(s) ?? 0]),
  );
  return Object.keys(extra).length ? { ...base, extra } : base;
}

/** The metre of a <time> element; composite beats are added up. Undefined where it cannot be one. */
export function metreOf(node: Node | undefined): Metre | undefined {
  if (!node) return undefined;
  if (child(node, "senza-misura")) return { beats: 4, unit: 4, symbol: "free" };
  const units = all(node, "beat-type").map((n) => Number(n.text.trim()));
  const beats = all(node, "beats").map((n) => n.text.split("+").reduce((sum, b) => sum + (Number(b.trim()) || 0), 0));
  const unit = Math.max(...units, 1);
  const total = beats.reduce((sum, b, i) => sum + (b * unit) / (units[i] ?? unit), 0);
  if (![1, 2, 4, 8, 16, 32].includes(unit) || !Number.isInteger(total) || total < 1 || total > 64) return undefined;
  const printed = node.attributes.symbol;
  const symbol =
    (printed === "common" && total === 4 && unit === 4) || (printed === "cut" && total === 2 && unit === 2)
      ? printed
      : undefined;
  return { beats: total, unit: unit as Metre["unit"], ...(symbol ? { symbol } : {}) };
}
