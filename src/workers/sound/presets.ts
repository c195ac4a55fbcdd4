/**
 * A sound of our bank: its place in the source bank, the General MIDI program it answers to here, and the keys it
 * plays.
 */
export type Preset = { name: string; bank: number; program: number; as: number; keys: readonly [number, number] };

/**
 * One preset for each instrument of the catalogue, one for the chords and one for the click. The piano is the source's
 * electric one: its grand alone is four times the size of all these together.
 */
export const PRESETS: readonly Preset[] = [
  { name: "fiddle", bank: 0, program: 110, as: 40, keys: [55, 96] },
  { name: "viola", bank: 0, program: 41, as: 41, keys: [48, 88] },
  { name: "cello", bank: 0, program: 42, as: 42, keys: [36, 76] },
  { name: "mandolin", bank: 16, program: 25, as: 26, keys: [55, 88] },
  { name: "guitar", bank: 0, program: 25, as: 25, keys: [40, 84] },
  { name: "banjo", bank: 0, program: 105, as: 105, keys: [48, 86] },
  { name: "mountain dulcimer", bank: 0, program: 15, as: 15, keys: [48, 86] },
  { name: "small lute", bank: 8, program: 24, as: 27, keys: [55, 88] },
  { name: "whistle", bank: 0, program: 74, as: 74, keys: [72, 96] },
  { name: "flute", bank: 0, program: 73, as: 73, keys: [60, 90] },
  { name: "accordion", bank: 0, program: 21, as: 21, keys: [48, 88] },
  { name: "piano", bank: 0, program: 4, as: 0, keys: [21, 108] },
  { name: "voice", bank: 0, program: 53, as: 52, keys: [45, 81] },
  { name: "hand drum", bank: 0, program: 117, as: 117, keys: [41, 53] },
  { name: "chords", bank: 0, program: 24, as: 24, keys: [38, 80] },
  { name: "click", bank: 10, program: 115, as: 115, keys: [76, 77] },
];

const OCTAVE = 12;
/** A note as a program of the bank can sound it: what lies outside its keys sounds an octave nearer. */
export function soundedAs(program: number, noteNumber: number): number {
  const [low, high] = PRESETS.find((p) => p.as === program)?.keys ?? [0, 127];
  let sounded = noteNumber;
  while (sounded < low) sounded += OCTAVE;
  while (sounded > high) sounded -= OCTAVE;
  return sounded;
}
