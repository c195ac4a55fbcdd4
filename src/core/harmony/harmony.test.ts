import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { analyse, strainKeys } from "../analysis";
import { deriveChords, fileLocks } from "../chords";
import { FIDDLE, INSTRUMENTS, type Instrument } from "../instruments";
import { beatTicks, timeline, type Tune } from "../score";
import { diatonic, inKey, intervalNumber, midi, parseChord, parsePitch, pitchName } from "../theory";
import {
  CHORD_FIT,
  deriveHarmony,
  FOURTH_UNDER_TONIC,
  harmonyStaff,
  type HarmonyLine,
  type HarmonyLock,
  SCHOOLS,
  type School,
  THIRDS,
} from ".";

function lineOf(
  tune: Tune,
  school: School,
  side: "below" | "above" = "below",
  instrument: Instrument = FIDDLE,
): HarmonyLine {
  const analysis = analyse(tune);
  const { places, form } = analysis;
  const plan = deriveChords({
    places,
    phrases: form.phrases,
    keys: strainKeys(tune, analysis),
    locks: fileLocks(places),
  });
  return deriveHarmony({
    places,
    plan,
    phraseEnds: new Set(form.phrases.map((p) => p.to)),
    school,
    side,
    instrument,
  });
}
const said = (line: HarmonyLine) => line.notes.map((n) => (n.pitch ? pitchName(n.pitch) : "z")).join(" ");

describe("worked by hand", () => {
  test.each([
    ["thirds run through", THIRDS, "d2e2 f2g2|", {}, "B4 C#5 D5 E5"],
    ["a third below B is G", THIRDS, "B8|", { key: "G" }, "G4"],
    ["the mode decides the third", THIRDS, "e2f2 g2a2|", { key: "Edor" }, "C#5 D5 E5 F#5"],
    ["flat seventh under the second degree", THIRDS, "B2c2 d4|", { key: "Amix" }, "G4 A4 B4"],
    ["under the tonic a fourth", FOURTH_UNDER_TONIC, "d2e2 f2d2|", {}, "A4 C#5 D5 A4"],
    ["only under the tonic", FOURTH_UNDER_TONIC, "A2B2 c2d2|", { key: "Amin" }, "E4 G4 A4 B4"],
    ["an altered tonic is no tonic", FOURTH_UNDER_TONIC, "d4 ^d4|", {}, "A4 B4"],
    ["third or fourth, whichever is in the chord", CHORD_FIT, '"D"d4 f4|"G"g4 b4|', {}, "A4 D5 D5 G5"],
    ["dominant: third in the chord under E, fourth under A", CHORD_FIT, '"A"e4 a4|', {}, "C#5 E5"],
    ["what leaps off the beat is a chord note", CHORD_FIT, '"D"fefg d4|', {}, "D5 C#5 D5 D5 A4"],
    ["the leading note the chord asks for", CHORD_FIT, '"E"B8|', { key: "Amin" }, "G#4"],
    ["rests stay rests, ties stay held", CHORD_FIT, '"D"f4-f4|z4 d4|', {}, "D5 z A4"],
  ] as [string, School, string, Parameters<typeof tuneOf>[1], string][])("%s", (_, school, music, header, expected) => {
    expect(said(lineOf(tuneOf(music, header), school))).toBe(expected);
  });
  it("goes above as well: thirds, and over the fifth a fourth to the tonic", () => {
    expect(said(lineOf(tuneOf("d2f2 A4|"), THIRDS, "above"))).toBe("F#5 A5 C#5");
    expect(said(lineOf(tuneOf("d2f2 A4|"), FOURTH_UNDER_TONIC, "above"))).toBe("F#5 A5 D5");
  });
  it("stays above the lowest string, and says why the third is not there", () => {
    const line = lineOf(tuneOf('"G"G,4 "G"B,4|', { key: "G" }), THIRDS);
    expect(said(line)).toBe("G3 G3");
    expect(line.notes[0]?.reason).toContain("The plain third, E3, lies below the fiddle.");
  });
  it("gives every reason with its interval, its rule and the plain third", () => {
    const line = lineOf(tuneOf('"D"d4 f4|"E"B8|', { key: "D" }), CHORD_FIT);
    expect(line.notes[0]?.reason).toBe(
      "A fourth below: it is in the chord of D. The plain third would be B4, degree 6, which is not in D.",
    );
    expect(line.notes[2]?.reason).toContain("G# is outside the key; the chord of E asks for it.");
  });
});

/** Every promise of the schools, checked note by note from the outside. */
function broken(tune: Tune, line: HarmonyLine, on: Instrument): string[] {
  const { places } = analyse(tune);
  const wrong: string[] = [];
  const octaves = line.school === "Octave";
  const tops = timeline(places).filter((t) => t.event.pitches.length > 0);
  // Every melody note against every note it sounds with, on every felt beat they share.
  for (const n of line.notes) {
    if (!n.pitch) continue;
    for (const t of tops.filter((t) => t.at < n.at + n.ticks && t.at + t.event.ticks > n.at)) {
      const sounds = t.event.pitches.map(midi);
      const gap = line.side === "below" ? Math.min(...sounds) - midi(n.pitch) : midi(n.pitch) - Math.max(...sounds);
      if (gap < 0) wrong.push(`bar ${n.bar}: crosses the melody at ${t.at}`);
      const [from, to] = [Math.max(n.at, t.at), Math.min(n.at + n.ticks, t.at + t.event.ticks)];
      const beat = beatTicks(t.place.metre);
      const into = (t.place.offset + from - t.place.at) % beat;
      if ((into === 0 || into + to - from > beat) && [1, 6, 11].includes(gap % 12))
        wrong.push(`bar ${n.bar}: clash on a beat at ${from}`);
    }
    const key = places[n.bar]!.key;
    if (midi(n.pitch) < midi(on.lowest) || midi(n.pitch) > midi(on.highest)) wrong.push(`bar ${n.bar}: out of range`);
    const own = places[n.bar]!.bar.events.flatMap((e) => e.pitches).filter((p) => p.step === n.pitch?.step);
    const fits = n.chord !== null && parseChord(n.chord)!.classes.includes(midi(n.pitch) % 12);
    const sounded = own.some((p) => p.alter === n.pitch?.alter);
    if (own.length > 0 && !sounded) wrong.push(`bar ${n.bar}: another form of a letter than the melody’s`);
    if (!inKey(n.pitch, key) && !fits && !sounded) wrong.push(`bar ${n.bar}: outside key, chord and melody`);
    if (n.chord && !parseChord(n.chord)!.classes.includes(midi(n.pitch) % 12) && !n.figure)
      wrong.push(`bar ${n.bar}: note outside the chord without a class`);
  }
  const isPlain = ["Thirds", "Fourth under the tonic", "Octave"].includes(line.school);
  line.notes.forEach((n, i) => {
    if (!n.pitch) return;
    const moves = [line.notes[i - 1], line.notes[i + 1]].map((m) => m?.pitch && diatonic(m.pitch) - diatonic(n.pitch!));
    const passes = moves[0] != null && Math.abs(moves[0]) === 1 && moves[0] === -(moves[1] ?? 0);
    if ((n.figure === "passing" || n.reason.includes("passing")) && !passes)
      wrong.push(`bar ${n.bar}: said to pass at ${n.at}`);
  });
  const { form } = analyse(tune);
  for (const end of isPlain ? [] : form.phrases.map((p) => p.to)) {
    const last = line.notes.findLast((n) => n.bar === end);
    const chord = last?.pitch && last.melody && last.chord ? parseChord(last.chord) : null;
    const isLong = last && tops.some((t) => t.at > last.at && t.at < last.at + last.ticks);
    if (chord && !isLong && !chord.classes.includes(midi(last!.pitch!) % 12))
      wrong.push(`bar ${end}: a phrase ends outside its chord`);
  }
  const sounding = line.notes.filter((n) => n.melody);
  sounding.forEach((n) => {
    const where = `bar ${n.bar} event ${n.event}`;
    if (!n.pitch || !n.melody) return;
    const place = places[n.bar]!;
    if (midi(n.pitch) < midi(on.lowest) || midi(n.pitch) > midi(on.highest)) wrong.push(`${where}: out of range`);
    if (!inKey(n.pitch, place.key) && !n.reason.includes("outside the key"))
      wrong.push(`${where}: chromatic note not said`);
    const gap = (midi(n.pitch) - midi(n.melody)) * (line.side === "below" ? -1 : 1);
    if (gap < 0) wrong.push(`${where}: crosses the melody`);
    if (n.interval !== intervalNumber(n.pitch, n.melody)) wrong.push(`${where}: interval miscounted`);
    const beat = beatTicks(place.metre);
    const into = (place.offset + n.at - place.at) % beat;
    if ((into === 0 || into + n.ticks > beat) && [1, 6, 11].includes(gap % 12)) wrong.push(`${where}: clash on a beat`);
    // Notes next to each other in the line: a rest between them, or a note over a silent melody, parts them.
    const before = line.notes[line.notes.indexOf(n) - 1];
    if (before?.pitch && before.melody) {
      const [was, is] = [Math.abs(midi(before.pitch) - midi(before.melody)) % 12, Math.abs(gap) % 12];
      const moved = midi(before.pitch) !== midi(n.pitch) && midi(before.melody) !== midi(n.melody);
      if (moved && was === is && (is === 7 || (is === 0 && !octaves)))
        wrong.push(`${where}: parallel ${is === 0 ? "octaves" : "fifths"}`);
    }
  });
  return wrong;
}

describe("promises, over random tunes in every mode", () => {
  const players = INSTRUMENTS.filter((i) => ["fiddle", "viola", "whistle", "voice"].includes(i.name));
  test.each(SCHOOLS.map((s) => [s.name, s] as const))("%s keeps them all", (_, school) => {
    fc.assert(
      fc.property(
        arbitraryTune({ maxBars: 5 }),
        fc.constantFrom("below", "above") as fc.Arbitrary<"below" | "above">,
        fc.constantFrom(...players),
        (tune, side, on) => {
          const line = lineOf(tune, school, side, on);
          expect(broken(tune, line, on)).toEqual([]);
        },
      ),
      { numRuns: 80 },
    );
  });
  it("fills the melody's rhythm exactly and always gives the same line", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.constantFrom(...SCHOOLS), (tune, school) => {
        const { places } = analyse(tune);
        const line = lineOf(tune, school);
        const staff = harmonyStaff(line, places, { id: "x", name: "x", clef: "treble", program: 0 });
        if (school.pace === "melody")
          expect(staff.bars.map((b) => b.map((e) => e.ticks))).toEqual(
            places.map((p) => p.bar.events.map((e) => e.ticks)),
          );
        expect(staff.bars.map((b) => b.reduce((sum, e) => sum + e.ticks, 0))).toEqual(places.map((p) => p.ticks));
        staff.bars.forEach((bar, i) => {
          if (line.own[i])
            expect(line.notes.filter((n) => n.bar === i).map((n) => n.event)).toEqual(bar.map((_, k) => k));
        });
        expect(line.clashes).toHaveLength(places.length);
        expect(lineOf(tune, school)).toEqual(line);
      }),
      { numRuns: 40 },
    );
  });
  it("clashes less by the chords than by thirds alone, on a tune full of tonics", () => {
    const tune = tuneOf('"D"d2fd Adfd|"D"d2fd Adfd|"A"e2ce Aece|"D"d2fd d4|');
    expect(lineOf(tune, CHORD_FIT).clash).toBeLessThan(lineOf(tune, THIRDS).clash);
  });
  it("every stated price is what the whole line costs more when that note is locked, for every school", () => {
    const setting = fc.record({
      tune: arbitraryTune({ maxBars: 3 }),
      school: fc.constantFrom(...SCHOOLS),
      side: fc.constantFrom("below", "above") as fc.Arbitrary<"below" | "above">,
      other: fc.constantFrom(...SCHOOLS),
      lock: fc.option(fc.record({ note: fc.nat(40), pitch: fc.constantFrom("A4", "G#4", "C6") })),
      pick: fc.array(fc.nat(199), { minLength: 6, maxLength: 6 }),
    });
    fc.assert(
      fc.property(setting, ({ tune, school, side, other, lock, pick }) => {
        const analysis = analyse(tune);
        const { places, form } = analysis;
        const base = {
          places,
          plan: deriveChords({ places, phrases: form.phrases, keys: strainKeys(tune, analysis) }),
          phraseEnds: new Set(form.phrases.map((p) => p.to)),
          school,
          side,
          instrument: FIDDLE,
          bars: new Map([[1, other]]),
        };
        const asLock = (n: HarmonyLine["notes"][number], pitch: HarmonyLock["pitch"]): HarmonyLock => ({
          bar: n.bar,
          at: n.at - places[n.bar]!.at,
          ticks: n.ticks,
          pitch,
        });
        const free = deriveHarmony(base);
        const settled = lock && free.notes.filter((n) => n.costs.length > 0)[lock.note];
        const given = settled ? [asLock(settled, parsePitch(lock.pitch))] : [];
        const now = deriveHarmony({ ...base, locks: given });
        const stated = now.notes.flatMap((n) => n.alternatives.map((a) => ({ n, a })));
        if (stated.length === 0) return;
        for (const { n, a } of pick.map((k) => stated[k % stated.length]!)) {
          const here = asLock(n, a.pitch);
          const kept = given.filter((g) => g.bar !== here.bar || g.at !== here.at);
          const after = deriveHarmony({ ...base, locks: [...kept, here] });
          const name = a.pitch ? pitchName(a.pitch) : "rest";
          expect(after.cost - now.cost, `${name} in bar ${n.bar}, ${school.name}`).toBeCloseTo(a.cost, 6);
        }
      }),
      { numRuns: 150 },
    );
  });
  it("named costs of all notes add up to the whole line", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.constantFrom(...SCHOOLS), (tune, school) => {
        const line = lineOf(tune, school);
        const paid = line.notes.flatMap((n) => n.costs).reduce((sum, c) => sum + c.cost, 0);
        expect(paid).toBeCloseTo(line.cost, 6);
      }),
      { numRuns: 40 },
    );
  });
});

describe("a note the teacher insists on", () => {
  const insisted = (pitch: string, school = CHORD_FIT) => {
    const tune = tuneOf('"D"d4 f4|"G"g4 b4|');
    const analysis = analyse(tune);
    const { places, form } = analysis;
    const plan = deriveChords({ places, phrases: form.phrases, keys: [tune.key], locks: fileLocks(places) });
    const locks = [{ bar: 0, at: 0, pitch: parsePitch(pitch) }];
    return deriveHarmony({ places, plan, phraseEnds: new Set([1]), school, instrument: FIDDLE, locks }).notes[0]!;
  };
  test.each([
    ["F#5", ["never across the melody"]],
    ["G#4", ["in the key, the chord or the melody’s own form", "no semitone or tritone with the melody on a beat"]],
    [
      "C6",
      ["in the range of the instrument", "in the key, the chord or the melody’s own form", "never across the melody"],
    ],
    ["A4", undefined],
  ] as [string, string[] | undefined][])("%s stands, and is named for what it does not keep", (pitch, names) => {
    const note = insisted(pitch);
    expect([note.pitch && pitchName(note.pitch), note.locked, note.broken]).toEqual([pitch, true, names]);
    for (const name of names ?? []) expect(note.reason).toContain(name);
  });
  it("keeps its cost, and the school's own must is named too", () => {
    expect(insisted("G#4").costs).toContainEqual({ name: "outside the chord", cost: expect.any(Number) });
    const held = SCHOOLS.find((s) => s.name === "One note per chord")!;
    expect(insisted("B4", held).broken).toEqual(["what the school asks for"]);
  });
});
