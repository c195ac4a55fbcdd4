/** What annotated tunes do not tell, in the same points, as costs: set by taste and kept apart from what is fitted. */
export const TASTE = {
  /** A seventh the melody sounds, and one it does not. */
  seventhSounded: -0.6,
  seventhUnsounded: 0.35,
  /** A chord that is not of the style: taken only where a teacher locks it. */
  outsideStyle: 40,
  /** Another form of the same chord: A after A7. */
  sameRoot: 1.2,
  /** The same music with another chord; with the same music before and after it too. */
  unlike: 1.2,
  unlikeBetween: 5,
  /** A chord note that the melody has in another form; a leading note over a chord without it. */
  denied: 5,
  leading: 1.5,
  /** A change of chord under a lead-in, where one phrase has ended and the next has not begun. */
  leadIn: 0.8,
  /** A note that leans into the dominant at the end of a phrase, over another chord. */
  delayed: 4,
  /** A part of a place is offered only where it spares the plan this much. */
  part: 0.25,
};
