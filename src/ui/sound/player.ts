"use client";
import type { Performance } from "../../core/score";
import type { Cue } from "../../workers/sound/engine";
import { type FromWorklet, OUTPUTS, type ToWorklet } from "../../workers/sound/protocol";
import { secondsPerTick } from "../../workers/sound/schedule";

/** Milliseconds between looks at the clock, and seconds of cues kept ahead of it. */
const TICK = 25;
const AHEAD = 0.15;
/** Brings the whole group to about half of full scale at its loudest. */
const WHOLE = 4;
const CLICK = {
  channel: OUTPUTS - 1,
  program: 115,
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

/**
 * Plays performances on the device's own synthesiser. Tells where it is through `onPlace`: a played tick, or null at
 * rest.
 */
export class Player {
  private context: AudioContext | undefined;
  private node: AudioWorkletNode | undefined;
  private gains: GainNode[] = [];
  private starting: Promise<void> | undefined;
  private timer: ReturnType<typeof setInterval> | undefined;
  private take: Take | undefined;
  /** Audio time of a tick of the take; a change of tempo moves both. */
  private origin = { time: 0, tick: 0 };
  /** Tick, counted on through loops, up to which cues have been sent; and how many clicks have. */
  private sent = 0;
  private clicked = 0;
  private muted = new Set<string>();
  private channels = new Map<string, number>();

  constructor(
    private onPlace: (tick: number | null) => void,
    private onFailure: (reason: string) => void,
  ) {}

  /** Loads worklet and bank; the first call must come from a user's gesture. */
  private start(): Promise<void> {
    this.starting ??= (async () => {
      const context = new AudioContext({ latencyHint: "interactive" });
      this.context = context;
      await context.audioWorklet.addModule("/worklets/sound.js");
      const response = await fetch("/sound/bank.sf3");
      if (!response.ok) throw new Error("The sounds are missing. Run npm run setup and start again.");
      const bank = await response.arrayBuffer();
      const node = new AudioWorkletNode(context, "sound", {
        numberOfInputs: 0,
        numberOfOutputs: OUTPUTS,
        outputChannelCount: new Array<number>(OUTPUTS).fill(2),
      });
      const whole = context.createGain();
      whole.gain.value = WHOLE;
      whole.connect(context.destination);
      this.gains = Array.from({ length: OUTPUTS }, (_, i) => {
        const gain = context.createGain();
        node.connect(gain, i).connect(whole);
        return gain;
      });
      await new Promise<void>((resolve, reject) => {
        node.port.onmessage = ({ data }: MessageEvent<FromWorklet>) =>
          data.type === "ready" ? resolve() : reject(new Error(data.reason));
        node.port.postMessage({ type: "bank", bank } satisfies ToWorklet, [bank]);
      });
      this.node = node;
    })();
    return this.starting;
  }

  private tell(message: ToWorklet) {
    this.node?.port.postMessage(message);
  }

  /** Starts a take from its clicks. */
  async play(take: Take): Promise<void> {
    this.halt();
    this.take = take;
    try {
      await this.start();
      await this.context?.resume();
    } catch (error) {
      this.starting = undefined;
      this.stop();
      this.onFailure(error instanceof Error ? error.message : String(error));
      return;
    }
    if (this.take !== take || !this.context) return;
    this.channels = new Map(take.performance.lines.map((line, i) => [line.id, i]));
    const programs = new Array<number>(OUTPUTS).fill(0);
    take.performance.lines.forEach((line, i) => {
      programs[i] = line.program;
    });
    programs[CLICK.channel] = CLICK.program;
    this.tell({ type: "programs", programs });
    this.setMuted(this.muted);
    const lead = -(take.clicks[0]?.at ?? 0) * secondsPerTick(take.performance, take.percent);
    this.origin = { time: this.context.currentTime + 0.08 + lead, tick: take.start };
    this.sent = take.start;
    this.clicked = 0;
    this.timer = setInterval(() => this.pump(), TICK);
    this.pump();
  }

  stop(): void {
    this.halt();
    this.onPlace(null);
  }

  private halt() {
    if (this.timer) clearInterval(this.timer);
    this.timer = undefined;
    if (this.take) this.tell({ type: "silence" });
    this.take = undefined;
  }

  /** Changes speed without a gap; cues already sent keep theirs. */
  setPercent(percent: number): void {
    if (!this.take || !this.context) return;
    const now = Math.max(this.origin.time, this.context.currentTime + AHEAD);
    this.origin = { time: now, tick: this.tickAt(now) };
    this.take = { ...this.take, percent };
  }

  setMuted(lines: Iterable<string>): void {
    this.muted = new Set(lines);
    for (const [line, channel] of this.channels) {
      if (this.context)
        this.gains[channel]?.gain.setTargetAtTime(this.muted.has(line) ? 0 : 1, this.context.currentTime, 0.01);
    }
  }

  private tickAt(time: number): number {
    const { performance, percent } = this.take as Take;
    return this.origin.tick + (time - this.origin.time) / secondsPerTick(performance, percent);
  }

  /** Sends what falls due soon, and tells where the music is. */
  private pump() {
    const { take, context } = this;
    if (!take || !context) return;
    const horizon = this.tickAt(context.currentTime + AHEAD);
    const cues = [...this.clicksDue(take, context), ...this.notesDue(take, context, horizon)];
    if (cues.length) this.tell({ type: "cues", cues });
    const now = this.tickAt(context.currentTime);
    if (!take.loop && now >= take.end) this.stop();
    else if (now >= take.start)
      this.onPlace(take.loop ? take.start + ((now - take.start) % (take.end - take.start)) : now);
  }

  private clicksDue(take: Take, context: AudioContext): Cue[] {
    const perTick = secondsPerTick(take.performance, take.percent);
    const cues: Cue[] = [];
    for (; this.clicked < take.clicks.length; this.clicked++) {
      const click = take.clicks[this.clicked] as Take["clicks"][number];
      const time = this.origin.time + (take.start + click.at - this.origin.tick) * perTick;
      if (time > context.currentTime + AHEAD) break;
      const { noteNumber, velocity } = click.strong ? CLICK.strong : CLICK.weak;
      const frame = Math.round(time * context.sampleRate);
      cues.push(
        { frame, channel: CLICK.channel, noteNumber, velocity },
        { frame: frame + Math.round(0.1 * context.sampleRate), channel: CLICK.channel, noteNumber, velocity: 0 },
      );
    }
    return cues;
  }

  private notesDue(take: Take, context: AudioContext, horizon: number): Cue[] {
    const perTick = secondsPerTick(take.performance, take.percent);
    const length = take.end - take.start;
    const frame = (tick: number) =>
      Math.max(0, Math.round((this.origin.time + (tick - this.origin.tick) * perTick) * context.sampleRate));
    const cues: Cue[] = [];
    while (this.sent < horizon) {
      const shift = take.loop ? Math.floor((this.sent - take.start) / length) * length : 0;
      const from = this.sent - shift;
      if (from >= take.end) break;
      const until = Math.min(horizon - shift, take.end);
      for (const s of take.performance.notes) {
        if (s.at < from || s.at >= until) continue;
        const channel = this.channels.get(s.line) ?? 0;
        const off = Math.min(s.at + s.ticks, take.end) + shift;
        cues.push(
          { frame: frame(s.at + shift), channel, noteNumber: s.noteNumber, velocity: s.velocity },
          { frame: Math.max(0, frame(off) - 1), channel, noteNumber: s.noteNumber, velocity: 0 },
        );
      }
      this.sent = until + shift;
    }
    return cues;
  }
}
