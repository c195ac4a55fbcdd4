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
    what: /(\|[|\]:]{0,4}|:)( {1,20})([1-4])(?=[\s"A-Ga-g([{~^_=zvuTH.])/g,
    put: (_, bar = "", gap = "", n = "") => `${bar}${n}${gap}`,
  },
  // A brace that nothing closes; the parser would look for its end again at every sign.
  { what: /\{(?![^{}]{0,300}\})/g, put: () => " " },
  // A field inside the music that nothing closes, for the same reason.
  { what: /\[(?=[A-Za-z]:)(?![^[\]]{0,300}\])/g, put: () => " " },
  // More slurs than a note can open.
  { what: /\({10,}/g, put: (all) => "(".repeat(9).padStart(all.length) },
  // A bracket that opens nothing.
  { what: /\|\[(?=\s)/g, put: () => "| " },
  // Signs left by mail programs.
  { what: /=20(?=\s|$)|=$/g, put: (all) => " ".repeat(all.length) },
];

/** A line without the justification and layout signs at its end; it keeps its length. */
function withoutLayout(line: string): string {
  let end = line.length;
  while (end > 0 && "*$ \t".includes(line.charAt(end - 1))) end -= 1;
  return line.slice(0, end).padEnd(line.length);
}

/**
 * A line without what is written after & for a second voice in the bar; it keeps its length. The first voice is the
 * one that is read, and the parser goes back over the bar for every other.
 */
function withoutOverlays(line: string): string {
  if (!line.includes("&")) return line;
  let [kept, quoted, over] = ["", false, false];
  for (const sign of line) {
    if (sign === '"') quoted = !quoted;
    else if (!quoted && (sign === "|" || sign === ":")) over = false;
    else if (!quoted && sign === "&") over = true;
    kept += over ? " ".repeat(sign.length) : sign;
  }
  return kept;
}

const outsideText = (line: string, mend: (music: string) => string) =>
  line
    .split(/("[^"]*"|\[[A-Za-z]:[^\]]{0,300}\])/)
    .map((piece, i) => (i % 2 ? piece : mend(piece)))
    .join("");

/** What of a line is neither text, decoration, field nor grace note. */
const bared = (line: string) =>
  line.replace(/"[^"]*"|![^!]*!|\+[^+]*\+|\[[A-Za-z]:[^\]]{0,300}\]|\{[^{}]{0,300}\}|%.*$/g, " ");
/** Letters that name no note, rest or usual sign. */
const FOREIGN = /[h-tw-yI-KNQRV-Y]/g;
/** Shares of foreign letters above which a line is words: without a bar line, and with one. */
const WORDS = { alone: 0.3, barred: 0.6 };

/**
 * What a line of the body is: music; music with letters among it that may be words; or prose. A line that has bar lines
 * and notes is music, whatever else is in it, unless next to nothing of it could be.
 */
function kindOf(line: string): "music" | "doubtful" | "prose" {
  const bare = bared(line);
  const letters = bare.match(/[A-Za-z]/g)?.length ?? 0;
  const foreign = bare.match(FOREIGN)?.length ?? 0;
  const words = (bare.match(/[A-Za-z']{3,}/g) ?? []).filter((w) => FOREIGN_WORD.test(w)).length;
  const barred = bare.includes("|");
  if (words > 0 && foreign > letters * (barred ? WORDS.barred : WORDS.alone)) return "prose";
  return words >= DOUBTFUL ? "doubtful" : "music";
}
const FOREIGN_WORD = /[h-tw-yI-KNQRV-Y]/;
/** Words with foreign letters in a line that make one ask. */
const DOUBTFUL = 2;

/**
 * Chords broken by a line end, put together on the first line; the rest of the second keeps its columns. Fields and
 * remarks between them stay.
 */
function withWholeChords(lines: readonly string[]): string[] {
  const whole = [...lines];
  const isOther = (line: string) => /^([A-Za-z+]:|%)/.test(line) || line.trim() === "";
  whole.forEach((line, i) => {
    const open = /\[(?![A-Za-z]:|[|\]\d"])[^\]|"%]{0,40}$/.exec(isOther(line) ? "" : line.trimEnd());
    if (!open) return;
    const next = whole.findIndex((l, k) => k > i && !isOther(l));
    const rest = next < 0 ? null : /^[^\][|"%]{0,40}\][\d/]*/.exec(whole[next] as string);
    if (!rest) return;
    whole[i] = line.trimEnd() + rest[0].trimStart();
    whole[next] = " ".repeat(rest[0].length) + (whole[next] as string).slice(rest[0].length);
  });
  return whole;
}

const OVERLAYS = "Second voices inside a bar, after &, were left out.";
/** More blanks than any page is wide. */
const GAP = /[ \t]{200,}/g;
const LETTER_FIELD = /^[A-Za-z+]:/;

/**
 * The tune's text made ready for the reader, with a remark for every line left out. `line` is where the text starts.
 */
export function tidy(text: string, line: number): { text: string; remarks: Remark[] } {
  const remarks: Remark[] = [];
  let body = false;
  const lines = withWholeChords(text.split("\n")).map((raw, i) => {
    const drop = (message: string) => {
      remarks.push({ line: line + i, column: 1, message, left: true });
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
    const kind = kindOf(raw);
    if (kind === "prose")
      return drop("This line reads as words, not notes, and was left out. Put N: before it to keep it as a remark.");
    if (kind === "doubtful")
      remarks.push({
        line: line + i,
        column: 1,
        message: "This line was read as notes. If it is text, put N: before it.",
        left: true,
      });
    const single = withoutOverlays(raw);
    if (single !== raw && !remarks.some((r) => r.message === OVERLAYS))
      remarks.push({ line: line + i, column: raw.indexOf("&") + 1, message: OVERLAYS, left: true });
    return outsideText(withoutLayout(single), (music) =>
      REPAIRS.reduce((now, { what, put }) => now.replace(what, put), music),
    );
  });
  // Nobody counts columns past such a gap, and the parser looks through it at every step.
  return { text: lines.map((l) => l.replace(GAP, " ")).join("\n"), remarks };
}
