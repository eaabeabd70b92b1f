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
  await start("Chartroom sitting, part one");
  await page.getByRole("button", { name: "Place a point in the middle" }).click();
  for (let step = 0; step < 9; step += 1) await page.keyboard.press("ArrowLeft");
  for (let step = 0; step < 13; step += 1) await page.keyboard.press("ArrowDown");
  await page.getByText("All saved").waitFor();
  await page.locator("#content").evaluate((main) => main.scrollTo({ top: 0 }));
  await picture("desk-point");
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
  await open("/gradebook/nav-110");
  await picture("gradebook");
  await open("/courses/nav-110/plan");
  await picture("course-plan");
  await forStaff(page, url, picture);
}

/** What those who teach see: their Today, a quiz, the marking room with an answer half marked, a wrong key, returning. */
async function forStaff(page, url, picture) {
  const quizzes = new Map();
  const signIn = async (email) => {
    await page.context().clearCookies();
    await page.goto(`${url}/sign-in`);
    await page.locator("input[name=email]:not([type=hidden])").fill(`${email}@alderquay.example`);
    await page.locator("input[name=password]:not([type=hidden])").fill("quiet harbour");
    await page.locator("input[name=password]:not([type=hidden])").press("Enter");
    await page.waitForURL("**/today");
    const links = page.locator("a[href*='/quizzes/']");
    for (const link of await links.all()) {
      const [, id] = /quizzes\/([^/?]+)/.exec((await link.getAttribute("href")) ?? "") ?? [];
      const title = ((await link.textContent()) ?? "").replace(/^(Mark|Return|Look|Decide) /, "").trim();
      if (id && !quizzes.has(title)) quizzes.set(title, id);
    }
  };
  const open = (title, path) =>
    page.goto(`${url}/quizzes/${quizzes.get(title)}/${path}`, { waitUntil: "networkidle" });
  await signIn("adaeze.okafor");
  await picture("today-for-staff");
  await open("Report on the meadow count", "staff");
  await picture("quiz-for-staff");
  await open("Report on the meadow count", "marking");
  await page.locator("[data-ready=true]").waitFor();
  await page.keyboard.press("3");
  await page.locator("[data-answer]").evaluate((answer) => {
    const text = answer.querySelector("p")?.firstChild;
    const at = text.data.indexOf(" ", 12) + 1;
    getSelection()?.setBaseAndExtent(text, at, text, text.data.indexOf(" ", at + 24));
  });
  await page.keyboard.press("m");
  await page.locator("textarea:focus").waitFor();
  await page.keyboard.type("Say how you know that. /");
  await page.locator("[role=option]").first().waitFor();
  await picture("marking-room");
  await open("Report on the meadow count", "returning");
  await picture("returning");
  await signIn("tomas.oyelaran");
  await page.goto(`${url}/courses/brd-120`);
  await page.getByRole("link", { name: "Oven and steam", exact: true }).first().click();
  await page.goto(`${page.url().replace(/\/staff.*$/, "")}/answers`, { waitUntil: "networkidle" });
  await page.getByRole("link", { name: /A large loaf is baked through/ }).click();
  await page.locator("astro-island:not([ssr])").first().waitFor();
  await page.getByRole("checkbox").first().check();
  await page.getByRole("button", { name: "Make it the key" }).click();
  await page.getByText(/people gain marks/).waitFor();
  await picture("what-the-class-wrote");
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
