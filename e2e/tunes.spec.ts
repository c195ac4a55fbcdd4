import { expect, test } from "@playwright/test";

const ABC = "X:1\nT:Tar and Twine\nR:polka\nM:2/4\nL:1/8\nK:G\n|:D|GB d>B|AG E>D|GB dB|A3 D|\nGB d>B|AG E>D|GB AF|G3:|\n";

test.describe("the tunes page", () => {
  test("shows the three demo tunes with what they are", async ({ page }) => {
    const problems: string[] = [];
    page.on("console", (m) => { if (m.type() === "error") problems.push(m.text()); });
    page.on("pageerror", (e) => problems.push(e.message));
    await page.goto("/");
    for (const title of ["Four Gulls", "Herring at the Quay", "The Lamp on the Slip"]) await expect(page.getByRole("link", { name: title })).toBeVisible();
    await expect(page.getByText("jig in E dorian · 6/8 · AABB · 16 bars, learn 14")).toBeVisible();
    expect(problems).toEqual([]);
  });

  test("a pasted tune opens on its bench and stays in the list", async ({ page }) => {
    await page.goto("/");
    await page.getByLabel("ABC text").fill(ABC);
    await page.getByRole("button", { name: "Read it" }).click();
    await expect(page.getByRole("heading", { name: "Tar and Twine" })).toBeVisible();
    await expect(page.getByText("polka in G major")).toBeVisible();
    await page.getByRole("link", { name: "All tunes" }).click();
    await expect(page.getByRole("link", { name: "Tar and Twine" }).first()).toBeVisible();
  });

  test("a bad tune says what is wrong and where, and keeps what was pasted", async ({ page }) => {
    await page.goto("/");
    const bad = "X:1\nT:Broken\nM:4/4\nK:Q\nabc|\n";
    await page.getByLabel("ABC text").fill(bad);
    await page.getByRole("button", { name: "Read it" }).click();
    await expect(page.getByText('"Q" is not a key')).toBeVisible();
    await expect(page.getByLabel("ABC text")).toHaveValue(bad);
    await page.getByRole("button", { name: "line 4, column 3" }).click();
    expect(await page.getByLabel("ABC text").evaluate((t: HTMLTextAreaElement) => t.value[t.selectionStart])).toBe("Q");
  });

  test("a chosen file brings its tunes in, the bad one named", async ({ page }) => {
    await page.goto("/");
    await page.getByLabel("ABC file").setInputFiles({ name: "book.abc", mimeType: "text/plain", buffer: Buffer.from(`${ABC}\nX:2\nT:No music\nK:D\n\n${ABC.replace("Tar and Twine", "Second Coil")}`) });
    await expect(page.getByText("2 tunes are in")).toBeVisible();
    await expect(page.getByText("1 tune could not be read")).toBeVisible();
    await expect(page.getByText("This tune has a header but no notes.")).toBeVisible();
    await expect(page.getByRole("row", { name: /Second Coil/ })).toBeVisible();
  });

  test("markup in a title is shown as text", async ({ page }) => {
    await page.goto("/");
    await page.getByLabel("ABC text").fill(ABC.replace("Tar and Twine", "<img src=x onerror=alert(1)>"));
    await page.getByRole("button", { name: "Read it" }).click();
    await expect(page.getByRole("heading", { name: "<img src=x onerror=alert(1)>" })).toBeVisible();
    expect(await page.locator("img").count()).toBe(0);
  });

  test("no such tune is said kindly", async ({ page }) => {
    await page.goto("/tune/9999");
    await expect(page.getByRole("heading", { name: "There is no such tune here" })).toBeVisible();
  });
});
