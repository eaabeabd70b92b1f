import { mkdirSync } from "node:fs";
import { Agent } from "node:http";
import { join } from "node:path";
import { CHROMIUM_ARGS, ensureChromium } from "./lib/browser.mjs";
import { openDesk, signIn as signInBy } from "./lib/load-run.mjs";
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
  await open("/gradebook/nav-110");
  await picture("gradebook");
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
  await signIn("ines.marsh");
  await page.goto(`${url}/courses/nav-110/gradebook`, { waitUntil: "networkidle" });
  await page.getByRole("searchbox").fill("");
  await page.getByRole("grid").focus();
  for (const key of ["ArrowDown", "ArrowDown", "ArrowRight"]) await page.keyboard.press(key);
  await page.getByText(/ sees /).waitFor();
  await picture("course-gradebook");
  await openNamed("nav-110", "Half-term paper", "figures");
  await page.locator("canvas").waitFor();
  await picture("how-questions-behaved");
  await openNamed("nav-110", "Tides and clearances", "staff");
  await page.getByRole("button", { name: "Write" }).click();
  await page.waitForURL("**/drafts/*");
  await page.locator("[data-ready=true]").waitFor();
  await page
    .getByRole("button", { name: /High water at Alder Quay/ })
    .first()
    .click();
  await page
    .getByText("All students have the same numbers.")
    .or(page.getByText(/different/).first())
    .first()
    .waitFor();
  await picture("composer");
  await openNamed("nav-110", "Tides and clearances", "times");
  await page.getByRole("button", { name: "Give an allowance" }).click();
  await page.getByRole("searchbox").fill("noor");
  await page.getByRole("checkbox", { name: "Noor Haldane" }).check();
  await page.getByRole("textbox", { name: "Times the time limit" }).fill("1.5");
  await page.getByText(/30 min for you/).waitFor();
  await page
    .getByRole("heading", { name: "Allowances", exact: true })
    .evaluate((head) => head.scrollIntoView());
  await picture("times-and-allowances");
  await openNamed("nav-110", "Tides and clearances", "watch");
  const stop = await someWrite(url, /quizzes\/([^/]+)/.exec(page.url())?.[1] ?? "");
  await page.reload({ waitUntil: "domcontentloaded" });
  await page.locator("[data-ready=true]").waitFor();
  await page.getByText(/away since/).waitFor({ timeout: 60_000 });
  await picture("watch");
  stop();

  /** A page of a quiz, found by its name in its course. */
  async function openNamed(course, title, path) {
    await page.goto(`${url}/courses/${course}`);
    const link = page.getByRole("link", { name: title, exact: true }).first();
    const href = (await link.getAttribute("href")) ?? "";
    await page.goto(`${url}${href.replace(/\/staff.*$/, "")}/${path}`, { waitUntil: "domcontentloaded" });
  }
}

/** Some students at their desks, each as far as they are; one has left. Returns how to end it. */
async function someWrite(url, quizId) {
  const agent = new Agent({ keepAlive: true });
  const streams = new Agent({ keepAlive: false });
  const figures = { times: [], refused: 0, failed: 0, events: 0, starting: false };
  const names = [
    "amara.delorne-whitfield",
    "bao.lindqvist",
    "camila.thornbury",
    "dmitri.aske",
    "farid.kjeldsen",
  ];
  const more = ["greta.nwosu", "isolde.fairweather", "jun.abernathy", "leif.okonma", "nikolai.pellworth"];
  const desks = [];
  for (const [i, name] of [...names, ...more].entries()) {
    const cookie = await signInBy(agent, url, `${name}@alderquay.example`);
    const desk = await openDesk({ agent, streams, url, quizId, cookie, i, figures });
    desks.push(desk);
    for (let slot = 1; slot <= 1 + ((i * 3) % 8); slot += 1) await desk.save(slot);
  }
  desks[3].close();
  return () => {
    for (const desk of desks) desk.close();
    agent.destroy();
  };
}
