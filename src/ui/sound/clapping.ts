import { clapEar, clapperLateness, clapSound } from "../../core/feel";

/** Where claps come from, and what ends it. */
export type ClapSource = { node: AudioNode; end: () => void };

/** Milliseconds between looks at the sound, and samples kept of it: more than half a second. */
const LOOK = 30;
const KEPT = 32_768;

/** The microphone as it is, without what would soften a clap. Throws, in words, where there is none. */
export async function microphone(context: AudioContext): Promise<ClapSource> {
  const wanted = { audio: { echoCancellation: true, noiseSuppression: false, autoGainControl: false } };
  const stream = await navigator.mediaDevices.getUserMedia(wanted).catch(() => {
    throw new Error("there is no microphone, or this page may not use it. Allow it in the browser, or tap with X.");
  });
  const node = context.createMediaStreamSource(stream);
  return { node, end: () => stream.getTracks().forEach((track) => void track.stop()) };
}

/** Seconds after the last clap that the clapper still stands there. */
const STAYS = 1;

/** A simulated clapper: claps near some audio times, a little behind, in a quiet room. It is heard by the ear alone. */
export function clapperOf(context: AudioContext, times: readonly number[], from: number): ClapSource {
  const late = clapperLateness(times.length);
  const moments = times.map((t, i) => t - from + (late[i] as number));
  const seconds = (moments.at(-1) ?? 0) + STAYS;
  const sound = clapSound(moments, seconds, context.sampleRate);
  const buffer = context.createBuffer(1, sound.length, context.sampleRate);
  buffer.getChannelData(0).set(sound);
  const node = context.createBufferSource();
  node.buffer = buffer;
  node.start(from);
  return { node, end: () => node.stop() };
}

/** Hears the claps of a source, each by its audio time; gives what ends it. */
export function hearClaps(context: AudioContext, source: AudioNode, heard: (time: number) => void): () => void {
  const analyser = context.createAnalyser();
  analyser.fftSize = KEPT;
  source.connect(analyser);
  const rate = context.sampleRate;
  const ear = clapEar(rate);
  const samples = new Float32Array(KEPT);
  let begun = context.currentTime;
  let taken = 0;
  const timer = setInterval(() => {
    const due = Math.round((context.currentTime - begun) * rate) - taken;
    const fresh = Math.min(KEPT, due);
    if (fresh <= 0) return;
    // What a page that was held up has missed is silence.
    begun += (due - fresh) / rate;
    analyser.getFloatTimeDomainData(samples);
    for (const at of ear.hear(samples.subarray(KEPT - fresh))) heard(begun + at);
    taken += fresh;
  }, LOOK);
  return () => {
    clearInterval(timer);
    source.disconnect(analyser);
  };
}
