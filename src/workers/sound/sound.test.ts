import { readFileSync } from "node:fs";
import { beforeAll, describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { derive, newWork, sheetOf } from "../../core/ensemble";
import { perform } from "../../core/performance";
import { places, tuneSheet } from "../../core/score";
import { type Cue, Engine, QUANTUM } from "./engine";
import { barAt, secondsPerTick, stretchOf } from "./schedule";

const RATE = 48_000;
let bank: ArrayBuffer;
beforeAll(() => {
  const file = readFileSync("public/sound/bank.sf3");
  bank = file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer;
});

/** Renders cues and gives the left side of one channel. */
async function render(program: number, cues: Cue[], seconds: number, channel = 0): Promise<Float32Array> {
  const engine = await Engine.start(RATE, bank.slice(0));
  engine.program(channel, program);
  engine.add(cues);
  const quanta = Math.ceil((seconds * RATE) / QUANTUM);
  const out = new Float32Array(quanta * QUANTUM);
  for (let q = 0; q < quanta; q++) {
    const outputs = Array.from({ length: 16 }, () => [new Float32Array(QUANTUM), new Float32Array(QUANTUM)]);
    engine.render(q * QUANTUM, outputs);
    out.set(outputs[channel]![0]!, q * QUANTUM);
  }
  return out;
}

/** Pitch by the strongest autocorrelation near a guess, with a parabola over the peak. */
function frequency(samples: Float32Array, near: number): number {
  const score = (lag: number) => {
    let sum = 0;
    for (let i = 0; i < 8192; i++) sum += samples[i]! * samples[i + lag]!;
    return sum;
  };
  const [low, high] = [Math.floor(RATE / near / 1.06), Math.ceil((RATE / near) * 1.06)];
  let best = low;
  for (let lag = low; lag <= high; lag++) if (score(lag) > score(best)) best = lag;
  const [a, b, c] = [score(best - 1), score(best), score(best + 1)];
  return RATE / (best + (a - c) / (2 * (a - 2 * b + c)));
}
const loudness = (samples: Float32Array) => Math.sqrt(samples.reduce((sum, s) => sum + s * s, 0) / samples.length);

describe("the sound itself", () => {
  it.each([
    ["accordion", 21, 69, 440],
    ["flute", 73, 74, 587.33],
    ["guitar", 24, 57, 220],
  ])("%s is in tune within twelve cents", async (_, program, key, hertz) => {
    const heard = frequency(
      (await render(program, [{ frame: 0, channel: 0, noteNumber: key, velocity: 90 }], 1)).subarray(14_400),
      hertz,
    );
    expect(Math.abs(1200 * Math.log2(heard / hertz))).toBeLessThan(12);
  });
  it("starts a note in its quantum and not before", async () => {
    const out = await render(24, [{ frame: 12_000, channel: 0, noteNumber: 60, velocity: 100 }], 0.6);
    expect(loudness(out.subarray(0, 11_904))).toBeLessThan(1e-5);
    expect(loudness(out.subarray(12_000, 14_400))).toBeGreaterThan(0.003);
  });
  it("ends a note, and plays louder for a greater velocity", async () => {
    const note = (velocity: number) =>
      render(
        21,
        [
          { frame: 0, channel: 0, noteNumber: 69, velocity },
          { frame: 24_000, channel: 0, noteNumber: 69, velocity: 0 },
        ],
        1.5,
      );
    const [soft, loud] = [await note(50), await note(110)];
    expect(loudness(loud.subarray(9600, 24_000))).toBeGreaterThan(1.3 * loudness(soft.subarray(9600, 24_000)));
    expect(loudness(loud.subarray(60_000))).toBeLessThan(0.1 * loudness(loud.subarray(9600, 24_000)));
  });
  it("has every preset that lines and clicks ask for", async () => {
    for (const [program, key] of [
      [40, 69],
      [115, 76],
    ] as const) {
      expect(
        loudness(await render(program, [{ frame: 0, channel: 15, noteNumber: key, velocity: 100 }], 0.3, 15)),
      ).toBeGreaterThan(0.0005);
    }
  });
});

describe("the schedule", () => {
  const tune = tuneOf("|:a8|b8:|c8|]", { more: "Q:1/4=120\n" });
  const performance = perform(tune, tuneSheet(tune, places(tune)));
  it("turns ticks into seconds at any share of the tempo", () => {
    expect(secondsPerTick(performance, 100) * 3360).toBeCloseTo(0.5, 9);
    expect(secondsPerTick(performance, 50) * 3360).toBeCloseTo(1, 9);
  });
  it("finds the stretch of a loop and the bar that sounds", () => {
    expect(stretchOf(performance.bars, 1, 2)).toEqual({ start: 13440, end: 5 * 13440 });
    expect(stretchOf(performance.bars, 1, 1)).toEqual({ start: 13440, end: 2 * 13440 });
    expect(barAt(performance.bars, 3 * 13440 + 5)?.index).toBe(1);
  });
});

describe("the balance", () => {
  it("carries the tune over every other line", async () => {
    const work = newWork(tuneOf("|:A2|d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2:|", { more: "Q:1/4=140\n" }));
    const derived = derive(work);
    const performance = perform(work.tune, { ...sheetOf(work, derived), chords: derived.plan.chords });
    const perTick = secondsPerTick(performance, 100);
    const levels = new Map<string, number>();
    for (const [i, line] of performance.lines.entries()) {
      const cues = performance.notes
        .filter((s) => s.line === line.id)
        .flatMap((s): Cue[] => [
          { frame: Math.round(s.at * perTick * RATE), channel: i, noteNumber: s.noteNumber, velocity: s.velocity },
          {
            frame: Math.round((s.at + s.ticks) * perTick * RATE) - 1,
            channel: i,
            noteNumber: s.noteNumber,
            velocity: 0,
          },
        ]);
      levels.set(line.id, 20 * Math.log10(loudness(await render(line.program, cues, 6, i))));
    }
    for (const line of ["moving", "first", "chords"])
      expect(levels.get("melody")! - levels.get(line)!).toBeGreaterThan(0.5);
  });
});
