import { allSaved, attemptIn, expect, goTo, House, handIn, startFromBrief, test } from "../support/house";

const TIDES = "Tides and clearances";
const ESSAYS = "Two short essays on the meadow";

test("of two processes over one database one is killed in the middle of a quiz: nothing is lost or told wrongly", async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const house = await House.openTwo();
  const records = (attempt: string) =>
    house.sql`select action from record where subject_id = ${attempt} and action like '%the desk' order by at`.then(
      (rows) => rows.map(({ action }) => action),
    );
  try {
    const page = await house.page(browser, "wanjiru.holloway");
    await startFromBrief(page, house, ESSAYS);
    const essay = page.getByRole("textbox", { name: /hay meadow/ });
    await essay.click();
    await page.keyboard.type("Written before.");
    await allSaved(page);
    const attempt = attemptIn(page);
    const other = await house.page(browser, "bao.lindqvist");
    await startFromBrief(other, house, TIDES);
    await goTo(other, 1);
    await other.getByRole("radio").first().check();
    await allSaved(other);
    const theirs = attemptIn(other);
    const attempts = [attempt, theirs];
    const listening = async () =>
      (await house.sql`select distinct attempt_id from open_desk where attempt_id = any(${attempts})`).length;
    await expect.poll(listening).toBe(2);

    await house.kill();
    await page.keyboard.type(" And after.");
    await other.getByRole("radio").nth(1).check();
    await allSaved(page);
    await allSaved(other);
    expect((await house.answer(attempt, 1)).rich).toBe("<p>Written before. And after.</p>");
    expect((await house.answer(theirs, 1)).pick).toBe(
      await other.getByRole("radio").nth(1).getAttribute("value"),
    );

    // Both desks listen again, whichever process they were at: what is told reaches them.
    // What the dead process left behind is old sooner; what is alive says so again by itself.
    await house.sql`update open_desk set seen_at = now() - interval '20 seconds' where attempt_id = any(${attempts})`;
    const teacher = await house.page(browser, "adaeze.okafor");
    const more = await teacher.request.post(`${house.url}/api/quizzes/${await house.quiz(ESSAYS)}/extend`, {
      data: { minutes: 10, reason: "A machine failed." },
      headers: { origin: house.url },
    });
    expect(more.status(), await more.text()).toBe(200);
    await expect(page.getByText("Your instructor gave more time").first()).toBeVisible();

    // The streams of the dead process are cleared away; whose desk is open elsewhere has not left.
    const old = async () =>
      (
        await house.sql`select stream from open_desk
          where attempt_id = any(${attempts}) and seen_at < now() - interval '19 seconds'`
      ).length;
    await expect.poll(old, { timeout: 90_000 }).toBe(0);
    expect(await listening()).toBe(2);
    expect(await records(attempt)).toEqual([]);
    expect(await records(theirs)).toEqual([]);

    await other.close();
    await expect.poll(() => records(theirs), { timeout: 30_000 }).toEqual(["left the desk"]);
    await handIn(page);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    expect(await records(attempt)).toEqual([]);
  } finally {
    await house.close();
  }
});
