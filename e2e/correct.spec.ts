import { expect, type Page, test } from "@playwright/test";
import { ready } from "./helpers";

/** A fresh tune on the tune lens. */
async function fresh(page: Page, title: string, music: string) {
  await page.goto("/");
  await page.getByRole("button", { name: "Bring tunes in" }).click();
  await page.getByLabel("ABC text").fill(`X:1\nT:${title}\nM:4/4\nL:1/8\nK:D\n${music}\n`);
  await page.getByRole("button", { name: "Bring it in", exact: true }).click();
  await expect(page.getByRole("heading", { name: title })).toBeVisible();
  await ready(page);
  await page.keyboard.press("t");
  await expect(page.locator("[data-engraving] .note").first()).toBeVisible();
}
const panel = (page: Page) => page.getByRole("complementary", { name: "Why" });
const title = (page: Page) => panel(page).getByRole("heading", { level: 2 });

test("a note is chosen and corrected from the keyboard, with undo and redo", async ({ page }) => {
  await fresh(page, "Keys and Pegs", "d2e2 f4|g4 a4|b4 a2g2|f4 d4|");
  await page.keyboard.press("Enter");
  await expect(title(page)).toHaveText("D5, one quarter");
  await page.keyboard.press("ArrowRight");
  await expect(title(page)).toHaveText("E5, one quarter");
  await page.keyboard.press("ArrowUp");
  await expect(title(page)).toHaveText("F♯5, one quarter");
  await page.keyboard.press("Shift+ArrowDown");
  await expect(title(page)).toHaveText("F5, one quarter");
  await page.keyboard.press("a");
  await expect(panel(page).getByText(/accent$/)).toBeVisible();
  await page.keyboard.press("2");
  await expect(title(page)).toHaveText("F5, one eighth");
  await page.keyboard.press("u");
  await expect(panel(page).getByRole("alert")).toContainText("same pitch after it");
  await panel(page).getByRole("button", { name: "Form" }).click();
  await expect(panel(page).getByText("Bar 1 needs one more eighth.")).toBeVisible();
  await panel(page).getByRole("button", { name: "add a rest" }).click();
  await expect(panel(page).getByText(/needs one more/)).toHaveCount(0);
  for (let i = 0; i < 5; i++) await page.keyboard.press("Control+z");
  await panel(page).getByRole("button", { name: "Note" }).click();
  await expect(title(page)).toHaveText("E5, one quarter");
});

test("a note is dragged by the pointer, and buttons do what keys do", async ({ page }) => {
  await fresh(page, "Oar and Thole", "d4 e4|f4 g4|a4 f4|d4 e4|");
  const head = page.locator('[data-id="melody.1.0"] .notehead').first();
  const box = (await head.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 9, { steps: 4 });
  await page.mouse.up();
  await expect(title(page)).toHaveText(/^[GAB]5, one half note$/);
  await panel(page).getByRole("button", { name: "Split in two" }).click();
  await expect(title(page)).toContainText("one quarter");
  await expect(page.locator('[data-id^="melody.1."].note')).toHaveCount(3);
});

test("bars, strains, key and tempo are set, and a version is named and brought back", async ({ page }) => {
  await fresh(page, "Ballast", "d8|e8|f8|g8|a8|b8|a8|d8|");
  await panel(page).getByRole("button", { name: "History" }).click();
  await panel(page).getByLabel("Name for this version").fill("As typed");
  await panel(page).getByRole("button", { name: "Name", exact: true }).click();
  await expect(panel(page).getByText("As typed")).toBeVisible();
  await panel(page).getByRole("button", { name: "Form" }).click();
  await panel(page).getByRole("button", { name: "repeat this strain" }).click();
  await expect(page.locator("header")).toContainText("AA · 8 bars");
  await panel(page).getByLabel("Tonic").selectOption("G");
  await expect(page.locator("header")).toContainText("in G major");
  await panel(page).getByRole("button", { name: "add tag" }).click();
  await expect(page.locator("header")).toContainText("AA tag");
  await panel(page).getByLabel("Beats a minute").fill("90");
  await panel(page).getByLabel("Beats a minute").press("Enter");
  await panel(page).getByRole("button", { name: "History" }).click();
  await expect(panel(page).getByText("Tempo changed")).toBeVisible();
  await panel(page).getByRole("button", { name: "bring back" }).last().click();
  await expect(page.locator("header")).toContainText("in D major · 4/4 · A · 8 bars");
});

test("says key, form and hands; names notes in any spelling; moves the tune", async ({ page }) => {
  await page.goto("/tune/2?lens=Tune");
  await ready(page);
  await expect(panel(page).getByText(/E dorian, that is E minor with C sharp/)).toBeVisible();
  await expect(panel(page).getByText(/A part twice, B part twice/)).toBeVisible();
  await panel(page).getByRole("button", { name: "Hands" }).click();
  await expect(panel(page).getByRole("img", { name: /D string: .*times/ })).toBeVisible();
  await panel(page).getByLabel("Name the notes by").selectOption("string and finger");
  await expect(page.locator("[data-names]").nth(2)).toContainText("L2");
  await panel(page).getByLabel("Name the notes by").selectOption("degrees");
  await expect(page.locator("[data-names]").first()).toContainText("5");
  await panel(page).getByLabel("To the key of").selectOption("A");
  await expect(page.locator("header")).toContainText("in A dorian");
  await panel(page).getByRole("button", { name: "a string higher" }).click();
  await expect(page.locator("header")).toContainText("in E dorian");
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  // The whistle reads the page an octave up, as its players do, and has all of it.
  await panel(page).getByLabel("Instrument").selectOption("whistle");
  await expect(panel(page).getByText(/Out of reach/)).toHaveCount(0);
  await panel(page).getByLabel("Instrument").selectOption("alto");
  await expect(panel(page).getByText(/Out of reach on the alto/)).toBeVisible();
});
