import { XMLParser, XMLValidator } from "fast-xml-parser";
import { FormatError } from "../problem";

/** The most characters a document may have, and the deepest its elements may nest. */
const LONGEST = 30_000_000;
const DEEPEST = 64;

/** One element: its name, attributes, child elements in order, and its own text. */
export type Node = {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: readonly Node[];
  text: string;
};

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: "",
  parseTagValue: false,
  parseAttributeValue: false,
  htmlEntities: true,
  ignoreDeclaration: true,
  ignorePiTags: true,
});

/**
 * A document as plain nodes. Refuses with line and column: broken markup, documents that declare entities of their own
 * (they
 * can unfold without end), and nesting deeper than any score.
 */
export function readDocument(source: string): Node {
  const text = source.replace(/^\uFEFF/, "");
  if (text.length > LONGEST)
    throw new FormatError("This document is over 30 million characters long. Save a shorter excerpt.", {
      line: 1,
      column: 1,
    });
  const spotAt = (index: number) => ({
    line: text.slice(0, index).split("\n").length,
    column: index - text.lastIndexOf("\n", index - 1),
  });
  const entity = /<!(ENTITY|ELEMENT|ATTLIST|NOTATION)\b/i.exec(text);
  if (entity)
    throw new FormatError(
      "This document declares entities or elements of its own, which is not accepted. Save it again as plain MusicXML.",
      spotAt(entity.index),
    );
  checkDepth(text, spotAt);
  const valid = XMLValidator.validate(text, { allowBooleanAttributes: true });
  if (valid !== true)
    throw new FormatError(`The XML is broken here: ${saidBy(valid.err)} Save the file again, or mend this line.`, {
      line: valid.err.line,
      column: valid.err.col ?? 1,
    });
  let roots: Node[];
  try {
    roots = (parser.parse(text) as Raw[]).flatMap(nodeOf);
  } catch (error) {
    throw new FormatError(
      `The XML could not be read (${error instanceof Error ? error.message : "unknown reason"}). Save the file again.`,
      { line: 1, column: 1 },
    );
  }
  const root = roots.find((n) => n.name.startsWith("score-") || n.name === "container") ?? roots[0];
  if (!root) throw new FormatError("There is nothing in this document.", { line: 1, column: 1 });
  return root;
}

function checkDepth(text: string, spotAt: (index: number) => { line: number; column: number }) {
  let depth = 0;
  for (const match of text.matchAll(
    /<!--[\s\S]*?-->|<!\[CDATA\[[\s\S]*?\]\]>|<\/|<[A-Za-z_](?:[^>"']|"[^"]*"|'[^']*')*?(\/?)>/g,
  )) {
    if (match[0] === "</") depth -= 1;
    else if (!match[0].startsWith("<!") && match[1] !== "/") depth += 1;
    if (depth > DEEPEST)
      throw new FormatError(
        `Elements nest more than ${DEEPEST} deep here; no score does. Save the file again.`,
        spotAt(match.index),
      );
  }
}

type Raw = Record<string, unknown> & { ":@"?: Record<string, string> };

function nodeOf(raw: Raw): Node[] {
  const name = Object.keys(raw).find((k) => k !== ":@");
  if (!name || name.startsWith("#") || name.startsWith("?")) return [];
  const inner = raw[name] as Raw[];
  const text = inner.flatMap((r) => ("#text" in r ? [String(r["#text"])] : [])).join("");
  return [{ name, attributes: raw[":@"] ?? {}, children: inner.flatMap(nodeOf), text }];
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

/** What the parser says is wrong, on one line and no longer than a message should be. */
const saidBy = ({ msg }: { msg: string }): string => msg.replace(/\s+/g, " ").slice(0, 200);
