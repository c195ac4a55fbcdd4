/** A note or key name with real accidental signs: "Bb" is shown as B♭. */
export const signed = (name: string): string => name.replaceAll("b", "♭").replaceAll("#", "♯");

/** Several names as they are read: "D, E and F". */
export const listed = (words: readonly string[]): string =>
  words.length > 1 ? `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}` : (words[0] ?? "");

/** A count with its noun: "1 bar", "3 bars". */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
