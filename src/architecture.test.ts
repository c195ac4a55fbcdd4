// The floor plan, checked: imports point down, core's rooms keep their order, and core knows nothing of its
// surroundings.
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative, resolve } from "node:path";
import { describe, expect, it } from "vitest";

const SRC = resolve("src");
const LAYERS = ["core", "engraving", "db", "cli", "server", "workers", "ui", "app"];
/** Rooms of core from the ground up; a room may use those before it. */
const ROOMS = [
  "theory",
  "search",
  "score",
  "formats",
  "performance",
  "feel",
  "analysis",
  "intake",
  "instruments",
  "technique",
  "strokes",
  "chords",
  "harmony",
  "spelling",
  "typing",
  "grading",
  "variation",
  "ensemble",
];
/** Rooms that may be used before their place, since they hold plain facts. */
const FACTS = new Set(["instruments"]);

/** Imports and re-exports, each from its first word to the file it names; and those made while running. */
const IMPORT = /(?:^(?:import|export)\b[^;"]*?from\s*|^import\s*|import\(\s*)"([^"]+)"/gm;
/** Longest line of the program; addresses of fonts cannot be broken. */
const WIDTH = 120;

const files = readdirSync(SRC, { recursive: true, encoding: "utf8" })
  .filter(
    (f) =>
      /\.tsx?$/.test(f) &&
      !/\.(test|d)\.tsx?$/.test(f) &&
      !f.startsWith("testing/") &&
      !/^(instrumentation|proxy)\.ts$/.test(f),
  )
  .map((f) => join(SRC, f));
const imports = files.flatMap((file) =>
  [...readFileSync(file, "utf8").matchAll(IMPORT)].map(([whole, target = ""]) => ({
    file: relative(SRC, file),
    target,
    /** Types are gone when the program runs: they draw no file in. */
    type: /^(import|export) type\b/.test(whole),
    path: target.startsWith(".") ? relative(SRC, resolve(dirname(file), target)) : target,
  })),
);
const local = imports.filter((i) => i.target.startsWith("."));
/** The file an import names, by its own name or as a folder's door. */
const found = (path: string) =>
  [`${path}.ts`, `${path}.tsx`, `${path}/index.ts`, `${path}/index.tsx`].find((f) => known.has(f));
const known = new Set(files.map((f) => relative(SRC, f)));
const layer = (path: string) => LAYERS.indexOf(path.split("/")[0] ?? "");

describe("architecture", () => {
  it("imports point down", () => {
    expect(local.filter((i) => layer(i.path) > layer(i.file)).map((i) => `${i.file} -> ${i.path}`)).toEqual([]);
  });
  it("pages reach the database through the server, and workers know neither", () => {
    const past = local.filter(
      ({ file, path }) =>
        (file.startsWith("ui/") && path.startsWith("db")) ||
        (file.startsWith("workers/") && /^(server|db)\b/.test(path)),
    );
    const typesOnly = (i: (typeof past)[number]) => i.type;
    expect(past.filter((i) => !typesOnly(i)).map((i) => `${i.file} -> ${i.path}`)).toEqual([]);
  });
  it("no file leads round to itself", () => {
    const uses = new Map(
      files.map((file) => {
        const name = relative(SRC, file);
        const own = local.filter((i) => i.file === name);
        return [name, own.flatMap((i) => found(i.path) ?? [])];
      }),
    );
    const circles: string[] = [];
    const done = new Set<string>();
    const walk = (file: string, way: readonly string[]) => {
      const at = way.indexOf(file);
      if (at >= 0) return void circles.push([...way.slice(at), file].join(" -> "));
      if (done.has(file)) return;
      for (const next of uses.get(file) ?? []) walk(next, [...way, file]);
      done.add(file);
    };
    for (const file of uses.keys()) walk(file, []);
    expect(circles).toEqual([]);
  });
  it("no line must be scrolled", () => {
    const long = files.flatMap((file) =>
      readFileSync(file, "utf8")
        .split("\n")
        .flatMap((line, i) =>
          line.length > WIDTH && !/^\s*src: "/.test(line) ? [`${relative(SRC, file)}:${i + 1}`] : [],
        ),
    );
    expect(long).toEqual([]);
  });
  it("rooms of core use only rooms before them, by their door", () => {
    const wrong = local
      .filter((i) => i.file.startsWith("core/") && i.path.startsWith("core/"))
      .filter((i) => {
        const [from, to] = [i.file.split("/")[1] ?? "", i.path.split("/")[1] ?? ""];
        if (from === to) return false;
        return i.path.split("/").length > 2 || (!FACTS.has(to) && ROOMS.indexOf(to) >= ROOMS.indexOf(from));
      });
    expect(wrong.map((i) => `${i.file} -> ${i.path}`)).toEqual([]);
  });
  it("formats and performance know the score only", () => {
    const others = local
      .filter((i) => /^core\/(formats|performance)\//.test(i.file) && /^core\//.test(i.path))
      .map((i) => i.path.split("/")[1]);
    expect(
      [...new Set(others)].filter((room) => !["theory", "score", "formats", "performance"].includes(room ?? "")),
    ).toEqual([]);
  });
  it("core is pure: no framework, no Node, no clock, no chance", () => {
    const foreign = imports.filter(
      (i) =>
        i.file.startsWith("core/") &&
        !i.target.startsWith(".") &&
        !["zod", "tonal", "midi-file", "saxes", "fflate", "abcjs/src/parse/abc_parse.js"].includes(i.target),
    );
    expect(foreign.map((i) => `${i.file}: ${i.target}`)).toEqual([]);
    const impure = files.filter(
      (f) =>
        relative(SRC, f).startsWith("core/") &&
        /\b(Date\.now|new Date|Math\.random|performance\.now|process\.|document\.|window\.)\b/.test(
          readFileSync(f, "utf8"),
        ),
    );
    expect(impure.map((f) => relative(SRC, f))).toEqual([]);
  });
  it("every room has one door that says what comes in and goes out", () => {
    for (const room of ROOMS)
      expect(readFileSync(join(SRC, "core", room, "index.ts"), "utf8")).toMatch(/^\/\/ [A-Z][a-z]+: /);
  });
});
