// Copies the engraver's module where the browser can load it by a fixed address, and bundles the sound worklet and the
// command line.
import { copyFileSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { build } from "esbuild";

const root = new URL("../", import.meta.url);
const at = (path: string) => new URL(path, root);

const { version } = JSON.parse(readFileSync(at("node_modules/verovio/package.json"), "utf8")) as { version: string };
const target = at(`public/vendor/verovio/${version}/`);
if (!existsSync(new URL("verovio-module.mjs", target))) {
  rmSync(at("public/vendor/verovio/"), { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  copyFileSync(at("node_modules/verovio/dist/verovio-module.mjs"), new URL("verovio-module.mjs", target));
}
writeFileSync(
  at("src/workers/engrave/address.json"),
  `${JSON.stringify({ verovio: `/vendor/verovio/${version}/verovio-module.mjs` })}\n`,
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
