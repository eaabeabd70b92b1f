import { defineConfig } from "@playwright/test";
import { CHROMIUM_ARGS } from "./tools/lib/browser.mjs";

export default defineConfig({
  testDir: "tests/e2e",
  outputDir: ".shizuka/results/e2e",
  fullyParallel: true,
  workers: 2,
  timeout: 120_000,
  expect: { timeout: 15_000 },
  forbidOnly: true,
  reporter: [["list"], ["json", { outputFile: ".shizuka/results/e2e.json" }]],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    launchOptions: { executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium", args: [...CHROMIUM_ARGS] },
    screenshot: "only-on-failure",
  },
});
