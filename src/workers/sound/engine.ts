import { BasicSoundBank, SoundBankLoader, SpessaSynthProcessor } from "spessasynth_core";
import { soundedAs } from "./presets";

/** A note going on or off at a frame of the audio clock; cents are added to one that goes on. */
export type Cue = { frame: number; channel: number; noteNumber: number; velocity: number; cents?: number };

/** Frames rendered at a time; the worklet's own quantum. */
export const QUANTUM = 128;
/** A pitch wheel at rest, and the cents to either of its ends. */
const WHEEL = 8192;
const WHEEL_CENTS = 200;

/**
 * Renders cues to sound, one output a channel. The same class runs in the audio worklet and in Node, so that what is
 * measured is what is heard. Cues may come in any order; a quantum is the finest step of time (2.7 ms at 48 kHz).
 */
export class Engine {
  private queue: Cue[] = [];
  private programs: readonly number[] = [];
  /** Keys that sound off their tempered pitch, by channel and key: cents. */
  private moved = new Map<string, number>();
  private scratch = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)] as const;

  private constructor(private synth: SpessaSynthProcessor) {}

  static async start(sampleRate: number, bank: ArrayBuffer): Promise<Engine> {
    await BasicSoundBank.isSF3DecoderReady;
    const synth = new SpessaSynthProcessor(sampleRate, { effectsEnabled: false, eventsEnabled: false });
    await synth.processorInitialized;
    synth.soundBankManager.addSoundBank(SoundBankLoader.fromArrayBuffer(bank), "bank");
    return new Engine(synth);
  }

  /** Gives each channel its program, in order. There are as many channels as programs; none is kept for drums. */
  setPrograms(programs: readonly number[]): void {
    this.programs = programs;
    while (this.synth.midiChannels.length < programs.length) this.synth.createMIDIChannel();
    this.moved.clear();
    programs.forEach((program, channel) => {
      const own = this.synth.midiChannels[channel];
      if (own?.drumChannel) own.setDrums(false);
      this.synth.programChange(channel, program);
      this.synth.pitchWheel(channel, WHEEL);
    });
  }

  /** Adds cues, keeping the queue in time order; notes end before others begin at the same frame. */
  add(cues: readonly Cue[]): void {
    this.queue.push(...cues);
    this.queue.sort((a, b) => a.frame - b.frame || a.velocity - b.velocity);
  }

  /** Forgets cues that have not sounded and lets what sounds die away. */
  silence(): void {
    this.queue = [];
    this.synth.stopAllChannels(false);
  }

  /** Sets by how many cents a key of a channel is off. */
  private tune(channel: number, noteNumber: number, cents: number): void {
    const key = `${channel}.${noteNumber}`;
    if ((this.moved.get(key) ?? 0) === cents) return;
    this.moved.set(key, cents);
    this.synth.pitchWheel(channel, WHEEL + Math.round((cents * WHEEL) / WHEEL_CENTS), noteNumber);
  }

  /** Renders one quantum that starts at `frame` into a stereo pair per channel. */
  render(frame: number, outputs: Float32Array[][]): void {
    while (this.queue.length > 0 && (this.queue[0] as Cue).frame < frame + QUANTUM) {
      const { channel, velocity, ...cue } = this.queue.shift() as Cue;
      const noteNumber = soundedAs(this.programs[channel] ?? 0, cue.noteNumber);
      if (velocity > 0) {
        this.tune(channel, noteNumber, cue.cents ?? 0);
        this.synth.noteOn(channel, noteNumber, velocity);
      } else this.synth.noteOff(channel, noteNumber);
    }
    this.synth.processSplit(outputs, this.scratch[0], this.scratch[1], 0, QUANTUM);
  }
}
