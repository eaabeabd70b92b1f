import type { Page } from "@playwright/test";
import { startServer } from "../../tools/lib/server.mjs";
import { expectAccessible } from "../support/accessible";
import { allSaved, attemptIn, Caller, expect, goTo, House, startFromBrief, test } from "../support/house";

const DAY = 86_400_000;

test("a one-minute quiz, left alone with the browser closed, is handed in by the server, and the slip says so", async ({
  browser,
  house,
}) => {
  test.setTimeout(150_000);
  const page = await house.page(browser, "camila.thornbury");
  await startFromBrief(page, house, "Lights at a glance");
  await page.getByRole("radio", { name: "she is at anchor" }).check();
  await allSaved(page);
  const attempt = attemptIn(page);
  await page.context().close();

  await expect
    .poll(
      async () => (await house.sql`select handed_in_by from attempt where id = ${attempt}`)[0]?.handed_in_by,
      {
        timeout: 90_000,
        intervals: [1_000],
      },
    )
    .toBe("clock");
  const [row] = await house.sql`
    select extract(epoch from handed_in_at - started_at) as took, handed_in_at = deadline as exact from attempt where id = ${attempt}`;
  expect(Number(row?.took)).toBeLessThanOrEqual(60);
  expect(row?.exact).toBe(true);
  // At the deadline by the record; in truth within the grace and the sweeper's next round.
  const [noted] = await house.sql`
    select extract(epoch from r.at - a.deadline) as late from record r join attempt a on a.id = r.subject_id
    where r.subject_id = ${attempt} and r.action = 'handed in'`;
  expect(Number(noted?.late)).toBeLessThan(10);

  const again = await house.page(browser, "camila.thornbury");
  await again.goto(`${house.url}/attempts/${attempt}`);
  await again.waitForURL("**/slip");
  await expect(again.getByRole("heading", { name: "Time was up, and your work is handed in" })).toBeVisible();
  await expect(again.getByText("the clock, when time was up")).toBeVisible();
  await expect(again.getByText("1 of 3 answered")).toBeVisible();
});

test("at zero the desk closes by itself with everything that was written, and shows the slip, on a device whose clock is a day behind", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await (await browser.newContext()).newPage();
    await offBy(page, -DAY);
    await house.signIn(page, "gideon.salcano");
    await house.closeIn("Lights at a glance", 20);
    await startFromBrief(page, house, "Lights at a glance");
    const attempt = attemptIn(page);
    await page.getByRole("radio", { name: "she is at anchor" }).check();
    await page.waitForURL("**/slip", { timeout: 45_000 });
    await expect(page.getByText("the clock, when time was up")).toBeVisible();
    const [row] = await house.sql`
      select handed_in_at = deadline as exact, extract(epoch from now() - deadline) as since from attempt where id = ${attempt}`;
    expect(row?.exact).toBe(true);
    // The desk neither closed early nor waited for the sweeper to tell it.
    expect(Number(row?.since)).toBeLessThan(12);
    await page.goBack();
    await expect(page.getByRole("heading", { name: "Lights at a glance" })).toBeVisible();
  } finally {
    await house.close();
  }
});

test("an attempt whose time ran out while the server was down is handed in before the first answer about it", async ({
  browser,
  request,
}) => {
  const house = await House.open();
  try {
    const page = await house.page(browser, "nikolai.pellworth");
    await startFromBrief(page, house, "Tides and clearances");
    await page.getByRole("radio", { name: "new and full moon" }).check();
    await allSaved(page);
    const attempt = attemptIn(page);
    await page.context().close();
    const caller = await house.caller(request, "nikolai.pellworth");
    await house.kill();
    await house.restart({ SHIZUKA_CLOCK_SHIFT_MS: String(25 * 60_000) });
    const first = await caller.get(`/api/attempts/${attempt}`);
    expect(first.status).toBe(200);
    expect(first.json.handedInAt).toBe(first.json.deadline);
    const [row] = await house.sql`select handed_in_by, earned from attempt where id = ${attempt}`;
    expect(row).toMatchObject({ handed_in_by: "clock", earned: "2.0000" });
  } finally {
    await house.close();
  }
});

/** Sets a device's own clock off, now and later. */
async function offBy(page: Page, shift: number): Promise<void> {
  await page.addInitScript((first) => {
    const wall = Date.now.bind(Date);
    const device = window as unknown as { shift: number };
    device.shift = first;
    Date.now = () => wall() + device.shift;
  }, shift);
}

const setOff = (page: Page, shift: number) =>
  page.evaluate((to) => {
    (window as unknown as { shift: number }).shift = to;
  }, shift);

/** How far the digits are from the true time left, in seconds; `ahead`: by how much the server's clock was moved. */
async function digitsOff(page: Page, deadline: number, ahead = 0): Promise<number> {
  const shown = await page.getByRole("timer", { name: "Time left" }).textContent();
  const [minutes = 0, seconds = 0] = (shown ?? "").split(":").map(Number);
  // A started second still shows: half of it is the middle.
  return Math.abs(minutes * 60 + seconds - 0.5 - (deadline - Date.now() - ahead) / 1_000);
}

async function confirmedDeadline(house: House, page: Page): Promise<number> {
  const read = async () =>
    (await house.sql`select deadline from attempt where id = ${attemptIn(page)} and confirmed`)[0]?.deadline;
  await expect.poll(read).toBeTruthy();
  return Number(await read());
}

test("the digits are right within a second on a device whose clock is a day ahead, a day behind, or jumps", async ({
  browser,
  house,
}) => {
  const page = await (await browser.newContext()).newPage();
  await offBy(page, DAY);
  await house.signIn(page, "hana.drummond");
  await startFromBrief(page, house, "Flower shapes");
  const deadline = await confirmedDeadline(house, page);
  for (const shift of [DAY, -DAY, 0, 3_600_000, -3_600_000]) {
    await setOff(page, shift);
    await expect.poll(() => digitsOff(page, deadline), { message: `by ${shift}` }).toBeLessThan(1);
  }
});

test("a device that slept for ten minutes shows the true time at once, and hands in at the right instant", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const SLEPT = 600_000;
    const page = await (await browser.newContext()).newPage();
    await offBy(page, 0);
    await house.signIn(page, "hana.drummond");
    await house.closeIn("Flower shapes", 640);
    await startFromBrief(page, house, "Flower shapes");
    const deadline = await confirmedDeadline(house, page);
    await goTo(page, 3);
    await page.getByRole("textbox").fill("7");
    await allSaved(page);
    // Asleep, its timers stand still while the world and its own clock go on: here the world is moved instead.
    await house.kill();
    await house.restart({ SHIZUKA_CLOCK_SHIFT_MS: String(SLEPT) });
    await setOff(page, SLEPT);
    await expect.poll(() => digitsOff(page, deadline, SLEPT), { timeout: 15_000 }).toBeLessThan(1);
    const attempt = attemptIn(page);
    await page.waitForURL("**/slip", { timeout: 60_000 });
    const late = Date.now() + SLEPT - deadline;
    expect(late).toBeGreaterThan(0);
    expect(late).toBeLessThan(15_000);
    const [row] = await house.sql`select handed_in_at = deadline as exact from attempt where id = ${attempt}`;
    expect(row?.exact).toBe(true);
    expect(await house.answer(attempt, 3)).toEqual({ parts: { a: "7" } });
  } finally {
    await house.close();
  }
});

/**
 * The quickest of three, in seconds: a machine that stands still for a moment makes one slow, a desk that has to ask
 * for what it should be told makes all of them slow.
 */
async function quickest(happens: (nth: number) => Promise<() => Promise<void>>): Promise<number> {
  const took: number[] = [];
  for (let nth = 1; nth <= 3; nth += 1) {
    const isSeen = await happens(nth);
    const from = performance.now();
    await isSeen();
    took.push((performance.now() - from) / 1_000);
  }
  return Math.min(...took);
}

test("more time and a word from the instructor are at the desk within two seconds, seen and spoken", async ({
  browser,
  house,
  request,
}) => {
  const page = await house.page(browser, "keziah.rowden");
  const listening = page.waitForResponse(/\/events\?/);
  await startFromBrief(page, house, "Flower shapes");
  await listening;
  const before = await confirmedDeadline(house, page);
  const quiz = await house.quiz("Flower shapes");
  const instructor = await house.caller(request, "adaeze.okafor");
  const live = page.locator("[role=status]");

  const word = await quickest(async (nth) => {
    const text = `Question ${nth} means the small picture.`;
    const said = await instructor.post(`/api/quizzes/${quiz}/messages`, { text });
    expect(said.status).toBe(201);
    return () => expect(live.filter({ hasText: text })).toContainText("Dr Adaeze Okafor");
  });
  expect(word).toBeLessThan(2);
  await expectAccessible(page, "a word from the instructor");
  const read = page.getByRole("button", { name: "Put this message away" });
  // One stands in the line, the newest; the others wait behind it.
  await expect(page.getByText("1 of 3")).toBeVisible();
  for (let left = 3; left > 0; left -= 1) {
    await expect(page.getByText(`Question ${left} means the small picture.`)).toBeVisible();
    await read.click();
  }
  await expect(read).toHaveCount(0);

  const more = await quickest(async (nth) => {
    const extended = await instructor.post(`/api/quizzes/${quiz}/extend`, {
      minutes: 10,
      reason: "The projector failed.",
      attemptIds: [attemptIn(page)],
    });
    expect(extended.json).toEqual({ extended: 1 });
    const isRight = async () => expect(await digitsOff(page, before + nth * 600_000)).toBeLessThan(1);
    return () => expect(isRight).toPass({ intervals: [100], timeout: 30_000 });
  });
  expect(more).toBeLessThan(2);
  await expect(live.filter({ hasText: "Your instructor gave more time" })).toBeVisible();
});

test("time warnings are seen and spoken, the last ones at once", async ({ browser }) => {
  const house = await House.open();
  try {
    const page = await house.page(browser, "hana.drummond");
    await house.closeIn("Flower shapes", 40);
    await startFromBrief(page, house, "Flower shapes");
    // On the sheet for the eyes, and said by the clock: in the last minute without waiting for a pause.
    await expect(page.locator("header [aria-live=assertive]")).toHaveText("20 seconds left.", {
      timeout: 35_000,
    });
    await expect(page.getByText(/you had 20 seconds left/)).toBeVisible();
    await expectAccessible(page, "the last seconds");
  } finally {
    await house.close();
  }
});

test("time is added while a desk cannot reach the server and passes its old end: with the connection back it is open again, and keeps what is written", async ({
  browser,
  request,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "keziah.rowden");
    await house.closeIn("Flower shapes", 20);
    await startFromBrief(page, house, "Flower shapes");
    await goTo(page, 3);
    await page.getByRole("textbox").fill("7");
    await allSaved(page);
    const { cookie } = await house.caller(request, "adaeze.okafor");
    await house.kill();
    await page.getByRole("textbox").fill("8");
    // Another process, which this desk does not know of.
    const beside = await startServer(house.databaseUrl);
    const instructor = new Caller(request, beside.url, cookie);
    const extended = await instructor.post(`/api/quizzes/${await house.quiz("Flower shapes")}/extend`, {
      minutes: 10,
      reason: "The network of the hall failed.",
    });
    expect(extended.json).toEqual({ extended: 1 });
    await beside.stop();
    // It cannot know better: by all it was told the time is up.
    await expect(page.getByRole("heading", { name: "Time is up" })).toBeVisible({ timeout: 40_000 });
    await house.restart();
    await expect(page.getByRole("heading", { name: "Time is up" })).toBeHidden({ timeout: 30_000 });
    await expect(page.getByRole("textbox")).toHaveValue("8");
    await page.getByRole("textbox").fill("9");
    await allSaved(page);
    const deadline = await confirmedDeadline(house, page);
    await expect.poll(() => digitsOff(page, deadline)).toBeLessThan(1);
    expect(await house.answer(attemptIn(page), 3)).toEqual({ parts: { a: "9" } });
  } finally {
    await house.close();
  }
});
