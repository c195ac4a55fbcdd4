/** A small generator of numbers that are the same at every run (mulberry32, public domain). */
export function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const SHARDS = [
  "<",
  ">",
  "/>",
  "&",
  "&#0;",
  "|:",
  ":|",
  "[1",
  "(3",
  "{",
  "}",
  '"',
  "K:",
  "M:0/0",
  "M:99/1",
  "<duration>1e9</duration>",
  "<backup>",
  "<divisions>0</divisions>",
  "-1",
  "999999999",
  "\u0000",
  "é",
  "\n",
  "]]>",
];

/** Bytes changed in one to eight places: flipped, cut, doubled, moved, or with something foreign put in. */
export function mutate(bytes: Uint8Array, next: () => number): Uint8Array {
  let out = Array.from(bytes);
  const pick = (n: number) => Math.floor(next() * n);
  for (let i = 0; i <= pick(8); i++) {
    const at = pick(out.length + 1);
    const kinds = [
      () => {
        out[at] = pick(256);
      },
      () => {
        out.splice(at, pick(20));
      },
      () => {
        out.splice(at, 0, ...out.slice(at, at + pick(60)));
      },
      () => {
        out.splice(at, 0, ...new TextEncoder().encode(SHARDS[pick(SHARDS.length)]));
      },
      () => {
        out = out.slice(0, Math.max(4, at));
      },
      () => {
        const from = pick(out.length);
        out.splice(at, 0, ...out.splice(from, pick(30)));
      },
    ];
    kinds[pick(20) === 0 ? 4 : ([0, 1, 2, 3, 5][pick(5)] as number)]?.();
  }
  return Uint8Array.from(out);
}
