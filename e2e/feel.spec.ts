import { expect, type Page, test } from "@playwright/test";
import { caughtUp, open, undoAll, why } from "./helpers";

const lane = (page: Page, order = 0) => page.locator("[data-shuttle]").nth(order);
const words = async (page: Page, order = 0) => (await lane(page, order).getAttribute("aria-label")) ?? "";
/** The lane of a view without buttons over its rows. */
async function look(page: Page, title: string, lens: string) {
  await open(page, title);
  await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: lens }).click();
}

test("pulse: every note has its word, a cell is chosen by its number, its rungs are heard", async ({ page }) => {
  await open(page, "The Lamp on the Slip");
  await page.keyboard.press("z");
  const said = page.getByRole("img", { name: /^Said: / });
  await expect(said).toHaveCount(4);
  await expect(said.first()).toHaveAttribute("aria-label", /bar 1: dum ta ka ta ka ta ka/);
  await expect(why(page).getByRole("heading", { name: "Pull these out first" })).toBeVisible();
  await page.keyboard.press("2");
  await expect(why(page).getByRole("button", { name: /^Even four/ })).toHaveAttribute("aria-pressed", "true");
  await expect(why(page)).toContainText("this cell carries");
  await why(page).getByRole("button", { name: "Hear Accents on the open string" }).click();
  await expect(why(page).getByRole("button", { name: "Stop Accents on the open string" })).toBeVisible();
  await why(page).getByRole("button", { name: "Stop Accents on the open string" }).click();
  await why(page).getByRole("link", { name: "Read and print them" }).click();
  await expect(page.getByText("Even four, rung by rung")).toBeVisible();
});

test("taps by key and on the screen are early or late; the clapper shows how, and is heard", async ({ page }) => {
  await look(page, "The Lamp on the Slip", "Pulse");
  const picture = why(page).getByRole("button", { name: "Tap here" }).getByRole("img");
  await expect(picture).toHaveAttribute("aria-label", "No taps yet");
  await page.keyboard.press("x");
  await expect(picture).toHaveAttribute("aria-label", "No taps yet");
  await page.getByRole("button", { name: "2 bars in" }).click();
  await page.keyboard.press(" ");
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await expect
    .poll(async () => {
      await page.keyboard.press("x");
      return picture.getAttribute("aria-label");
    })
    .toMatch(/bar \S+ \d+ ms (early|late)/);
  await why(page).getByRole("button", { name: "Tap here" }).click();
  await why(page).getByRole("button", { name: "show me" }).click();
  // The clapper is a little behind, and heard by the ear that hears a microphone.
  await expect(why(page).getByRole("status")).toContainText(/Together with the tune|on the whole/, { timeout: 15_000 });
  await page.keyboard.press(" ");
  await why(page).getByRole("button", { name: "anew" }).click();
  await expect(picture).toHaveAttribute("aria-label", "No taps yet");
});

test("without a microphone it says what to do", async ({ page }) => {
  await look(page, "The Lamp on the Slip", "Pulse");
  await page.evaluate(() => {
    navigator.mediaDevices.getUserMedia = () => Promise.reject(new Error("none"));
  });
  await page.keyboard.press(" ");
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await why(page).getByRole("button", { name: "hear claps" }).click();
  await expect(page.getByText(/no microphone, or this page may not use it/)).toBeVisible();
});

test("the bar of accents is dragged, and moved by keys; the dance brings it back", async ({ page }) => {
  await look(page, "Herring at the Quay", "Feel");
  const second = why(page).getByRole("slider", { name: "Beat 1, part 2" });
  const value = async () => Number(await second.getAttribute("aria-valuenow"));
  const before = await value();
  const box = await second.boundingBox();
  if (!box) throw new Error("no handle");
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y + 12, { steps: 4 });
  await page.mouse.up();
  await expect.poll(value).toBeLessThan(before - 5);
  const moved = await second.getAttribute("aria-valuetext");
  await second.focus();
  await page.keyboard.press("ArrowRight");
  await expect(second).not.toHaveAttribute("aria-valuetext", moved ?? "");
  await caughtUp(page);
  await why(page).getByRole("button", { name: "as the dance has it" }).click();
  await expect.poll(value).toBe(before);
  await expect(why(page).getByRole("img", { name: /^Strength against tempo/ })).toBeVisible();
  await undoAll(page);
});

test("a bow takes the next note in and lets it go; another style is held against it", async ({ page }) => {
  await look(page, "The Lamp on the Slip", "Feel");
  await lane(page).click({ position: { x: 205, y: 20 } });
  const head = why(page).getByRole("heading", { level: 2 });
  await expect(head).toContainText("bow, bar");
  await page.keyboard.press("ArrowRight");
  const title = await head.textContent();
  const notes = () => why(page).locator("p").first().textContent();
  const was = await notes();
  await page.keyboard.press("j");
  await expect(why(page)).toContainText(/notes in one bow · .* · locked/);
  await expect(head).toHaveText(title ?? "");
  await page.keyboard.press("s");
  await expect.poll(notes).not.toContain("3 notes");
  await page.keyboard.press("Escape");
  await why(page).getByLabel("Compare with").selectOption("Slurred threes");
  await expect(why(page)).toContainText("drawn dashed");
  await expect(page.locator("[data-rival]").first()).toBeAttached();
  await undoAll(page);
  expect(was).toBeTruthy();
});

test("the plectrum and the strum have their own lanes, choices and locks", async ({ page }) => {
  await look(page, "Herring at the Quay", "Feel");
  await why(page).getByRole("button", { name: "plectrum" }).click();
  expect(await words(page)).toMatch(/^Picks: down, bar/);
  const pulse = await words(page);
  await why(page).getByRole("button", { name: "Alternate" }).click();
  await expect.poll(() => words(page)).not.toBe(pulse);
  await why(page).getByRole("button", { name: "strum", exact: true }).click();
  await expect.poll(() => words(page)).toMatch(/^Strum: /);
  // A tuning of its own: the strings are others, and so are the shapes.
  await why(page).getByLabel("Tuning", { exact: true }).selectOption("DADGAD");
  await expect(why(page).getByLabel("Tuning", { exact: true })).toHaveValue("DADGAD");
  await expect.poll(() => words(page)).toMatch(/^Strum: /);
  await why(page).getByLabel("Strummed on").selectOption("mandolin");
  await why(page).getByRole("button", { name: "tablature" }).click();
  await expect(page.locator('[data-id^="strum."]').first()).toBeAttached();
  await undoAll(page);
});

test("a strum is drawn by hand and typed, kept, heard, and taken away", async ({ page }) => {
  await look(page, "The Lamp on the Slip", "Feel");
  await why(page).getByRole("button", { name: "strum", exact: true }).click();
  const places = why(page).getByRole("group", { name: "One bar of the strum" }).getByRole("button");
  await expect(places).toHaveCount(8);
  await places.first().focus();
  for (const sign of "B.DUBxDU") await page.keyboard.press(sign);
  await expect(places.nth(5)).toHaveAttribute("aria-label", "Place 6: chop");
  await expect(why(page).getByLabel("Strum", { exact: true })).toHaveValue("your own");
  // Drawn over three places with the pointer.
  await why(page).getByRole("button", { name: "light brush up" }).click();
  const [from, to] = [await places.nth(1).boundingBox(), await places.nth(3).boundingBox()];
  if (!from || !to) throw new Error("no places");
  await page.mouse.move(from.x + 8, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(to.x + 8, to.y + 20, { steps: 8 });
  await page.mouse.up();
  for (const place of [1, 2, 3]) await expect(places.nth(place)).toHaveAttribute("aria-label", /light brush up/);
  await why(page).getByText("hear it in place of the chords").click();
  await caughtUp(page);
  await page.reload();
  await expect(page.locator("[data-ready]")).toBeVisible();
  await expect(places.nth(2)).toHaveAttribute("aria-label", /light brush up/);
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    why(page).getByRole("link", { name: "MusicXML of the tune with its strum" }).click(),
  ]);
  expect(download.suggestedFilename()).toContain("strum");
  await undoAll(page);
});

test("the second time through has another rhythm", async ({ page }) => {
  await look(page, "The Lamp on the Slip", "Feel");
  await why(page).getByText("Another feel each time through").click();
  const cell = why(page).getByLabel("A, second time: cell");
  await cell.selectOption("Long-short-short");
  await expect(why(page)).toContainText("Another feel each time through (1)");
  await expect(cell).toHaveValue("Long-short-short");
  await undoAll(page);
  await expect(why(page)).not.toContainText("time through (1)");
});
