import { FormatError } from "../problem";
import { all, child, type Node, textOf } from "./document";

/** Most parts of a score. */
const MOST_PARTS = 60;
const START = { line: 1, column: 1 };

/** Parts in score order with their measures, whichever way the document is turned. */
export function partsOf(root: Node): { name: string; measures: Node[] }[] {
  const names = new Map(
    all(child(root, "part-list"), "score-part").map((p, i) => [
      p.attributes.id ?? "",
      textOf(p, "part-name") || `Part ${i + 1}`,
    ]),
  );
  const named = (id: string | undefined, i: number) => names.get(id ?? "") ?? `Part ${i + 1}`;
  const count = root.name === "score-partwise" ? all(root, "part").length : names.size;
  if (count > MOST_PARTS)
    throw new FormatError(`This score has ${count} parts; ${MOST_PARTS} are the most. Save the tune alone.`, START);
  if (root.name === "score-partwise")
    return all(root, "part").map((p, i) => ({ name: named(p.attributes.id, i), measures: all(p, "measure") }));
  const measures = all(root, "measure");
  const ids = [...new Set(measures.flatMap((m) => all(m, "part").map((p) => p.attributes.id ?? "")))].slice(
    0,
    MOST_PARTS,
  );
  return ids.map((id, i) => ({
    name: named(id, i),
    measures: measures.map((m) => ({
      ...m,
      children: all(m, "part").find((p) => (p.attributes.id ?? "") === id)?.children ?? [],
    })),
  }));
}

/** Title, makers, source and rights, as far as the file gives them. */
export function heading(root: Node) {
  const id = child(root, "identification");
  const credits = all(root, "credit")
    .flatMap((c) => all(c, "credit-words").map((w) => w.text.trim()))
    .filter(Boolean);
  const titles = [textOf(child(root, "work"), "work-title"), textOf(root, "movement-title")].filter(Boolean);
  const creators = all(id, "creator")
    .filter((c) => (c.attributes.type ?? "composer") !== "lyricist")
    .map((c) => c.text.trim())
    .filter(Boolean);
  const rights = all(id, "rights")
    .map((r) => r.text.trim())
    .filter(Boolean);
  const line = (s: string) => s.replace(/\s+/g, " ").trim();
  return {
    version: 1 as const,
    title: line(titles[0] ?? credits[0] ?? "").slice(0, 400),
    otherTitles: titles
      .slice(1)
      .filter((t) => t !== titles[0])
      .map((t) => line(t).slice(0, 400)),
    composer: line(creators.join("; ")).slice(0, 400),
    origin: "",
    source: line(textOf(id, "source")).slice(0, 2000),
    rights: "unknown" as const,
    notes: rights
      .map((r) => `The file says: ${line(r)}`)
      .join("\n")
      .slice(0, 20000),
    rhythm: "",
    verses: [],
  };
}
