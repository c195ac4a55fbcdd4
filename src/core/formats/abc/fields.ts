import type { ParsedKey, ParsedMetre } from "abcjs/src/parse/abc_parse.js";
import type { Metre } from "../../score";
import { alterIn, type Key, signature, STEPS } from "../../theory";
import { MODE_WORDS } from "./words";

/** Alterations by the parser's names for accidentals. */
export const ALTER: Record<string, number> = { natural: 0, sharp: 1, flat: -1, dblsharp: 2, dblflat: -2 };

/** "1", "1,3", "1-3" as pass numbers; other text gives none. */
export function endingPasses(text: string): number[] {
  const passes = text.split(",").flatMap((piece) => {
    const match = /^\s*(\d+)(?:\s*-\s*(\d+))?/.exec(piece);
    if (!match) return [];
    const [from, to] = [Number(match[1]), Number(match[2] ?? match[1])];
    return Array.from({ length: Math.max(0, Math.min(9, to) - from + 1) }, (_, i) => from + i);
  });
  return passes.filter((p) => p >= 1 && p <= 9);
}

export function metreOf(from: ParsedMetre): Metre | undefined {
  if (from.type === "common_time") return { beats: 4, unit: 4, symbol: "common" };
  if (from.type === "cut_time") return { beats: 2, unit: 2, symbol: "cut" };
  const parts = (from.value ?? []).map(({ num, den }) => ({
    beats: num.split("+").reduce((n, b) => n + (Number(b) || 0), 0),
    unit: Number(den ?? 4),
  }));
  const unit = Math.max(...parts.map((p) => p.unit), 1);
  const beats = parts.reduce((n, p) => n + (p.beats * unit) / p.unit, 0);
  if (![1, 2, 4, 8, 16, 32].includes(unit) || !Number.isInteger(beats) || beats < 1 || beats > 64) return undefined;
  return { beats, unit: unit as Metre["unit"] };
}

/**
 * The key of the parser's signature. What the mode does not explain is kept as extra steps. Pipes sound in A
 * mixolydian.
 */
export function keyOf(from: ParsedKey): Key | undefined {
  if (from.root === "HP" || from.root === "Hp") return { tonic: "A", mode: "mixolydian" };
  if (!/^[A-G]$/.test(from.root)) return undefined;
  const base: Key = { tonic: from.root + from.acc, mode: MODE_WORDS[from.mode.toLowerCase().slice(0, 3)] ?? "major" };
  // Past seven signs the parser draws none; the mode says it all.
  if (Math.abs(signature(base)) > 7) return base;
  const drawn = new Map((from.accidentals ?? []).map((a) => [a.note.toUpperCase(), ALTER[a.acc] ?? 0]));
  const extra = Object.fromEntries(
    STEPS.filter((s) => (drawn.get(s) ?? 0) !== alterIn(base, s)).map((s) => [s, drawn.get(s) ?? 0]),
  );
  return Object.keys(extra).length ? { ...base, extra } : base;
}

/** Keys of more signs than the parser knows, read from their words: "Eb loc". */
export function keyInWords(text: string): Key | undefined {
  const match = /^([A-G][#b]?)\s*([A-Za-z]*)/.exec(text);
  const mode = MODE_WORDS[(match?.[2] ?? "").toLowerCase().slice(0, 3)];
  return match?.[1] && mode ? { tonic: match[1], mode } : undefined;
}
