import type { Tempo } from "./model";

/** One sounding note. Times are in ticks of the played tune (repeats unfolded, count-in excluded). */
export type PlayedNote = {
  line: string;
  at: number;
  ticks: number;
  /** MIDI number; cents are added to it. */
  noteNumber: number;
  cents: number;
  /** 1 to 127. */
  velocity: number;
};

/** A bar as it is played: which written bar it is, when it starts, and its length in ticks. */
export type PlayedBar = { index: number; at: number; ticks: number; beats: number };

/** A line to be heard: its name and its General MIDI program from 0. */
export type Line = { id: string; name: string; program: number };

/** A whole performance: what the browser plays, the WAV holds and the MIDI file says. */
export type Performance = {
  title: string;
  lines: readonly Line[];
  notes: readonly PlayedNote[];
  bars: readonly PlayedBar[];
  metres: readonly { at: number; beats: number; unit: number }[];
  keys: readonly { at: number; sharps: number; minor: boolean }[];
  tempos: readonly ({ at: number } & Tempo)[];
  ticks: number;
};
