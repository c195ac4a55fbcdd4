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
// What passed when tried again counts as passed, and is told: a slow machine is no fault of the product.
const again = e2e?.stats.flaky ?? 0;
const passed = (unit?.numPassedTests ?? 0) + (e2e?.stats.expected ?? 0) + again;
const steps = process.argv[2] === "0" ? 0 : 1;
const failed = Math.max(steps, (unit?.numFailedTests ?? 1) + (e2e?.stats.unexpected ?? 1));
if (again) console.log(`\nPassed only when tried again: ${again}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
