// Prepares what the browser loads by a fixed address: the engraver, the sound worklet and the command line.
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { build } from "esbuild";

const root = new URL("../", import.meta.url);
const at = (path: string) => new URL(path, root);

/**
 * The engraver's module keeps its WebAssembly inside its script, as text, which a browser can neither stream nor keep
 * compiled. Here the same bytes become a file of their own, and the script asks for it. Nothing else in it is
 * changed.
 */
function split(source: string): { script: string; wasm: Uint8Array } {
  const [open, close] = ["function findWasmBinary(){return binaryDecode('", "')}function getBinarySync"];
  const [from, to] = [source.indexOf(open), source.indexOf(close)];
  const load =
    "var binary=await getWasmBinary(binaryFile);var instance=await WebAssembly.instantiate(binary,imports);return instance";
  if (from < 0 || to < 0 || !source.includes(load)) throw new Error("The engraver's module is laid out otherwise now.");
  const text = new Function(`return '${source.slice(from + open.length, to)}'`)() as string;
  // The module's own decoding: characters over 255 stand for zero.
  const wasm = Uint8Array.from(text, (c) => (~c.charCodeAt(0) >> 8) & c.charCodeAt(0));
  const script = `${source.slice(0, from)}function findWasmBinary(){return ""}${source.slice(to + 3)}`.replace(
    load,
    "return await WebAssembly.instantiateStreaming(moduleArg.wasm,imports)",
  );
  return { script, wasm };
}

/** Where the style sheet looks for it. */
const FONT = "public/vendor/leipzig.woff2";
const SCORE = `<score-partwise><part-list><score-part id="P1"><part-name/></score-part></part-list><part id="P1">
<measure number="1"><attributes><divisions>1</divisions><time><beats>1</beats><beat-type>4</beat-type></time>
</attributes><direction placement="above"><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>100</per-minute>
</metronome></direction-type></direction><note><rest/><duration>1</duration></note></measure></part></score-partwise>`;

/** The engraver's music font, which it would write into every drawing that has a sign among its words. */
async function musicFont(): Promise<Uint8Array> {
  const [{ default: create }, { VerovioToolkit }] = await Promise.all([import("verovio/wasm"), import("verovio/esm")]);
  const toolkit = new VerovioToolkit(await create());
  toolkit.loadData(SCORE);
  const font = /font-woff2;charset=utf-8;base64,(?<data>[^)]+)\)/.exec(toolkit.renderToSVG(1))?.groups?.data;
  if (!font) throw new Error("The engraver writes its music font otherwise now.");
  return Buffer.from(font, "base64");
}

const { version } = JSON.parse(readFileSync(at("node_modules/verovio/package.json"), "utf8")) as { version: string };
const target = at(`public/vendor/verovio/${version}/`);
if (!existsSync(new URL("wrapper.mjs", target)) || !existsSync(at(FONT))) {
  rmSync(at("public/vendor/verovio/"), { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  const { script, wasm } = split(readFileSync(at("node_modules/verovio/dist/verovio-module.mjs"), "utf8"));
  writeFileSync(new URL("engraver.mjs", target), script);
  writeFileSync(new URL("engraver.wasm", target), wasm);
  writeFileSync(at(FONT), await musicFont());
  // The licence asks that this part can be replaced: its wrapper too is a file of its own, and the texts stand beside.
  for (const text of ["LGPL-3.0.txt", "GPL-3.0.txt"]) copyFileSync(at(`licences/${text}`), new URL(text, target));
  copyFileSync(at("node_modules/verovio/dist/verovio.mjs"), new URL("wrapper.mjs", target));
}
const address = `/vendor/verovio/${version}`;
const addresses = {
  script: `${address}/engraver.mjs`,
  wrapper: `${address}/wrapper.mjs`,
  wasm: `${address}/engraver.wasm`,
};
writeFileSync(at("src/workers/engrave/address.json"), `${JSON.stringify(addresses, null, 2)}\n`);

const common = { bundle: true, format: "esm" as const, logLevel: "error" as const, absWorkingDir: root.pathname };
await build({
  ...common,
  entryPoints: ["src/workers/sound/worklet.ts"],
  outfile: "public/worklets/sound.js",
  target: "es2022",
  minify: true,
});
const { metafile } = await build({
  ...common,
  metafile: true,
  entryPoints: { cli: "src/cli/main.ts", aside: "src/server/aside/thread.ts" },
  outdir: "dist",
  splitting: true,
  external: ["better-sqlite3", "verovio"],
  platform: "node",
  target: "node20",
  minifySyntax: true,
});
// Pieces of an earlier compilation.
for (const name of readdirSync(at("dist"))) if (!(`dist/${name}` in metafile.outputs)) rmSync(at(`dist/${name}`));
