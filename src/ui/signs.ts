/** A note or key name with real accidental signs: "Bb" is shown as B♭. */
export const signed = (name: string): string => name.replaceAll("b", "♭").replaceAll("#", "♯");

/** A sentence with real signs in the note and chord names it holds: "F# passes" is shown as F♯ passes. */
export const signedText = (text: string): string =>
  text.replace(
    /(?<![A-Za-z])([A-G])(##?|bb?)(?![a-z])|(?<![A-Za-z])([A-G])(##?|bb?)(?=(?:m|dim|aug|sus|maj)(?:\d|\b))/g,
    (name) => signed(name),
  );

/** Several names as they are read: "D, E and F". */
export const listed = (words: readonly string[]): string =>
  words.length > 1 ? `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}` : (words[0] ?? "");

/** A count with its noun: "1 bar", "3 bars". */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

const day = (at: number) => new Date(at).toDateString();

/** A moment in words: "at 21:10" today, "on 24 Nov at 21:10" otherwise. */
export function timeWords(at: number): string {
  const time = new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  if (day(at) === day(Date.now())) return `at ${time}`;
  return `on ${new Date(at).toLocaleDateString("en-GB", { day: "numeric", month: "short" })} at ${time}`;
}

/** Seconds as players say them, in whole ones: "3:05". */
export function minutes(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
