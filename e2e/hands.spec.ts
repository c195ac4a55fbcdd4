import { expect, type Page, test } from "@playwright/test";
import { caughtUp, lane, open, ready, undoAll, why } from "./helpers";

const heading = (page: Page) => why(page).getByRole("heading").first();
const press = async (page: Page, ...keys: string[]) => {
  for (const key of keys) await page.keyboard.press(key);
};

test("keys alone: correct a note, choose a chord, settle a harmony note, play, open a part", async ({ page }) => {
  await open(page, "Herring at the Quay");
  // Correct: the first note of bar 2, a step up.
  await press(page, "t", "ArrowRight", "ArrowRight", "Enter");
  const before = await heading(page).textContent();
  await press(page, "ArrowUp");
  await expect(heading(page)).not.toHaveText(before!);
  await caughtUp(page);
  // Bars with the same notes are offered the same; once is enough here.
  await expect(page.getByText(/had the same notes as bar 2/)).toBeVisible();
  await press(page, "Escape", "g", "Enter");
  await expect(heading(page)).toHaveText(/, bar 2$/);
  const chord = await heading(page).textContent();
  await press(page, "2");
  await expect(heading(page)).not.toHaveText(chord!);
  await caughtUp(page);
  await press(page, "Escape", "y", "Enter");
  await expect(why(page).getByText(/^bar 2, beat 1/)).toBeVisible();
  await press(page, "ArrowRight", "2");
  await expect(why(page).getByText(/· locked$/)).toBeVisible();
  await caughtUp(page);
  // What was heard of the chosen chord ends by itself. Then play, and stop again.
  await expect(page.getByRole("button", { name: "Play" })).toBeVisible();
  await press(page, " ");
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await expect(page.locator("[data-count]")).toBeVisible();
  await press(page, " ");
  await expect(page.locator("[data-count]")).toHaveCount(0);
  // Parts: Tab comes to the first part, Enter shows it alone.
  await press(page, "Escape", "p");
  const part = why(page).getByRole("button", { name: /Tune/ });
  await expect(part).toBeVisible();
  for (let i = 0; i < 60 && !(await part.evaluate((b) => b === document.activeElement)); i++) await press(page, "Tab");
  await press(page, "Enter");
  await expect(part).toHaveAttribute("aria-pressed", "true");
  await press(page, "g");
  await undoAll(page);
});

test("the same change is made in like bars when asked", async ({ page }) => {
  await open(page, "Herring at the Quay");
  await press(page, "t", "ArrowRight", "ArrowRight", "Enter", "ArrowUp");
  const offer = page.getByRole("status").filter({ hasText: "Do the same there?" });
  await expect(offer).toBeVisible();
  await press(page, "b");
  await expect(offer).toHaveCount(0);
  await caughtUp(page);
  await press(page, "Control+z");
  await caughtUp(page);
  await undoAll(page);
});

test("the weave is one stop of the Tab key, and the arrows go along it", async ({ page }) => {
  await open(page, "Four Gulls");
  const weave = page.getByRole("group", { name: "Bars of the tune" });
  await expect(weave.locator('[tabindex="0"]')).toHaveCount(1);
  await weave.locator('[tabindex="0"]').focus();
  await press(page, "ArrowRight", "ArrowRight");
  await expect(weave.locator(":focus")).toHaveAttribute("aria-label", /bar 3/i);
  await press(page, "ArrowLeft");
  await expect(weave.locator(":focus")).toHaveAttribute("aria-label", /bar 2/i);
  await expect(page.getByRole("img", { name: /^A 1–4, Tune and .*bar 1: [A-G] \d/ })).toBeVisible();
});

test("a ladder climbs from tempo to tempo over the loop", async ({ page }) => {
  await open(page, "Four Gulls");
  await press(page, "ArrowRight");
  await page.getByRole("button", { name: "loop", exact: true }).click();
  await page.getByRole("button", { name: "ladder" }).click();
  const ladder = page.getByRole("group", { name: "Tempo ladder" });
  await ladder.getByLabel("from, percent").fill("140");
  await ladder.getByLabel("to, percent").fill("150");
  await ladder.getByLabel("times each").fill("1");
  await expect(ladder.getByText("140, 150 percent")).toBeVisible();
  await page.getByRole("button", { name: "2 bars in" }).click();
  await ladder.getByRole("button", { name: "Climb" }).click();
  await expect(page.getByRole("button", { name: "140 %, 1 of 1" })).toBeVisible();
  await expect(page.locator("[data-sounding]").first()).toBeAttached();
  await expect(page.getByRole("button", { name: "150 %, 1 of 1" })).toBeVisible({ timeout: 15_000 });
  await press(page, " ");
  await expect(page.getByRole("button", { name: "ladder" })).toBeVisible();
});

test.describe("a tablet", () => {
  test.use({ viewport: { width: 820, height: 1180 }, hasTouch: true });

  test("the sheet takes its room from the rows, and the bar it explains stays in sight", async ({ page }) => {
    await open(page, "The Lamp on the Slip");
    const handle = page.locator("[aria-controls=panel]");
    for (const view of ["Tune", "Pulse", "Chords", "Harmony", "Feel", "Parts"]) {
      await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: view }).tap();
      await expect(handle).toBeVisible();
    }
    await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: "Chords" }).tap();
    const last = lane(page).last();
    await last.scrollIntoViewIfNeeded();
    await last.tap();
    await expect(heading(page)).toBeVisible();
    const [chord, sheet] = [await last.boundingBox(), await why(page).boundingBox()];
    expect(chord!.y + chord!.height).toBeLessThanOrEqual(sheet!.y + 1);
    // The title, the sentence and the weave are still there.
    await expect(page.getByRole("heading", { name: "The Lamp on the Slip" })).toBeVisible();
    await expect(page.getByText("reel in D major · 4/4 · AABB")).toBeVisible();
    await expect(page.getByRole("group", { name: "Bars of the tune" })).toBeVisible();
    await handle.tap();
    await expect(heading(page)).toHaveCount(0);
  });

  test("whatever a finger presses is 44 pixels high", async ({ page }) => {
    await open(page, "The Lamp on the Slip");
    for (const view of ["Tune", "Pulse", "Chords", "Harmony", "Feel", "Parts"]) {
      await page.getByRole("navigation", { name: "Views" }).getByRole("button", { name: view }).tap();
      await page.waitForTimeout(300);
      const small = await page
        .locator("button:visible:not([tabindex='-1']), select:visible, a:visible")
        .evaluateAll((all) =>
          all.flatMap((b) => {
            const { height, width } = b.getBoundingClientRect();
            const inText = b.closest("p") !== null;
            return inText || (height >= 43.5 && width >= 24)
              ? []
              : [`${b.getAttribute("aria-label") ?? b.textContent} ${height}`];
          }),
        );
      expect(small, view).toEqual([]);
    }
  });

  test("a chosen note is moved by a finger, and so is a change of chord", async ({ page }) => {
    await open(page, "The Lamp on the Slip");
    await page.keyboard.press("t");
    const note = page.locator('[data-id="melody.1.0"] .notehead');
    const at = (await note.boundingBox())!;
    await page.touchscreen.tap(at.x + 4, at.y + at.height / 2);
    await expect(page.locator("[data-chosen]")).toHaveCount(1);
    const title = await heading(page).textContent();
    const client = await page.context().newCDPSession(page);
    const own = (await note.boundingBox())!;
    const touch = (type: "touchStart" | "touchMove" | "touchEnd", y: number) =>
      client.send("Input.dispatchTouchEvent", {
        type,
        touchPoints: type === "touchEnd" ? [] : [{ x: own.x + 4, y }],
      });
    await touch("touchStart", own.y + 4);
    for (const up of [3, 6, 9, 12]) await touch("touchMove", own.y + 4 - up);
    await touch("touchEnd", 0);
    await expect(heading(page)).not.toHaveText(title!);
    await caughtUp(page);
    await undoAll(page);
  });
});

test("the drill ladder of a rhythm is drawn rung by rung, heard, and of another rhythm when asked", async ({
  page,
}) => {
  await open(page, "The Lamp on the Slip");
  await press(page, "z");
  await why(page).getByRole("link", { name: "Read and print them" }).click();
  await expect(page.getByRole("heading", { name: "1. Accents on the open string" })).toBeVisible();
  await expect(page.locator("[data-preview] svg").nth(4)).toBeVisible();
  await page.getByRole("button", { name: "Hear Up the scale" }).click();
  await page.getByRole("button", { name: "Stop Up the scale" }).click();
  await page.getByLabel("Rhythm").selectOption("Three-three-two");
  await expect(page.getByText("Three-three-two, rung by rung")).toBeVisible();
  // The open string is one that the class has.
  await page.getByLabel("Open string", { exact: true }).selectOption("D4");
  await expect(page.getByRole("heading", { name: "1. Accents on the open string" })).toBeVisible();
  await page.getByRole("link", { name: "Back to the pulse" }).click();
  await ready(page);
});

test("a tune is found by a few notes, and heard in the list", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("Find by a few notes").fill("D F# D A D F# D");
  // The tune that has them exactly comes before those that nearly do.
  await expect(page.getByRole("row").nth(1)).toContainText("The Lamp on the Slip");
  await page.getByRole("button", { name: "keys" }).click();
  await expect(page.getByRole("group", { name: "Keyboard" })).toBeVisible();
  await page.getByRole("button", { name: "Hear The Lamp on the Slip" }).click();
  await expect(page.getByRole("button", { name: "Stop The Lamp on the Slip" })).toBeVisible();
  await page.getByRole("button", { name: "Stop The Lamp on the Slip" }).click();
  await expect(page.getByRole("button", { name: "Hear The Lamp on the Slip" })).toBeVisible();
  await page.getByLabel("Find by a few notes").fill("what is this");
  await expect(page.getByText(/These are no notes yet/)).toBeVisible();
});

test("what is typed is there again after a reload, until it is kept or let go", async ({ page }) => {
  await page.goto("/new");
  await page.getByLabel("Title").fill("Half a Tune");
  await page.getByRole("textbox", { name: /notes/i }).fill("D E F A");
  await page.reload();
  await expect(page.getByLabel("Title")).toHaveValue("Half a Tune");
  await expect(page.getByRole("textbox", { name: /notes/i })).toHaveValue("D E F A");
  await page.getByRole("button", { name: "start afresh" }).click();
  await page.reload();
  await expect(page.getByLabel("Title")).toHaveValue("");
});

test("what was read in doubt stays on the bench until it is settled", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "Bring tunes in" }).click();
  await page
    .getByLabel("ABC text")
    .fill("X:1\nT:Doubtful Tide\nM:2/4\nL:1/8\nK:G\n|:GB dB|AG E2|GB dB|A4:|\nzzq this was never music\n");
  await page.getByRole("button", { name: "Bring it in", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Doubtful Tide" })).toBeVisible();
  await ready(page);
  const doubt = page.getByRole("alert", { name: "Read in doubt" });
  await expect(doubt).toBeVisible();
  await page.reload();
  await ready(page);
  await expect(doubt).toBeVisible();
  const settle = doubt.getByRole("button", { name: "settled" });
  while ((await settle.count()) > 0) {
    const left = await settle.count();
    await settle.first().click();
    await expect.poll(() => settle.count()).toBeLessThan(left);
  }
  await expect(doubt).toHaveCount(0);
});

test("feel: bows turn and lock by keys, the dance and its strength change, a rhythm is set and undone", async ({
  page,
}) => {
  await open(page, "The Lamp on the Slip");
  await press(page, "d");
  await expect(heading(page)).toHaveText("Reel, rolling");
  await expect(why(page).getByRole("slider", { name: "Beat 1", exact: true })).toHaveAttribute("aria-valuenow", "100");
  const bows = () => page.locator("[data-shuttle] svg g").count();
  const bowing = (style: string) => why(page).getByRole("radiogroup", { name: "Bowing" }).getByText(style);
  await expect.poll(bows).toBeGreaterThan(60);
  const down = await bows();
  await bowing("Slurred threes").click();
  await expect.poll(bows).toBeLessThan(down);
  await bowing("Down on the beat").click();
  await expect.poll(bows).toBe(down);
  await press(page, "ArrowRight", "Enter");
  await expect(heading(page)).toHaveText("Down-bow, bar 1");
  await press(page, "ArrowUp");
  await expect(why(page).getByText(/· locked$/)).toBeVisible();
  await expect(heading(page)).toHaveText("Up-bow, bar 1");
  await press(page, "l");
  await expect(heading(page)).toHaveText("Down-bow, bar 1");
  await press(page, "Escape");
  await why(page).getByLabel("Danced as").selectOption("hornpipe");
  await expect(heading(page)).toHaveText("Hornpipe, bouncing");
  await why(page).getByText("Pairs, snaps and flicks").click();
  await why(page).getByRole("button", { name: "march pairs" }).click();
  await caughtUp(page);
  await expect(page.locator('[data-id="melody.1.1"]')).toBeAttached();
  await undoAll(page);
  await expect(heading(page)).toHaveText("Reel, rolling");
});
