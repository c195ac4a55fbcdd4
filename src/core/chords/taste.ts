/** What annotated tunes do not tell, in the same points, as costs: set by taste and kept apart from what is fitted. */
export const TASTE = {
  /** A seventh the melody sounds, and one it does not. */
  seventhSounded: -0.6,
  seventhUnsounded: 0.35,
  /** A chord that is not of the style: taken only where a teacher locks it. */
  outsideStyle: 40,
  /** Another form of the same chord: A after A7. */
  sameRoot: 1.2,
  /** The same music with another chord. */
  unlike: 1,
  /** A part of a place is offered only where it spares the plan this much. */
  part: 0.25,
};
