import { expect, type Page, test } from "@playwright/test";
import { open as openBench, ready, steady, undoAll, why } from "./helpers";

const open = (page: Page, title: string) => openBench(page, title, "Harmony");
const heads = (page: Page) =>
  page
    .locator('[data-id^="moving."] .notehead')
    .evaluateAll((all) => all.map((n) => Math.round(n.getBoundingClientRect().y)).join());

test("all nine schools are drawn, each with a line of its own", async ({ page }) => {
  await open(page, "The Lamp on the Slip");
  const seen = new Set<string>();
  for (const radio of await why(page).getByRole("radio").all()) {
    const before = await heads(page);
    if (!(await radio.isChecked())) {
      await why(page)
        .getByRole("radiogroup", { name: "School" })
        .getByText((await radio.getAttribute("value"))!, { exact: true })
        .click();
      await expect.poll(() => heads(page)).not.toBe(before);
    }
    seen.add(await steady(() => heads(page)));
  }
  expect(seen.size).toBe(9);
  await undoAll(page);
});

test("a note takes another candidate, is locked through a change of school, and is freed", async ({ page }) => {
  await open(page, "Herring at the Quay");
  const head = (await page.locator('[data-id="moving.2.0"] .notehead').boundingBox())!;
  await page.mouse.click(head.x + 3, head.y + head.height / 2);
  const title = await why(page).getByRole("heading").first().textContent();
  await page.keyboard.press("3");
  await expect(why(page).getByText(/· locked$/)).toBeVisible();
  const locked = await why(page).getByRole("heading").first().textContent();
  expect(locked).not.toBe(title);
  await page.keyboard.press("Escape");
  await why(page).getByRole("radiogroup", { name: "School" }).getByText("Thirds", { exact: true }).click();
  await expect(why(page).getByText(/1 yours/)).toBeVisible();
  await page.keyboard.press("Escape");
  await undoAll(page);
  await expect(why(page).getByText(/\d yours/)).toHaveCount(0);
});

test("keys alone reach a harmony note, go along the line, take another note, and free it", async ({ page }) => {
  await open(page, "Herring at the Quay");
  const title = () => why(page).getByRole("heading").first();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await expect(why(page).getByText(/^bar 2, beat 1 · Chord-fit/)).toBeVisible();
  const first = await title().textContent();
  await page.keyboard.press("ArrowRight");
  await expect(title()).not.toHaveText(first!);
  await page.keyboard.press("ArrowLeft");
  await expect(title()).toHaveText(first!);
  await page.keyboard.press("2");
  await expect(why(page).getByText(/· locked$/)).toBeVisible();
  await expect(title()).not.toHaveText(first!);
  await page.keyboard.press("l");
  await expect(why(page).getByText(/· yours, unlocked$/)).toBeVisible();
  await page.keyboard.press("a");
  await expect(title()).toHaveText(first!);
  await page.keyboard.press("Escape");
  await undoAll(page);
});

test("a note is stepped and dragged to other candidates", async ({ page }) => {
  await open(page, "Herring at the Quay");
  const mark = page.locator('[data-id="moving.2.0"] .notehead');
  const head = (await mark.boundingBox())!;
  await page.mouse.click(head.x + 3, head.y + head.height / 2);
  await page.keyboard.press("ArrowDown");
  await expect(why(page).getByText(/· locked$/)).toBeVisible();
  await expect.poll(async () => (await mark.boundingBox())?.y ?? 0).toBeGreaterThan(head.y + 2);
  const low = (await mark.boundingBox())!;
  await page.mouse.move(low.x + 4, low.y + 3);
  await page.mouse.down();
  await page.mouse.move(low.x + 4, low.y - 12, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.press("l");
  await expect(why(page).getByText(/· locked$/)).toHaveCount(0);
  await undoAll(page);
});

test("a bar follows another school; two schools are weighed and one is kept blind", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await page.keyboard.press("ArrowRight");
  await page.getByLabel("School for bar 1").selectOption("Thirds");
  await expect(page.getByLabel("School for bar 1")).toHaveValue("Thirds");
  await why(page).getByText("Beside another school").click();
  await page.getByLabel("Compare with school").selectOption("Nordic second");
  await expect(why(page).getByText(/ here, .* there\.$/)).toBeVisible();
  await expect(why(page).getByRole("img", { name: /^Clash by bar/ })).toBeVisible();
  await why(page)
    .getByRole("button", { name: /^choose blind/ })
    .click();
  await why(page).getByRole("button", { name: "keep A" }).click();
  await expect(why(page).getByRole("button", { name: "keep A" })).toHaveCount(0);
  await why(page).getByRole("button", { name: "interval numbers" }).click();
  await why(page).getByRole("button", { name: "where the third would be" }).click();
  await expect(page.locator('[title="where the plain third would be"]').first()).toBeAttached();
  await undoAll(page);
});

test("the ear trainer asks, says why, and keeps the result with the tune", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await why(page).getByRole("button", { name: "third or fourth?" }).click();
  await expect(why(page).getByText(/One of the two notes under it fits\./)).toBeVisible();
  // The answer is not on the staff, and keys do what buttons do.
  await expect(page.locator('[data-id^="moving."]')).toHaveCount(0);
  await why(page).getByRole("button", { name: "hear the third" }).click();
  await page.keyboard.press("2");
  await page.keyboard.press("4");
  await expect(why(page).getByRole("status")).toContainText("is in the chord of");
  await expect(why(page).getByText(/of 1 right on this tune/)).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(why(page).getByRole("status")).toHaveCount(0);
  await page.reload();
  await ready(page);
  await why(page).getByRole("button", { name: "third or fourth?" }).click();
  await expect(why(page).getByText(/of 1 right on this tune/)).toBeVisible();
});

test("a second line joins: drawn, heard, checked with the bass, taken away as files", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await page.getByLabel("Second line").selectOption("above High line");
  await expect(page.locator('[data-id^="second."]').first()).toBeVisible();
  await expect(
    page.getByRole("group", { name: "Lines heard" }).getByRole("button", { name: "High harmony" }),
  ).toBeVisible();
  await expect(why(page).getByText("All voices and a bass together")).toBeVisible();
  await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Parts" }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "ABC of Harmony, second line" }).click(),
  ]);
  expect(download.suggestedFilename()).toContain("second-line");
  await undoAll(page);
});
