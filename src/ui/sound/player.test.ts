import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { countIn, perform } from "../../core/performance";
import { places, QUARTER, tuneSheet } from "../../core/score";
import { tuneOf } from "../../testing/abc";
import type { Cue } from "../../workers/sound/engine";
import type { ToWorklet } from "../../workers/sound/protocol";
import { Player, type Take } from "./player";

const RATE = 48_000;

/** An audio context whose clock is moved by hand, and a worklet that writes down what it is told. */
class FakeNode {
  static told: ToWorklet[] = [];
  /** Outputs of every worklet made. */
  static made: number[] = [];
  constructor(_: unknown, __: string, { numberOfOutputs }: { numberOfOutputs: number }) {
    FakeNode.made.push(numberOfOutputs);
  }
  disconnect() {}
  port = {
    onmessage: undefined as ((event: { data: { type: string } }) => void) | undefined,
    postMessage: (message: ToWorklet) => {
      FakeNode.told.push(message);
      if (message.type === "bank") queueMicrotask(() => this.port.onmessage?.({ data: { type: "ready" } }));
    },
  };
  connect(target: unknown) {
    return target;
  }
}
class FakeContext {
  static last: FakeContext;
  currentTime = 10;
  sampleRate = RATE;
  destination = {};
  gains: {
    gain: { value: number; set: number[]; setTargetAtTime: (value: number) => void };
    connect: (t: unknown) => unknown;
  }[] = [];
  audioWorklet = { addModule: async () => {} };
  constructor() {
    FakeContext.last = this;
  }
  async resume() {}
  createGain() {
    const set: number[] = [];
    const gain = {
      gain: { value: 1, set, setTargetAtTime: (value: number) => void set.push(value) },
      connect: (t: unknown) => t,
    };
    this.gains.push(gain);
    return gain;
  }
}

const tune = tuneOf("|:a4 b4|c4 d4:|", { more: "Q:1/4=120\n" });
const performance = perform(tune, tuneSheet(tune, places(tune)), { straight: true, chords: false });
const BAR = 4 * QUARTER;
const take = (over: Partial<Take> = {}): Take => ({
  performance,
  start: 0,
  end: performance.ticks,
  loop: false,
  clicks: [],
  percent: 100,
  ...over,
});

let places_: (number | null)[];
let failures: string[];
let rounds: number[];
let counts: number[];
let player: Player;
beforeEach(() => {
  vi.useFakeTimers();
  FakeNode.told = [];
  FakeNode.made = [];
  vi.stubGlobal("AudioContext", FakeContext);
  vi.stubGlobal("AudioWorkletNode", FakeNode);
  vi.stubGlobal("fetch", async () => ({ ok: true, arrayBuffer: async () => new ArrayBuffer(8) }));
  [places_, failures, rounds, counts] = [[], [], [], []];
  player = new Player({
    place: (tick, round) => {
      places_.push(tick);
      if (tick !== null && rounds.at(-1) !== round) rounds.push(round);
    },
    count: (beat) => {
      if (counts.at(-1) !== beat) counts.push(beat);
    },
    fail: (reason) => void failures.push(reason),
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** Lets the clock run in steps of the player's own. */
function run(seconds: number) {
  for (let t = 0; t < seconds - 1e-9; t += 0.025) {
    FakeContext.last.currentTime += 0.025;
    vi.advanceTimersByTime(25);
  }
}
const cues = (): Cue[] => FakeNode.told.flatMap((m) => (m.type === "cues" ? m.cues : []));
/** Starts of notes in seconds from the start of the take, which begins 80 ms after the clock read 10. */
const starts = (channel = 0) =>
  cues()
    .filter((c) => c.velocity > 0 && c.channel === channel)
    .map((c) => Number((c.frame / RATE - 10.08).toFixed(3)));

describe("the player", () => {
  it("sends every note once, at its time, and stops at the end", async () => {
    await player.play(take());
    run(9);
    expect(starts()).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(cues().filter((c) => c.velocity === 0)).toHaveLength(8);
    expect(places_.at(-1)).toBeNull();
    expect(failures).toEqual([]);
  });
  it("never sends more than a moment ahead", async () => {
    await player.play(take());
    run(2);
    expect(starts().every((s) => s <= 2.1)).toBe(true);
  });
  it("tells the count of each bar before the music, and the rounds of a loop", async () => {
    await player.play(take({ clicks: countIn(places(tune), 0, 2), loop: true, end: BAR / 2 }));
    run(8);
    expect(counts).toEqual([1, 2, 3, 4, 1, 2, 3, 4].slice(0, counts.length));
    expect(counts.length).toBeGreaterThan(1);
    run(4);
    expect(rounds.slice(0, 3)).toEqual([0, 1, 2]);
  });
  it("counts in before the first note", async () => {
    await player.play(take({ clicks: countIn(places(tune), 0, 1) }));
    run(4.5);
    expect(starts(15)).toEqual([0, 0.5, 1, 1.5]);
    expect(starts()).toEqual([2, 3, 4]);
    const strong = cues()
      .filter((c) => c.channel === 15 && c.velocity > 0)
      .map((c) => c.noteNumber);
    expect(strong).toEqual([76, 77, 77, 77]);
  });
  it("loops without a gap, and tells places inside the loop", async () => {
    await player.play(take({ start: BAR, end: 2 * BAR, loop: true }));
    run(7);
    expect(starts()).toEqual([0, 1, 2, 3, 4, 5, 6, 7].slice(0, starts().length));
    expect(starts().length).toBeGreaterThanOrEqual(7);
    expect(
      new Set(
        cues()
          .filter((c) => c.velocity > 0)
          .map((c) => c.noteNumber),
      ),
    ).toEqual(new Set([73, 74]));
    for (const tick of places_) if (tick !== null) expect(tick >= BAR && tick < 2 * BAR).toBe(true);
  });
  it("goes on at another speed from where it is", async () => {
    await player.play(take());
    run(2);
    player.setPercent(50);
    run(4);
    const [at2, at3, at4] = [starts()[2]!, starts()[3]!, starts()[4]!];
    expect(at2).toBeCloseTo(2, 2);
    expect(at4 - at3).toBeCloseTo(2, 2);
  });
  it("plays half as fast at half the tempo", async () => {
    await player.play(take({ percent: 50 }));
    run(5);
    expect(starts()).toEqual([0, 2, 4]);
  });
  it("keeps to a change of tempo inside the tune, through loops and at any share of it", async () => {
    const slower = { ...performance, tempos: [...performance.tempos, { at: BAR, beat: QUARTER, bpm: 60 }] };
    await player.play(take({ performance: slower, end: 2 * BAR, loop: true }));
    run(9);
    expect(starts()).toEqual([0, 1, 2, 4, 6, 7, 8]);
    FakeNode.told = [];
    const begun = FakeContext.last.currentTime;
    await player.play(take({ performance: slower, end: 2 * BAR, percent: 50 }));
    run(9);
    expect(starts().map((s) => Number((s - (begun - 10)).toFixed(2)))).toEqual([0, 2, 4, 8]);
  });
  it("counts in at the tempo of the bar it counts in", async () => {
    const slower = { ...performance, tempos: [...performance.tempos, { at: BAR, beat: QUARTER, bpm: 60 }] };
    await player.play(take({ performance: slower, start: BAR, clicks: countIn(places(tune), 0, 1) }));
    run(4.5);
    expect(starts(15)).toEqual([0, 1, 2, 3]);
  });
  it("gives forty lines an output each, the click after them", async () => {
    const lines = Array.from({ length: 40 }, (_, i) => ({ id: `line ${i}`, name: "", program: 40 + (i % 3) }));
    const notes = lines.map((l) => ({ line: l.id, at: 0, ticks: BAR, noteNumber: 69, cents: 0, velocity: 90 }));
    await player.play(take());
    await player.play(
      take({ performance: { ...performance, lines, notes }, clicks: [{ at: -QUARTER, strong: true }] }),
    );
    run(2);
    const sounded = cues().filter((c) => c.velocity > 0);
    expect(new Set(sounded.map((c) => c.channel))).toEqual(new Set(Array.from({ length: 41 }, (_, i) => i)));
    const told = FakeNode.told.filter((m) => m.type === "programs").at(-1)!;
    expect(told.programs).toEqual([...lines.map((l) => l.program), 115]);
    expect(FakeNode.made).toEqual([16, 41]);
  });
  it("mutes a line by its gain and lets it back", async () => {
    await player.play(take());
    player.setMuted(["melody"]);
    player.setMuted([]);
    const line = FakeContext.last.gains[1]!;
    expect(line.gain.set.slice(-2)).toEqual([0, 1]);
  });
  it("plays a line louder or quieter than it is, and not at all while it is muted", async () => {
    await player.play(take());
    player.setLevels(new Map([["melody", 0.4]]));
    player.setMuted(["melody"]);
    player.setMuted([]);
    const line = FakeContext.last.gains[1]!;
    expect(line.gain.set.slice(-3)).toEqual([0.4, 0, 0.4]);
    // The next take keeps the balance.
    await player.play(take());
    expect(FakeContext.last.gains[1]!.gain.set.at(-1)).toBe(0.4);
  });
  it("stops at once and forgets what it had sent", async () => {
    await player.play(take());
    run(1);
    player.stop();
    const before = cues().length;
    run(2);
    expect(cues()).toHaveLength(before);
    expect(FakeNode.told.at(-1)).toEqual({ type: "silence" });
  });
  it("starting again does not report a rest in between", async () => {
    await player.play(take());
    run(0.5);
    places_ = [];
    await player.play(take());
    run(0.5);
    expect(places_).not.toContain(null);
  });
  it("says what is missing when the sounds are not there", async () => {
    vi.stubGlobal("fetch", async () => ({ ok: false }));
    await player.play(take());
    expect(failures).toEqual(["The sounds are missing. Run npm run setup and start again."]);
    expect(places_.at(-1)).toBeNull();
  });
});
