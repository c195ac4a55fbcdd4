"use client";
import { type Clock, clockOf, takeClock } from "../../core/performance";
import { lateness } from "../../core/feel";
import type { Performance } from "../../core/score";
import type { Cue } from "../../workers/sound/engine";
import { type ClapSource, clapperOf, hearClaps, microphone } from "./clapping";
import type { FromWorklet, ToWorklet } from "../../workers/sound/protocol";

/** Milliseconds between looks at the clock, and seconds of cues kept ahead of it. */
const TICK = 25;
const AHEAD = 0.15;
/** Brings the whole group to about half of full scale at its loudest. */
const WHOLE = 4;
/** The click has the last output, after every line's. It sounds for a tenth of a second. */
const CLICK = {
  program: 115,
  seconds: 0.1,
  strong: { noteNumber: 76, velocity: 112 },
  weak: { noteNumber: 77, velocity: 90 },
};

export type Take = {
  performance: Performance;
  /** Played ticks to start from and to end at. */
  start: number;
  end: number;
  loop: boolean;
  /** Clicks before the start, in ticks relative to it. */
  clicks: readonly { at: number; strong: boolean }[];
  percent: number;
};

/** Outputs made at first, a stereo pair a line: enough for a small group. More are made when a take needs them. */
const OUTPUTS = 16;
/** Time between asking for a take and its first sound. Seconds. */
const SOON = 0.08;
/** Farther than this from any note a tap is meant for none. Seconds. */
const FAR = 0.3;
/** Fastest a line is turned on or off without a knock. Seconds. */
const FADE = 0.01;

/** The worklet with one gain for each of its outputs. */
type Sound = { node: AudioWorkletNode; gains: readonly GainNode[] };

/** Who is told of what the player does. */
export type Hearer = {
  /** Where the music is: a played tick and the round of its loop from 0; null at rest. */
  place: (tick: number | null, round: number) => void;
  /** The number of the click that has just sounded in its bar. */
  count: (beat: number) => void;
  fail: (reason: string) => void;
};

/** Plays performances on the device's own synthesiser, and tells where it is. */
export class Player {
  private context: AudioContext | undefined;
  private sound: Sound | undefined;
  private bank: ArrayBuffer | undefined;
  private making: Promise<unknown> = Promise.resolve();
  private timer: ReturnType<typeof setInterval> | undefined;
  private take: Take | undefined;
  private clock: Clock | undefined;
  /** Audio time of a moment of the take, in seconds at the written tempo; a change of tempo moves both. */
  private origin = { time: 0, at: 0 };
  /** Tick, counted on through loops, up to which cues have been sent; and how many clicks have. */
  private sent = 0;
  private clicked = 0;
  private muted = new Set<string>();
  private levels: ReadonlyMap<string, number> = new Map();
  private channels = new Map<string, number>();

  constructor(private hears: Hearer) {}

  /** A worklet with outputs enough, one made after another; the first call must come from a user's gesture. */
  private ready(outputs: number): Promise<unknown> {
    this.making = this.making.catch(() => undefined).then(() => this.make(outputs));
    return this.making;
  }
  private async make(outputs: number): Promise<void> {
    if (this.sound && this.sound.gains.length >= outputs) return;
    this.context ??= new AudioContext({ latencyHint: "interactive" });
    await inTime(
      this.context.audioWorklet.addModule("/worklets/sound.js"),
      "The synthesiser could not be loaded in time.",
    );
    this.bank ??= await fetchBank();
    this.sound?.node.disconnect();
    this.sound = await soundOf(this.context, this.bank.slice(0), Math.max(OUTPUTS, outputs));
    const { node } = this.sound;
    node.onprocessorerror = () => this.broken(node);
  }

  /** The synthesiser has died: the next take starts another. */
  private broken(node: AudioWorkletNode) {
    if (this.sound?.node !== node) return;
    node.disconnect();
    this.sound = undefined;
    this.stop();
    this.hears.fail("the synthesiser stopped. Play again to start it anew.");
  }

  private tell(message: ToWorklet) {
    this.sound?.node.port.postMessage(message);
  }

  /** Starts a take from its clicks. */
  async play(take: Take): Promise<void> {
    this.halt();
    this.take = take;
    const { lines } = take.performance;
    try {
      await this.ready(lines.length + 1);
      if (this.context) await inTime(this.context.resume(), "no sound device answers. Look whether one is connected.");
    } catch (error) {
      this.stop();
      this.hears.fail(error instanceof Error ? error.message : String(error));
    }
    if (this.take !== take || !this.context || !this.sound) return;
    this.channels = new Map(lines.map((line, i) => [line.id, i]));
    const programs = this.sound.gains.map((_, i) => lines[i]?.program ?? CLICK.program);
    this.tell({ type: "programs", programs });
    this.mix();
    this.clock = takeClock(clockOf(take.performance), take.start, take.end, take.loop);
    const first = this.clock.seconds(take.start + (take.clicks[0]?.at ?? 0));
    this.origin = { time: this.context.currentTime + SOON, at: first };
    this.sent = take.start;
    this.clicked = 0;
    this.timer = setInterval(() => this.pump(), TICK);
    this.pump();
  }

  stop(): void {
    this.halt();
    this.hears.place(null, 0);
  }

  private halt() {
    if (this.timer) clearInterval(this.timer);
    this.timer = undefined;
    if (this.take) this.tell({ type: "silence" });
    this.take = undefined;
    this.clock = undefined;
  }

  /** Changes speed without a gap; cues already sent keep theirs. */
  setPercent(percent: number): void {
    if (!this.take || !this.context || !this.clock) return;
    const time = Math.max(this.origin.time, this.context.currentTime + AHEAD);
    this.origin = { time, at: this.momentAt(time, this.take) };
    this.take = { ...this.take, percent };
  }

  setMuted(lines: Iterable<string>): void {
    this.muted = new Set(lines);
    this.mix();
  }
  /** Makes lines louder or quieter than they are played: 1 is as played. */
  setLevels(levels: ReadonlyMap<string, number>): void {
    this.levels = levels;
    this.mix();
  }
  private mix() {
    const now = this.context?.currentTime ?? 0;
    for (const [line, channel] of this.channels) {
      const level = this.muted.has(line) ? 0 : (this.levels.get(line) ?? 1);
      this.sound?.gains[channel]?.gain.setTargetAtTime(level, now, FADE);
    }
  }

  /** The audio time that is heard at a moment of the page's clock (milliseconds). */
  private heardAt(now: number, context: AudioContext): number {
    const { contextTime = 0, performanceTime = 0 } = context.getOutputTimestamp();
    if (contextTime > 0) return contextTime + (now - performanceTime) / 1000;
    return context.currentTime - (context.outputLatency || 0) + (now - performance.now()) / 1000;
  }

  /**
   * How late a tap is against the nearest of some ticks of the take, in milliseconds, early below 0, with the tick it
   * falls on; undefined while nothing plays, and far from all of them. The tap is a moment of the page's clock, or of
   * the sound's.
   */
  late(
    tap: { page: number } | { sound: number },
    ticks: readonly number[],
  ): { late: number; tick: number } | undefined {
    const { take, clock, context } = this;
    if (!take || !clock || !context) return undefined;
    const time = "page" in tap ? this.heardAt(tap.page, context) : tap.sound;
    const tick = clock.tick(this.momentAt(time, take));
    const length = take.end - take.start;
    const shift = take.loop ? Math.max(0, Math.floor((tick - take.start) / length)) * length : 0;
    const own = ticks.filter((t) => t >= take.start && t < take.end);
    const all = take.loop && own[0] !== undefined ? [...own, own[0] + length] : own;
    const seconds = (at: number) => (clock.seconds(at) * 100) / take.percent;
    const late = lateness(
      seconds(tick),
      all.map((t) => seconds(t + shift)),
      FAR,
    );
    return late === undefined ? undefined : { late: late * 1000, tick: inLoop(Math.max(take.start, tick), take) };
  }

  /**
   * Hears claps while a take plays: those of the microphone, or of a clapper who claps on some ticks of it, to practise
   * without one. Gives what ends it. Throws where there is no microphone, or it is not allowed.
   */
  async listen(clapper: "microphone" | readonly number[], heard: (time: number) => void): Promise<() => void> {
    await this.ready(0);
    const { context } = this;
    if (!context) throw new Error("no sound device answers.");
    const source = clapper === "microphone" ? await microphone(context) : this.simulated(context, clapper);
    const deaf = hearClaps(context, source.node, heard);
    return () => {
      deaf();
      source.end();
    };
  }

  /** A clapper who claps along with what is still to come of this round. */
  private simulated(context: AudioContext, ticks: readonly number[]): ClapSource {
    const { take, clock } = this;
    const from = context.currentTime + SOON;
    if (!take || !clock) return clapperOf(context, [], from);
    const times = ticks
      .filter((t) => t >= take.start && t < take.end)
      .map((t) => this.frameOf(t, clock, take, context.sampleRate) / context.sampleRate);
    return clapperOf(
      context,
      times.filter((t) => t > from),
      from,
    );
  }

  /** The moment of the take at an audio time, and the frame of the audio clock a tick falls on. */
  private momentAt(time: number, { percent }: Take): number {
    return this.origin.at + ((time - this.origin.time) * percent) / 100;
  }
  private frameOf(tick: number, clock: Clock, take: Take, rate: number): number {
    const seconds = this.origin.time + ((clock.seconds(tick) - this.origin.at) * 100) / take.percent;
    return Math.max(0, Math.round(seconds * rate));
  }

  /** Sends what falls due soon, and tells where the music is. */
  private pump() {
    const { take, context, clock } = this;
    if (!take || !context || !clock) return;
    const tickAt = (time: number) => clock.tick(this.momentAt(time, take));
    const horizon = tickAt(context.currentTime + AHEAD);
    const frame = (tick: number) => this.frameOf(tick, clock, take, context.sampleRate);
    const cues = [...this.clicksDue(take, horizon, frame, context.sampleRate), ...this.notesDue(take, horizon, frame)];
    if (cues.length) this.tell({ type: "cues", cues });
    const now = tickAt(context.currentTime);
    if (!take.loop && now >= take.end) this.stop();
    else if (now >= take.start) this.hears.place(inLoop(now, take), roundOf(now, take));
    else this.tellCount(now - take.start, take);
  }

  private tellCount(now: number, { clicks }: Take) {
    const here = clicks.findLastIndex(({ at }) => at <= now);
    const strong = clicks.slice(0, here + 1).findLastIndex((c) => c.strong);
    if (here >= 0) this.hears.count(here - Math.max(0, strong) + 1);
  }

  private clicksDue(take: Take, horizon: number, frameOf: (tick: number) => number, rate: number): Cue[] {
    const channel = (this.sound?.gains.length ?? 1) - 1;
    const due = take.clicks.slice(this.clicked).filter(({ at }) => take.start + at <= horizon);
    this.clicked += due.length;
    return due.flatMap(({ at, strong }) => {
      const { noteNumber, velocity } = strong ? CLICK.strong : CLICK.weak;
      const frame = frameOf(take.start + at);
      const end = frame + Math.round(CLICK.seconds * rate);
      return [
        { frame, channel, noteNumber, velocity },
        { frame: end, channel, noteNumber, velocity: 0 },
      ];
    });
  }

  private notesDue(take: Take, horizon: number, frameOf: (tick: number) => number): Cue[] {
    const length = take.end - take.start;
    const cues: Cue[] = [];
    while (this.sent < horizon) {
      const shift = take.loop ? Math.floor((this.sent - take.start) / length) * length : 0;
      const from = this.sent - shift;
      if (from >= take.end) break;
      const until = Math.min(horizon - shift, take.end);
      for (const { line, at, ticks, noteNumber, velocity, cents } of take.performance.notes) {
        if (at < from || at >= until) continue;
        const channel = this.channels.get(line) ?? 0;
        const off = Math.min(at + ticks, take.end) + shift;
        // A note ends a frame before the next may begin on the same key.
        cues.push(
          { frame: frameOf(at + shift), channel, noteNumber, velocity, ...(cents ? { cents } : {}) },
          { frame: Math.max(0, frameOf(off) - 1), channel, noteNumber, velocity: 0 },
        );
      }
      this.sent = until + shift;
    }
    return cues;
  }
}

/** A counted tick as the tick of the written stretch it plays. */
const inLoop = (tick: number, { loop, start, end }: Take): number =>
  loop ? start + ((tick - start) % (end - start)) : tick;

/** How many times the stretch has been played before, from 0. */
const roundOf = (tick: number, { loop, start, end }: Take): number =>
  loop ? Math.floor((tick - start) / (end - start)) : 0;

/** Longest that any step of starting the sound may take. Milliseconds. */
const PATIENCE = 15_000;

/** What a step gives; throws the words where it takes too long. */
async function inTime<T>(step: Promise<T>, words: string): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error(words)), PATIENCE);
  });
  try {
    return await Promise.race([step, late]);
  } finally {
    clearTimeout(timer);
  }
}

async function fetchBank(): Promise<ArrayBuffer> {
  const response = await fetch("/sound/bank.sf3", { signal: AbortSignal.timeout(PATIENCE) });
  if (!response.ok) throw new Error("The sounds are missing. Run npm run setup and start again.");
  return response.arrayBuffer();
}

/** A worklet that has taken in the bank, every output through a gain of its own. */
async function soundOf(context: AudioContext, bank: ArrayBuffer, outputs: number): Promise<Sound> {
  const node = new AudioWorkletNode(context, "sound", {
    numberOfInputs: 0,
    numberOfOutputs: outputs,
    outputChannelCount: new Array<number>(outputs).fill(2),
  });
  const whole = context.createGain();
  whole.gain.value = WHOLE;
  whole.connect(context.destination);
  const gains = Array.from({ length: outputs }, (_, i) => {
    const gain = context.createGain();
    node.connect(gain, i).connect(whole);
    return gain;
  });
  const taken = new Promise<void>((resolve, reject) => {
    node.onprocessorerror = () => reject(new Error("the synthesiser could not be started."));
    node.port.onmessage = ({ data }: MessageEvent<FromWorklet>) =>
      data.type === "ready" ? resolve() : reject(new Error(data.reason));
    node.port.postMessage({ type: "bank", bank } satisfies ToWorklet, [bank]);
  });
  await inTime(taken, "the synthesiser does not answer.");
  return { node, gains };
}
