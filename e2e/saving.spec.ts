import { chmodSync, writeFileSync } from "node:fs";
import { request } from "node:http";
import { type BrowserContext, expect, type Page, test } from "@playwright/test";
import { ready } from "./helpers";
import { OwnServer } from "./server";

const server = new OwnServer(3189);
test.beforeAll(async () => {
  server.seed();
  await server.start();
});
test.afterAll(() => server.kill());

const TITLE = "Herring at the Quay";
const sign = (page: Page) => page.getByRole("banner").getByRole("status");
/** The chords over the rows; what is told above them has buttons too. */
const lane = (page: Page) => page.locator("#rows section").getByRole("button");
const head = (page: Page) => page.locator("#rows").getAttribute("data-head");

/** The bench of the demo's jig, once it answers. */
async function bench(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  await page.goto(server.address);
  await page.getByRole("link", { name: TITLE }).click();
  await ready(page);
  await expect(lane(page).first()).toBeVisible();
  return page;
}
/** Locks the chord of an order, or frees it. */
async function toggleLock(page: Page, order: number): Promise<void> {
  await page.keyboard.press("Escape");
  await lane(page).nth(order).click();
  await page.keyboard.press("l");
}
const locked = (page: Page) => lane(page).and(page.locator('[aria-label*="locked"]'));
/** Edits once, waiting until it is saved. */
async function edit(page: Page, order: number): Promise<void> {
  const before = await head(page);
  await toggleLock(page, order);
  await expect.poll(() => head(page)).not.toBe(before);
}
/** Frees every chord, so that the next test finds the tune as it was. */
async function freeAll(page: Page): Promise<void> {
  for (let n = await locked(page).count(); n > 0; n--) {
    const before = await head(page);
    await page.keyboard.press("Escape");
    await locked(page).first().click();
    await page.keyboard.press("a");
    await expect.poll(() => head(page)).not.toBe(before);
    await expect(locked(page)).toHaveCount(n - 1);
  }
}

test("what is done while the application is gone is saved once it is back, step by step", async ({ context }) => {
  const page = await bench(context);
  await server.kill();
  await toggleLock(page, 1);
  await toggleLock(page, 3);
  await expect(page.getByRole("alert", { name: "Not saved yet" })).toContainText("does not answer");
  await expect(sign(page)).toHaveText("not saved yet");
  await expect(page.getByRole("button", { name: "Undo" })).toBeDisabled();
  await server.start();
  await expect(page.getByRole("alert", { name: "Not saved yet" })).toHaveCount(0, { timeout: 40_000 });
  await expect(sign(page)).toHaveText("");
  await page.reload();
  await ready(page);
  await expect(locked(page)).toHaveCount(2);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(locked(page)).toHaveCount(1);
  await freeAll(page);
});

test("what a closed page could not save is offered on the next visit, and asked about before it closes", async ({
  context,
}) => {
  const page = await bench(context);
  await server.kill();
  await toggleLock(page, 1);
  await expect(page.getByRole("alert", { name: "Not saved yet" })).toBeVisible();
  const asked = page.waitForEvent("dialog");
  const closing = page.close({ runBeforeUnload: true });
  const dialog = await asked;
  expect(dialog.type()).toBe("beforeunload");
  await dialog.accept();
  await closing;
  await server.start();
  const next = await context.newPage();
  await next.goto(server.address);
  await expect(next.getByText(/never saved/)).toContainText(TITLE);
  await next.getByRole("main").getByRole("link", { name: TITLE }).first().click();
  await ready(next);
  await next.getByRole("button", { name: "Save them now" }).click();
  await expect(locked(next)).toHaveCount(1);
  await expect(sign(next)).toHaveText("");
  await next.reload();
  await ready(next);
  await expect(locked(next)).toHaveCount(1);
  await expect(next.getByRole("alert", { name: /never saved/ })).toHaveCount(0);
  await freeAll(next);
});

test("Back shows the tune as it stands, and one more edit keeps the others", async ({ context }) => {
  const page = await bench(context);
  for (const order of [1, 3, 5]) await edit(page, order);
  await page.getByRole("link", { name: "All tunes" }).click();
  await expect(page.getByRole("heading", { name: "Tunes" })).toBeVisible();
  await page.goBack();
  await ready(page);
  await expect(locked(page)).toHaveCount(3);
  await edit(page, 7);
  await page.reload();
  await ready(page);
  await expect(locked(page)).toHaveCount(4);
  await freeAll(page);
});

test("tabs of one browser follow each other", async ({ context }) => {
  const [one, other] = [await bench(context), await bench(context)];
  await edit(one, 1);
  await expect.poll(() => head(other)).toBe(await head(one));
  await expect(locked(other)).toHaveCount(1);
  await edit(other, 3);
  await expect(locked(one)).toHaveCount(2);
  await freeAll(one);
});

test("a tune changed in two browsers shows both, and the teacher takes one or both", async ({ context, browser }) => {
  const here = await bench(context);
  const away = await browser.newContext();
  const there = await bench(away);
  const notice = here.getByRole("alert", { name: "Changed in two places" });
  await edit(there, 1);
  await toggleLock(here, 3);
  await expect(notice).toContainText("chords");
  await notice.getByRole("button", { name: "Take both" }).click();
  await expect(notice).toHaveCount(0);
  await expect(locked(here)).toHaveCount(2);
  // The same place in both: one is taken, the other stays as a named version.
  await there.reload();
  await ready(there);
  await expect(locked(there)).toHaveCount(2);
  await edit(there, 1);
  await here.keyboard.press("Escape");
  await locked(here).first().click();
  await here.keyboard.press("2");
  await expect(notice).toContainText("one is to be chosen");
  await expect(notice.getByRole("button", { name: "Take both" })).toHaveCount(0);
  await notice.getByRole("button", { name: "Take what was saved" }).click();
  await expect(locked(here)).toHaveCount(1);
  await here.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Tune" }).click();
  await here
    .getByRole("tab", { name: "History" })
    .or(here.getByRole("button", { name: "History" }))
    .first()
    .click();
  await expect(here.getByText(/^Not taken: /)).toBeVisible();
  await here.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Chords" }).click();
  await freeAll(here);
  await away.close();
});

test("a file made read only stops edits in words, and takes them when that is mended", async ({ context }) => {
  const page = await bench(context);
  chmodSync(server.db, 0o444);
  await toggleLock(page, 1);
  const notice = page.getByRole("alert", { name: "Not saved yet" });
  await expect(notice).toContainText(server.db);
  await expect(notice).toContainText("may not be written");
  chmodSync(server.db, 0o644);
  await expect(notice).toHaveCount(0, { timeout: 40_000 });
  await freeAll(page);
});

test("backups are made, shown and brought back", async ({ context }) => {
  const page = await bench(context);
  await page.goto(`${server.address}/backups`);
  await page.getByRole("button", { name: "Make one now" }).click();
  await expect(page.getByText("found whole")).toBeVisible();
  await expect(page.locator("[data-backup]").first()).toContainText("13 tunes, opened and whole");
  const second = await bench(context);
  await edit(second, 1);
  await page.getByRole("button", { name: "bring back" }).first().click();
  await page.getByRole("button", { name: "Bring it back" }).click();
  await expect(page.getByText(/13 tunes are back/)).toBeVisible();
  await expect(page.locator("[data-backup]").first()).toContainText("before a return");
  await expect(locked(second)).toHaveCount(0);
});

test("nobody comes in under another name, and nothing is changed from elsewhere", async ({ context }) => {
  const asked = (headers: Record<string, string>, method = "GET", path = "/") =>
    new Promise<number>((done, fail) => {
      const sent = request({ host: "127.0.0.1", port: server.port, path, method, headers }, (answer) => {
        answer.resume();
        done(answer.statusCode ?? 0);
      });
      sent.on("error", fail);
      sent.end(method === "POST" ? "{}" : undefined);
    });
  const own = `127.0.0.1:${server.port}`;
  expect(await asked({ host: own })).toBe(200);
  expect(await asked({ host: `localhost:${server.port}`, "x-forwarded-host": "tunes.example" })).toBe(200);
  for (const path of ["/", "/tune/1", "/icon.svg", "/_next/static/x.js", "/tune/1/files/all.abc"])
    expect(await asked({ host: `tunes.example:${server.port}` }, "GET", path), path).toBe(421);
  expect(await asked({ host: own }, "POST", "/tune/1/work")).toBe(403);
  expect(await asked({ host: own, origin: "http://tunes.example" }, "POST", "/tune/1/work")).toBe(403);
  expect(await asked({ host: own, origin: `http://${own}` }, "POST", "/tune/1/work")).toBe(400);
  for (const path of ["/tune/constructor", "/tune/1.5", "/?shown=60.5", "/tune/1/print/constructor", "/tune/999/chart"])
    expect(await asked({ host: own }, "GET", path), path).toBe(404);
  for (const path of ["/tune/%ff", "/%", "/tune/1/files/%ff.abc"])
    expect(await asked({ host: own }, "GET", path), path).toBe(400);
  const page = await context.newPage();
  const against: string[] = [];
  page.on("console", (message) => /Content Security Policy/i.test(message.text()) && against.push(message.text()));
  for (const path of ["/", "/new", "/backups", "/tune/1", "/tune/1/chart", "/tune/1/print/all", "/nothing"]) {
    await page.goto(server.address + path);
    await page.waitForLoadState("networkidle");
  }
  expect(against).toEqual([]);
  const scripts = await page.goto(server.address);
  expect(scripts?.headers()["content-security-policy"]).toMatch(/script-src 'self' 'nonce-[\w=]+' 'wasm-unsafe-eval';/);
});

test("a worker that does not come is told once, and comes when it is tried again", async ({ context }) => {
  await context.route("**/vendor/verovio/**", (route) => route.abort());
  const page = await context.newPage();
  await page.goto(server.address);
  await page.getByRole("link", { name: TITLE }).click();
  await ready(page);
  // The server drew the first rows; another lens needs the browser's own engraver.
  await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Harmony" }).click();
  await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Tune" }).click();
  const notice = page.getByRole("alert", { name: "Something stopped" });
  await expect(notice).toBeVisible({ timeout: 40_000 });
  await expect(notice).toHaveCount(1);
  await context.unroute("**/vendor/verovio/**");
  await notice.getByRole("button", { name: "Try again" }).click();
  await expect(notice).toHaveCount(0);
  await expect(page.locator("[data-engraving] svg").first()).toBeVisible();
});

test("a very long tune is worked out by the browser, fits the page, and can be worked on", async ({ context }) => {
  const page = await context.newPage();
  await page.goto(server.address);
  await page.getByRole("button", { name: "Bring tunes in" }).click();
  const music = "d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2|\n".repeat(75);
  await page.getByLabel("ABC text").fill(`X:1\nT:The Long Haul\nR:reel\nM:4/4\nL:1/8\nK:D\n${music}`);
  await page.getByRole("button", { name: "Bring it in", exact: true }).click();
  await ready(page);
  const weave = page.getByRole("group", { name: "Bars of the tune" });
  const [strip, last] = [await weave.boundingBox(), await weave.getByRole("button").last().boundingBox()];
  expect(last!.x + last!.width).toBeLessThanOrEqual(strip!.x + strip!.width + 1);
  await edit(page, 2);
  await expect(locked(page)).toHaveCount(1);
  await page.reload();
  await ready(page);
  await expect(locked(page)).toHaveCount(1);
});

test("two places are settled with keys alone, on a tablet", async ({ browser }) => {
  const [one, two] = [await browser.newContext({ viewport: { width: 820, height: 1180 } }), await browser.newContext()];
  const [here, there] = [await bench(one), await bench(two)];
  await edit(there, 5);
  await here.keyboard.press("ArrowRight");
  await here.keyboard.press("Enter");
  await here.keyboard.press("l");
  const notice = here.getByRole("alert", { name: "Changed in two places" });
  await expect(notice.getByRole("button", { name: "Take both" })).toBeVisible();
  await notice.getByRole("button", { name: "Take both" }).focus();
  await here.keyboard.press("Enter");
  await expect(notice).toHaveCount(0);
  await expect(locked(here)).toHaveCount(2);
  const [title, views] = [here.getByRole("heading", { level: 1 }), here.getByRole("navigation", { name: "Views" })];
  const [above, under] = [await title.boundingBox(), await views.boundingBox()];
  expect(above!.y + above!.height).toBeLessThanOrEqual(under!.y);
  await here.keyboard.press("Escape");
  await freeAll(here);
  await Promise.all([one.close(), two.close()]);
});

test.describe("a file that cannot be used", () => {
  const broken = new OwnServer(3190);
  test.afterEach(() => broken.kill());
  test("is told on a plain page, by its path, with what to do", async ({ page }) => {
    writeFileSync(broken.db, "this is no database ".repeat(500));
    await broken.start();
    for (const path of ["/", "/tune/1", "/tune/1/chart"]) {
      await page.goto(broken.address + path);
      await expect(page.getByRole("heading", { name: "Your tunes cannot be reached" })).toBeVisible();
      await expect(page.getByText(broken.db)).toBeVisible();
      await expect(page.getByText("The file is damaged.")).toBeVisible();
      await expect(page.getByText(/Bring back a backup/)).toBeVisible();
    }
  });
});
