import { allSaved, attemptIn, expect, goTo, House, startFromBrief, test } from "../support/house";

test("the network is cut while typing: the desk says so, keeps every word, and brings it to the server when it is back", async ({
  browser,
  house,
}) => {
  const page = await house.page(browser, "quentin.mbele");
  await startFromBrief(page, house, "Tides and clearances");
  await goTo(page, 4);
  await page.getByLabel("Range of the tide").fill("4.2");
  await allSaved(page);
  await page.context().setOffline(true);
  await page.getByLabel("Height of tide two hours after").pressSequentially("3.75");
  await expect(page.getByText("Kept on this device, no connection since")).toBeVisible();
  await expect(
    page.getByRole("button", { name: "Question 4, here, 2 of 3 parts answered, not on the server yet" }),
  ).toBeVisible();
  await page.context().setOffline(false);
  await allSaved(page);
  const [kept] =
    await house.sql`select answer from answer where attempt_id = ${attemptIn(page)} and slot = 4`;
  expect(kept?.answer).toEqual({ parts: { a: "4.2", b: "3.75" } });
});

test("the page is closed with the network gone; opened again later, every word is on the server", async ({
  browser,
  house,
}) => {
  const page = await house.page(browser, "zofia.marchetti");
  await startFromBrief(page, house, "Flower shapes");
  const attempt = attemptIn(page);
  await allSavedOrNothing(page);
  await page.context().setOffline(true);
  await goTo(page, 3);
  await page.getByRole("textbox").fill("7");
  await expect(page.getByText("Kept on this device")).toBeVisible();
  await page.close();
  await page.context().setOffline(false);
  const again = await page.context().newPage();
  await again.goto(`${house.url}/attempts/${attempt}`);
  await again.locator("[data-ready=true]").waitFor();
  await allSaved(again);
  const [kept] = await house.sql`select answer from answer where attempt_id = ${attempt} and slot = 3`;
  expect(kept?.answer).toEqual({ parts: { a: "7" } });
});

const allSavedOrNothing = (page: Parameters<typeof allSaved>[0]) =>
  expect(page.getByRole("status").filter({ hasText: /All saved|Nothing to save yet/ })).toBeVisible();

test("the server is killed in the middle of the work and started again: nothing is lost, nothing has to be done", async ({
  browser,
}) => {
  const house = await House.open();
  try {
    const page = await house.page(browser, "noor.haldane");
    await startFromBrief(page, house, "Tides and clearances");
    await page.getByRole("radio", { name: "new and full moon" }).check();
    await allSaved(page);
    await house.kill();
    await goTo(page, 4);
    await page.getByLabel("Range of the tide").fill("4.2");
    await page.getByRole("button", { name: "Come back to this one" }).click();
    await expect(page.getByText("Kept on this device, no connection since")).toBeVisible();
    await house.restart();
    await expect(page.getByRole("status").filter({ hasText: "All saved" })).toBeVisible({ timeout: 30_000 });
    const rows =
      await house.sql`select slot, answer, ribbon from answer where attempt_id = ${attemptIn(page)} order by slot`;
    expect(rows).toMatchObject([{ slot: 1 }, { slot: 4, answer: { parts: { a: "4.2" } }, ribbon: true }]);
  } finally {
    await house.close();
  }
});

test("two devices: the later writing stands, and the other device is told what stood there", async ({
  browser,
  house,
}) => {
  const laptop = await house.page(browser, "anneke.tremaine");
  await startFromBrief(laptop, house, "Flower shapes");
  const phone = await house.page(browser, "anneke.tremaine");
  await phone.goto(laptop.url());
  await phone.locator("[data-ready=true]").waitFor();
  await goTo(laptop, 3);
  await goTo(phone, 3);
  // The laptop writes first but without a network; the phone writes later.
  await laptop.context().setOffline(true);
  await laptop.getByRole("textbox").fill("15");
  await expect(laptop.getByText("Kept on this device")).toBeVisible();
  await phone.getByRole("textbox").fill("7");
  await allSaved(phone);
  await laptop.context().setOffline(false);
  await expect(laptop.getByText("Your other device saved “7” here")).toBeVisible();
  await laptop.getByRole("textbox").blur();
  await expect(laptop.getByText("Changed on your other device")).toContainText("was “15”");
  await expect(laptop.getByRole("textbox")).toHaveValue("7");
  const attempt = attemptIn(laptop);
  const log = await house.sql`select answer from answer_log where attempt_id = ${attempt} and slot = 3`;
  expect(log.map((line) => line.answer?.parts.a).sort()).toEqual(["15", "7"]);
});

test("the session ends in the middle: the desk says so, and after signing in again elsewhere it goes on by itself", async ({
  browser,
  house,
}) => {
  const page = await house.page(browser, "mei-lin.strand");
  await startFromBrief(page, house, "Hydration and dough strength");
  await house.sql`delete from session where person_id = (select id from person where email = 'mei-lin.strand@alderquay.example')`;
  await page.getByRole("textbox").first().fill("68");
  await expect(page.getByText("You are signed out. Your answers are kept on this device")).toBeVisible();
  const other = await page.context().newPage();
  await house.signIn(other, "mei-lin.strand");
  await expect(page.getByRole("status").filter({ hasText: "All saved" })).toBeVisible({ timeout: 30_000 });
  const [kept] =
    await house.sql`select answer from answer where attempt_id = ${attemptIn(page)} and slot = 1`;
  expect(kept?.answer).toEqual({ parts: { a: "68" } });
});

test("with the database gone every page says so in its own look, with a reference; when it is back all is well", async ({
  page,
}) => {
  const house = await House.open();
  try {
    await house.signIn(page, "noor.haldane");
    await house.cutDatabase();
    const answer = await page.goto(`${house.url}/today`);
    expect(answer?.status()).toBe(500);
    await expect(page.getByRole("heading", { name: "Something went wrong on our side" })).toBeVisible();
    await expect(page.getByText("name this reference")).toContainText(/[0-9a-f]{10}/);
    expect((await page.request.get(`${house.url}/health`)).status()).toBe(503);
    await house.restoreDatabase();
    await page.getByRole("link", { name: "Try again" }).click();
    await expect(page).toHaveURL(/\/today$/);
    await expect(page.getByRole("region", { name: "Your quizzes" })).toBeVisible();
  } finally {
    await house.close();
  }
});
