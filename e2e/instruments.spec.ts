import { expect, test } from "@playwright/test";
import { caughtUp, open, undoAll, why } from "./helpers";

test("tablature stands under the tune, settled note by note, and another instrument takes its place", async ({
  page,
}) => {
  await open(page, "The Lamp on the Slip");
  await page.keyboard.press("t");
  await why(page).getByRole("button", { name: "Hands" }).click();
  await why(page).getByLabel("Instrument", { exact: true }).selectOption("mandolin");
  const tab = page.locator('[data-id^="hand."]');
  await expect(tab).toHaveCount(0);
  await why(page).getByLabel("Shown under the staff").selectOption("melody with chords");
  await expect(tab.first()).toBeAttached();
  await why(page).getByLabel("For which level").selectOption("Leading");
  await page.keyboard.press("Escape");
  await page.keyboard.press("ArrowRight");
  await expect(why(page).getByText("Bar 1, note by note")).toBeVisible();
  const other = why(page)
    .getByRole("button", { name: /^string \d, / })
    .first();
  await other.click();
  await expect(why(page).getByText(/You set this/)).toBeVisible();
  await caughtUp(page);
  await why(page).getByRole("button", { name: "free it" }).click();
  await expect(why(page).getByText(/You set this/)).toHaveCount(0);
  await why(page).getByLabel("Instrument", { exact: true }).selectOption("banjo");
  await expect(why(page).getByLabel("Shown under the staff")).toHaveValue("melody");
  await why(page).getByLabel("Tuning of the hand").selectOption("GCGCD");
  await expect(tab.first()).toBeAttached();
  await undoAll(page);
});

test("a chord shows how it is held, on any fretted instrument", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await page.keyboard.press("g");
  await page.locator("#rows").getByRole("button").first().click();
  const shapes = why(page).getByRole("img", { name: /from the lowest string$/ });
  await expect(shapes.first()).toHaveAttribute("aria-label", /^guitar: /);
  await why(page).getByLabel("Shapes on").selectOption("ukulele");
  await expect(shapes.first()).toHaveAttribute("aria-label", /^ukulele: \d \d \d \d,/);
});

test("the holes of a whistle and the bellows of a box stand under their notes", async ({ page }) => {
  await open(page, "The Lamp on the Slip");
  await page.keyboard.press("t");
  await why(page).getByRole("button", { name: "Hands" }).click();
  await why(page).getByLabel("Instrument", { exact: true }).selectOption("whistle");
  await why(page).getByRole("button", { name: "its holes under the staff" }).click();
  await expect(page.getByRole("img", { name: /^whistle: .*xxoooo/ }).first()).toBeVisible();
  await why(page).getByLabel("Instrument", { exact: true }).selectOption("button accordion D/G");
  await expect(page.getByRole("img", { name: /^button accordion D\/G: .* row (push|pull)/ }).first()).toBeVisible();
});
