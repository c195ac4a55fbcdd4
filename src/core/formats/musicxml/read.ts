import { LARGEST, laidTune, Tune } from "../../score";
import { spotsOf } from "../lines";
import { FormatError, firstIssue, type Remark, type Spot } from "../problem";
import { all, child, type Node, readDocument } from "./document";
import { PartReader } from "./part";
import { heading, partsOf } from "./parts";

/** A part a reader may choose. */
export type XmlPart = { name: string; notes: number };
export type ReadXml = { tune: Tune; remarks: Remark[]; parts: XmlPart[]; chosen: number };

/**
 * Reads one part of a MusicXML score (partwise or timewise): its first voice, double stops included. What is left out
 * is
 * named in the remarks. Throws a FormatError with line and column.
 */
export function readMusicXml(text: string, options: { part?: number | undefined } = {}): ReadXml {
  const root = readDocument(text);
  if (root.name !== "score-partwise" && root.name !== "score-timewise") {
    throw new FormatError(
      root.name === "opus"
        ? "This is a list of scores (an opus), not a score. Open one of its scores."
        : `This is XML, but not a score: its outermost element is <${root.name.slice(0, 40)}>.`,
      { line: 1, column: 1 },
    );
  }
  const parts = partsOf(root);
  const count = (measures: readonly Node[]) =>
    measures.reduce((n, m) => n + all(m, "note").filter((x) => child(x, "pitch")).length, 0);
  const listed = parts.map(({ name, measures }) => ({ name, notes: count(measures) }));
  const first = listed.findIndex((p) => p.notes > 0);
  const chosen = options.part ?? Math.max(0, first);
  const part = parts[chosen];
  if (!part)
    throw new FormatError(
      parts.length ? `There is no part ${chosen + 1}; this score has ${parts.length}.` : "This score has no parts.",
      { line: 1, column: 1 },
    );
  if (listed[chosen]?.notes === 0)
    throw new FormatError(
      first < 0
        ? "No part of this score has a note with a pitch."
        : `The part "${part.name}" has no note with a pitch. Choose another.`,
      { line: 1, column: 1 },
    );
  const starts = [...text.matchAll(/<measure[\s>/]/g)].map((m) => m.index);
  const offset = root.name === "score-partwise" ? parts.slice(0, chosen).reduce((n, p) => n + p.measures.length, 0) : 0;
  const spots = spotsOf(text);
  const spotOf = (measure: number): Spot => spots(starts[offset + measure] ?? 0);
  const { measures } = part;
  if (measures.length > LARGEST.bars)
    throw new FormatError(
      `This part has ${measures.length} bars; ${LARGEST.bars} are the most of one tune. Save the tune alone.`,
      spotOf(LARGEST.bars),
    );
  const notes = measures.reduce((n, m) => n + all(m, "note").length, 0);
  if (notes > LARGEST.notes)
    throw new FormatError(
      `This part has ${notes} notes; ${LARGEST.notes} are the most of one tune. Save the tune alone.`,
      spotOf(0),
    );
  const remarks: Remark[] = [];
  if (parts.length > 1)
    remarks.push({
      ...spotOf(0),
      message: `The score has ${parts.length} parts; "${part.name}" was taken and the others left out (${parts
        .filter((_, i) => i !== chosen)
        .map((p) => p.name)
        .slice(0, 6)
        .join(", ")}).`,
      left: true,
    });
  const read = new PartReader(measures, spotOf, remarks).tune(heading(root));
  const checked = Tune.safeParse(read);
  if (!checked.success)
    throw new FormatError(
      `This score cannot be kept: ${firstIssue(checked.error)}.`,
      spotOf(barOf(read, checked.error)),
    );
  return { tune: laidTune(checked.data), remarks, parts: listed, chosen };
}

/** The measure, from 0, in which a schema found something wrong. */
function barOf({ strains }: Tune, { issues: [first] }: { issues: readonly { path: PropertyKey[] }[] }): number {
  const [, strain, , bar] = first?.path ?? [];
  if (typeof strain !== "number") return 0;
  const before = strains.slice(0, strain).reduce((n, s) => n + s.bars.length, 0);
  return before + (typeof bar === "number" ? bar : 0);
}
