/**
 * Presets taken from the source bank (bank:program), the General MIDI program they answer to here, and the keys they
 * play.
 */
export const PRESETS: readonly { name: string; bank: number; program: number; as: number; keys: [number, number] }[] = [
  { name: "fiddle", bank: 0, program: 110, as: 40, keys: [55, 96] },
  { name: "viola", bank: 0, program: 41, as: 41, keys: [48, 88] },
  { name: "cello", bank: 0, program: 42, as: 42, keys: [36, 76] },
  { name: "guitar", bank: 0, program: 24, as: 24, keys: [38, 80] },
  { name: "mandolin", bank: 16, program: 25, as: 25, keys: [55, 88] },
  { name: "whistle", bank: 0, program: 74, as: 74, keys: [72, 96] },
  { name: "flute", bank: 0, program: 73, as: 73, keys: [60, 90] },
  { name: "accordion", bank: 0, program: 21, as: 21, keys: [48, 88] },
  { name: "click", bank: 10, program: 115, as: 115, keys: [76, 77] },
];
