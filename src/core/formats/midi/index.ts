export { type MidiTrack, readMidi } from "./read";
export { type Grid, GRIDS } from "./quantise";
export { performanceMidi } from "./write";
