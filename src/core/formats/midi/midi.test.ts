import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { parseMidi } from "midi-file";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { perform } from "../../performance";
import { places, type Tune, tuneSheet } from "../../score";
import { tuneAbc } from "../abc";
import { performanceMidi } from ".";

const straight = (tune: Tune) => perform(tune, tuneSheet(tune, places(tune)), { straight: true, chords: false });

/** Notes of a file as [start, length, key] in ticks. */
function notesOf(bytes: Uint8Array): number[][] {
  const { tracks } = parseMidi(bytes);
  return tracks
    .flatMap((track) => {
      const open = new Map<number, number[]>();
      const notes: number[][] = [];
      let at = 0;
      for (const event of track) {
        at += event.deltaTime;
        if (event.type === "noteOn") {
          const note = [at, 0, event.noteNumber];
          notes.push(note);
          open.set(event.noteNumber, note);
        } else if (event.type === "noteOff") {
          const note = open.get(event.noteNumber);
          if (note) note[1] = at - (note[0] as number);
        }
      }
      return notes;
    })
    .sort((a, b) => (a[0] as number) - (b[0] as number) || (a[2] as number) - (b[2] as number));
}

describe("MIDI", () => {
  it("is read back equal", () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const performance = straight(tune);
        expect(notesOf(performanceMidi(performance))).toEqual(
          performance.notes.map((s) => [s.at, s.ticks, s.noteNumber]),
        );
      }),
      { numRuns: 60 },
    );
  });
  it("carries names, tempo, metre, key and programs", () => {
    const { tracks, header } = parseMidi(
      performanceMidi(straight(tuneOf("abc def|", { key: "Edor", metre: "6/8", more: "Q:3/8=100\n" }))),
    );
    expect(header.ticksPerBeat).toBe(3360);
    expect(tracks[0]).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ type: "setTempo", microsecondsPerBeat: 400_000 }),
        expect.objectContaining({ type: "timeSignature", numerator: 6, denominator: 8 }),
        expect.objectContaining({ type: "keySignature", key: 2, scale: 1 }),
      ]),
    );
    expect(tracks[1]).toEqual(
      expect.arrayContaining([expect.objectContaining({ type: "programChange", programNumber: 40 })]),
    );
  });
  it("agrees with an independent reader of our ABC, repeats and all", () => {
    const folder = mkdtempSync(join(tmpdir(), "midi-"));
    for (const music of [
      "|:D|GBd gdB|c2A F2D:|G3 G2|]",
      "|:d2fd Adfd|1 e2ge c2A2:|2 d4 d4||f2f2 ^g2g2|]",
      "A2|:(3ded c2 B>A|G2-G2 [DG]4:|",
    ]) {
      const tune = tuneOf(music, { key: "G" });
      writeFileSync(join(folder, "a.abc"), tuneAbc(tune));
      const said = execFileSync("abc2midi", [join(folder, "a.abc"), "-o", join(folder, "a.mid")], { encoding: "utf8" });
      expect(said).not.toMatch(/error/i);
      const { tracks } = parseMidi(execFileSync("cat", [join(folder, "a.mid")]));
      const heard = tracks.flatMap((t) =>
        t.flatMap((e) => (e.type === "noteOn" && e.velocity > 0 ? [e.noteNumber] : [])),
      );
      expect(heard.sort()).toEqual(
        straight(tune)
          .notes.map((s) => s.noteNumber)
          .sort(),
      );
    }
  });
});
