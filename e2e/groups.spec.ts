import { readFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { caughtUp, lane, open, undoAll, why } from "./helpers";

const TABLE = [
  "name,instrument,tuning,level,can,cannot,seat,notes",
  "Wil Fret,fiddle,,Fluent,lead,,1,",
  "Oda Bell,fiddle,,Steady,low2,,2,",
  "Per Knot,guitar,,First sounds,,,3,",
  "Una Weir,kazoo,,Steady,,,4,",
  "Rik Sound,cello,,Moving,,,5,",
].join("\n");

const SMALL = [
  "name,instrument,tuning,level,can,cannot,seat,notes",
  "Ness Tarn,fiddle,,Fluent,,,1,",
  "Tam Oar,guitar,,Steady,,,2,likes to sit near the door",
  "Lil Ember,hand drum,,First sounds,,,3,",
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
  await page.getByRole("button", { name: "Stop", exact: true }).click();
  // Everyone's parts, and one of them, are taken away as they stand, the role that was settled with them.
  const file = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent("download"),
      why(page).getByRole("link", { name }).click(),
    ]);
    return readFileSync(await download.path(), "utf8");
  };
  const score = await file("MusicXML of everyone’s parts");
  for (const name of ["Wil Fret", "Oda Bell", "Per Knot", "Rik Sound"]) expect(score).toContain(name);
  expect(await file("ABC of Oda Bell")).toMatch(/^w:/m);

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
  const rungs = why(page).locator("section section", { hasText: "How hard" });
  await expect(why(page).getByRole("region", { name: "as it is written" })).toBeVisible();
  const points = (await rungs.allTextContents()).map((words) => Number(/How hard: (\d+) of 100/.exec(words)?.[1]));
  expect(points.length).toBeGreaterThan(3);
  expect(points).toEqual([...points].sort((a, b) => a - b));
  await why(page).getByRole("button", { name: "hear the beats", exact: true }).click();
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeVisible();
});

/** A demo tune with fourteen learners, in the lens of parts; tunes no other test looks at keep what is done to them. */
async function tonight(page: Page, tune = "Herring at the Quay") {
  await open(page, tune);
  await page.keyboard.press("p");
  const picker = why(page).getByLabel("The group");
  if ((await picker.inputValue()) === "") await picker.selectOption("Tuesday in the net loft");
  await expect(page.locator("[data-evening] [data-learner]")).toHaveCount(14);
  await expect(page.getByRole("region", { name: "Roadmap" })).toBeVisible();
}

test("the roadmap is settled square by square with keys alone, heard from first to last, and planned anew", async ({
  page,
}) => {
  await tonight(page, "Tar on the Rope");
  const roadmap = page.getByRole("region", { name: "Roadmap" });
  const square = (what: string) => roadmap.getByRole("button", { name: new RegExp(what) });
  const first = square("^Tune in A.*time 1").first();
  await expect(first).toHaveAccessibleName(/plays$/);
  await first.focus();
  await page.keyboard.press("Enter");
  await expect(first).toHaveAccessibleName(/comes out$/);
  await page.keyboard.press("Enter");
  await expect(first).toHaveAccessibleName(/rests$/);
  await page.keyboard.press("ArrowRight");
  await expect(first).not.toBeFocused();
  await page.keyboard.press("ArrowLeft");
  await expect(first).toBeFocused();

  await roadmap.getByLabel("Times").selectOption("2");
  await expect(roadmap.getByText("time 3")).toHaveCount(0);
  await roadmap.getByLabel("Ends with").selectOption("slow, open chord");
  await roadmap.getByLabel("Tag").selectOption("2");
  await expect(roadmap.getByRole("columnheader", { name: "tag" })).toBeVisible();
  await roadmap.getByRole("button", { name: "by name" }).click();
  await expect(roadmap.getByRole("rowheader", { name: "Anka Reed" })).toBeVisible();
  await roadmap.getByRole("button", { name: "hear it all" }).click();
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Stop", exact: true }).click();

  await roadmap.getByRole("button", { name: "as planned" }).click();
  await expect(roadmap.getByText("time 3")).toBeVisible();
});

test("a medley says how the tunes join, who waits, and how long both last", async ({ page }) => {
  await tonight(page, "Up from the Slipway");
  const medley = page.getByRole("region", { name: "Medley" });
  await medley.getByRole("button", { name: "go on into another tune" }).click();
  await medley.getByLabel("Goes on into").selectOption({ label: "The Three Buoys" });
  await expect(medley.getByText(/One beat stays one beat|The beat goes on as it is/)).toBeVisible();
  await expect(medley.getByText(/Both together/)).toBeVisible();
  await expect(medley.getByText(/waits/).first()).toBeVisible();
  await caughtUp(page);
  await page.reload();
  await expect(page.getByRole("region", { name: "Medley" }).getByLabel("Goes on into")).not.toHaveValue("");
});

test("the mixer makes one learner heard alone, silent, or quieter", async ({ page }) => {
  await tonight(page, "Tar on the Rope");
  const mixer = page.getByRole("region", { name: "Mixer" });
  await mixer.getByRole("button", { name: "mixer: who is heard" }).click();
  await mixer.getByRole("button", { name: "Anka Reed alone" }).click();
  await expect(mixer.getByRole("button", { name: "13 silent: hear all again" })).toBeVisible();
  await mixer.getByRole("button", { name: "13 silent: hear all again" }).click();
  await mixer.getByRole("button", { name: "Mo Brine silent" }).click();
  await expect(mixer.getByRole("button", { name: "Mo Brine silent" })).toHaveAttribute("aria-pressed", "true");
  const slider = mixer.getByRole("slider", { name: "Loudness of Bo Marram" });
  await slider.focus();
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("ArrowLeft");
  await expect(slider).toHaveAttribute("aria-valuenow", "90");
});

test("a part is written plainer, named otherwise, and makes room for another at one press", async ({ page }) => {
  await tonight(page);
  const panel = why(page);
  await page.locator("[data-evening]").getByRole("button", { name: "Cora Quill", exact: true }).click();
  const ways = panel.getByRole("group", { name: "How Cora Quill’s part is written" });
  const notes = () => page.locator('[data-id^="group-cora-quill."]').count();
  await expect.poll(notes).toBeGreaterThan(0);
  const before = await notes();
  await ways.getByRole("button", { name: "plainer" }).click();
  await expect(ways.getByRole("button", { name: "plainer" })).toHaveAttribute("aria-pressed", "true");
  await expect.poll(notes).toBeLessThan(before);
  await panel.getByLabel("Names under the notes").selectOption("syllables");
  await expect(page.locator("#rows").getByText("re", { exact: true }).first()).toBeAttached();

  const fit = page.getByRole("region", { name: "How it fits" });
  const remedy = fit.getByRole("button", { name: /^(rests|quieter|another note)$/ }).first();
  await remedy.click();
  await expect(fit.getByRole("status")).toContainText("before");
  await undoAll(page);
});

test("a form of the tune is taken into the looped bars, and undone; versions are printed", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await page.keyboard.press("p");
  const fold = page.getByRole("region", { name: "Easier and richer" });
  await fold.getByRole("button", { name: "step by step" }).click();
  const notes = () => page.locator('[data-id^="melody."]').count();
  await expect.poll(notes).toBeGreaterThan(0);
  const before = await notes();
  await fold.getByRole("button", { name: "take the beats into the whole tune" }).click();
  await expect.poll(notes).toBeLessThan(before);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(notes).toBe(before);
  await expect(fold.getByText(/^Not here:/)).toBeVisible();
  await undoAll(page);
});

test("the table of parts stands on a tablet, nobody’s part cut off", async ({ page }) => {
  await page.setViewportSize({ width: 820, height: 1180 });
  await tonight(page, "Tar on the Rope");
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(wide).toBeLessThanOrEqual(0);
  for (const name of ["Anka Reed", "Nia Fenn"]) {
    const part = page.getByLabel(`Part of ${name}`);
    await part.scrollIntoViewIfNeeded();
    await expect(part).toBeInViewport({ ratio: 1 });
    await expect(page.getByRole("button", { name: `Hear ${name}` })).toBeInViewport({ ratio: 1 });
  }
});

test("a group page keeps every field, goes out as the table it came in as, and answers Back", async ({ page }) => {
  await page.goto("/groups");
  await page
    .locator("input[type=file]")
    .setInputFiles({ name: "Slipway three.csv", mimeType: "text/csv", buffer: Buffer.from(SMALL) });
  await expect(page.getByRole("heading", { name: "Slipway three" })).toBeVisible();
  await page.getByLabel("Level of Tam Oar").selectOption("Moving");
  await page.getByLabel("What they can of Tam Oar").fill("low2; boombrush");
  await page.getByLabel("What they can of Tam Oar").blur();
  await expect(page.getByText("is not understood")).toHaveCount(0);
  await expect(page.getByLabel("Notes of Tam Oar")).toHaveValue("likes to sit near the door");
  await page.getByRole("button", { name: "Note on Ness Tarn" }).click();
  await page.getByLabel("Notes of Ness Tarn").fill("away in March");
  await page.getByLabel("Notes of Ness Tarn").press("Enter");
  await page.reload();
  await expect(page.getByLabel("Notes of Ness Tarn")).toHaveValue("away in March");
  await expect(page.getByLabel("Level of Tam Oar")).toHaveValue("Moving");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: /table/ }).first().click(),
  ]);
  const table = readFileSync(await download.path(), "utf8")
    .trim()
    .split("\n");
  expect(table[0]?.trim()).toBe("name,instrument,tuning,level,can,cannot,seat,notes");
  expect(table).toHaveLength(4);
  expect(table.find((row) => row.startsWith("Tam Oar"))).toContain("Moving");
  await page.goto("/");
  await page.goBack();
  await expect(page.getByRole("heading", { name: "Slipway three" })).toBeVisible();
  await page.getByRole("button", { name: "remove the group" }).click();
  await expect(page.getByRole("heading", { name: "Slipway three" })).toHaveCount(0);
});

test("who is not there is planned without at one press, and back again; roles are swapped by list", async ({
  page,
}) => {
  await tonight(page, "Up from the Slipway");
  const table = page.locator("[data-evening]");
  const role = (name: string) => table.getByLabel(`Part of ${name}`);
  await table.getByLabel("Anka Reed is there").uncheck();
  await expect(table.locator("[data-learner]").filter({ hasText: "Anka Reed" }).getByText("not there")).toBeVisible();
  await expect(page.locator("[data-evening]")).toHaveAttribute("aria-busy", "false");
  await table.getByLabel("Anka Reed is there").check();
  await expect(role("Anka Reed")).toBeVisible();
  await role("Ebba Shore").selectOption("one-note harmony");
  await expect(role("Ebba Shore")).toHaveValue("one-note harmony");
  await expect(table.getByText(/^Changed with it:/)).toBeVisible();
  await table.getByRole("button", { name: "Ebba Shore", exact: true }).click();
  await expect(why(page).getByText("You set this: one note.")).toBeVisible();
  await expect(why(page).getByText(/^Three times through/)).toBeVisible();
  await role("Ebba Shore").selectOption({ label: "let the plan choose" });
});

test("a change of the tune goes into every part, and it is said for whom", async ({ page }) => {
  await tonight(page);
  await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Chords" }).click();
  await lane(page).nth(3).click();
  await why(page).getByLabel("Write a chord").fill("Bm");
  await why(page).getByLabel("Write a chord").press("Enter");
  await caughtUp(page);
  await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Parts" }).click();
  await expect(page.locator("[data-evening] [data-learner]")).toHaveCount(14);
  await expect(page.locator("[data-evening]").getByText(/^Changed with it:/)).toBeVisible();
  await undoAll(page);
});
