import { parseMidi } from "midi-file";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { performanceMidi } from "../formats";
import { places, QUARTER, type Tune, tuneSheet } from "../score";
import { countIn, perform } from ".";

const heard = (tune: Tune, options?: Parameters<typeof perform>[2]) =>
  perform(tune, tuneSheet(tune, places(tune)), options);

describe("a performance", () => {
  it("unfolds repeats and joins ties", () => {
    const { notes, bars, ticks } = heard(tuneOf("|:a4-a2b2|1 c8:|2 d8|]"), { straight: true, chords: false });
    expect(notes.map((s) => [s.at / QUARTER, s.ticks / QUARTER, s.noteNumber])).toEqual([
      [0, 3, 81],
      [3, 1, 83],
      [4, 4, 73],
      [8, 3, 81],
      [11, 1, 83],
      [12, 4, 74],
    ]);
    expect(bars.map((b) => b.index)).toEqual([0, 1, 0, 2]);
    expect(ticks).toBe(16 * QUARTER);
  });
  it("leans on the downbeat and leaves air between notes", () => {
    const { notes } = heard(tuneOf("abcd efga|"), { chords: false });
    expect(notes[0]!.velocity).toBeGreaterThan(notes[4]!.velocity);
    expect(notes[4]!.velocity).toBeGreaterThan(notes[1]!.velocity);
    expect(notes[0]!.ticks).toBeLessThan(QUARTER / 2);
  });
  it("plays the chords softer than the tune: the root low, the chord above, inside the bar", () => {
    const { notes } = heard(tuneOf('"D"a8|"G"b8|'));
    const chords = notes.filter((s) => s.line === "chords");
    expect(chords[0]).toMatchObject({ at: 0, noteNumber: 50 });
    expect(new Set(chords.filter((s) => s.at === QUARTER).map((s) => s.noteNumber % 12))).toEqual(new Set([2, 6, 9]));
    expect(Math.max(...chords.map((s) => s.velocity))).toBeLessThan(
      Math.min(...notes.filter((s) => s.line === "melody").map((s) => s.velocity)),
    );
    expect(Math.max(...chords.map((s) => s.at + s.ticks))).toBeLessThanOrEqual(8 * QUARTER);
  });
  it("counts in two bars, with the beats before a pickup", () => {
    const clicks = countIn(places(tuneOf("A2|d8|")), 0);
    expect(clicks.map((c) => c.at / QUARTER)).toEqual([-11, -10, -9, -8, -7, -6, -5, -4, -3, -2, -1]);
    expect(clicks.filter((c) => c.strong).map((c) => c.at / QUARTER)).toEqual([-11, -7, -3]);
    expect(countIn(places(tuneOf("abc def|", { metre: "6/8" })), 0)).toHaveLength(4);
  });
  it("keeps every tempo inside the tune, again at each repeat and in the file", () => {
    const tune = tuneOf("|:a8|[Q:1/4=60]b8:|c8|]", { more: "Q:1/4=120\n" });
    const whole = heard(tune);
    const found = whole.tempos.map((t) => [t.at / (4 * QUARTER), t.bpm]);
    expect(found).toEqual([
      [0, 120],
      [1, 60],
      [2, 120],
      [3, 60],
    ]);
    const file = parseMidi(performanceMidi(whole));
    const set = file.tracks[0]!.filter((e) => e.type === "setTempo");
    expect(set.map((e) => e.microsecondsPerBeat)).toEqual([500_000, 1_000_000, 500_000, 1_000_000]);
  });
  it("changes tempo inside a bar where it is written", () => {
    const { tempos } = heard(tuneOf("a4 [Q:1/4=60] b4|c8|]", { more: "Q:1/4=120\n" }));
    expect(tempos.map((t) => [t.at / QUARTER, t.bpm])).toEqual([
      [0, 120],
      [2, 60],
    ]);
  });
  it("gives forty lines in a file a port and a channel each, none of them the drums'", () => {
    const one = heard(tuneOf("a8|"), { chords: false });
    const lines = Array.from({ length: 40 }, (_, i) => ({ id: `${i}`, name: `${i}`, program: i }));
    const notes = lines.map((l) => ({ ...one.notes[0]!, line: l.id }));
    const { tracks } = parseMidi(performanceMidi({ ...one, lines, notes }));
    const outlets = tracks.slice(1).map((track) => {
      const port = track.find((e) => e.type === "portPrefix");
      const on = track.find((e) => e.type === "noteOn");
      return `${port?.port} ${on?.channel}`;
    });
    expect(new Set(outlets).size).toBe(40);
    expect(outlets.filter((o) => o.endsWith(" 9"))).toEqual([]);
  });
});
