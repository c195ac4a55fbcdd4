import type { Sheet } from "../core/score";

/** Two numbers that mix every character of a text (cyrb53 by bryc, public domain), together 106 bits. */
function mixed(text: string, seed: number): string {
  let [a, b] = [0xdeadbeef ^ seed, 0x41c6ce57 ^ seed];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 2654435761);
    b = Math.imul(b ^ code, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return ((b >>> 0) * 4294967296 + (a >>> 0)).toString(36);
}

/** A name for what a row would look like: the same music and the same place of it in the tune give the same name. */
export function drawingKey({ staves, places, chords }: Sheet): string {
  const bars = places.map((p) => [p.index, p.number, p.bar, p.key, p.metre, p.offset, p.pickup]);
  const text = JSON.stringify([staves, bars, chords]);
  return `${mixed(text, 1)}.${mixed(text, 2)}`;
}
