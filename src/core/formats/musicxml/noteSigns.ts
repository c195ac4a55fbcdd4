import type { Mark } from "../../score";
import { all, child, type Node, textOf } from "./document";
import { MARK_OF_ELEMENT } from "./tables";

/** Whether a note is held into the next. */
export const isTied = (node: Node) =>
  all(node, "tie").some((t) => t.attributes.type === "start") ||
  (all(node, "tie").length === 0 && all(child(node, "notations"), "tied").some((t) => t.attributes.type === "start"));

/** Marks of a note as its notations give them. */
export function marksOf(node: Node, notations: readonly Node[], pitched: boolean): Mark[] {
  const signs = notations
    .flatMap((n) => n.children)
    .flatMap((n) => (["articulations", "ornaments", "technical"].includes(n.name) ? n.children : [n]));
  const marks = signs.flatMap(
    (s) =>
      MARK_OF_ELEMENT.get(s.name) ??
      (s.name === "fingering" && /^[0-5]$/.test(s.text.trim()) ? (`finger ${s.text.trim()}` as Mark) : []),
  );
  if (textOf(node, "notehead") === "x" && pitched) marks.push("ghost");
  return marks;
}
