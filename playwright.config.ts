import { defineConfig } from "@playwright/test";
import { CHROMIUM_ARGS } from "./tools/lib/browser.mjs";

export default defineConfig({
  testDir: "tests/e2e",
  outputDir: ".shizuka/results/e2e",
  fullyParallel: true,
  workers: 2,
  timeout: 120_000,
  // Waiting is for a condition, and a shared machine stands still for seconds now and then.
  expect: { timeout: 30_000 },
  forbidOnly: true,
  reporter: [["list"], ["json", { outputFile: ".shizuka/results/e2e.json" }]],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    launchOptions: { executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium", args: [...CHROMIUM_ARGS] },
    screenshot: "only-on-failure",
  },
});
