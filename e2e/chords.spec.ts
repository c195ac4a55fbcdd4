import { readFile, writeFile } from "node:fs/promises";
import { expect, test } from "@playwright/test";
import { caughtUp, chordNames, lane, open, ready, undoAll, why } from "./helpers";

test("a chord is written, split, joined and moved by keys; what cannot be done says why", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await lane(page).nth(1).click();
  await page.keyboard.press("w");
  await page.keyboard.type("hum");
  await page.keyboard.press("Enter");
  await expect(why(page).getByRole("alert")).toContainText('"hum" is not a chord');
  await page.getByLabel("Write a chord").fill("Bm7");
  await page.keyboard.press("Enter");
  await expect(why(page).getByRole("heading", { name: "B minor seventh, bar 2" })).toBeVisible();
  await page.keyboard.press("s");
  await expect(why(page).getByText(/1 beat · locked/)).toBeVisible();
  await page.keyboard.press("s");
  await expect(why(page).getByRole("alert")).toContainText("One beat is not split further.");
  await page.keyboard.press("j");
  await expect(why(page).getByText(/whole bar · locked/)).toBeVisible();
  await page.keyboard.press("]");
  await expect(why(page).getByText(/1 beat/)).toBeVisible();
  await undoAll(page);
});

test("a change is dragged to another beat", async ({ page }) => {
  await open(page, "Herring at the Quay");
  const chord = lane(page).nth(1);
  const box = (await chord.boundingBox())!;
  const second = (await page.locator('[data-id="melody.2.3"] .notehead').boundingBox())!;
  await page.mouse.move(box.x + 10, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 40, box.y + 10, { steps: 4 });
  await page.mouse.move(second.x + 14, box.y + 10, { steps: 8 });
  await page.mouse.up();
  await expect
    .poll(async () => (await chordNames(page)).slice(0, 3))
    .toEqual(["E minor, bar 1, beat 1, locked", "E minor, bar 2, beat 1, locked", "D major, bar 2, beat 2, locked"]);
  await undoAll(page);
});

test("a phrase is locked and freed; its chords go to like phrases", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await lane(page).nth(1).click();
  await page.keyboard.press("Shift+L");
  await expect(page.getByRole("region", { name: /^A 1–4/ }).getByRole("button", { name: /locked$/ })).toHaveCount(4);
  await page.keyboard.press("Shift+D");
  await expect(page.getByRole("region", { name: /^A 5–8/ }).getByRole("button", { name: /locked$/ })).not.toHaveCount(
    0,
  );
  await page.keyboard.press("Shift+L");
  await expect(page.getByRole("region", { name: /^A 1–4/ }).getByRole("button", { name: /locked$/ })).toHaveCount(0);
  await expect(why(page).getByText(/yours, unlocked$/)).toBeVisible();
  await undoAll(page);
});

test("styles, numerals, another plan beside this one, a bar taken from it", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await why(page).getByText("Colour", { exact: true }).click();
  await expect(why(page).getByText("a bass that walks")).toBeVisible();
  await why(page).getByRole("button", { name: "numerals" }).click();
  await expect(lane(page).first()).toHaveText(/^i/);
  await page.getByLabel("Compare with").selectOption("Dance band");
  await expect(why(page).getByText(/of the time by root and third/)).toBeVisible();
  await caughtUp(page);
  const words = (await why(page).getByRole("button", { name: /^Take/ }).first().getAttribute("aria-label")) ?? "";
  const take = why(page).getByRole("button", { name: words, exact: true });
  await take.click();
  await expect(take).toHaveCount(0);
  await undoAll(page);
});

test("the chord chart prints letters, numerals and functions; ChordPro goes out and comes in", async ({
  page,
}, info) => {
  await open(page, "The Boat She Came In");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    why(page).getByRole("link", { name: "ChordPro" }).click(),
  ]);
  const text = await readFile(await download.path(), "utf8");
  expect(text).toMatch(/^\{title: The Boat She Came In\}/);
  expect(text).toContain("{start_of_verse}");
  const chords = [...text.matchAll(/\[([A-G][^\]]*)\]/g)].map((m) => m[1]);
  expect(chords.length).toBeGreaterThan(4);
  const path = info.outputPath("sheet.cho");
  await writeFile(path, text);
  await page.locator('input[type="file"]').setInputFiles(path);
  await expect(why(page).getByRole("status")).toContainText("chords read");
  await expect(lane(page).first()).toHaveAttribute("aria-label", /locked$/);
  await writeFile(path, "[C]Quite [G]other words about a fox in a henhouse yard");
  await page.locator('input[type="file"]').setInputFiles(path);
  await expect(why(page).getByRole("alert")).toContainText("not those of this tune");
  await undoAll(page);
  await why(page).getByRole("link", { name: "Chord chart" }).click();
  // The bench has this heading too, and a choice of names: the chart is there once its address is.
  await expect(page).toHaveURL(/\/chart/);
  await ready(page);
  await page.getByRole("button", { name: "functions" }).click();
  await expect(page.getByRole("cell").first()).toHaveText(/^T/);
});
