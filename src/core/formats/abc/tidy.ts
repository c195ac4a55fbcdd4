import type { Remark } from "../problem";

/**
 * Old books hold things the reader of the standard stumbles over. Each repair keeps the number of characters
 * of the line, so that every message still points at the right column.
 */
const SHORT: Record<string, string> = {
  staccato: ".",
  Coda: "!coda!",
  Segno: "!segno!",
  Fine: "!fine!",
  "^": "!umarcato!",
};

const REPAIRS: { what: RegExp; put: (all: string, ...groups: string[]) => string }[] = [
  // A lone "!" was a line break in old programs; a pair around a name is a decoration.
  {
    what: /!([\w.<>()+^-]+)!|!/g,
    put: (all, name) => (name === undefined ? " " : (SHORT[name]?.padStart(all.length) ?? all)),
  },
  // ":|:" for "::".
  { what: /:\|:/g, put: () => ":: " },
  // "| 1" for "|1": a number standing alone after a bar line is an ending.
  {
    what: /(\|[|\]:]*|:)( +)([1-4])(?=[\s"A-Ga-g([{~^_=zvuTH.])/g,
    put: (_, bar = "", gap = "", n = "") => `${bar}${n}${gap}`,
  },
  // A bracket that opens nothing.
  { what: /\|\[(?=\s)/g, put: () => "| " },
  // Signs left by mail programs.
  { what: /=20(?=\s|$)|=$/g, put: (all) => " ".repeat(all.length) },
  // Justification and layout signs.
  { what: /[*$]+(?=\s*$)/g, put: (all) => " ".repeat(all.length) },
];

const outsideText = (line: string, mend: (music: string) => string) =>
  line
    .split(/("[^"]*"|\[[A-Za-z]:[^\]]*\])/)
    .map((piece, i) => (i % 2 ? piece : mend(piece)))
    .join("");

/** Whether a line of the body is prose rather than music: words of letters no note has, and no bar line. */
function isProse(line: string): boolean {
  const bare = line.replace(/"[^"]*"|![^!]*!|\+[^+]*\+|\[[A-Za-z]:[^\]]*\]|\{[^}]*\}|%.*$/g, " ");
  const words = bare.match(/[A-Za-z']{3,}/g) ?? [];
  const foreign = words.filter((w) => /[h-tv-wH-KN-RU-Wj-tI-Y]/.test(w.replace(/[xyzZTHLMPSOuvJR]/g, "")));
  return foreign.length > 0 && (!/[|\]]/.test(bare) || foreign.length >= 3);
}

const LETTER_FIELD = /^[A-Za-z+]:/;

/**
 * The tune's text made ready for the reader, with a remark for every line left out. `line` is where the text starts.
 */
export function tidy(text: string, line: number): { text: string; remarks: Remark[] } {
  const remarks: Remark[] = [];
  let body = false;
  const lines = text.split("\n").map((raw, i) => {
    const drop = (message: string) => {
      remarks.push({ line: line + i, column: 1, message });
      return `%${" ".repeat(Math.max(0, raw.length - 1))}`;
    };
    if (raw.startsWith("%") || raw.trim() === "") return raw.trim() === "" ? `%${raw.slice(1)}` : raw;
    if (/^ +[A-Za-z]:/.test(raw) && !body) return raw.trimStart().padEnd(raw.length);
    if (LETTER_FIELD.test(raw) && !/^[|:]/.test(raw)) {
      if (raw.startsWith("K:")) body = true;
      return raw;
    }
    if (!body)
      return drop(
        "This line is not a field and was left out. " +
          "Header lines start with a letter and a colon, such as T: for the title.",
      );
    if (isProse(raw))
      return drop("This line reads as words, not notes, and was left out. Put N: before it to keep it as a remark.");
    return outsideText(raw, (music) => REPAIRS.reduce((now, { what, put }) => now.replace(what, put), music));
  });
  return { text: lines.join("\n"), remarks };
}
