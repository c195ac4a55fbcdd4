import { SaxesParser } from "saxes";
import { FormatError } from "../problem";

/** The most characters a document may have, and the deepest its elements may nest. */
const LONGEST = 8_000_000;
const DEEPEST = 64;
/** The most elements: the largest tune, in the company of a few other parts. */
const MOST = 250_000;
const START = { line: 1, column: 1 };
const NONE: readonly Node[] = [];
const BARE: Record<string, string> = {};

/** One element: its name, attributes, child elements in order, and its own text. */
export type Node = {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: readonly Node[];
  text: string;
};

type Open = { name: string; attributes: Record<string, string>; children: Node[]; text: string };

/**
 * A document as plain nodes, in one pass. Refuses with line and column: broken markup, documents that declare entities
 * of their own (they can unfold without end), and nesting deeper or elements more than any score has.
 */
export function readDocument(source: string): Node {
  const text = source.replace(/^\uFEFF/, "");
  if (text.length > LONGEST)
    throw new FormatError("This document is over 8 million characters long. Save the tune alone.", START);
  const parser = new SaxesParser();
  const refuse = (message: string): never => {
    throw new FormatError(message, { line: parser.line, column: Math.max(1, parser.column) });
  };
  parser.on("error", (error) => {
    const said = error.message
      .replace(/^\d+:\d+: /, "")
      .replace(/\.$/, "")
      .replace(/\s+/g, " ")
      .slice(0, 200);
    refuse(`The XML is broken here: ${said}. Save the file again, or mend this line.`);
  });
  parser.on("doctype", (doctype) => {
    if (/<!(ENTITY|ELEMENT|ATTLIST|NOTATION)\b/i.test(doctype))
      refuse(
        "This document declares entities or elements of its own, which is not accepted. " +
          "Save it again as plain MusicXML.",
      );
  });
  const roots: Node[] = [];
  const open: Open[] = [];
  let elements = 0;
  parser.on("opentag", ({ name, attributes }) => {
    elements += 1;
    if (open.length >= DEEPEST)
      refuse(`Elements nest more than ${DEEPEST} deep here; no score does. Save the file again.`);
    if (elements > MOST) refuse(`This document has over ${MOST} elements. Save the tune alone.`);
    open.push({ name, attributes: Object.keys(attributes).length > 0 ? attributes : BARE, children: [], text: "" });
  });
  const heard = (words: string) => {
    const last = open.at(-1);
    // Blanks between elements are layout.
    if (last && (last.text || /\S/.test(words))) last.text += words;
  };
  parser.on("text", heard);
  parser.on("cdata", heard);
  parser.on("closetag", () => {
    const done = open.pop();
    if (!done) return;
    const node = { ...done, children: done.children.length > 0 ? done.children : NONE };
    (open.at(-1)?.children ?? roots).push(node);
  });
  parser.write(text).close();
  const root = roots[0];
  if (!root) throw new FormatError("There is nothing in this document.", START);
  return root;
}

/** First child of a name. */
export const child = (node: Node | undefined, name: string): Node | undefined =>
  node?.children.find((c) => c.name === name);
/** All children of a name. */
export const all = (node: Node | undefined, name: string): Node[] =>
  node?.children.filter((c) => c.name === name) ?? [];
/** A child's text without spaces around it, or an empty string. */
export const textOf = (node: Node | undefined, name: string): string => child(node, name)?.text.trim() ?? "";
/** A child's number, or undefined where it is missing or none. */
export function numberOf(node: Node | undefined, name: string): number | undefined {
  const text = textOf(node, name);
  const value = Number(text);
  return text !== "" && Number.isFinite(value) ? value : undefined;
}
