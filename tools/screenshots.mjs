import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { CHROMIUM_ARGS, ensureChromium } from "./lib/browser.mjs";
import { startCluster } from "./lib/postgres.mjs";
import { startServer } from "./lib/server.mjs";
import { ensureBuild, ensurePackages, main, ROOT, say } from "./lib/steps.mjs";

/**
 * One picture of each main view, from the demo data, at 1280x800, into docs/screenshots or the folder named as the first
 * argument. --night and --phone take them in the dark theme and at a phone's size.
 */
const folder = process.argv.slice(2).find((each) => !each.startsWith("--")) ?? join(ROOT, "docs/screenshots");
const night = process.argv.includes("--night");
const phone = process.argv.includes("--phone");
const only = process.argv.find((each) => each.startsWith("--only="))?.slice(7);

await main(async () => {
  await ensurePackages();
  await ensureBuild();
  const { chromium } = await import("@playwright/test");
  const cluster = await startCluster("pictures", { fresh: true, fast: true });
  const server = await startServer(cluster.url("postgres"));
  const browser = await chromium.launch({ executablePath: ensureChromium(), args: CHROMIUM_ARGS });
  try {
    mkdirSync(folder, { recursive: true });
    const context = await browser.newContext({
      viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
      colorScheme: night ? "dark" : "light",
      locale: "en-GB",
      reducedMotion: "reduce",
    });
    const page = await context.newPage();
    await views(page, server.url, async (name) => {
      if (only && !name.includes(only)) return;
      await page.evaluate(() => document.fonts.ready);
      await page.screenshot({ path: join(folder, `${name}.png`) });
      say(`${name}.png`);
    });
  } finally {
    await browser.close();
    await server.stop();
    cluster.stop("immediate");
  }
});

async function views(page, url, picture) {
  const open = (path) => page.goto(url + path, { waitUntil: "networkidle" });
  await open("/sign-in");
  await picture("sign-in");
  await page.getByRole("button", { name: "Sign in as Noor Haldane" }).click();
  await page.waitForURL("**/today");
  const quiz = (title) => page.getByRole("link", { name: title, exact: true }).first();

  await quiz("Tides and clearances").click();
  await page.getByText("ms to the server").waitFor();
  await picture("brief");
  await page.getByRole("button", { name: "Start now" }).click();
  await page.getByRole("button", { name: "Start the attempt" }).click();
  await page.waitForURL("**/attempts/*");
  await page.locator("[data-ready=true]").waitFor();
  await page.getByRole("radio", { name: "new and full moon" }).check();
  await page.getByRole("button", { name: "Next question" }).click();
  await page.getByRole("radio", { name: "smaller", exact: true }).check();
  await page.getByRole("button", { name: "Next question" }).click();
  await page.getByRole("checkbox", { name: "a long onshore gale" }).check();
  await page.getByRole("button", { name: "Fold corner" }).click();
  await picture("desk-picks");
  await page.getByRole("button", { name: "Next question" }).click();
  await page.getByLabel("Range of the tide").fill("4.2");
  await page.getByLabel("Height of tide two hours").fill("3.75");
  await page.getByText("All saved").waitFor();
  await picture("desk");
  await page.getByRole("button", { name: "Final look" }).click();
  await page.getByRole("heading", { name: "Final look" }).waitFor();
  await picture("final-look");
  await open("/today");
  await picture("today");
  await page.getByRole("link", { name: "Go back in" }).first().click();
  await page.locator("[data-ready=true]").waitFor();
  await page.getByRole("button", { name: "Final look" }).click();
  await page.getByRole("button", { name: "Hand in" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
  await page.waitForURL("**/slip");
  await picture("slip");
  await page.getByRole("link", { name: "Marked paper" }).click();
  await page.getByRole("link", { name: "Question 4", exact: false }).first().click();
  await picture("marked-paper");
  await open("/today");
  await quiz("Field day warm-up").click();
  await page.getByRole("button", { name: "Start now" }).click();
  await page.getByRole("button", { name: "Start the attempt" }).click();
  await page.locator("[data-ready=true]").waitFor();
  const spine = (slot) =>
    page.getByRole("navigation", { name: "Questions" }).getByRole("button", { name: `Question ${slot},` });
  await spine(3).click();
  await page.getByLabel("Gap 1 of 3").fill("anther");
  await page.getByText("All saved").waitFor();
  await picture("desk-gaps");
  await spine(4).click();
  await page.getByRole("combobox").first().selectOption({ label: "birds" });
  await picture("desk-matching");
  await spine(5).click();
  await page
    .getByRole("button", { name: /^Move up/ })
    .nth(2)
    .click();
  await page.getByText("All saved").waitFor();
  await picture("desk-ordering");
  await open("/gradebook/nav-110");
  await picture("gradebook");
  await open("/courses/nav-110");
  await picture("course");
}
