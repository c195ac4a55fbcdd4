import { expect, type Page } from "@playwright/test";

/** Opens a demo tune's bench and waits until its rows are engraved. */
export async function open(page: Page, title: string, lens = "Chords"): Promise<void> {
  await page.goto("/");
  await page.getByRole("link", { name: title }).click();
  await expect(page.getByRole("heading", { name: title })).toBeVisible();
  await ready(page);
  await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: lens }).click();
  await expect(page.locator("[data-engraving] svg").nth(1)).toBeVisible();
  await expect(page.locator("#rows").getByRole("button").first()).toBeVisible();
}

/** Waits until the page answers to hands: its music is there before that. */
export const ready = (page: Page) => expect(page.locator("[data-ready]")).toBeVisible();

/** Waits until what is shown has caught up with what was done. */
export const caughtUp = (page: Page) => expect(page.locator("#rows[aria-busy=false]")).toBeVisible();

/** What is read once it no longer changes: twice the same, a moment apart. */
export async function steady<T>(read: () => Promise<T>): Promise<T> {
  let last: T | undefined;
  await expect
    .poll(
      async () => {
        const before = last;
        last = await read();
        return before !== undefined && before === last;
      },
      { intervals: [120] },
    )
    .toBe(true);
  return last as T;
}

/** The chords over the rows, and the side panel. */
export const lane = (page: Page) => page.locator("#rows").getByRole("button");
export const why = (page: Page) => page.getByRole("complementary", { name: "Why" });
export const chordNames = (page: Page) => lane(page).evaluateAll((all) => all.map((b) => b.getAttribute("aria-label")));

/** Takes back everything done to the tune, so that the next test finds it as it was. */
export async function undoAll(page: Page): Promise<void> {
  const undo = page.getByRole("button", { name: "Undo" });
  const head = () => page.locator("#rows").getAttribute("data-head");
  while (await undo.isEnabled()) {
    const before = await steady(head);
    await undo.click();
    await expect.poll(head).not.toBe(before);
  }
}
