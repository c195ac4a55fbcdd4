/** Hears claps in sound: give it what has come in since the last time, it gives the moments (seconds) claps began. */
export type ClapEar = { hear: (samples: Float32Array) => number[] };

/** Seconds of sound that are weighed together, and for which nothing is heard after a clap. */
const WINDOW = 0.003;
const DEAF = 0.11;
/** How much louder than the room a clap is, the least it is at all, how slowly the room is learned, and its step. */
const LOUDER = 5;
const LEAST = 0.02;
const ROOM = 0.04;
const MOST = 4;

/** An ear for claps in sound of a sample rate; moments are counted from its first sample. */
export function clapEar(rate: number): ClapEar {
  const size = Math.max(1, Math.round(rate * WINDOW));
  let [taken, sum, filled, room, deafUntil] = [0, 0, 0, LEAST / LOUDER, 0];
  return {
    hear: (samples) => {
      const claps: number[] = [];
      for (const sample of samples) {
        sum += sample * sample;
        filled += 1;
        taken += 1;
        if (filled < size) continue;
        const level = Math.sqrt(sum / filled);
        const begins = (taken - filled) / rate;
        [sum, filled] = [0, 0];
        if (begins >= deafUntil && level > LEAST && level > room * LOUDER) {
          claps.push(begins);
          deafUntil = begins + DEAF;
        }
        // One loud moment does not make a loud room.
        room += (Math.min(level, room * MOST) - room) * ROOM;
      }
      return claps;
    },
  };
}

/** Shape of a clap: seconds until it has died to a third, and its loudness. */
const DECAY = 0.012;
const LOUD = 0.5;
const CLAP = 0.06;
/** Loudness of the room around the clapper. */
const HUSH = 0.002;

/**
 * Somebody who claps at moments (seconds), as sound: for practising without a microphone, and for tests. The same
 * moments give the same sound.
 */
export function clapSound(moments: readonly number[], seconds: number, rate: number): Float32Array {
  const samples = new Float32Array(Math.ceil(seconds * rate));
  const noise = noiseFrom(1);
  for (let i = 0; i < samples.length; i++) samples[i] = noise() * HUSH;
  for (const moment of moments) {
    const from = Math.round(moment * rate);
    for (let i = 0; i < CLAP * rate && from + i < samples.length; i++) {
      if (from + i >= 0) samples[from + i] = noise() * LOUD * Math.exp(-i / rate / DECAY);
    }
  }
  return samples;
}

/** A clapper's own unevenness: how late each clap is, in seconds, like somebody who is a little behind. */
export function clapperLateness(count: number): number[] {
  const noise = noiseFrom(7);
  return Array.from({ length: count }, () => BEHIND + noise() * UNEVEN);
}
const BEHIND = 0.018;
const UNEVEN = 0.03;

/** Numbers from -1 to 1 that look like chance and always come the same (the generator of Park and Miller). */
function noiseFrom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 16807) % 2147483647;
    return (state / 2147483647) * 2 - 1;
  };
}
