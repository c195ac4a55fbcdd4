import { expect, test } from "@playwright/test";
import { caughtUp, open, undoAll, why } from "./helpers";

const TABLE = [
  "name,instrument,tuning,level,can,cannot,seat,notes",
  "Wil Fret,fiddle,,Fluent,lead,,1,",
  "Oda Bell,fiddle,,Steady,low2,,2,",
  "Per Knot,guitar,,First sounds,,,3,",
  "Una Weir,kazoo,,Steady,,,4,",
  "Rik Sound,cello,,Moving,,,5,",
].join("\n");

test("a group comes in from a table, every bad row told, and a tune becomes a part for everyone", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Groups" }).click();
  await page
    .locator("input[type=file]")
    .setInputFiles({ name: "Harbour four.csv", mimeType: "text/csv", buffer: Buffer.from(TABLE) });
  await expect(page.getByText('Line 5, instrument: There is no instrument "kazoo".')).toBeVisible();
  await expect(page.getByRole("heading", { name: "Harbour four" })).toBeVisible();
  await expect(page.locator("[data-learner]")).toHaveCount(4);
  await page.getByLabel("Level of Per Knot").selectOption("Steady");
  await page.getByLabel("What they can of Per Knot").fill("flying");
  await page.getByLabel("What they can of Per Knot").blur();
  await expect(page.getByText('"flying" is not understood.')).toBeVisible();

  await open(page, "Herring at the Quay");
  await page.keyboard.press("p");
  await why(page).getByLabel("The group").selectOption("Harbour four");
  const table = page.locator("[data-evening]");
  await expect(table.locator("[data-learner]")).toHaveCount(4);
  await expect(table.getByLabel("Part of Wil Fret")).toBeVisible();
  const lines = table.locator("[data-learner]");
  await expect(lines.filter({ hasText: "Per Knot" }).getByLabel("Part of Per Knot")).toBeVisible();

  await table.getByLabel("Part of Rik Sound").selectOption("bass");
  await expect(table.getByLabel("Part of Rik Sound")).toHaveValue("bass");
  await table.getByRole("button", { name: "Oda Bell", exact: true }).click();
  await expect(why(page).getByText("Oda Bell, fiddle")).toBeVisible();
  await expect(page.locator('[data-id^="group-oda-bell."]').first()).toBeAttached();
  await why(page).getByRole("button", { name: "play along: everyone else" }).click();
  await page.getByRole("button", { name: "Stop" }).click();
  await table.getByLabel("Per Knot is there").uncheck();
  await expect(table.getByText("not there")).toBeVisible();
  await caughtUp(page);

  await page.reload();
  await expect(page.locator("[data-evening]").getByLabel("Part of Rik Sound")).toHaveValue("bass");
  await undoAll(page);
  await page.goto("/groups?group=Harbour+four");
  await page.getByRole("button", { name: "remove the group" }).click();
  await expect(page.getByRole("heading", { name: "Harbour four" })).toHaveCount(0);
});

test("the tune stands in forms from the barest to the richest, how hard each is said, and each is heard", async ({
  page,
}) => {
  await open(page, "Herring at the Quay");
  await page.keyboard.press("p");
  await why(page).getByRole("button", { name: "step by step" }).click();
  const rungs = why(page).getByRole("region");
  await expect(rungs.filter({ hasText: "as it is written" })).toBeVisible();
  const points = (await rungs.allTextContents()).map((words) => Number(/How hard: (\d+) of 100/.exec(words)?.[1]));
  expect(points.length).toBeGreaterThan(3);
  expect(points).toEqual([...points].sort((a, b) => a - b));
  await why(page).getByRole("button", { name: "hear the beats", exact: true }).click();
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
});
