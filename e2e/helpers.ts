import { expect, type Page } from "@playwright/test";

/** Opens a demo tune's bench and waits until its rows are engraved. */
export async function open(page: Page, title: string, lens = "Chords"): Promise<void> {
  await page.goto("/");
  await page.getByRole("link", { name: title }).click();
  await expect(page.getByRole("heading", { name: title })).toBeVisible();
  await page.getByRole("navigation", { name: "Lenses" }).getByRole("button", { name: lens }).click();
  await expect(page.locator("[data-engraving] svg").nth(1)).toBeVisible();
  await expect(page.locator("#rows").getByRole("button").first()).toBeVisible();
}

/** The chords over the rows, and the side panel. */
export const lane = (page: Page) => page.locator("#rows").getByRole("button");
export const why = (page: Page) => page.getByRole("complementary", { name: "Why" });
export const chordNames = (page: Page) => lane(page).evaluateAll((all) => all.map((b) => b.getAttribute("aria-label")));

/** Takes back everything done to the tune, so that the next test finds it as it was. */
export async function undoAll(page: Page): Promise<void> {
  const undo = page.getByRole("button", { name: "Undo" });
  while (await undo.isEnabled()) {
    await undo.click();
    await page.waitForTimeout(150);
  }
}
