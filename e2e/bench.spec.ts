import { expect, test } from "@playwright/test";
import { chordNames, lane, open, ready, steady, undoAll } from "./helpers";

test("chords stand over the notes they start with", async ({ page }) => {
  await open(page, "Herring at the Quay");
  const row = page.getByRole("region", { name: /^A 1–4/ });
  for (const [bar, chord] of [
    [1, 0],
    [2, 1],
  ] as const) {
    const head = await row.locator(`[data-id="melody.${bar}.0"] .notehead`).boundingBox();
    const box = await row.getByRole("button").nth(chord).boundingBox();
    expect(Math.abs(box!.x - head!.x)).toBeLessThan(14);
    expect(box!.y).toBeLessThan(head!.y);
  }
});

test("a chord says why; another one locks, re-derives, survives a restart, and is undone and redone", async ({
  page,
}) => {
  await open(page, "The Lamp on the Slip");
  const before = await chordNames(page);
  await lane(page).nth(1).click();
  const panel = page.getByRole("complementary", { name: "Why" });
  await expect(panel.getByRole("heading", { name: /, bar 2$/ })).toBeVisible();
  await expect(panel.getByText(/^The .*belongs? to it/)).toBeVisible();
  const saved = page.waitForResponse((r) => r.request().method() === "POST");
  await panel.getByRole("button", { name: /^Em/ }).click();
  await expect(lane(page).nth(1)).toHaveAttribute("aria-label", /^E minor, bar 2, .*, locked$/);
  await saved;
  await page.reload();
  await ready(page);
  await expect(lane(page).nth(1)).toHaveAttribute("aria-label", /^E minor, bar 2, .*, locked$/);
  await page.keyboard.press("Control+z");
  await expect(lane(page).nth(1)).toHaveAttribute("aria-label", before[1]!);
  await page.keyboard.press("Control+Shift+z");
  await expect(lane(page).nth(1)).toHaveAttribute("aria-label", /^E minor, bar 2, .*, locked$/);
  await page.keyboard.press("Control+z");
  await expect(lane(page).nth(1)).toHaveAttribute("aria-label", before[1]!);
});

test("the keyboard goes to a bar, looks at its chord, takes a runner-up, locks and frees", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  const panel = page.getByRole("complementary", { name: "Why" });
  await expect(panel.getByRole("heading", { name: "D major, bar 2" })).toBeVisible();
  await page.keyboard.press("l");
  await expect(panel.getByText("You chose D major here")).toBeVisible();
  await page.keyboard.press("l");
  await expect(panel.getByText("as you chose it, unlocked")).toBeVisible();
  await page.keyboard.press("a");
  await expect(panel.getByText(/you chose/i)).toHaveCount(0);
  await page.keyboard.press("2");
  await expect(panel.getByRole("heading", { name: /bar 2$/ })).not.toHaveText("D major, bar 2");
  await undoAll(page);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toContainText("Stop at pain, numbness or tingling");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("three schools give three lines, and a note says its reason", async ({ page }) => {
  await open(page, "The Lamp on the Slip", "Harmony");
  const second = () =>
    page
      .locator('[data-id^="moving."] .notehead')
      .evaluateAll((all) => all.map((n) => Math.round(n.getBoundingClientRect().y)).join());
  const lines = new Set<string>();
  for (const school of ["Thirds", "Fourth under the tonic", "Chord-fit"]) {
    const before = await steady(second);
    await page.getByRole("radiogroup", { name: "School" }).getByText(school, { exact: true }).click();
    await expect(page.getByRole("radio", { name: new RegExp(`^${school}`) })).toBeChecked();
    await expect.poll(second).not.toBe(before);
    lines.add(await steady(second));
  }
  expect(lines.size).toBe(3);
  const head = await page.locator('[data-id="moving.1.0"] .notehead').boundingBox();
  await page.mouse.click(head!.x + 3, head!.y + head!.height / 2);
  const panel = page.getByRole("complementary", { name: "Why" });
  await expect(panel.getByRole("heading", { name: "A4, a fourth below" })).toBeVisible();
  await expect(panel.getByText("it is in the chord of D")).toBeVisible();
  await expect(page.locator("[data-chosen]")).toHaveCount(1);
});

test("plays with a count-in, frames the sounding bar, loops what is marked, and stops", async ({ page }) => {
  const problems: string[] = [];
  page.on("pageerror", (e) => problems.push(e.message));
  await open(page, "Four Gulls");
  const slower = page.getByRole("slider");
  await expect(slower).toHaveAttribute("aria-valuenow", "70");
  for (let i = 0; i < 16; i++) await page.keyboard.press("+");
  await expect(slower).toHaveAttribute("aria-valuenow", "150");
  await page.keyboard.press("Shift+ArrowRight");
  await expect(page.getByRole("button", { name: "loops bar 1 to 2" })).toBeVisible();
  await page.getByRole("button", { name: "2 bars in" }).click();
  await page.keyboard.press(" ");
  const weave = page.getByRole("group", { name: "Bars of the tune" });
  const sounding = () => weave.locator("[aria-current=true]").getAttribute("aria-label");
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await expect.poll(sounding, { intervals: [60] }).toContain("bar 2");
  await expect.poll(sounding, { intervals: [60] }).toContain("bar 1");
  await expect.poll(sounding, { intervals: [60] }).toContain("bar 2");
  await page.keyboard.press("m");
  await expect(page.getByRole("group", { name: "Lines heard" }).getByRole("button", { name: "Tune" })).toHaveAttribute(
    "aria-pressed",
    "false",
  );
  await page.keyboard.press(" ");
  await expect(page.getByRole("button", { name: "Play" })).toBeVisible();
  expect(problems).toEqual([]);
});

test("Space plays from anywhere but a text field; a control used with the pointer gives the keys back", async ({
  page,
}) => {
  await open(page, "Four Gulls");
  const [play, stop] = [page.getByRole("button", { name: "Play" }), page.getByRole("button", { name: "Stop" })];
  const playsAndStops = async () => {
    await page.keyboard.press(" ");
    await expect(stop).toBeVisible();
    await page.keyboard.press(" ");
    await expect(play).toBeVisible();
  };
  const panel = page.getByRole("complementary", { name: "Why" });
  await panel.getByText("Two-chord", { exact: true }).click();
  await playsAndStops();
  await panel.getByLabel("Compare with").selectOption("Dance band");
  await playsAndStops();
  await page.getByRole("group", { name: "Bars of the tune" }).getByRole("button").nth(2).click();
  await playsAndStops();
  // After the pointer, arrows go by bars again, and change no style.
  await panel.getByText("Modal", { exact: true }).click();
  await page.keyboard.press("ArrowRight");
  await expect(panel.getByRole("radio", { name: "Modal" })).toBeChecked();
  // A button reached by Tab does not swallow Space; Enter presses it.
  await page.getByRole("button", { name: "Keys and help" }).focus();
  await playsAndStops();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toBeVisible();
  await page.keyboard.press("Escape");
  await lane(page).first().click();
  await panel.getByPlaceholder(/^another/).fill("A 7");
  await expect(stop).toHaveCount(0);
  await page.keyboard.press("Escape");
  await undoAll(page);
});

test("a tempo is typed, and tapped", async ({ page }) => {
  await open(page, "Four Gulls");
  const field = page.getByRole("textbox", { name: "Tempo, quarters a minute" });
  const usual = Number(await field.inputValue());
  await field.fill(String(usual + 7));
  await page.keyboard.press("Enter");
  await expect(field).toHaveValue(String(usual + 7));
  // The keys are the page's again.
  await page.keyboard.press(" ");
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await page.keyboard.press(" ");
  await field.fill("31");
  await page.keyboard.press("Escape");
  await expect(field).toHaveValue(String(usual + 7));
  await field.fill("9999");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("slider")).toHaveAttribute("aria-valuenow", "150");
  const tap = page.getByRole("button", { name: "tap", exact: true });
  await tap.click();
  await page.waitForTimeout(700);
  await tap.click();
  await expect.poll(async () => Number(await field.inputValue())).toBeLessThan(usual * 2);
});

test("a bench is found as it was left: tempo, silent voices, lens", async ({ page }) => {
  await open(page, "Four Gulls", "Harmony");
  for (let i = 0; i < 4; i++) await page.keyboard.press("+");
  await page.keyboard.press("c");
  await page.goto("/");
  await page.getByRole("link", { name: "Four Gulls" }).click();
  await ready(page);
  await expect(page.getByRole("slider")).toHaveAttribute("aria-valuenow", "90");
  await expect(page.getByRole("button", { name: "Chords" }).last()).toHaveAttribute("aria-pressed", "false");
  const lenses = page.getByRole("navigation", { name: "Views" });
  await expect(lenses.getByRole("button", { name: "Harmony" })).toHaveAttribute("aria-current", /./);
});

test("three parts are shown, printed and taken away once the rights are recorded", async ({ page, request }) => {
  await open(page, "The Lamp on the Slip", "Parts");
  const panel = page.getByRole("complementary", { name: "Why" });
  for (const level of ["Tune", "Harmony", "One note per chord"])
    await expect(panel.getByText(level, { exact: true }).first()).toBeVisible();
  await panel.getByRole("button", { name: /One note per chord/ }).click();
  await expect(page.locator('[data-id^="melody."]')).toHaveCount(0);
  await expect(page.locator('[data-id^="first."]').first()).toBeVisible();
  const wanted: [string, RegExp][] = [
    ["MusicXML of One note per chord", /<score-partwise/],
    ["ABC of All parts", /V:3/],
    ["MIDI of Harmony", /^MThd/],
  ];
  for (const [name, content] of wanted) {
    const href = await panel.getByRole("link", { name }).getAttribute("href");
    const response = await request.get(href!);
    expect([response.status(), content.test((await response.body()).toString("latin1"))]).toEqual([200, true]);
  }
  await panel.getByRole("button", { name: "change" }).click();
  await expect(panel.getByText("Before copies are made")).toBeVisible();
  await expect(panel.getByRole("link", { name: /MusicXML/ })).toHaveCount(0);
  const id = page.url().match(/tune\/(\d+)/)?.[1];
  await expect.poll(async () => (await request.get(`/tune/${id}/files/all.abc`)).status()).toBe(403);
  await panel.getByLabel("Rights").selectOption("own");
  await panel.getByRole("button", { name: "Record" }).click();
  await panel.getByRole("link", { name: "Print One note per chord" }).click();
  await expect(page.getByRole("button", { name: "Print", exact: true })).toBeEnabled();
  await expect(page.locator("[data-page='1'] svg g.measure")).toHaveCount(18);
  // Strains have their letters, each in a box that does not cover it.
  await expect(page.locator("[data-page='1'] g.reh")).toHaveText(["A", "B"]);
  await expect(page.locator("[data-page='1'] g.reh rect").first()).toHaveCSS("fill", "none");
  // The note of the tempo is a letter of the music font.
  await expect(page.locator("[data-page='1'] g.tempo tspan[font-family='Leipzig']")).toHaveCount(1);
  const fonts = () =>
    page.evaluate(() => [...document.fonts].filter((f) => /Leipzig/.test(f.family)).map((f) => f.status));
  await expect.poll(fonts).toEqual(["loaded"]);
});

test("fits a narrow screen: two bars a row, the sheet on request", async ({ page }) => {
  await page.setViewportSize({ width: 600, height: 900 });
  await open(page, "The Lamp on the Slip");
  await expect(page.locator("#rows section")).toHaveCount(8);
  for (const row of await page.locator("#rows section").all()) {
    await row.scrollIntoViewIfNeeded();
    await expect(row.locator("[data-engraving] svg g.measure").first()).toBeVisible();
  }
  const panel = page.getByRole("complementary", { name: "Why" });
  await expect(panel.getByRole("heading")).toHaveCount(0);
  await lane(page).first().click();
  await expect(panel.getByRole("heading").first()).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(600);
});
