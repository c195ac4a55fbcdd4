// Theory: spelled pitch, keys and modes, intervals, chord symbols. In: names. Out: plain values. Knows nothing of
// scores.
export * from "./chord";
export * from "./key";
export * from "./pitch";
export * from "./record";
