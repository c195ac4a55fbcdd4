// Hearing: what the annotated tunes teach of chords under a melody. In: the beats of a tune. Out: points for each of
// 24 triads, by tables a musician can read and by a network that cannot give reasons. Both are fitted together by
// `npm run fit:chords`.
export { type Block, BLOCKS, OFFSETS, SIZE } from "./blocks";
export { type Beat, beatsOf } from "./features";
export { gather, gatherMove, inTriad, moveId } from "./gather";
export { type Impression, INPUTS } from "./impression";
export { LABELS, labelOf } from "./labels";
export {
  FIRST,
  firstLayer,
  grained,
  inputRow,
  NETWORK_SIZES,
  type Network,
  ROOTS,
  ROW,
  SECOND,
  verdict,
} from "./network";
export { POINTS } from "./tables";
