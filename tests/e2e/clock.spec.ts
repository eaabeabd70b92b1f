import { allSaved, attemptIn, expect, House, startFromBrief, test } from "../support/house";

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
  await expect(again.getByText("1 of 3", { exact: true })).toBeVisible();
});

test("at zero the desk closes by itself with everything that was written, and shows the slip", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "gideon.salcedo");
    await startFromBrief(page, house, "Lights at a glance");
    await page.getByRole("radio", { name: "she is at anchor" }).check();
    await page.waitForURL("**/slip", { timeout: 90_000 });
    await expect(page.getByText("the clock, when time was up")).toBeVisible();
    await expect(page.getByText("1 min", { exact: true })).toBeVisible();
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
    const page = await house.page(browser, "nikolai.pemberton");
    await startFromBrief(page, house, "Tides and clearances");
    await page.getByRole("radio", { name: "new and full moon" }).check();
    await allSaved(page);
    const attempt = attemptIn(page);
    await page.context().close();
    const caller = await house.caller(request, "nikolai.pemberton");
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

test("the desk shows the true time on a device whose clock is a day off", async ({ browser, house }) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.addInitScript(() => {
    const wall = Date.now.bind(Date);
    Date.now = () => wall() + 86_400_000;
  });
  await house.signIn(page, "hana.drummond");
  await startFromBrief(page, house, "Flower shapes");
  // The clock starts with the desk's own word; then the digits on the screen are the server's to within a second or two.
  const confirmed = async () =>
    (await house.sql`select deadline from attempt where id = ${attemptIn(page)} and confirmed`)[0]?.deadline;
  await expect.poll(confirmed).toBeTruthy();
  const deadline = Number(await confirmed());
  const off = async () => {
    const shown = await page.getByRole("timer", { name: "Time left" }).textContent();
    const [minutes = 0, seconds = 0] = (shown ?? "").split(":").map(Number);
    return Math.abs(minutes * 60 + seconds - (deadline - Date.now()) / 1000);
  };
  await expect.poll(off).toBeLessThan(2);
});
