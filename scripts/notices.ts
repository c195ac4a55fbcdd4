// Writes docs/notices.md from what is installed. Usage: npm run notices [-- --check]: with --check it only compares, and
// fails where the file is not what it would write.
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";

type Locked = { version?: string; license?: string; dev?: boolean; optional?: boolean; devOptional?: boolean };
type Package = { name: string; version: string; licence: string; holder: string };

const TARGET = "docs/notices.md";
const lock = JSON.parse(readFileSync("package-lock.json", "utf8")) as { packages: Record<string, Locked> };

/** Who holds the rights, as the package's own licence file says; without addresses. */
function holderOf(path: string): string {
  const file = existsSync(path) ? readdirSync(path).find((f) => /^(licen[cs]e|copying)/i.test(f)) : undefined;
  const lines = file ? readFileSync(`${path}/${file}`, "utf8").split("\n") : [];
  const line = lines.find((l) => /^\W*copyright\s+(\(c\)|©|\d{4})/i.test(l.trim())) ?? "";
  return line
    .replace(/https?:\/\/\S+|<[^>]*>|\(\s*\)/g, "")
    .replace(/^\W*copyright\s*(\(c\)|©)?\s*/i, "")
    .replace(/\s*all rights reserved\.?\s*/i, "")
    .replace(/[\s.,|]+$/, "")
    .replaceAll("|", "/")
    .trim();
}

const installed = Object.entries(lock.packages).flatMap(([path, { version, license, ...kind }]): Package[] => {
  if (!path || kind.dev || kind.optional || kind.devOptional || !version) return [];
  const name = path.replace(/^.*node_modules\//, "");
  return [{ name, version, licence: license ?? "not named", holder: holderOf(path) }];
});
const unique = new Map(installed.map((p) => [`${p.name} ${p.version}`, p]));
const byLicence = grouped([...unique.values()]);
function grouped(packages: readonly Package[]): Map<string, Package[]> {
  const groups = new Map<string, Package[]>();
  for (const p of packages) groups.set(p.licence, [...(groups.get(p.licence) ?? []), p]);
  return groups;
}

const engraver = lock.packages["node_modules/verovio"]?.version ?? "";
const tables = [...byLicence]
  .sort(([a], [b]) => (a < b ? -1 : 1))
  .flatMap(([licence, packages]) => {
    const rows = packages.sort((a, b) => (a.name < b.name ? -1 : 1));
    return [
      "",
      `### ${licence}`,
      "",
      "| package | version | holder, as it says |",
      "| --- | --- | --- |",
      ...rows.map((p) => `| ${p.name} | ${p.version} | ${p.holder} |`),
    ];
  });

const text = `# What others made

Symphonos itself is under the MIT licence (\`LICENSE\`). This page is written by \`npm run notices\` from what is installed; the test
command checks it.

## The engraver (LGPL-3.0-or-later)

Verovio ${engraver} engraves the music. It is used as separate files that can be replaced: in the browser
\`public/vendor/verovio/${engraver}/\` (\`engraver.mjs\`, its module, with the WebAssembly taken out of the script into
\`engraver.wasm\`, nothing else changed; \`wrapper.mjs\`, its toolkit, unchanged), on the server the package itself in
\`node_modules/verovio\`. \`scripts/vendor.ts\` makes the former from the latter. The texts of its licence are \`licences/LGPL-3.0.txt\` and
\`licences/GPL-3.0.txt\`; they stand beside the files as well.

Its music font, Leipzig (SIL Open Font License 1.1), is taken from it as \`public/vendor/leipzig.woff2\`.

## Sounds (MIT, parts in the public domain or CC0)

\`public/sound/bank.sf3\` is cut by \`scripts/bank.ts\` from MuseScore_General_Lite. Whose it is stands in the bank itself, beside it in
\`public/sound/bank.txt\`, and in \`licences/sound-bank.txt\`.

## Drawn, copied or taken over

- Icons: paths of Lucide (ISC), in \`src/ui/icons.tsx\`; \`licences/icons.txt\`.
- Fonts: Atkinson Hyperlegible Next and Literata (SIL Open Font License 1.1), in the packages named below, with their texts.
- Names of drawings: cyrb53 (bryc, public domain). Numbers of the random tests: mulberry32 (public domain).
- The demo tunes, people and places are invented for this project.

## Packages the application runs with

Each under its own licence, whose text is in the package; that of the Apache License 2.0 is in
\`licences/Apache-2.0.txt\` as well. With Next.js come
optional parts for pictures (sharp, Apache-2.0, with libvips, LGPL-3.0-or-later), which this application does not use.
${tables.join("\n")}
`;

if (process.argv.includes("--check")) {
  if (readFileSync(TARGET, "utf8") !== text) {
    console.error(`${TARGET} is not what is installed. Run npm run notices.`);
    process.exit(1);
  }
} else writeFileSync(TARGET, text);
