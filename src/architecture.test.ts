// The floor plan, checked: imports point down, core's rooms keep their order, and core knows nothing of its
// surroundings.
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative, resolve } from "node:path";
import { describe, expect, it } from "vitest";

const SRC = resolve("src");
const LAYERS = ["core", "cli", "db", "server", "workers", "ui", "app"];
/** Rooms of core from the ground up; a room may use those before it. */
const ROOMS = [
  "theory",
  "search",
  "score",
  "formats",
  "performance",
  "analysis",
  "intake",
  "chords",
  "harmony",
  "instruments",
  "spelling",
  "grading",
  "ensemble",
];
/** Rooms that may be used before their place, since they hold plain facts. */
const FACTS = new Set(["instruments"]);

const files = readdirSync(SRC, { recursive: true, encoding: "utf8" })
  .filter(
    (f) => /\.tsx?$/.test(f) && !/\.(test|d)\.tsx?$/.test(f) && !f.startsWith("testing/") && f !== "instrumentation.ts",
  )
  .map((f) => join(SRC, f));
const imports = files.flatMap((file) =>
  [...readFileSync(file, "utf8").matchAll(/(?:from|import)\s*\(?\s*"([^"]+)"/g)].map(([, target = ""]) => ({
    file: relative(SRC, file),
    target,
    path: target.startsWith(".") ? relative(SRC, resolve(dirname(file), target)) : target,
  })),
);
const local = imports.filter((i) => i.target.startsWith("."));
const layer = (path: string) => LAYERS.indexOf(path.split("/")[0] ?? "");

describe("architecture", () => {
  it("imports point down", () => {
    expect(local.filter((i) => layer(i.path) > layer(i.file)).map((i) => `${i.file} -> ${i.path}`)).toEqual([]);
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
        !["zod", "tonal", "midi-file", "fast-xml-parser", "fflate", "abcjs/src/parse/abc_parse.js"].includes(i.target),
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
