import { defineConfig } from "vitest/config";

const shared = { environment: "node" as const, testTimeout: 30_000 };

export default defineConfig({
  test: {
    projects: [
      // The core is pure: its modules are loaded once for all of its tests.
      { test: { ...shared, name: "core", include: ["src/core/**/*.test.ts"], isolate: false, pool: "threads" } },
      { test: { ...shared, name: "around it", include: ["src/**/*.test.ts"], exclude: ["src/core/**"] } },
    ],
  },
});
