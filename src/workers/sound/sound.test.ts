import { readFileSync } from "node:fs";
import { beforeAll, describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { changeGroove, derive, newWork, performed, sheetOf } from "../../core/ensemble";
import { CHORD_LINE, clockOf, perform } from "../../core/performance";
import { INSTRUMENTS } from "../../core/instruments";
import { places, tuneSheet } from "../../core/score";
import { midi } from "../../core/theory";
import { type Cue, Engine, QUANTUM } from "./engine";
import { PRESETS, soundedAs } from "./presets";
import { barAt, stretchOf } from "./schedule";

const RATE = 48_000;
/** Instruments that sound as another one does. */
const KIN: Record<string, string> = {
  "octave mandola": "guitar",
  "tenor banjo": "guitar",
  ukulele: "small lute",
  bass: "cello",
  "plucked bass": "guitar",
  harp: "small lute",
  "soprano recorder": "flute",
  "alto recorder": "flute",
  "button accordion B/C": "accordion",
  "button accordion D/G": "accordion",
  soprano: "voice",
  alto: "voice",
  tenor: "voice",
  "bass voice": "voice",
};
for (const lowest of ["C", "G", "F", "Bb", "Eb"]) KIN[`${lowest} whistle`] = "whistle";
let bank: ArrayBuffer;
beforeAll(() => {
  const file = readFileSync("public/sound/bank.sf3");
  bank = file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer;
});

/** Renders cues and gives the left side of one channel of so many. */
async function render(program: number, cues: Cue[], seconds: number, channel = 0, outputs = 16): Promise<Float32Array> {
  const engine = await Engine.start(RATE, bank.slice(0));
  engine.setPrograms(new Array<number>(outputs).fill(program));
  engine.add(cues);
  const quanta = Math.ceil((seconds * RATE) / QUANTUM);
  const out = new Float32Array(quanta * QUANTUM);
  for (let q = 0; q < quanta; q++) {
    const pairs = Array.from({ length: outputs }, () => [new Float32Array(QUANTUM), new Float32Array(QUANTUM)]);
    engine.render(q * QUANTUM, pairs);
    out.set(pairs[channel]![0]!, q * QUANTUM);
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
  it("moves a note by its cents, and the next on its key is in tune again", async () => {
    const cue = (frame: number, cents?: number) => ({
      frame,
      channel: 0,
      noteNumber: 69,
      velocity: 90,
      ...(cents ? { cents } : {}),
    });
    const off = (frame: number) => ({ frame, channel: 0, noteNumber: 69, velocity: 0 });
    const plain = await render(21, [cue(0)], 1);
    const low = await render(21, [cue(0, -14)], 1);
    const again = await render(21, [cue(0, -14), off(24_000), cue(48_000)], 2);
    const cents = (out: Float32Array, from: number) =>
      1200 * Math.log2(frequency(out.subarray(from), 440) / frequency(plain.subarray(14_400), 440));
    expect(Math.abs(cents(low, 14_400) + 14)).toBeLessThan(2);
    expect(Math.abs(cents(again, 62_400))).toBeLessThan(1);
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
  it.each(INSTRUMENTS.map((i) => [i.name, i] as const))(
    "the %s has a preset, its own or its next of kin's, over its whole range",
    (name, i) => {
      const own = PRESETS.filter((p) => p.as === i.program);
      expect(own.map((p) => p.name)).toEqual([KIN[name] ?? name]);
      // What lies outside the keys of a kin's preset sounds an octave nearer.
      for (const pitch of [i.lowest, i.highest]) {
        const sounded = soundedAs(i.program, midi(pitch));
        expect(sounded).toBeGreaterThanOrEqual(own[0]!.keys[0]);
        expect(sounded).toBeLessThanOrEqual(own[0]!.keys[1]);
        expect(Math.abs(sounded - midi(pitch)) % 12).toBe(0);
        if (!KIN[name]) expect(sounded).toBe(midi(pitch));
      }
    },
  );
  it("no two presets answer to one program, and the chords have theirs", () => {
    expect(new Set(PRESETS.map((p) => p.as)).size).toBe(PRESETS.length);
    expect(PRESETS.find((p) => p.as === CHORD_LINE.program)?.name).toBe("chords");
  });
  it.each(PRESETS.map((p) => [p.name, p] as const))(
    "the %s sounds on the lowest and the highest of its keys",
    async (_, p) => {
      for (const noteNumber of p.keys) {
        const out = await render(p.as, [{ frame: 0, channel: 0, noteNumber, velocity: 100 }], 0.3);
        expect(loudness(out)).toBeGreaterThan(0.0003);
      }
    },
  );
  it("plays a note on any channel of forty, the tenth too, and on no other", async () => {
    for (const channel of [9, 15, 16, 25, 39]) {
      const cues = [{ frame: 0, channel, noteNumber: 69, velocity: 100 }];
      const heard = await render(21, cues, 0.6, channel, 40);
      expect(Math.abs(1200 * Math.log2(frequency(heard.subarray(14_400), 440) / 440))).toBeLessThan(12);
      expect(loudness(await render(21, cues, 0.3, channel - 1, 40))).toBe(0);
    }
  });
});

describe("the schedule", () => {
  const tune = tuneOf("|:a8|b8:|c8|]", { more: "Q:1/4=120\n" });
  const performance = perform(tune, tuneSheet(tune, places(tune)));
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
    const frame = (tick: number) => Math.round(clockOf(performance).seconds(tick) * RATE);
    const levels = new Map<string, number>();
    for (const [i, line] of performance.lines.entries()) {
      const cues = performance.notes
        .filter((s) => s.line === line.id)
        .flatMap(({ at, ticks, noteNumber, velocity }): Cue[] => [
          { frame: frame(at), channel: i, noteNumber, velocity },
          { frame: frame(at + ticks) - 1, channel: i, noteNumber, velocity: 0 },
        ]);
      levels.set(line.id, 20 * Math.log10(loudness(await render(line.program, cues, 6, i))));
    }
    for (const line of ["moving", "first", "chords"])
      expect(levels.get("melody")! - levels.get(line)!).toBeGreaterThan(0.5);
  });
});

describe("a jig as it is danced", () => {
  /** The same note six times to the bar, so that nothing but the accent tells them apart. */
  const danced = (dance: string, abc: string, metre: string, tempo: string) => {
    const plain = newWork(tuneOf(abc, { metre, key: "D", more: `Q:${tempo}\n` }));
    const work = changeGroove(plain, { groove: dance });
    const derived = derive(work);
    const performance = performed(work, derived, sheetOf(work, derived, "melody"), { chords: false });
    const clock = clockOf(performance);
    return performance.notes.map((n) => ({
      at: clock.seconds(n.at),
      until: clock.seconds(n.at + n.ticks),
      noteNumber: n.noteNumber,
      velocity: n.velocity,
    }));
  };
  const sounded = async (notes: ReturnType<typeof danced>, program: number) => {
    const cues = notes.flatMap(({ at, until, noteNumber, velocity }): Cue[] => [
      { frame: Math.round(at * RATE), channel: 0, noteNumber, velocity },
      { frame: Math.round(until * RATE), channel: 0, noteNumber, velocity: 0 },
    ]);
    return render(program, cues, (notes.at(-1)?.until ?? 0) + 0.2);
  };
  it.each([
    ["flute", 73],
    ["accordion", 21],
    ["fiddle", 40],
  ])("on the %s beats 1 and 4 are heard louder than the others, each where the groove has it", async (_, program) => {
    const notes = danced("jig", "AAA AAA|AAA AAA|AAA AAA|", "6/8", "3/8=119");
    const out = await sounded(notes, program);
    const levels = notes.map(({ at }) => {
      const from = Math.round(at * RATE);
      return loudness(out.subarray(from, from + Math.round(0.12 * RATE)));
    });
    const on = levels.filter((_l, i) => i % 3 === 0);
    const off = levels.filter((_l, i) => i % 3 !== 0);
    const mean = (all: number[]) => all.reduce((a, b) => a + b, 0) / all.length;
    expect(mean(on)).toBeGreaterThan(1.25 * mean(off));
    expect(Math.min(...on.slice(1))).toBeGreaterThan(mean(off));
    // Round and lilting: 35, 31 and 34 of a beat that lasts 60/119 seconds.
    const beat = 60 / 119;
    expect(notes.slice(0, 4).map((n) => Math.round((n.at / beat) * 100))).toEqual([0, 35, 66, 100]);
  });
  it("a hornpipe's second eighths are heard as late as its swing says", async () => {
    const notes = danced("hornpipe", "AzAz AzAz|", "4/4", "1/4=170");
    const swung = danced("hornpipe", "zAzA zAzA|", "4/4", "1/4=170");
    const out = await sounded(swung, 73);
    const begins = (near: number) => {
      const from = Math.round((near - 0.05) * RATE);
      for (let i = from; i < from + RATE * 0.12; i += 48)
        if (loudness(out.subarray(i, i + 240)) > 0.004) return i / RATE;
      return Number.NaN;
    };
    const [first, second] = swung as [(typeof swung)[number], (typeof swung)[number]];
    // The second eighth is late by its share of the beat, in the sound too.
    expect(begins(second.at) - begins(first.at)).toBeCloseTo(60 / 170, 2);
    expect(notes[0]!.at).toBe(0);
    expect((first.at * 170) / 60).toBeGreaterThan(0.58);
  });
});
