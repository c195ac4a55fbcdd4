import { expect, type Page, test } from "@playwright/test";

const ABC =
  "X:1\nT:Tar and Twine\nR:polka\nM:2/4\nL:1/8\nK:G\n|:D|GB d>B|AG E>D|GB dB|A3 D|\nGB d>B|AG E>D|GB AF|G3:|\n";

/** Opens the list with its intake. */
async function bring(page: Page) {
  await page.goto("/");
  await page.getByRole("button", { name: "Bring tunes in" }).click();
}

test.describe("the tunes page", () => {
  test("shows the demo tunes with what they are", async ({ page }) => {
    const problems: string[] = [];
    page.on("console", (m) => {
      if (m.type() === "error") problems.push(m.text());
    });
    page.on("pageerror", (e) => problems.push(e.message));
    await page.goto("/");
    for (const title of ["Four Gulls", "Herring at the Quay", "The Lamp on the Slip"])
      await expect(page.getByRole("link", { name: title })).toBeVisible();
    await expect(page.getByRole("row", { name: /Herring at the Quay/ })).toContainText(
      ["jig", "E dorian", "6/8"].join(""),
    );
    expect(problems).toEqual([]);
  });

  test("a pasted tune opens on its bench and stays in the list", async ({ page }) => {
    await bring(page);
    await page.getByLabel("ABC text").fill(ABC);
    await page.getByRole("button", { name: "Bring it in", exact: true }).click();
    await expect(page.getByRole("heading", { name: "Tar and Twine" })).toBeVisible();
    await expect(page.getByText("polka in G major")).toBeVisible();
    await page.getByRole("link", { name: "All tunes" }).click();
    await expect(page.getByRole("link", { name: "Tar and Twine" }).first()).toBeVisible();
  });

  test("a bad tune says what is wrong and where, and keeps what was pasted", async ({ page }) => {
    await bring(page);
    const bad = "X:1\nT:Broken\nM:4/4\nK:Q\nabc|\n";
    await page.getByLabel("ABC text").fill(bad);
    await page.getByRole("button", { name: "Bring it in", exact: true }).click();
    await expect(page.getByText('"Q" is not a key')).toBeVisible();
    await expect(page.getByLabel("ABC text")).toHaveValue(bad);
    await page.getByRole("button", { name: "line 4, column 3" }).click();
    expect(await page.getByLabel("ABC text").evaluate((t: HTMLTextAreaElement) => t.value[t.selectionStart])).toBe("Q");
  });

  test("a chosen file brings its tunes in, the bad one named", async ({ page }) => {
    await bring(page);
    await page.getByLabel("Tune file").setInputFiles({
      name: "book.abc",
      mimeType: "text/plain",
      buffer: Buffer.from(
        `${ABC}\nX:2\nT:No music\nK:D\n\n${ABC.replace("Tar and Twine", "Second Coil").replaceAll("GB", "Gd")}`,
      ),
    });
    await expect(page.getByText("1 tune is in")).toBeVisible();
    await expect(page.getByText(/“Tar and Twine” is .*note for note/)).toBeVisible();
    await expect(page.getByText("1 tune could not be read")).toBeVisible();
    await expect(page.getByText("This tune has a header but no notes.")).toBeVisible();
    await expect(page.getByRole("row", { name: /Second Coil/ })).toBeVisible();
  });

  test("markup in a title is shown as text", async ({ page }) => {
    await bring(page);
    await page
      .getByLabel("ABC text")
      .fill(ABC.replace("Tar and Twine", "<img src=x onerror=alert(1)>").replace("A3 D", "A2 AD"));
    await page.getByRole("button", { name: "Bring it in", exact: true }).click();
    await expect(page.getByRole("heading", { name: "<img src=x onerror=alert(1)>" })).toBeVisible();
    expect(await page.locator("img").count()).toBe(0);
  });

  test("no such tune is said kindly", async ({ page }) => {
    await page.goto("/tune/9999");
    await expect(page.getByRole("heading", { name: "There is nothing at this address" })).toBeVisible();
  });

  test("finds, filters, sorts, tags and puts aside, and brings back", async ({ page }) => {
    await page.goto("/");
    await page.getByLabel("Find words in any tune").fill("salt");
    // Two titles, and a song with salt in its words.
    await expect(page.getByRole("row")).toHaveCount(4);
    await page.getByRole("button", { name: "show all" }).click();
    await page.getByLabel("any dance").selectOption("strathspey");
    await expect(page.getByRole("row")).toHaveCount(2);
    await page.reload();
    await expect(page.getByRole("row", { name: /Salt in the Thatch/ })).toBeVisible();
    await page.getByLabel("any dance").selectOption("");
    await expect(page.getByRole("row", { name: /Four Gulls/ })).toBeVisible();
    await page.getByRole("link", { name: "Sort by notes" }).click();
    await expect(page.getByRole("row").nth(1)).toContainText("Four Gulls");
    await page.getByRole("checkbox", { name: "Choose Lanterns Out" }).check({ force: true });
    await page.getByLabel("Tag", { exact: true }).fill("Thursday");
    await page.getByRole("button", { name: "Tag", exact: true }).click();
    await page.getByLabel("any tag").selectOption("Thursday");
    await expect(page.getByRole("row")).toHaveCount(2);
    await page.getByRole("button", { name: "Delete" }).click();
    await expect(page.getByText("1 tune was deleted.")).toBeVisible();
    await page.getByRole("button", { name: "Bring back" }).click();
    await page.goto("/?find=lanterns");
    await expect(page.getByRole("row", { name: /Lanterns Out/ })).toContainText("Thursday");
  });
});

test.describe("ways in", () => {
  const score = (title: string, parts: readonly string[]) =>
    [
      '<?xml version="1.0"?><score-partwise version="4.0">',
      `<work><work-title>${title}</work-title></work><part-list>`,
      ...parts.map((name, p) => `<score-part id="P${p + 1}"><part-name>${name}</part-name></score-part>`),
      "</part-list>",
      ...parts.map((_, p) => `<part id="P${p + 1}">${[1, 2, 3, 4].map((n) => measure(n, 4 - p)).join("")}</part>`),
      "</score-partwise>",
    ].join("");
  const TIME = "<time><beats>3</beats><beat-type>4</beat-type></time>";
  const FIRST = `<attributes><divisions>1</divisions><key><fifths>1</fifths></key>${TIME}</attributes>`;
  const note = (step: string, octave: number) =>
    `<note><pitch><step>${step}</step><octave>${octave}</octave></pitch><duration>1</duration></note>`;
  const measure = (n: number, octave: number) => {
    const notes = ["G", "B", n === 4 ? "G" : "D"].map((step) => note(step, octave)).join("");
    return `<measure number="${n}">${n === 1 ? FIRST : ""}${notes}</measure>`;
  };
  const XML = score("Cork and Float", ["Fiddle", "Bass"]);

  test("a MusicXML score is looked at, its part chosen, and brought in", async ({ page }) => {
    await bring(page);
    await page
      .getByLabel("Tune file")
      .setInputFiles({ name: "cork.musicxml", mimeType: "text/xml", buffer: Buffer.from(XML) });
    await expect(page.locator("[data-preview] svg").first()).toBeVisible();
    await expect(page.getByText(/waltz in G major/)).toBeVisible();
    await page.getByLabel("Part").selectOption({ label: "Bass (12 notes)" });
    await expect(page.getByText(/the others left out \(Fiddle\)/)).toBeVisible();
    await page.getByRole("button", { name: "Bring it in" }).click();
    await expect(page.getByRole("heading", { name: "Cork and Float" })).toBeVisible();
  });

  test("a broken score says where and what to do", async ({ page }) => {
    await bring(page);
    await page
      .getByLabel("Tune file")
      .setInputFiles({ name: "cork.xml", mimeType: "text/xml", buffer: Buffer.from(XML.slice(0, 900)) });
    await expect(page.getByText(/Line 1, column .*The XML is broken here/)).toBeVisible();
    await expect(page.getByRole("button", { name: "Bring it in" })).toBeDisabled();
    await page.getByRole("button", { name: "Leave it" }).click();
    await expect(page.getByLabel("ABC text")).toBeVisible();
  });

  test("a MIDI file is drawn to the grid that is chosen", async ({ page, request }) => {
    const file = await request.get("/tune/5/files/melody.mid");
    await bring(page);
    await page
      .getByLabel("Tune file")
      .setInputFiles({ name: "rope.mid", mimeType: "audio/midi", buffer: await file.body() });
    await page.getByLabel("Draw the notes to").selectOption({ label: "eighths" });
    await expect(page.locator("[data-preview] svg").first()).toBeVisible();
    await page.getByRole("button", { name: "Bring it in" }).click();
    await expect(page.getByText(/polka in D major/)).toBeVisible();
  });

  test("notes are typed in each spelling, errors underlined, the staff follows", async ({ page }) => {
    await page.goto("/new");
    const notes = page.getByLabel("Notes of the tune");
    await notes.fill("|: D E F A | B - A F | E D X F | D--- :|");
    await expect(page.locator("[data-problem]").filter({ hasText: /^X$/ })).toBeVisible();
    await expect(page.getByText('"X" is not a note letter')).toBeVisible();
    await expect(page.locator("[data-preview] .note")).toHaveCount(11);
    await page.getByLabel("Typed as").selectOption("syllables");
    await notes.fill("re mi fa la si - la fa mi re mi fa re---");
    await expect(page.locator("[data-problem]")).toHaveCount(0);
    await page.getByLabel("Typed as").selectOption("frets");
    await page.getByLabel("Instrument").selectOption("mountain dulcimer");
    await notes.fill("D3: 0 1 2 3 | 4 5 6 6+");
    await expect(page.locator("[data-problem]")).toHaveCount(0);
    await page.getByLabel("Typed as").selectOption("string and finger");
    await page.getByLabel("Title").fill("Slate Roof");
    await notes.fill("D: 0 1 2 3 | A: 0 1 2 3 | 2 1 0 D: 3 | 0 ---");
    await page.getByRole("button", { name: "Keep this tune" }).click();
    await expect(page.getByRole("heading", { name: "Slate Roof" })).toBeVisible();
  });

  test("notes are played in on keys, on strings, and by a keyboard that plays itself", async ({ page }) => {
    await page.goto("/new");
    const notes = page.getByLabel("Notes of the tune");
    for (const key of ["D4", "F#4", "A4", "D5"])
      await page.getByRole("group", { name: "Keyboard" }).getByRole("button", { name: key, exact: true }).click();
    await expect(notes).toHaveValue("D F A D ");
    await page.getByLabel("Typed as").selectOption("string and finger");
    await notes.fill("");
    await page.getByRole("button", { name: "A L2, C5" }).click();
    await page.getByRole("button", { name: "E 1, F#5" }).click();
    await expect(notes).toHaveValue("A: L2 E: 1 ");
    await page.getByLabel("Typed as").selectOption("letters");
    await notes.fill("");
    await page.getByRole("button", { name: "Practice keyboard" }).click();
    await expect(notes).toHaveValue("D E F A B A F E D ", { timeout: 15_000 });
  });
});
