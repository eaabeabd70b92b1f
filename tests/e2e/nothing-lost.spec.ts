import type { Page } from "@playwright/test";
import { startCluster } from "../../tools/lib/postgres.mjs";
import { expectAccessible } from "../support/accessible";
import { allSaved, atDesk, attemptIn, expect, goTo, House, startFromBrief, test } from "../support/house";

const ESSAYS = "Two short essays on the meadow";
const essay = (page: Page) => page.getByRole("textbox", { name: /hay meadow/ });
const saved = (page: Page) =>
  expect(page.getByRole("status").filter({ hasText: "All saved" })).toBeVisible({ timeout: 40_000 });
const keptHere = (page: Page) =>
  expect(page.getByText(/Kept on this device, no connection since/)).toBeVisible();

/** Waits until the device keeps the desk itself, so that it comes back without a network. */
const deskIsKept = (page: Page) =>
  page.waitForFunction(async () => {
    if (!navigator.serviceWorker.controller) return false;
    const pages = await caches.open("desk-pages");
    return (await pages.match(location.pathname)) !== undefined;
  });

test("an essay is typed while the network is cut, reloaded while cut, closed and opened again while cut: back on, every word is on the server", async ({
  browser,
  house,
}) => {
  test.setTimeout(120_000);
  const page = await house.page(browser, "bao.lindqvist");
  await startFromBrief(page, house, ESSAYS);
  await essay(page).click();
  await page.keyboard.type("First there were many flowers.");
  await allSaved(page);
  await deskIsKept(page);
  const context = page.context();
  const attempt = attemptIn(page);
  const address = page.url();

  await context.setOffline(true);
  await page.keyboard.type(" Then came the mowers");
  await keptHere(page);
  await expectAccessible(page, "without a connection");
  // Reloaded in the middle of the word, without any pause.
  await page.keyboard.type(", four times a year.");
  await page.reload();
  await atDesk(page);
  await expect(essay(page)).toHaveText(
    "First there were many flowers. Then came the mowers, four times a year.",
  );
  await expect(page.getByRole("timer", { name: "Time left" })).toHaveText(/^(59|1:00):\d\d/);
  await essay(page).click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type(" The bees went hungry");
  await page.close({ runBeforeUnload: true });

  const again = await context.newPage();
  await again.goto(address);
  await atDesk(again);
  await expect(essay(again)).toContainText("The bees went hungry");
  await essay(again).click();
  await again.keyboard.press("Control+End");
  await again.keyboard.type(", and left.");
  await keptHere(again);
  await context.setOffline(false);
  await saved(again);
  expect((await house.answer(attempt, 1)).rich).toBe(
    "<p>First there were many flowers. Then came the mowers, four times a year. The bees went hungry, and left.</p>",
  );
  await context.close();
});

test("the database is stopped at once and started again in the middle of the writing: every word is on the server", async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const cluster = await startCluster("fault", { fresh: true });
  const house = await House.openOn(cluster);
  try {
    const page = await house.page(browser, "bao.lindqvist");
    await startFromBrief(page, house, ESSAYS);
    await essay(page).click();
    await page.keyboard.type("Before the fault.");
    await allSaved(page);
    const attempt = attemptIn(page);
    await cluster.stop("immediate");
    await page.keyboard.type(" During the fault");
    await keptHere(page);
    await page.keyboard.type(", and on.");
    await cluster.start();
    await saved(page);
    expect((await house.answer(attempt, 1)).rich).toBe("<p>Before the fault. During the fault, and on.</p>");

    // The same with the application killed: also what was acknowledged a moment before is there.
    await house.kill();
    await page.keyboard.type(" The server was away");
    await keptHere(page);
    await house.restart();
    await saved(page);
    expect((await house.answer(attempt, 1)).rich).toContain("on. The server was away</p>");
  } finally {
    await house.close();
    cluster.stop("immediate");
  }
});

test("two devices write to the same essay in turn, one of them offline: the later one stands on both, the other is shown and kept", async ({
  browser,
  house,
}) => {
  test.setTimeout(90_000);
  const laptop = await house.page(browser, "rosalind.takahashi");
  await startFromBrief(laptop, house, "Flower shapes");
  const phone = await house.page(browser, "rosalind.takahashi");
  await phone.goto(laptop.url());
  await atDesk(phone);
  const attempt = attemptIn(laptop);
  for (const page of [laptop, phone]) await goTo(page, 3);
  await laptop.getByRole("textbox").fill("7");
  await allSaved(laptop);
  // The phone writes while it has no network; then the laptop, later: that stands when the phone is back.
  await phone.context().setOffline(true);
  await phone.getByRole("textbox").fill("9");
  await expect(phone.getByText("Kept on this device")).toBeVisible();
  await laptop.getByRole("textbox").fill("8");
  await allSaved(laptop);
  await phone.context().setOffline(false);
  // It does not change under one's hands: it waits until the box is left.
  await expect(phone.getByText("Your other device saved “8” here")).toBeVisible();
  await expect(phone.getByRole("textbox")).toHaveValue("9");
  await phone.getByRole("textbox").blur();
  await expect(phone.getByText("Changed on your other device")).toContainText("was “9”");
  await expect(phone.getByRole("textbox")).toHaveValue("8");
  await expectAccessible(phone, "overtaken by another device");
  // And the other way round.
  await laptop.context().setOffline(true);
  await laptop.getByRole("textbox").fill("10");
  await expect(laptop.getByText("Kept on this device")).toBeVisible();
  await phone.getByRole("textbox").fill("11");
  await allSaved(phone);
  await laptop.context().setOffline(false);
  await expect(laptop.getByText("Your other device saved “11” here")).toBeVisible();
  await laptop.getByRole("textbox").blur();
  await expect(laptop.getByText("Changed on your other device")).toContainText("was “10”");
  await expect(laptop.getByRole("textbox")).toHaveValue("11");
  expect(await house.answer(attempt, 3)).toEqual({ parts: { a: "11" } });
  const log = await house.sql`select answer from answer_log where attempt_id = ${attempt} and slot = 3`;
  expect(log.map((line) => line.answer?.parts.a).sort()).toEqual(["10", "11", "7", "8", "9"]);
});

test("handing in without a connection waits in sight, survives a reload, and goes by itself; pressing twice hands in once", async ({
  browser,
  house,
}) => {
  test.setTimeout(90_000);
  const page = await house.page(browser, "catalina.osei");
  await startFromBrief(page, house, "Hydration and dough strength");
  await page.getByRole("textbox").first().fill("68");
  await allSaved(page);
  await deskIsKept(page);
  const attempt = attemptIn(page);
  await page.context().setOffline(true);
  await page.getByRole("textbox").first().fill("70");
  await page.getByRole("button", { name: "Look over and hand in" }).click();
  await page.getByRole("button", { name: "Hand in" }).click();
  const confirm = page.getByRole("alertdialog").getByRole("button", { name: "Hand in" });
  await confirm.dblclick();
  const pressedAt = Date.now();
  const waiting = page.getByRole("alertdialog").filter({ hasText: "Your hand-in waits for the connection" });
  await expect(waiting).toContainText(/Pressed \d\d:\d\d:\d\d/);
  await expectAccessible(page, "a hand-in that waits");
  const pressed = /Pressed (\d\d:\d\d:\d\d)/.exec((await waiting.textContent()) ?? "")?.[1];
  await page.reload();
  await atDesk(page);
  await expect(waiting).toContainText(`Pressed ${pressed}`);
  const [before] = await house.sql`select handed_in_at from attempt where id = ${attempt}`;
  expect(before?.handed_in_at).toBeNull();
  // The record speaks only of a wait that was longer than three seconds.
  await expect.poll(() => Date.now() - pressedAt).toBeGreaterThan(3_500);
  await page.context().setOffline(false);
  await page.waitForURL("**/slip", { timeout: 30_000 });
  await expect(page.getByRole("heading", { name: "Your work is handed in" })).toBeVisible();
  expect(await house.answer(attempt, 1)).toEqual({ parts: { a: "70" } });
  const [slips] = await house.sql`select count(*)::int as slips from slip where attempt_id = ${attempt}`;
  expect(slips?.slips).toBe(1);
  const record = await house.sql`select action from record where subject_id = ${attempt}`;
  expect(record.map(({ action }) => action)).toContain("hand-in waited");
});

test("a session that ended is taken up again in place; signing out is asked once while an attempt runs", async ({
  browser,
  house,
}) => {
  const page = await house.page(browser, "greta.nwosu");
  await startFromBrief(page, house, "Flower shapes");
  await goTo(page, 3);
  await house.sql`delete from session where person_id = (select id from person where email = 'greta.nwosu@alderquay.example')`;
  await page.getByRole("textbox").fill("7");
  await page.getByRole("button", { name: "Sign in again" }).click();
  const dialog = page.getByRole("dialog", { name: "Sign in again" });
  await expectAccessible(page, "signing in again");
  await dialog.getByLabel("Password").fill("wrong");
  await dialog.getByRole("button", { name: "Sign in" }).click();
  await expect(dialog.getByRole("alert")).toContainText("The e-mail address or the password is not right.");
  await dialog.getByLabel("Password").fill("quiet harbour");
  await dialog.getByRole("button", { name: "Sign in" }).click();
  await expect(dialog).toBeHidden();
  await saved(page);
  await expect(page.getByRole("textbox")).toHaveValue("7");
  const attempt = attemptIn(page);
  expect(await house.answer(attempt, 3)).toEqual({ parts: { a: "7" } });

  await page.goto(`${house.url}/today`);
  await page.getByText("Greta Nwosu").click();
  await page.getByRole("button", { name: "Sign out" }).click();
  await expect(page.getByRole("heading", { name: "Sign out while an attempt runs?" })).toBeVisible();
  await expectAccessible(page, "asked before signing out");
  await page.getByRole("link", { name: "Back to the desk" }).click();
  await atDesk(page);
  await page.goto(`${house.url}/sign-out`);
  await page.getByRole("button", { name: "Sign out all the same" }).click();
  await page.waitForURL("**/sign-in");
});

test("the server is down at the deadline: what was written in time is kept apart as late writing, and the slip says so", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "valentin.aghedo");
    // Once its right answers are shown, nothing is taken late any more.
    await house.sql`update quiz set settings = jsonb_set(settings, '{reveal}', settings->'reveal' || '{"right":"when-returned","worked":"when-returned"}')
      where title = 'Lights at a glance'`;
    await house.closeIn("Lights at a glance", 25);
    await startFromBrief(page, house, "Lights at a glance");
    const attempt = attemptIn(page);
    await page.getByRole("radio", { name: "she is at anchor" }).check();
    await allSaved(page);
    await deskIsKept(page);
    await house.kill();
    await page.getByRole("radio", { checked: false }).first().check();
    await keptHere(page);
    await expect(page.getByRole("heading", { name: "Time is up" })).toBeVisible({ timeout: 30_000 });
    await expectAccessible(page, "time is up");
    // Longer than the grace: what comes now is late.
    await house.restart({ SHIZUKA_CLOCK_SHIFT_MS: "10000" });
    await page.waitForURL("**/slip", { timeout: 30_000 });
    await expect(page.getByText("the clock, when time was up")).toBeVisible();
    await expect(page.getByRole("status").filter({ hasText: "Late writing" })).toContainText(
      "1 question (1)",
    );
    await expectAccessible(page, "a slip with late writing");
    const [late] = await house.sql`select slot, answer from late_writing where attempt_id = ${attempt}`;
    expect(late?.slot).toBe(1);
    // What was acknowledged is what was handed in.
    expect(await house.answer(attempt, 1)).not.toEqual(late?.answer);
  } finally {
    await house.close();
  }
});

test("a storage that is full in the middle is said, holds nothing up, and is used again once there is room", async ({
  browser,
  house,
}) => {
  const page = await house.page(browser, "yusuf.penhallow");
  await page.addInitScript(() => {
    const { put } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.put = function (...given) {
      if (document.documentElement.dataset.full) throw new DOMException("full", "QuotaExceededError");
      return put.apply(this, given);
    };
  });
  const full = (isFull: boolean) =>
    page.evaluate((is) => {
      if (is) document.documentElement.dataset.full = "yes";
      else delete document.documentElement.dataset.full;
    }, isFull);
  await startFromBrief(page, house, "Tides and clearances");
  await goTo(page, 4);
  const range = page.getByLabel("Range of the tide");
  await full(true);
  await range.fill("4.1");
  await allSaved(page);
  const attempt = attemptIn(page);
  expect(await house.answer(attempt, 4)).toEqual({ parts: { a: "4.1" } });
  await page.context().setOffline(true);
  await range.fill("4.2");
  await expect(page.getByText(/^Not saved, no connection since .* Leave this page open\.$/)).toBeVisible();
  // There is room again: what could not be kept is kept with the next.
  await full(false);
  await goTo(page, 1);
  await page.getByRole("radio", { name: "new and full moon" }).check();
  await expect(page.getByText(/^Kept on this device, no connection since/)).toBeVisible();
  await page.close();
  await page.context().setOffline(false);
  const again = await page.context().newPage();
  await again.goto(`${house.url}/attempts/${attempt}`);
  await again.locator("[data-ready=true]").waitFor();
  await saved(again);
  expect(await house.answer(attempt, 4)).toEqual({ parts: { a: "4.2" } });
  expect(await house.answer(attempt, 1)).not.toBeNull();
});

test("a device that refuses storage still saves, and says what it cannot do", async ({ browser, house }) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.addInitScript(() => {
    Object.defineProperty(window, "indexedDB", {
      value: {
        open: () => {
          throw new DOMException("refused", "SecurityError");
        },
      },
    });
  });
  await house.signIn(page, "elin.karimi");
  await startFromBrief(page, house, "Flower shapes");
  await goTo(page, 3);
  await page.getByRole("textbox").fill("7");
  await allSaved(page);
  await context.setOffline(true);
  await page.getByRole("textbox").fill("8");
  await expect(page.getByText(/^Not saved, no connection since .* Leave this page open\.$/)).toBeVisible();
  await context.setOffline(false);
  await saved(page);
  expect(await house.answer(attemptIn(page), 3)).toEqual({ parts: { a: "8" } });
  await context.close();
});

test("signing out on a machine that others use: what is not on the server is told, stays locked, and comes back to its owner alone", async ({
  browser,
  house,
}) => {
  const page = await house.page(browser, "dmitri.aske");
  await startFromBrief(page, house, "Flower shapes");
  const attempt = attemptIn(page);
  await goTo(page, 3);
  await page.getByRole("textbox").fill("4");
  await allSaved(page);
  await page.route("**/save", (route) => route.abort());
  await page.getByRole("textbox").fill("5");
  await keptHere(page);
  await page.goto(`${house.url}/sign-out`);
  const told = page.getByRole("heading", { name: "1 answer is not on the server yet" });
  await expect(told).toBeVisible();
  await expectAccessible(page, "an answer that is not on the server");
  await page.getByRole("button", { name: "Send it now" }).click();
  await expect(page.getByRole("alert")).toContainText("Not all of it could be sent");
  await page.getByRole("button", { name: /Lock it here and sign out/ }).click();
  await page.waitForURL("**/sign-in");
  const inClear = () =>
    page.evaluate(
      () =>
        new Promise<number>((done) => {
          const opening = indexedDB.open("shizuka-journal");
          opening.onsuccess = () => {
            const counting = opening.result.transaction("entries").objectStore("entries").count();
            counting.onsuccess = () => {
              opening.result.close();
              done(counting.result);
            };
          };
        }),
    );
  expect(await inClear()).toBe(0);
  await page.unroute("**/save");

  await house.signIn(page, "hana.drummond");
  await page.goto(`${house.url}/attempts/${attempt}`);
  expect(await inClear()).toBe(0);
  await page.goto(`${house.url}/sign-out`);
  await page.getByRole("button", { name: /^Sign out/ }).click();
  await page.waitForURL("**/sign-in");

  await house.signIn(page, "dmitri.aske");
  await page.goto(`${house.url}/attempts/${attempt}`);
  await atDesk(page);
  await goTo(page, 3);
  await expect(page.getByRole("textbox")).toHaveValue("5");
  await allSaved(page);
  expect(await house.answer(attempt, 3)).toEqual({ parts: { a: "5" } });
});

test("signing out from the menu is one press where nothing is left to say", async ({ browser, house }) => {
  const page = await house.page(browser, "uma.granlund");
  await page.getByText("Uma Granlund").click();
  await page.getByRole("button", { name: "Sign out" }).click();
  await page.waitForURL("**/sign-in");
  await page.goto(`${house.url}/today`);
  await page.waitForURL(/sign-in/);
});
