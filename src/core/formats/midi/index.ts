export { type MidiOptions, type MidiTrack, readMidi, type ReadMidi } from "./read";
export { type Grid, GRIDS } from "./quantise";
export { performanceMidi } from "./write";
