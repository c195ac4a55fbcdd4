// Prepares what the browser loads by a fixed address: the engraver, the sound worklet and the command line.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
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

const { version } = JSON.parse(readFileSync(at("node_modules/verovio/package.json"), "utf8")) as { version: string };
const target = at(`public/vendor/verovio/${version}/`);
if (!existsSync(new URL("engraver.wasm", target))) {
  rmSync(at("public/vendor/verovio/"), { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  const { script, wasm } = split(readFileSync(at("node_modules/verovio/dist/verovio-module.mjs"), "utf8"));
  writeFileSync(new URL("engraver.mjs", target), script);
  writeFileSync(new URL("engraver.wasm", target), wasm);
}
const address = `/vendor/verovio/${version}`;
writeFileSync(
  at("src/workers/engrave/address.json"),
  `${JSON.stringify({ script: `${address}/engraver.mjs`, wasm: `${address}/engraver.wasm` }, null, 2)}\n`,
);

const common = { bundle: true, format: "esm" as const, logLevel: "error" as const, absWorkingDir: root.pathname };
await build({
  ...common,
  entryPoints: ["src/workers/sound/worklet.ts"],
  outfile: "public/worklets/sound.js",
  target: "es2022",
  minify: true,
});
await build({
  ...common,
  entryPoints: ["src/cli/main.ts"],
  outfile: "dist/cli.js",
  platform: "node",
  target: "node20",
  minifySyntax: true,
});
