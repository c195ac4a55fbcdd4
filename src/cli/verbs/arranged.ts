import { type Analysis, analyse } from "../../core/analysis";
import type { Place, SheetChord, Tune } from "../../core/score";
import { arrange, type Board, blown, type FingeringLock, rolled, settingsFor, withCapo } from "../../core/technique";
import { pitchName, spell } from "../../core/theory";
import type { Options } from "../arguments";
import { placeOf } from "../locks";

import { namedStrings, six, spot } from "./figures";
import { groundOf, planned } from "./chorded";
import { grooveFor, tempoFor } from "./felt";

/** The tune as one instrument plays it: where every note lies, what sounds with it, and what is left out. */
export function arranged(tune: Tune, options: Options) {
  const analysis = analyse(tune);
  const { places } = analysis;
  const { kind, level, capo, doubling } = options;
  const instrument = withCapo(options.instrument, capo);
  if (instrument.strings.length === 0) return played(places, options);
  const { chords } = planned(groundOf(tune, options, analysis), []);
  const bpm = tempoFor(tune, grooveFor(tune, analysis, options), options, "practice");
  const locks = options.locks.map((wish): FingeringLock => {
    const { place, at } = placeOf(wish, places);
    const match = /^(\d{1,2}):(\d{1,2}\+?)$/.exec(wish.value);
    if (!match) throw new RangeError(`--lock names "${wish.value}". Write string and fret: 2:3.`);
    return { bar: place.index, at, string: Number(match[1]), fret: match[2] ?? "" };
  });
  const make = kind === "roll" ? rolled : arrange;
  const made = make({ places, instrument, kind, level, chords, bpm, locks, doubling });
  if (!made) throw new RangeError(`Rolls are for the banjo; the ${instrument.name} has no short string.`);
  const unmet = locks.find(
    (l) => !made.strokes.some((s) => s.locked && s.place.index === l.bar && s.at - s.place.at === l.at),
  );
  if (unmet) throw new RangeError(`--lock names string ${unmet.string}, fret ${unmet.fret}, where no note of it lies.`);
  return {
    instrument: instrument.name,
    tuning: options.tuning ?? instrument.tunings[0]?.name ?? null,
    ...(capo > 0 ? { capo } : {}),
    kind,
    level,
    shift: made.shift,
    strings: namedStrings(instrument.strings),
    frets: fretsOf(made.board),
    limits: { span: made.board.spans },
    left_out: made.leftOut,
    remarks: made.remarks,
    ...(kind === "melody with chords" ? { settings: settings(analysis, chords, made.shift, options) } : {}),
    total: six(made.total),
    difficulty: null,
    strokes: made.strokes.map((s) => ({
      ...spot(s.place, s.at, s.ticks),
      notes: s.notes.map(({ noteNumber, ...n }) => ({ ...n, pitch: pitchName(spell(noteNumber, s.place.key)) })),
      hold: s.hold,
      move: s.move,
      ...(s.pluck ? { pluck: s.pluck } : {}),
      locked: s.locked,
      reason: s.reason,
      alternatives: s.alternatives.map((a) => ({ ...a, cost: six(a.cost) })),
    })),
  };
}

/** Tunings and capos that are named. */
const SETTINGS = 3;

/** How the instrument could be tuned for the tune, the best first, in the tune's own key. */
const settings = (
  { places, key }: Analysis,
  chords: readonly SheetChord[],
  shift: number,
  { instrument, level }: Options,
) =>
  settingsFor({ places, instrument, key: key.key, symbols: [...new Set(chords.map((c) => c.symbol))], level, shift })
    .slice(0, SETTINGS)
    .map(({ tuning, capo, cost, words }) => ({ tuning, capo, cost: six(cost), reason: words }));

/** The tune on an instrument without strings: holes, or row and bellows. */
function played(places: readonly Place[], { instrument, level, kind, locks }: Options) {
  if (kind !== "melody") throw new RangeError(`The ${instrument.name} plays the melody only. Ask for --kind melody.`);
  if (locks.length > 0) throw new RangeError(`--lock names string and fret; the ${instrument.name} has no strings.`);
  const made = blown(places, instrument, level);
  return {
    instrument: instrument.name,
    tuning: null,
    kind,
    level,
    shift: made.shift,
    strings: [],
    frets: [],
    limits: { span: [] },
    left_out: made.leftOut,
    total: six(made.total),
    difficulty: null,
    strokes: made.strokes.map((s) => ({
      ...spot(s.place, s.at, s.ticks),
      notes: [{ ...s.way, pitch: pitchName(spell(s.noteNumber, s.place.key)), role: "melody" }],
      hold: [],
      move: null,
      reason: s.reason,
      alternatives: s.alternatives.map(({ way, cost }) => ({ ...way, cost: six(cost) })),
    })),
  };
}

const fretsOf = ({ on, strings }: Board) =>
  on.frets?.map(({ label, semitones }) => ({ label, semitones })) ??
  [...new Set(strings.flatMap((s) => s.stops.map((stop) => stop.semitones)))].map((semitones) => ({
    label: String(semitones),
    semitones,
  }));
