/** A roll: the strings of one bar in their order, and the finger that plucks each: thumb, index, middle. */
export type Roll = { name: string; strings: string; fingers: string; metre: string };

/** The rolls of the five-string banjo, by teachers' judgement. No finger plucks twice running. */
export const ROLLS: readonly Roll[] = [
  { name: "alternating roll", strings: "32514251", fingers: "TITMTITM", metre: "4/4" },
  { name: "forward roll", strings: "32152151", fingers: "TIMTIMTM", metre: "4/4" },
  { name: "backward roll", strings: "12512512", fingers: "MITMITMI", metre: "4/4" },
  { name: "forward and back roll", strings: "32151231", fingers: "TIMTMITM", metre: "4/4" },
  { name: "lead roll", strings: "21215215", fingers: "IMTMTIMT", metre: "4/4" },
  { name: "three-time roll", strings: "321521", fingers: "TIMTIM", metre: "3/4" },
];

/** Which fingers pluck a string, the usual one first. */
export const PLUCKS: Readonly<Record<number, readonly string[]>> = {
  1: ["M", "I"],
  2: ["I", "M"],
  3: ["T", "I"],
  4: ["T", "I"],
  5: ["T"],
};
