// Timings of the built application in headless Chromium: npm run bench. Prints; judges nothing.
import { spawn } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Browser, chromium, type Page } from "@playwright/test";
import { readAbc, tuneAbc } from "../src/core/formats";
import { openDatabase } from "../src/db";
import { takeIn } from "../src/server/collection";

const PORT = 3193;
const HOME = `http://127.0.0.1:${PORT}`;
const VISITS = 5;
const WARMING = 4000;
const NOTES = 30;
const SETTLED = 1200;
const PLAYED_SECONDS = 8;

/** A collection of the demo's first reel over 32 bars, and of the tunes after it for second visits. Gives the file. */
function collection(): string {
  const file = join(mkdtempSync(join(tmpdir(), "timings-")), "tunes.db");
  const tunes = readAbc(readFileSync("demo/tunes.abc", "utf8")).tunes.map((t) => t.tune);
  const [reel, ...others] = tunes;
  if (!reel) throw new Error("demo/tunes.abc holds no tune");
  const long = { ...reel, title: "Thirty-two bars", strains: [...reel.strains, ...reel.strains] };
  const store = openDatabase(file);
  for (const tune of [long, ...others.slice(0, VISITS)]) takeIn(store, tuneAbc(tune), true);
  store.$client.close();
  return file;
}

async function started() {
  const server = spawn("npx", ["--no-install", "next", "start", "--hostname", "127.0.0.1", "--port", String(PORT)], {
    env: { ...process.env, SYMPHONOS_DB: collection() },
    stdio: "ignore",
    detached: true,
  });
  for (let tries = 0; tries < 200; tries++) {
    if (
      await fetch(HOME).then(
        (r) => r.ok,
        () => false,
      )
    )
      break;
    await new Promise((done) => setTimeout(done, 100));
  }
  // A moment in which the server makes its first tunes ready, as it has while a browser is started.
  await new Promise((done) => setTimeout(done, WARMING));
  return () => process.kill(-(server.pid as number));
}

/** Notes what the page does, from its first moment: when music first stands in it, each new drawing, each long task. */
function watch() {
  const seen = { notation: 0, drawn: 0, long: [] as number[] };
  (globalThis as unknown as { seen: typeof seen }).seen = seen;
  const ROWS = "[data-engraving], [data-chords]";
  const look = () => {
    if (!seen.notation && document.querySelector("[data-engraving] svg g.note")) seen.notation = performance.now();
  };
  new MutationObserver((changes) => {
    look();
    const shown = (node: Node) => (node instanceof Element ? node : node.parentElement)?.closest(ROWS);
    if (changes.some((c) => shown(c.target))) {
      requestAnimationFrame(() => {
        seen.drawn ||= performance.now();
      });
    }
  }).observe(document, { childList: true, characterData: true, subtree: true });
  new PerformanceObserver((list) => {
    for (const task of list.getEntries()) seen.long.push(task.duration);
  }).observe({ type: "longtask" });
}

/** Watches a page. The compiler names functions by a helper that the page must have too. */
async function watched(page: Page) {
  await page.addInitScript({ content: "globalThis.__name = (named) => named" });
  await page.addInitScript(watch);
}

type Seen = { notation: number; drawn: number; long: number[] };
const seenIn = (page: Page) => page.evaluate(() => (globalThis as unknown as { seen: Seen }).seen);

const sorted = (times: readonly number[]) => [...times].sort((a, b) => a - b);
const at = (times: readonly number[], share: number) =>
  sorted(times)[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0;
const told = (name: string, times: readonly number[]) =>
  console.log(
    `${name.padEnd(52)} median ${Math.round(at(times, 0.5))} ms, 95th ${Math.round(at(times, 0.95))} ms, of ${times.length}`,
  );

/**
 * Milliseconds from navigation to the first notes: in a browser that has never been here, and for the next tunes it
 * opens.
 */
async function visits(browser: Browser) {
  const cold: number[] = [];
  const next: number[] = [];
  for (let visit = 0; visit < VISITS; visit++) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await watched(page);
    for (const [tune, times] of [
      [1, cold],
      [2 + visit, next],
    ] as const) {
      await page.goto(`${HOME}/tune/${tune}`);
      await page.waitForFunction(() => (globalThis as unknown as { seen: Seen }).seen.notation > 0);
      times.push((await seenIn(page)).notation);
      await page.waitForLoadState("networkidle");
    }
    await context.close();
  }
  told("first notation, cold browser", cold);
  told("first notation, next tune", next);
}

/** Milliseconds from each press of a key or button to the frame that shows the changed rows. */
async function edits(page: Page, name: string, turns: number, act: (turn: number) => Promise<void>) {
  const times: number[] = [];
  for (let turn = 0; turn < turns; turn++) {
    await page.evaluate(() => {
      const { seen } = globalThis as unknown as { seen: Seen };
      seen.drawn = 0;
      const begin = () => {
        (globalThis as unknown as { begun: number }).begun = performance.now();
      };
      for (const kind of ["keydown", "change", "click"]) {
        document.addEventListener(kind, begin, { capture: true });
      }
    });
    await act(turn);
    // The rest of the rows and the save settle before the next edit, as they do between a teacher's.
    await page.waitForTimeout(SETTLED);
    const took = await page.evaluate(() => {
      const { seen, begun } = globalThis as unknown as { seen: Seen; begun: number };
      return seen.drawn - begun;
    });
    // An edit that changes no row, as a style that has the same chords, has nothing to be timed.
    if (took > 0) times.push(took);
  }
  told(name, times);
}

async function bench(browser: Browser) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await watched(page);
  const open = async (lens: string) => {
    await page.goto(`${HOME}/tune/1?lens=${lens}`);
    await page.waitForFunction(() => (globalThis as unknown as { seen: Seen }).seen.notation > 0);
    await page.waitForLoadState("networkidle");
    await page.waitForTimeout(1500);
  };
  await open("Tune");
  await page.locator("#rows").focus();
  await page.keyboard.press("Enter");
  // Every edit makes music that was not there before: nothing is found among drawings already made.
  await edits(page, "edit to redrawn rows: a note of the tune", NOTES, async (turn) => {
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press(turn % 2 ? "ArrowDown" : "ArrowUp");
  });
  await open("Harmony");
  const of = (group: string) => page.getByRole("radiogroup", { name: group }).locator("label");
  const schools = await of("School").count();
  await edits(page, "edit to redrawn rows: a school of a line", schools - 1, (turn) =>
    of("School")
      .nth(turn + 1)
      .click(),
  );
  await open("Chords");
  const styles = await of("Style").count();
  await edits(page, "edit to redrawn rows: a style of chords", styles - 1, (turn) =>
    of("Style")
      .nth(turn + 1)
      .click(),
  );
  const before = (await seenIn(page)).long.length;
  await page.getByRole("button", { name: /^Play/ }).click();
  await page.waitForTimeout(PLAYED_SECONDS * 1000);
  const long = (await seenIn(page)).long.slice(before);
  const longest = long.length ? `, longest ${Math.round(Math.max(...long))} ms` : "";
  console.log(`${`playing for ${PLAYED_SECONDS} s`.padEnd(52)} ${long.length} tasks over 50 ms${longest}`);
  await page.close();
}

const stop = await started();
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--autoplay-policy=no-user-gesture-required"],
});
try {
  await visits(browser);
  await bench(browser);
} finally {
  await browser.close();
  stop();
}
