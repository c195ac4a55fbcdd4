import type { Bar, Event } from "../../score";
import { endingPasses } from "../abc/fields";
import { child, type Node, textOf } from "./document";

const BARLINE_OF: ReadonlyMap<string, Bar["barline"]> = new Map([
  ["light-light", "double"],
  ["light-heavy", "final"],
  ["heavy-light", "heavy"],
  ["heavy-heavy", "final"],
  ["heavy", "heavy"],
  ["dotted", "dotted"],
  ["dashed", "dotted"],
]);

/** Bars of a measure: one, or more where a repeat or double line stands inside it. */
export function split(
  events: Event[],
  signs: Pick<Bar, "chords" | "changes">,
  middle: readonly { at: number; line: Node }[],
): { bar: Bar; line?: Node }[] {
  const whole = (from: number, to: number, inside: Event[]): Bar => ({
    events: inside,
    barline: "single",
    chords: signs.chords
      .filter((c) => c.at >= from && (c.at < to || to === Infinity))
      .map((c) => ({ ...c, at: c.at - from })),
    changes: signs.changes
      .filter((c) => c.at >= from && (c.at < to || to === Infinity))
      .map((c) => ({ ...c, at: c.at - from })),
  });
  const pieces: { bar: Bar; line?: Node }[] = [];
  let [from, rest] = [0, events];
  for (const { at, line } of middle.filter((m) => child(m.line, "repeat") || child(m.line, "ending"))) {
    let [fill, k] = [from, 0];
    while (k < rest.length && fill < at) fill += (rest[k++] as Event).ticks;
    if (fill !== at || k === 0 || k === rest.length) continue;
    pieces.push({ bar: whole(from, at, rest.slice(0, k)), line });
    [from, rest] = [at, rest.slice(k)];
  }
  return [...pieces, { bar: whole(from, Infinity, rest) }];
}

/** Puts what a bar line says onto a bar: repeats, endings and how it closes. `left` is the line before it. */
export function barline(bar: Bar, node: Node, left: boolean) {
  const repeat = child(node, "repeat");
  const ending = child(node, "ending");
  if (repeat?.attributes.direction === "forward") bar.repeatStart = true;
  if (repeat?.attributes.direction === "backward" && !left)
    bar.repeatEnd = Math.max(2, Math.min(9, Math.round(Number(repeat.attributes.times)) || 2));
  if (ending?.attributes.type === "start") {
    const passes = endingPasses((ending.attributes.number || ending.text).replaceAll(" ", ","));
    if (passes.length) bar.ending = passes;
  } else if (ending && !left) bar.endingStop = true;
  const style = BARLINE_OF.get(textOf(node, "bar-style"));
  if (style && !left) bar.barline = bar.repeatEnd ? "final" : style;
  if (bar.repeatEnd) bar.barline = "final";
}
