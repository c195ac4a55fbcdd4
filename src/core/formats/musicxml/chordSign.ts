import { parseChord } from "../../theory";
import { child, type Node, numberOf, textOf } from "./document";
import { KINDS } from "./tables";

const SUFFIX_OF = new Map([...KINDS].map(([suffix, kind]) => [kind, suffix]));

/** The symbol of a harmony element; undefined where it is not built on a root. */
export function chordSign(node: Node): string | undefined {
  const name = (which: string) => {
    const found = child(node, which);
    const step = textOf(found, `${which}-step`).toUpperCase();
    const alter = Math.round(numberOf(found, `${which}-alter`) ?? 0);
    return /^[A-G]$/.test(step)
      ? step + (alter < 0 ? "b".repeat(Math.min(2, -alter)) : "#".repeat(Math.min(2, alter)))
      : "";
  };
  const root = name("root");
  const kind = child(node, "kind");
  const bass = name("bass");
  const texts = [
    kind?.attributes.text,
    SUFFIX_OF.get(kind?.text.trim() ?? ""),
    SUFFIX_OF.get((kind?.text.trim() ?? "").replace(/-(ninth|11th|13th)$/, "-seventh")) ?? "",
    "",
  ];
  if (!root) return undefined;
  return texts
    .filter((t) => t !== undefined)
    .map((t) => parseChord(root + t + (bass ? `/${bass}` : ""))?.symbol)
    .find(Boolean);
}
