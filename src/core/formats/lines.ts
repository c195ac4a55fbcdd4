import type { Spot } from "./problem";

/** Tells the line and column of any place of a text, both from 1, without reading the text again each time. */
export function spotsOf(text: string): (offset: number) => Spot {
  const starts = [0];
  for (let at = text.indexOf("\n"); at >= 0; at = text.indexOf("\n", at + 1)) starts.push(at + 1);
  return (offset) => {
    const place = Math.max(0, Math.min(offset, text.length));
    let [low, high] = [0, starts.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((starts[middle] as number) <= place) low = middle;
      else high = middle - 1;
    }
    return { line: low + 1, column: place - (starts[low] as number) + 1 };
  };
}
