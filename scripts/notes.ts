// Counts the notes of every tune in ABC books twice: as they are read, and by a second reader of its own that knows
// nothing but letters and bar lines. Prints every tune where they differ, and what was left out of it in words; exit
// status 1 if music was lost without a word.
// Usage: npm run notes -- FILE.abc...
import { readFileSync } from "node:fs";
import { cutBook, readAbcTune } from "../src/core/formats";

const FIELD = /^[A-Za-z+]:/;
/** Chords and notes written in the body of a tune: text, fields, decorations and grace notes taken away. */
function written(text: string): number {
  const lines = text.split("\n");
  const key = lines.findIndex((l) => l.startsWith("K:"));
  const body = lines
    .slice(key + 1)
    .filter((l) => !FIELD.test(l) && !l.startsWith("%"))
    .map((l) => l.replace(/%.*/, ""))
    .join(" ");
  const bare = body
    .replace(/"[^"]*"/g, " ")
    .replace(/\[[A-Za-z]:[^\]]*\]/g, " ")
    .replace(/![^!\s]*!|\+[^+\s]*\+/g, " ")
    .replace(/\{[^}]*\}/g, " ")
    .replace(/\[([^\]|]*)\]/g, (all, inside: string) => (/[A-Ga-g]/.test(inside) ? "C" : all));
  return bare.match(/[A-Ga-g]/g)?.length ?? 0;
}

let [tunes, differ, silent] = [0, 0, 0];
for (const file of process.argv.slice(2)) {
  for (const cutting of cutBook(readFileSync(file, "utf8"))) {
    tunes += 1;
    const number = /^X:\s*(\d+)/m.exec(cutting.text)?.[1] ?? "?";
    try {
      const { tune, remarks } = readAbcTune(cutting);
      const read = tune.strains.flatMap((s) => s.bars.flatMap((b) => b.events)).filter((e) => e.pitches.length).length;
      const own = written(cutting.text);
      if (read === own) continue;
      differ += 1;
      const told = remarks.filter((r) => r.left).map((r) => `line ${r.line}: ${r.message}`);
      if (told.length === 0) silent += 1;
      console.log(`${file} X:${number}: ${own} written, ${read} read. ${told.join(" ") || "Nothing was said."}`);
    } catch (error) {
      console.log(`${file} X:${number}: refused. ${error instanceof Error ? error.message : error}`);
    }
  }
}
console.log(`${tunes} tunes, ${differ} differ, ${silent} without a word.`);
process.exit(silent ? 1 : 0);
