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

test("an instrument of one's own is written, told what is wrong, kept, played and taken away", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Instruments" }).click();
  await page.getByRole("navigation", { name: "Instruments" }).getByRole("button", { name: "ukulele" }).click();
  await expect(page.getByRole("heading", { name: "ukulele" })).toBeVisible();
  await page.getByRole("button", { name: "Add one like it" }).click();
  await page.getByLabel("Strings", { exact: true }).fill("D3 A3 Q4 F#4");
  await page.getByLabel("Name", { exact: true }).fill("Harbour ukulele");
  await expect(page.getByText('"Q4" is not a string')).toBeVisible();
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByRole("heading", { name: "Harbour ukulele" })).toHaveCount(0);
  await page.getByLabel("Strings", { exact: true }).fill("D3 A3 D4 F#4");
  await page.getByLabel("Highest fret, Moving").fill("6");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByRole("heading", { name: "Harbour ukulele" })).toBeVisible();
  await open(page, "The Lamp on the Slip");
  await page.keyboard.press("t");
  await why(page).getByRole("button", { name: "Hands" }).click();
  await why(page).getByLabel("Instrument", { exact: true }).selectOption("Harbour ukulele");
  await why(page).getByLabel("Shown under the staff").selectOption("melody");
  await expect(page.locator('[data-id^="hand."]').first()).toBeAttached();
  await undoAll(page);
  await page.goto("/instruments?on=Harbour+ukulele");
  await page.getByRole("button", { name: "take it away" }).click();
  await expect(page.getByRole("button", { name: "Harbour ukulele" })).toHaveCount(0);
});

test("a bar is typed in strings and frets, its limits told as it is typed", async ({ page }) => {
  await open(page, "The Lamp on the Slip");
  await page.keyboard.press("t");
  await why(page).getByRole("button", { name: "Hands" }).click();
  await why(page).getByLabel("Instrument", { exact: true }).selectOption("mandolin");
  await why(page).getByLabel("Shown under the staff").selectOption("melody");
  const box = why(page).getByLabel("Strings and frets of this bar");
  await expect(box).toHaveValue("2:0");
  await box.fill("3:6");
  await expect(why(page).getByText("3:6 sounds G#4; the tune has A4.")).toBeVisible();
  await box.fill("3:7");
  await box.press("Enter");
  await expect(why(page).getByText("You set this: string 3, fret 7")).toBeVisible();
  await caughtUp(page);
  await undoAll(page);
});

test("diagrams stand over the chords, on the one instrument that everything is shown for", async ({ page }) => {
  await open(page, "Herring at the Quay");
  const over = page.locator("#rows").getByRole("img", { name: /from the lowest string$/ });
  await expect(over).toHaveCount(0);
  await why(page).getByText("diagrams over the chords").click();
  await expect(over.first()).toHaveAttribute("aria-label", "guitar: 0 2 2 0 0 0, from the lowest string");
  await why(page).getByLabel("Shapes on").selectOption("mandolin");
  await expect(over.first()).toHaveAttribute("aria-label", "mandolin: 0 2 2 0, from the lowest string");
  await expect(page).toHaveURL(/diagrams=true/);
});

test("double stops are chosen by how many, and heard pure or tempered", async ({ page }) => {
  await open(page, "The Lamp on the Slip");
  await page.keyboard.press("t");
  await why(page).getByRole("button", { name: "Hands" }).click();
  await why(page).getByLabel("Shown under the staff").selectOption("double stops");
  const heads = page.locator('[data-id^="hand."]');
  await expect(heads.first()).toBeAttached();
  await why(page).getByRole("button", { name: "full" }).click();
  await expect(why(page).getByRole("button", { name: "full" })).toHaveAttribute("aria-pressed", "true");
  await why(page).getByRole("button", { name: "tempered" }).click();
  await expect(why(page).getByRole("button", { name: "tempered" })).toHaveAttribute("aria-pressed", "true");
  await caughtUp(page);
  await undoAll(page);
});
