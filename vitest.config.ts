import { resolve } from "node:path";
import { defineConfig } from "vitest/config";

export default defineConfig({
  resolve: { alias: { "@": resolve("src") } },
  test: {
    include: ["src/**/*.test.ts", "src/**/*.test.tsx"],
    setupFiles: ["tests/support/speak-english.ts"],
    env: {
      SHIZUKA_SECRET: "a secret for trials only, not for people",
      SHIZUKA_ZONE: "Europe/London",
      TZ: "UTC",
    },
    // Database tests each make a database of their own in the cluster that TEST_DATABASE_URL names.
    testTimeout: 20_000,
    hookTimeout: 60_000,
  },
});
