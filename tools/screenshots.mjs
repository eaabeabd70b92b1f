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

  const start = async (title) => {
    await page.goto(`${url}/today`);
    await quiz(title).click();
    await page.getByRole("button", { name: "Start now" }).click();
    await page.getByRole("button", { name: "Start the attempt" }).click();
    await page.locator("[data-ready=true]").waitFor();
  };

  await quiz("Tides and clearances").click();
  await page.getByText("ms to the server").waitFor();
  await picture("brief");
  await page.getByRole("button", { name: "Start now" }).click();
  await page.getByRole("button", { name: "Start the attempt" }).click();
  await page.waitForURL("**/attempts/*");
  await page.locator("[data-ready=true]").waitFor();
  await page.getByRole("radio", { name: "new and full moon" }).check();
  await page.getByRole("button", { name: /^Next, / }).click();
  await page.getByRole("radio", { name: "smaller", exact: true }).check();
  await page.getByRole("button", { name: /^Next, / }).click();
  await page.getByRole("checkbox", { name: "a long onshore gale" }).check();
  await page.getByRole("button", { name: "Come back to this one" }).click();
  await picture("desk-picks");
  await page.getByRole("button", { name: /^Next, / }).click();
  await page.getByLabel("Range of the tide").fill("4.2");
  await page.getByLabel("Height of tide two hours").fill("3.75");
  await page.getByText("All saved").waitFor();
  await picture("desk");
  await page.getByRole("button", { name: "Look over and hand in" }).click();
  await page.getByRole("heading", { name: "Look over before handing in" }).waitFor();
  await picture("final-look");
  await open("/today");
  await picture("today");
  await page.getByRole("link", { name: "Go back in" }).first().click();
  await page.locator("[data-ready=true]").waitFor();
  await page.getByRole("button", { name: "Look over and hand in" }).click();
  await page.getByRole("button", { name: "Hand in" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
  await page.waitForURL("**/slip");
  await picture("slip");
  await open("/gradebook/pol-101");
  await page.getByRole("link", { name: "Field camp review" }).click();
  await page.getByRole("link", { name: /^Question 10\b/ }).click();
  await picture("marked-paper");
  await page.getByRole("button", { name: "Practise" }).click();
  await page.locator("[data-ready=true]").waitFor();
  const missed = page.getByRole("region", { name: /^Question/ }).first();
  await missed.getByRole("radio").first().check();
  await missed.getByRole("button", { name: "Mark it" }).click();
  await missed.getByText("This question is closed now.").waitFor();
  await picture("practice");
  await open("/notices");
  await picture("notices");
  await start("Chartroom sitting, part one");
  await page.getByRole("button", { name: "Place a point in the middle" }).click();
  for (let step = 0; step < 9; step += 1) await page.keyboard.press("ArrowLeft");
  for (let step = 0; step < 13; step += 1) await page.keyboard.press("ArrowDown");
  await page.getByText("All saved").waitFor();
  await page.locator("#content").evaluate((main) => main.scrollTo({ top: 0 }));
  await picture("desk-point");
  await start("Steering rules, one way");
  await page.getByRole("radio", { name: "alter course to starboard" }).check();
  await page.getByRole("button", { name: "Close it, see if it is right" }).click();
  await page.getByText("This question is closed now.").waitFor();
  await picture("desk-told");
  await start("Baker’s arithmetic, with tries");
  await page.getByLabel("Weight of the water").fill("400");
  await page.getByRole("button", { name: /^Check a alone/ }).click();
  await page.getByText("can still be earned").waitFor();
  await page.getByRole("tab", { name: "Calculator" }).click();
  await page.getByLabel("Calculation").fill("650 × 70 ÷ 100");
  await page.getByRole("button", { name: "Work out" }).click();
  await page.getByRole("list", { name: "Tape" }).getByText("455").waitFor();
  await picture("desk-tries");
  await start("Two short essays on the meadow");
  await page.getByRole("textbox", { name: /hay meadow/ }).click();
  await page.keyboard.type("Mown four times, the meadow loses its late flowers first.");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "List", exact: true }).click();
  await page.keyboard.type("In the first year the bumblebees go hungry in July.");
  await page.keyboard.press("Enter");
  await page.keyboard.type("By the third, plants that need them set no seed.");
  await page.getByText("All saved").waitFor();
  await picture("desk-essay");
  await start("Pages of the field notebook");
  await page
    .locator("input[type=file]")
    .first()
    .setInputFiles(await notebookPage());
  await page.getByText("on the server").waitFor();
  await page.getByLabel("Beside your files").fill("The second page was lost to the rain.");
  await page.getByText("All saved").waitFor();
  await picture("desk-upload");
  await open("/help/desk");
  await picture("help-desk");
  await open("/gradebook/nav-110");
  await picture("gradebook");
  await open("/courses/nav-110");
  await picture("course");
  await open("/courses/nav-110/plan");
  await picture("course-plan");
}

/** A drawn page of a field notebook, to be brought as a file. */
async function notebookPage() {
  const { default: sharp } = await import("sharp");
  const lines = Array.from({ length: 14 }, (_, i) => `<path d="M60 ${150 + i * 50}h680" stroke="#c9c2ae"/>`);
  const flowers = [0, 1, 2, 3, 4].map(
    (i) => `<circle cx="${150 + i * 120}" cy="${300 + (i % 3) * 90}" r="${22 + i * 3}" fill="#d98ba8"/>`,
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="900"><rect width="800" height="900" fill="#fbf7ea"/>
    ${lines.join("")}<path d="M90 620 C250 480 420 720 700 520" fill="none" stroke="#6b7f3a" stroke-width="8"/>${flowers.join("")}
    <text x="60" y="110" font-size="46" font-family="serif" fill="#3a3a46">Transect 3, south meadow</text></svg>`;
  return {
    name: "notebook, page one.png",
    mimeType: "image/png",
    buffer: await sharp(Buffer.from(svg)).png().toBuffer(),
  };
}
