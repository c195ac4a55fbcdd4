// Adds up the test reports and prints the closing line; exit status 1 when anything failed.
import { readFileSync } from "node:fs";

const read = (file) => {
  try {
    return JSON.parse(readFileSync(new URL(`../test-results/${file}`, import.meta.url), "utf8"));
  } catch {
    return undefined;
  }
};
const [unit, e2e] = [read("unit.json"), read("e2e.json")];
const passed = (unit?.numPassedTests ?? 0) + (e2e?.stats.expected ?? 0);
const steps = process.argv[2] === "0" ? 0 : 1;
const failed = Math.max(steps, (unit?.numFailedTests ?? 1) + (e2e ? e2e.stats.unexpected + e2e.stats.flaky : 1));
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
