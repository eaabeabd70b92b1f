import { expectAccessible } from "../support/accessible";
import { allSaved, attemptIn, entryOf, expect, goTo, handIn, startFromBrief, test } from "../support/house";

test("one way, told at once: closing is said before, what is left is told and crossed, and neither a closed nor a later question can be reached", async ({
  page,
  house,
  request,
}) => {
  test.setTimeout(90_000);
  const caller = await house.caller(request, "tadhg.villanueva");
  await house.signIn(page, "tadhg.villanueva");
  await startFromBrief(page, house, "Steering rules, one way");
  const attempt = attemptIn(page);
  const sent = async () =>
    (await caller.get(`/attempts/${attempt}`)).text +
    (await caller.get(`/api/attempts/${attempt}/pages`)).text;
  const SECOND = "crossing from your starboard side";
  expect(await sent()).not.toContain(SECOND);
  await expect(
    page.getByText("Question 1 closes when you move on, and cannot be opened again. Still empty: 1."),
  ).toBeVisible();
  await expectAccessible(page, "one way, nothing answered");

  // Empty: asked once more, with what is empty named.
  await page.getByRole("button", { name: "Close it, see if it is right" }).click();
  await expect(page.getByRole("alertdialog")).toContainText("Still empty: 1.");
  await expectAccessible(page, "asked before closing");
  await page.getByRole("button", { name: "Stay" }).click();
  const [starboard, port] = await Promise.all(
    ["alter course to starboard", "alter course to port"].map((name) =>
      page.getByRole("radio", { name }).getAttribute("value"),
    ),
  );
  await page.getByRole("radio", { name: "alter course to starboard" }).check();
  await page.getByRole("button", { name: "Close it, see if it is right" }).click();
  const told = page.getByRole("status").filter({ hasText: "This question is closed now." });
  await expect(told).toContainText("Right");
  await expect(told).toContainText("1 of 1 mark");
  await expect(page.getByRole("radio").first()).toBeDisabled();
  await expect(page.getByRole("button", { name: "Leave it empty again" })).toBeHidden();
  await expect(page.getByRole("button", { name: "Question 1, here, answered, right, closed" })).toBeVisible();
  await expectAccessible(page, "told");

  // The server keeps to it, whatever is asked of it.
  const save = {
    here: 1,
    entries: [
      {
        slot: 1,
        answer: { pick: port },
        ribbon: false,
        ruledOut: [],
        revision: 900,
        device: crypto.randomUUID(),
        writtenAt: Date.now(),
      },
    ],
  };
  const refused = await caller.post(`/api/attempts/${attempt}/save`, save);
  expect(refused.status, refused.text).toBe(409);
  expect(refused.json.title).toBe("Question 1 is closed, and can no longer be changed.");
  const early = await caller.post(`/api/attempts/${attempt}/save`, {
    ...save,
    entries: [{ ...save.entries[0], slot: 3, answer: null }],
  });
  expect(early.status).toBe(409);
  expect(early.json.title).toContain("Question 3 is not open yet");
  expect((await caller.post(`/api/attempts/${attempt}/move`, { from: 0, to: 4 })).status).toBe(409);
  expect(await house.answer(attempt, 1)).toEqual({ pick: starboard });
  expect(await sent()).not.toContain("sailing vessel that overtakes");

  await entryOf(page, 3).press("Enter");
  await expect(page.getByRole("alert")).toContainText("Question 3 is not open yet.");
  await page.getByRole("button", { name: /^Next, / }).click();
  await expect(page.getByRole("heading", { level: 2 })).toContainText(SECOND);
  await goTo(page, 1);
  await expect(page.getByRole("alert")).toContainText("Question 1 is closed: this quiz goes one way.");

  // A reload shows the same, and nothing of what is closed.
  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(page.getByRole("heading", { level: 2 })).toContainText(SECOND);
  expect(await sent()).not.toContain("meet end on");

  await page.getByRole("button", { name: "Look over and hand in" }).click();
  await expect(page.getByText("only question 2 can be gone back to")).toBeVisible();
  await expect(page.getByRole("region", { name: "Not opened yet" })).toContainText("3 to 6");
  await expectAccessible(page, "final look, one way");
  await page.getByRole("button", { name: "Hand in" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
  await page.waitForURL("**/slip");
  const marks = await house.sql`select slot, marks from mark where attempt_id = ${attempt} order by slot`;
  expect(marks.map((row) => Number(row.marks))).toEqual([1, 0, 0, 0, 0, 0]);
});

test("tries: what a wrong one costs and what can still be earned is said before and after each", async ({
  page,
  house,
}) => {
  await house.signIn(page, "hamid.castellane");
  await startFromBrief(page, house, "Baker’s arithmetic, with tries");
  const [, flour = 0, hydration = 0] =
    /of (\d+)\sg of flour has a hydration of (\d+)/
      .exec((await page.getByRole("heading", { level: 2 }).textContent()) ?? "")
      ?.map(Number) ?? [];
  const check = page.getByRole("button", { name: "Check all that is written" });
  const first = page.getByRole("group", { name: "Your answer to question 1" });
  const bar = page.getByRole("region", { name: "Checking question 1" });
  await expect(check).toBeDisabled();
  await expect(bar).toContainText("Each wrong try costs 1/4 of that part’s marks.");
  await expect(bar).toContainText("So far 0 of ");
  await expect(first.getByRole("button", { name: "Check a alone · wrong costs 1/4" })).toBeDisabled();
  await page.getByLabel("Weight of the water").fill("1");
  await check.click();
  await expect(first).toContainText(
    "Wrong, costs 1/4 of this part; 2 left. Try 2 is next; 3/4 of its marks can still be earned.",
  );
  await expectAccessible(page, "a wrong try");
  // The same answer again is not a new try.
  await check.click();
  await expect(first).toContainText("2 left");
  await page.getByLabel("Weight of the water").fill("2");
  await check.click();
  await expect(first).toContainText("1 left. Try 3 is next; 1/2 of its marks can still be earned.");
  await page.getByLabel("Weight of the water").fill(String((flour * hydration) / 100));
  // One part by itself: the others are left as they are.
  await first.getByRole("button", { name: /^Check a alone/ }).click();
  await expect(first).toContainText("Right, after 2 wrong tries.");
  await expect(bar).toContainText("So far 0.5 of ");

  await goTo(page, 4);
  const second = page.getByRole("region", { name: "Checking question 4" });
  for (const [wrong, said] of [
    ["a little more yeast", "2 left"],
    ["a warmer room", "1 left"],
    ["a wetter dough", "no tries left; this part is closed and worth nothing"],
  ] as const) {
    await page.getByRole("radio", { name: wrong }).check();
    await page.getByRole("button", { name: "Check my answer" }).click();
    await expect(second).toContainText(said);
  }
  await expect(page.getByRole("button", { name: "Check my answer" })).toHaveCount(0);
  const attempt = attemptIn(page);
  await handIn(page);
  // Half of one mark after two wrong tries; nothing of the last.
  const marks = await house.sql`select slot, marks from mark where attempt_id = ${attempt} order by slot`;
  expect(marks.map((row) => Number(row.marks))).toEqual([0.5, 0, 0, 0]);
});

test("a sitting of two parts: a section a page, every question answered before moving on, and the second part opens after the first", async ({
  page,
  house,
}) => {
  test.setTimeout(90_000);
  await house.signIn(page, "quentin.mbele");
  const second = `${house.url}/quizzes/${await house.quiz("Chartroom sitting, part two")}`;
  await page.goto(second);
  await expect(page.getByText("Chartroom sitting, part one").first()).toBeVisible();
  await expect(page.getByRole("button", { name: "Start now" })).toHaveCount(0);
  await expectAccessible(page, "brief of a part that is locked");

  await startFromBrief(page, house, "Chartroom sitting, part one");
  await expect(page.getByRole("region", { name: /^Question \d of 7/ })).toHaveCount(2);
  await page.getByRole("button", { name: "Close, go to 3" }).click();
  await expect(page.getByRole("alert")).toContainText(/Questions? 1/);
  // Two points are asked for: one of them is not a whole answer.
  await page.getByRole("button", { name: "Place a point in the middle" }).click();
  await page.getByRole("textbox").fill("0.8 m");
  await page.getByRole("button", { name: "Close, go to 3" }).click();
  await expect(page.getByRole("alert")).toContainText("Question 1 is not complete");
  await page.getByRole("button", { name: "Place a point in the middle" }).click();
  await expect(page.getByRole("alert")).toBeHidden();
  await allSaved(page);
  await expectAccessible(page, "a section a page, with a picture");
  await page.getByRole("button", { name: "Close, go to 3" }).click();
  await expect(page.getByRole("region", { name: "Question 3 of 7" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Question 1, answered, closed" })).toBeVisible();
  await handIn(page);
  await startFromBrief(page, house, "Chartroom sitting, part two");
  await expect(page.getByRole("region", { name: "Question 1 of 3" })).toBeVisible();
});

test("all on one page: the row leads to the question on it, and working in one makes it the one that is here", async ({
  page,
  house,
}) => {
  await house.signIn(page, "wanjiru.holloway");
  await startFromBrief(page, house, "Bees and flowers, on one page");
  await expect(page.getByRole("region", { name: /^Question \d of 6/ })).toHaveCount(6);
  await goTo(page, 4);
  await expect(page.getByRole("region", { name: "Question 4 of 6" })).toBeInViewport();
  await expect(page.getByRole("heading", { level: 1 })).toBeInViewport();
  await expect(page.getByRole("navigation", { name: "Questions" })).toBeInViewport();
  await page.getByRole("radio", { name: "True" }).check();
  await expect(page.getByRole("button", { name: "Question 3, here, answered" })).toBeVisible();
  await page.getByRole("region", { name: "Question 2 of 6" }).getByRole("radio").first().check();
  await allSaved(page);
  await expectAccessible(page, "all on one page");
  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(page.getByRole("radio", { name: "True" })).toBeChecked();
});

test("the tools: reference, calculator with its tape, brief, text size and the clock's form", async ({
  page,
  house,
}) => {
  await house.signIn(page, "lucia.harrowgate");
  await startFromBrief(page, house, "Baker’s arithmetic, with tries");
  await expect(page.getByRole("tabpanel", { name: "Reference" })).toContainText("Baker’s percentages");
  await page.getByRole("tab", { name: "Calculator" }).click();
  await page.getByLabel("Calculation").fill("650 × 2 ÷ 100");
  await page.getByRole("button", { name: "Work out" }).click();
  const tape = page.getByRole("list", { name: "Tape" });
  await expect(tape).toContainText("650 × 2 ÷ 100 =13");
  await page.getByLabel("Calculation").fill("1 ÷ 0");
  await page.getByRole("button", { name: "Work out" }).click();
  await expect(page.locator("#calculator-problem")).not.toBeEmpty();
  await expectAccessible(page, "calculator");
  await page.getByRole("tab", { name: "Brief" }).click();
  await expect(page.getByRole("tabpanel", { name: "Brief" })).toContainText("wrong try costs");
  await page.getByRole("tab", { name: "View" }).click();
  await page.getByLabel(/^Clock/).selectOption({ label: "minutes only, seconds near the end" });
  await expect(page.getByRole("timer", { name: "Time left" })).toHaveText(/^(40|39) min$/);
  await page.getByLabel("Text size").selectOption({ label: "much larger" });
  await expect(page.locator("html")).toHaveCSS("font-size", "24px");
  await expectAccessible(page, "view, much larger");
  await page.getByRole("button", { name: "Put the tools away" }).click();
  await page.getByRole("button", { name: "Tools" }).click();
  await page.getByRole("tab", { name: "Calculator" }).click();
  await expect(tape).toContainText("650 × 2 ÷ 100 =13");
});

test("a question is read aloud with its options by the browser's own speech, and stops when asked or left", async ({
  page,
  house,
}) => {
  await page.addInitScript(() => {
    const said: string[] = [];
    Object.assign(window, { said });
    speechSynthesis.speak = ({ text, lang }) => void said.push(`${lang}: ${text}`);
    speechSynthesis.cancel = () => void said.push("quiet");
  });
  const said = () => page.evaluate(() => (window as unknown as { said: string[] }).said);
  await house.signIn(page, "amara.delorne-whitfield");
  await startFromBrief(page, house, "Tides and clearances");
  await page.getByRole("button", { name: "Read aloud question 1" }).click();
  const options = await page.getByRole("radio").count();
  const [first] = (await said()).filter((line) => line !== "quiet");
  expect(first).toMatch(/^en[^:]*: Question 1\. Spring tides happen near\. Pick one\. A\. /);
  for (let i = 0; i < options; i += 1) expect(first).toContain(` ${String.fromCharCode(65 + i)}. `);
  await page.getByRole("button", { name: "Stop reading question 1" }).click();
  expect((await said()).at(-1)).toBe("quiet");
  await page.getByRole("button", { name: "Read aloud question 1" }).click();
  await goTo(page, 2);
  await expect(page.getByRole("button", { name: "Read aloud question 2" })).toBeVisible();
  expect((await said()).at(-1)).toBe("quiet");
});
