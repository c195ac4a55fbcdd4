import { defineConfig } from "@playwright/test";

const port = Number(process.env.E2E_PORT ?? 3187);

export default defineConfig({
  testDir: "e2e",
  workers: 1,
  retries: process.env.CI ? 1 : 0,
  timeout: 60_000,
  expect: { timeout: 15_000 },
  reporter: [["list"], ["json", { outputFile: "test-results/e2e.json" }]],
  outputDir: "test-results/e2e",
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    trace: "on-first-retry",
    launchOptions: {
      executablePath: process.env.CHROMIUM_PATH ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--autoplay-policy=no-user-gesture-required",
      ],
    },
  },
  webServer: {
    command: [
      "rm -rf test-results/db",
      "npx --no-install tsx scripts/seed.ts",
      `npx --no-install next start --hostname 127.0.0.1 --port ${port}`,
    ].join(" && "),
    url: `http://127.0.0.1:${port}`,
    env: { SYMPHONOS_DB: "test-results/db/e2e.db" },
    reuseExistingServer: false,
    timeout: 60_000,
  },
});
