import { type MidiEvent, writeMidi } from "midi-file";
import { type Performance, QUARTER } from "../../score";

/** Ticks to a quarter in the file: the score's own fit MIDI's 15 bits. */
const DIVISION = QUARTER;

/** Text as MIDI keeps it: bytes of UTF-8, one character a byte. */
const bytes = (text: string) => String.fromCharCode(...new TextEncoder().encode(text.slice(0, 200)));

type Timed = { at: number; order: number; event: MidiEvent };

/** Channels of a MIDI port that play notes: all but the tenth, which is for drums. */
const MELODIC = 15;
const DRUMS = 9;
/** Where the line of a number goes: lines beyond a port's channels have the next port. */
function outlet(line: number): { channel: number; port: number } {
  const order = line % MELODIC;
  return { channel: order >= DRUMS ? order + 1 : order, port: Math.floor(line / MELODIC) };
}

/** A performance as a standard MIDI file, format 1: a track for time and key, then a track a line. */
export function performanceMidi(performance: Performance): Uint8Array {
  const conductor: Timed[] = [
    {
      at: 0,
      order: 0,
      event: { deltaTime: 0, meta: true, type: "trackName", text: bytes(performance.title) } as MidiEvent,
    },
    ...performance.tempos.map((t) => ({
      at: t.at,
      order: 1,
      event: {
        deltaTime: 0,
        meta: true,
        type: "setTempo",
        microsecondsPerBeat: Math.round((60e6 * QUARTER) / (t.bpm * t.beat)),
      } as MidiEvent,
    })),
    ...performance.metres.map((m) => ({
      at: m.at,
      order: 2,
      event: {
        deltaTime: 0,
        meta: true,
        type: "timeSignature",
        numerator: m.beats,
        denominator: m.unit,
        metronome: 24,
        thirtyseconds: 8,
      } as MidiEvent,
    })),
    ...performance.keys.map((k) => ({
      at: k.at,
      order: 3,
      event: { deltaTime: 0, meta: true, type: "keySignature", key: k.sharps, scale: k.minor ? 1 : 0 } as MidiEvent,
    })),
  ];
  const tracks = performance.lines.map((line, i) => {
    const { channel, port } = outlet(i);
    const events: Timed[] = [
      ...(performance.lines.length > MELODIC
        ? [{ at: 0, order: 0, event: { deltaTime: 0, meta: true, type: "portPrefix", port } as MidiEvent }]
        : []),
      { at: 0, order: 0, event: { deltaTime: 0, meta: true, type: "trackName", text: bytes(line.name) } as MidiEvent },
      {
        at: 0,
        order: 1,
        event: { deltaTime: 0, channel, type: "programChange", programNumber: line.program } as MidiEvent,
      },
    ];
    for (const s of performance.notes.filter((s) => s.line === line.id)) {
      events.push({
        at: s.at,
        order: 3,
        event: { deltaTime: 0, channel, type: "noteOn", noteNumber: s.noteNumber, velocity: s.velocity } as MidiEvent,
      });
      events.push({
        at: s.at + s.ticks,
        order: 2,
        event: { deltaTime: 0, channel, type: "noteOff", noteNumber: s.noteNumber, velocity: 0 } as MidiEvent,
      });
    }
    return events;
  });
  const header = { format: 1 as const, numTracks: tracks.length + 1, ticksPerBeat: DIVISION };
  const head = writeMidi({ header, tracks: [conductor, ...tracks].map(() => []) }).slice(0, HEADER);
  const chunks = [conductor, ...tracks].map((track) => chunk(deltas(track, performance.ticks)));
  return Uint8Array.from([head, ...chunks.flat()].flat());
}

/** Bytes of a file's header, and of the name and length before each chunk's content. */
const HEADER = 14;
const CHUNK = 8;
/** Events written at a time: the writer copies all it has at every one of them. */
const PIECE = 200;

/** A track as its chunk. */
function chunk(events: readonly MidiEvent[]): number[][] {
  const header = { format: 1 as const, numTracks: 1, ticksPerBeat: DIVISION };
  const pieces: number[][] = [];
  for (let at = 0; at < events.length; at += PIECE)
    pieces.push(writeMidi({ header, tracks: [events.slice(at, at + PIECE)] }).slice(HEADER + CHUNK));
  const length = pieces.reduce((sum, piece) => sum + piece.length, 0);
  return [[...text("MTrk"), ...[24, 16, 8, 0].map((shift) => (length >> shift) & 255)], ...pieces];
}
const text = (letters: string) => Array.from(letters, (letter) => letter.charCodeAt(0));

function deltas(track: Timed[], end: number): MidiEvent[] {
  let last = 0;
  const sorted = [...track].sort((a, b) => a.at - b.at || a.order - b.order);
  const events = sorted.map(({ at, event }) => {
    const deltaTime = at - last;
    last = at;
    return { ...event, deltaTime } as MidiEvent;
  });
  return [...events, { deltaTime: Math.max(0, end - last), meta: true, type: "endOfTrack" } as MidiEvent];
}
