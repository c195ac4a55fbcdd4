import { Engine, QUANTUM } from "./engine";
import type { FromWorklet, ToWorklet } from "./protocol";

// The audio worklet's own globals, which the DOM types leave out.
declare const sampleRate: number;
declare const currentFrame: number;
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

/** Plays cues on the audio clock; silent until the bank is in. */
class SoundProcessor extends AudioWorkletProcessor {
  private engine: Engine | undefined;
  private programs: readonly number[] = [];

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToWorklet>) => this.take(data);
  }

  private answer(message: FromWorklet) {
    this.port.postMessage(message);
  }

  private take(message: ToWorklet) {
    if (message.type === "bank") {
      Engine.start(sampleRate, message.bank).then(
        (engine) => {
          this.engine = engine;
          this.setPrograms();
          this.answer({ type: "ready" });
        },
        (error: unknown) => this.answer({ type: "failed", reason: String(error) }),
      );
    } else if (message.type === "programs") {
      this.programs = message.programs;
      this.setPrograms();
    } else if (message.type === "cues") this.engine?.add(message.cues);
    else this.engine?.silence();
  }

  private setPrograms() {
    this.engine?.setPrograms(this.programs);
  }

  process(_: Float32Array[][], outputs: Float32Array[][]): boolean {
    if (outputs[0]?.[0]?.length === QUANTUM) this.engine?.render(currentFrame, outputs);
    return true;
  }
}

registerProcessor("sound", SoundProcessor);
