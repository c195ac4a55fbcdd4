import { type MidiData, parseMidi } from "midi-file";
import {
  type Bar,
  barTicks,
  BLANK,
  type Event,
  LARGEST,
  laidTune,
  type Metre,
  QUARTER,
  type Tempo,
  Tune,
} from "../../score";
import { type Key, MODE_FIFTHS, fifthsName, type Pitch, spell } from "../../theory";
import { FormatError, firstIssue, type Remark } from "../problem";
import { strainsOf } from "../strains";
import { type Grid, quantise, type Raw } from "./quantise";

const START = { line: 1, column: 1 };
const LARGEST_FILE = 1_000_000;
/** Notes of all tracks together. */
const MOST_NOTES = 40_000;
const MOST_QUARTERS = 20_000;
const DRUMS = 9;

/**
 * A track with notes, as a chooser lists it. `lowest` and `highest` are MIDI numbers; `together` is the share of notes
 * that sound with others.
 */
export type MidiTrack = { name: string; notes: number; lowest: number; highest: number; together: number };
export type MidiOptions = { track?: number | undefined; grid?: Grid | undefined; key?: Key | undefined };
export type ReadMidi = {
  tune: Tune;
  remarks: Remark[];
  tracks: MidiTrack[];
  chosen: number;
  /** Mean distance notes were moved to the grid, in quarter notes. */
  shift: number;
  /** False where neither the file nor the caller names a key, so that spelling is a guess. */
  keyed: boolean;
};

type Timeline = {
  metres: { at: number; metre: Metre }[];
  tempos: { at: number; quarters: number }[];
  key: Key | undefined;
  title: string;
};

/**
 * Reads one track of a standard MIDI file as a tune: times drawn to a grid, spelled by the key. Throws a FormatError
 * for anything
 * that is no MIDI file, has no notes, or counts time in film frames.
 */
export function readMidi(bytes: Uint8Array, { track, grid = "auto", key }: MidiOptions = {}): ReadMidi {
  const data = parsed(bytes);
  const perQuarter = data.header.ticksPerBeat;
  if (!perQuarter)
    throw new FormatError("This file counts time in film frames. Save it with beats (ticks per quarter note).", START);
  const voices = tracksOf(data, perQuarter);
  if (voices.length === 0) throw new FormatError("There are no notes with a pitch in this file.", START);
  const tracks = voices.map(({ name, raw }) => summary(name, raw));
  const chosen = track ?? melodyOf(tracks);
  const voice = voices[chosen];
  if (!voice)
    throw new FormatError(`There is no track ${chosen + 1}; this file has ${tracks.length} with notes.`, START);
  const time = timelineOf(data, perQuarter);
  const remarks: Remark[] = [];
  const remark = (message: string) => remarks.push({ ...START, message });
  if (tracks.length > 1)
    remark(
      `The file has ${tracks.length} tracks with notes; "${tracks[chosen]?.name}" was taken and the others left out.`,
    );
  if (voice.raw.length > LARGEST.notes)
    throw new FormatError(
      `This track has ${voice.raw.length} notes; ${LARGEST.notes} are the most of one tune. Save the tune alone.`,
      START,
    );
  const { notes, shift } = quantise(voice.raw, grid);
  if (shift > 0.01)
    remark(`Notes were moved to the grid by ${Math.round(shift * 100)} hundredths of a quarter note on average.`);
  const used = key ?? time.key ?? { tonic: "C", mode: "major" as const };
  const bars = barsOf(notes, time, used);
  const tune = {
    ...BLANK,
    title: time.title.slice(0, 400),
    key: used,
    metre: bars.metre,
    unit: bars.metre.beats / bars.metre.unit < 0.75 ? QUARTER / 4 : QUARTER / 2,
    ...tempoOf(time, bars.metre),
    strains: strainsOf(bars.bars, bars.metre),
  };
  const checked = Tune.safeParse(tune);
  if (!checked.success) throw new FormatError(`This file cannot be kept: ${firstIssue(checked.error)}.`, START);
  return {
    tune: laidTune(checked.data),
    remarks,
    tracks,
    chosen,
    shift,
    keyed: key !== undefined || time.key !== undefined,
  };
}

function parsed(bytes: Uint8Array): MidiData {
  if (bytes.length > LARGEST_FILE)
    throw new FormatError("This MIDI file is over 1 MB; no tune is. Save the tune alone.", START);
  const text = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (bytes.length < 14 || text(0) !== "MThd")
    throw new FormatError("This is not a MIDI file: it does not begin with MThd.", START);
  // Chunk lengths are checked first, so that a lying length reads nothing that is not there.
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 0; at < bytes.length; ) {
    if (at + 8 > bytes.length)
      throw new FormatError(`The file ends inside a chunk at byte ${at}. Save it again.`, START);
    const length = view.getUint32(at + 4);
    if (at + 8 + length > bytes.length)
      throw new FormatError(
        `A track at byte ${at} claims ${length} bytes, but the file ends before. Save it again.`,
        START,
      );
    at += 8 + length;
  }
  try {
    return parseMidi(bytes);
  } catch (error) {
    throw new FormatError(
      `The MIDI data is broken (${error instanceof Error ? error.message : String(error)}). Save the file again.`,
      START,
    );
  }
}

const textOf = (raw: string): string => {
  const bytes = Uint8Array.from(raw, (c) => c.charCodeAt(0) & 255);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes).replace(/\s+/g, " ").trim();
  } catch {
    return raw.replace(/\s+/g, " ").trim();
  }
};

/** Notes by track and channel, drums left out, in quarter notes. */
function tracksOf(data: MidiData, perQuarter: number): { name: string; raw: Raw[] }[] {
  let total = 0;
  return data.tracks.flatMap((events, t) => {
    const channels = new Map<number, Raw[]>();
    const open = new Map<number, number[]>();
    let [at, name] = [0, ""];
    for (const event of events) {
      at += event.deltaTime;
      if (event.type === "trackName") name = textOf(event.text);
      if (event.type !== "noteOn" && event.type !== "noteOff") continue;
      if (event.channel === DRUMS) continue;
      const id = event.channel * 128 + event.noteNumber;
      const starts = open.get(id) ?? [];
      const begin = starts.shift();
      if (begin !== undefined && at > begin) {
        const raw = channels.get(event.channel) ?? [];
        raw.push({ from: begin / perQuarter, to: at / perQuarter, noteNumber: event.noteNumber });
        channels.set(event.channel, raw);
        total += 1;
        if (total > MOST_NOTES)
          throw new FormatError(`This file has over ${MOST_NOTES} notes; no tune has. Save the tune alone.`, START);
      }
      if (event.type === "noteOn" && event.velocity > 0) starts.push(at);
      open.set(id, starts);
    }
    return [...channels].map(([channel, raw]) => ({
      name: (name || `Track ${t + 1}`) + (channels.size > 1 ? `, channel ${channel + 1}` : ""),
      raw: raw.sort((a, b) => a.from - b.from || b.noteNumber - a.noteNumber),
    }));
  });
}

function summary(name: string, raw: readonly Raw[]): MidiTrack {
  const numbers = raw.map((n) => n.noteNumber);
  let [end, together] = [0, 0];
  for (const n of raw) {
    if (n.from < end - 0.1) together += 1;
    end = Math.max(end, n.to);
  }
  return {
    name,
    notes: raw.length,
    lowest: Math.min(...numbers),
    highest: Math.max(...numbers),
    together: together / raw.length,
  };
}

/** The track most like a melody: many notes, high, one at a time. */
function melodyOf(tracks: readonly MidiTrack[]): number {
  const most = Math.max(...tracks.map((t) => t.notes));
  const worth = (t: MidiTrack) =>
    t.notes / most +
    ((t.lowest + t.highest) / 2 - 48) / 48 -
    1.5 * t.together +
    (/melod|tune|lead|voice|fiddle/i.test(t.name) ? 0.5 : 0);
  return tracks.reduce((best, t, i) => (worth(t) > worth(tracks[best] as MidiTrack) + 1e-9 ? i : best), 0);
}

function timelineOf(data: MidiData, perQuarter: number): Timeline {
  const line: Timeline = { metres: [], tempos: [], key: undefined, title: "" };
  data.tracks.forEach((events, t) => {
    let at = 0;
    for (const event of events) {
      at += event.deltaTime;
      if (
        event.type === "timeSignature" &&
        [1, 2, 4, 8, 16, 32].includes(event.denominator) &&
        event.numerator >= 1 &&
        event.numerator <= 64
      ) {
        line.metres.push({
          at: at / perQuarter,
          metre: { beats: event.numerator, unit: event.denominator as Metre["unit"] },
        });
      } else if (event.type === "setTempo" && event.microsecondsPerBeat > 0)
        line.tempos.push({ at: at / perQuarter, quarters: 60e6 / event.microsecondsPerBeat });
      else if (event.type === "keySignature") {
        const mode = event.scale === 1 ? ("minor" as const) : ("major" as const);
        const fifths = Math.max(-7, Math.min(7, event.key > 127 ? event.key - 256 : event.key));
        line.key ??= { tonic: fifthsName(fifths - MODE_FIFTHS[mode]), mode };
      } else if (event.type === "trackName" && t === 0 && !line.title) line.title = textOf(event.text);
    }
  });
  line.metres.sort((a, b) => a.at - b.at);
  return line;
}

function tempoOf(time: Timeline, metre: Metre): { tempo?: Tempo } {
  const quarters = time.tempos[0]?.quarters;
  if (!quarters) return {};
  const compound = metre.unit >= 8 && metre.beats % 3 === 0;
  const bpm = Math.round((compound ? quarters / 1.5 : quarters) * 1000) / 1000;
  return bpm >= 10 && bpm <= 600 ? { tempo: { beat: compound ? (3 * QUARTER) / 2 : QUARTER, bpm } } : {};
}

/**
 * Cuts the line into bars by the file's metres; notes over a bar line are tied. Empty bars before the first note go.
 */
function barsOf(notes: readonly Raw[], time: Timeline, key: Key): { bars: Bar[]; metre: Metre } {
  const ticks = (quarters: number) => Math.round(quarters * QUARTER);
  const line = monophonic(
    notes.map((n) => ({
      from: ticks(n.from),
      to: Math.max(ticks(n.to), ticks(n.from) + 1),
      pitches: [spell(n.noteNumber, key)],
    })),
  );
  const end = line[line.length - 1]?.to ?? 0;
  if (end > ticks(MOST_QUARTERS))
    throw new FormatError(
      `This file lasts over ${MOST_QUARTERS} quarter notes; no tune does. Save the tune alone.`,
      START,
    );
  const metres = time.metres.length ? time.metres : [{ at: 0, metre: { beats: 4, unit: 4 as const } }];
  const edges: { from: number; to: number; metre: Metre }[] = [];
  // The metre in force, and the one after it: both only go on.
  let now = 0;
  for (let at = 0; at < end; ) {
    while (metres[now + 1] && ticks((metres[now + 1] as { at: number }).at) <= at) now += 1;
    const metre = (metres[now] as { metre: Metre }).metre;
    const next = metres[now + 1];
    const to = Math.min(at + barTicks(metre), next ? Math.max(ticks(next.at), at + 1) : Infinity);
    edges.push({ from: at, to, metre });
    if (edges.length > LARGEST.bars)
      throw new FormatError(`This file has over ${LARGEST.bars} bars; no tune has. Save the tune alone.`, START);
    at = to;
  }
  const firstNote = line[0]?.from ?? 0;
  const from = edges.findIndex((e) => e.to > firstNote);
  // A short bar under a metre of its own before the real one is how a pickup is written down.
  const lead =
    edges[from] &&
    edges[from + 1] &&
    barTicks((edges[from] as { metre: Metre }).metre) < barTicks((edges[from + 1] as { metre: Metre }).metre)
      ? from
      : -1;
  const metre = (edges[lead >= 0 ? from + 1 : from]?.metre ?? { beats: 4, unit: 4 }) as Metre;
  let running = metre;
  let reached = 0;
  const bars = edges.slice(Math.max(0, from)).map((edge, i): Bar => {
    const changed = !(i === 0 && lead >= 0) && JSON.stringify(edge.metre) !== JSON.stringify(running);
    if (changed) running = edge.metre;
    while (reached < line.length && (line[reached] as Moment).to <= edge.from) reached += 1;
    return {
      events: within(line, reached, edge.from, edge.to),
      chords: [],
      changes: changed ? [{ at: 0, metre: edge.metre }] : [],
      barline: "single",
    };
  });
  const last = bars[bars.length - 1];
  if (last) last.barline = "final";
  return { bars, metre };
}

type Moment = { from: number; to: number; pitches: Pitch[] };

/**
 * One line: notes that start together become a double stop, a note that still sounds when the next starts is cut there.
 */
function monophonic(notes: readonly Moment[]): Moment[] {
  const line: Moment[] = [];
  for (const n of [...notes].sort((a, b) => a.from - b.from)) {
    const last = line[line.length - 1];
    if (last && last.from === n.from) {
      if (last.pitches.length < 8) last.pitches.push(...n.pitches);
      last.to = Math.max(last.to, n.to);
    } else {
      if (last && last.to > n.from) last.to = n.from;
      line.push({ ...n, pitches: [...n.pitches] });
    }
  }
  return line;
}

/** Events, from the first that still sounds, that fill a bar exactly, rests included, ties where a note goes on. */
function within(line: readonly Moment[], first: number, from: number, to: number): Event[] {
  const events: Event[] = [];
  let at = from;
  for (let i = first; i < line.length; i++) {
    const n = line[i] as Moment;
    if (n.from >= to) break;
    const [start, stop] = [Math.max(n.from, from), Math.min(n.to, to)];
    if (start > at) events.push({ ticks: start - at, pitches: [] });
    events.push({ ticks: stop - start, pitches: n.pitches, ...(n.to > to ? { tie: true } : {}) });
    at = stop;
  }
  if (at < to) events.push({ ticks: to - at, pitches: [] });
  return events;
}
