import { laidEvents } from "./src/core/score";
for (const [b, u, t, o] of [
  [9, 8, 9 * 240, 0],
  [6, 8, 6 * 240, 0],
  [12, 8, 12 * 240, 0],
  [4, 4, 4 * 480, 0],
  [3, 4, 3 * 480, 0],
  [9, 8, 6 * 240, 0],
  [9, 8, 6 * 240, 720],
  [9, 8, 3 * 240, 0],
  [5, 4, 5 * 480, 0],
  [2, 4, 2 * 480, 0],
  [3, 2, 6 * 480, 0],
  [9, 8, 4 * 240, 0],
  [12, 8, 9 * 240, 0],
  [12, 8, 9 * 240, 720],
] as const) {
  const e = laidEvents(
    [{ ticks: t * 7, pitches: [{ step: "A", octave: 4, alter: 0 } as never] }],
    { beats: b, unit: u } as never,
    o * 7,
  );
  console.log(
    b + "/" + u,
    t / 240,
    "eighths from",
    o / 240,
    JSON.stringify(e.map((x) => [x.ticks / 1680, x.tie ? "~" : ""])),
  );
}
