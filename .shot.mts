import { chromium } from "@playwright/test";
const SIZES: Record<string, [number, number]> = { a: [1280, 800], b: [1024, 768], c: [820, 1180] };
const b = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"],
});
const [what = "", sizes = "a", dim] = process.argv.slice(2);
const T: Record<string, [string, string]> = { feel: ["The Lamp on the Slip","Feel"],
  tune: ["The Lamp on the Slip", "Tune"],
  chords: ["Herring at the Quay", "Chords"],
  harmony: ["The Lamp on the Slip", "Harmony"],
  parts: ["The Lamp on the Slip", "Parts"],
};
for (const z of sizes) {
  const [width, height] = SIZES[z]!;
  const ctx = await b.newContext({
    viewport: { width, height },
    hasTouch: z === "c",
    colorScheme: dim ? "dark" : "light",
  });
  const p = await ctx.newPage();
  for (const w of what.split(",")) {
    try {
      const [name, ...keys] = w.split("+");
      if (name?.startsWith("/")) {
        await p.goto("http://127.0.0.1:3300" + name);
        await p.waitForTimeout(1200);
      } else {
        const [title, lens] = T[name!]!;
        await p.goto("http://127.0.0.1:3300/");
        await p.getByRole("link", { name: title }).first().click();
        await p.locator("#rows[data-ready]").waitFor();
        await p.getByRole("navigation").getByRole("button", { name: lens }).first().click();
        await p.waitForTimeout(1200);
      }
      if (dim) {
        await p
          .getByRole("button", { name: "Dim colours" })
          .click()
          .catch(() => {});
      }
      for (const k of keys) {
        if (k.startsWith("@")) await p.getByText(k.slice(1)).first().click();
        else if (k.startsWith("~")) await p.locator(k.slice(1)).first().click();
        else await p.keyboard.press(k);
        await p.waitForTimeout(500);
      }
      await p.waitForTimeout(500);
      const f = `/tmp/shots/${w.replace(/[^a-z0-9]/gi, "_")}-${z}${dim ? "-dim" : ""}.png`;
      await p.screenshot({ path: f });
      console.log(f);
    } catch (e) {
      console.log("failed", w, String(e).slice(0, 300));
    }
  }
  await ctx.close();
}
await b.close();
