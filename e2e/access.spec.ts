import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";
import { ready, steady, undoAll } from "./helpers";

/** What a machine can find wrong by WCAG 2.2 A and AA, in one line each. */
async function findings(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"])
    .analyze();
  return violations.flatMap((v) =>
    v.nodes.map((n) => `${v.id}: ${n.target.join(" ")}: ${n.failureSummary?.split("\n")[1]?.trim() ?? ""}`),
  );
}

/** The screens that are held to it: a laptop's, and a tablet's both ways. */
const SCREENS = [
  { width: 1280, height: 800 },
  { width: 1024, height: 768 },
  { width: 820, height: 1180 },
];

for (const colorScheme of ["light", "dark"] as const) {
  // Colours are the same at every size: the dim ones are held to it on the laptop's screen.
  for (const viewport of colorScheme === "dark" ? SCREENS.slice(0, 1) : SCREENS) {
    test(`the bench has nothing against it in ${colorScheme} at ${viewport.width} pixels, in every view`, async ({
      browser,
    }) => {
      const context = await browser.newContext({ colorScheme, viewport });
      const page = await context.newPage();
      await page.goto("/tune/1");
      await ready(page);
      for (const view of ["Tune", "Pulse", "Chords", "Harmony", "Feel", "Parts"]) {
        await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: view }).click();
        if (viewport.width < 1100)
          await page
            .locator("[aria-controls=panel][aria-expanded=false]")
            .click({ timeout: 500 })
            .catch(() => {});
        await steady(() => page.locator("#rows").innerHTML());
        expect(await findings(page), view).toEqual([]);
      }
      await context.close();
    });
  }
  test.describe(`${colorScheme} colours`, () => {
    test.use({ colorScheme });
    test("the tunes page has nothing against it", async ({ page }) => {
      await page.goto("/");
      await expect(page.getByRole("link", { name: "Four Gulls" })).toBeVisible();
      expect(await findings(page)).toEqual([]);
    });
    test("a chord that is looked at, and the ear trainer, have nothing against them", async ({ page }) => {
      await page.goto("/");
      await page.getByRole("link", { name: "Herring at the Quay" }).click();
      await ready(page);
      await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Chords" }).click();
      await page.locator("#rows").getByRole("button").first().click();
      await expect(
        page.getByRole("complementary", { name: "Why" }).getByRole("heading", { name: /bar 1$/ }),
      ).toBeVisible();
      expect(await findings(page)).toEqual([]);
      await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Harmony" }).click();
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "third or fourth?" }).click();
      expect(await findings(page), "ear trainer").toEqual([]);
    });
    test("instruments, groups and tonight's parts have nothing against them", async ({ page }) => {
      await page.goto("/instruments?on=banjo");
      await expect(page.getByRole("heading", { name: "banjo" })).toBeVisible();
      expect(await findings(page), "instruments").toEqual([]);
      await page.getByRole("button", { name: "Change its numbers" }).click();
      expect(await findings(page), "an instrument as it is written").toEqual([]);
      await page.goto("/groups");
      await expect(page.getByRole("heading", { name: "Tuesday in the net loft" })).toBeVisible();
      expect(await findings(page), "groups").toEqual([]);
      await page.goto("/tune/1?lens=Parts");
      await ready(page);
      await page.getByLabel("The group").selectOption("Tuesday in the net loft");
      await expect(page.getByLabel("Part of Anka Reed")).toBeVisible();
      await expect(page.getByRole("region", { name: "Roadmap" })).toBeAttached();
      await page.getByRole("button", { name: "mixer: who is heard" }).click();
      await page
        .getByRole("region", { name: "Easier and richer" })
        .getByRole("button", { name: "step by step" })
        .click();
      await steady(() => page.locator("#rows").innerHTML());
      expect(await findings(page), "tonight").toEqual([]);
      await undoAll(page);
    });
    test("the chord chart has nothing against it", async ({ page }) => {
      await page.goto("/tune/1/chart");
      await expect(page.getByRole("heading").first()).toBeVisible();
      expect(await findings(page)).toEqual([]);
    });
  });
}
