import { expectAccessible } from "../support/accessible";
import { allSaved, atDesk, attemptIn, expect, goTo, startFromBrief, test } from "../support/house";

test("a student finds a quiz, takes it, reloads in the middle, hands in, and reads marks and gradebook", async ({
  page,
  house,
}) => {
  await page.goto(house.url);
  await page.getByLabel("E-mail address").fill("dmitri.aske@alderquay.example");
  await page.getByLabel("Password").fill("quiet harbour");
  await page.getByRole("button", { name: "Sign in", exact: true }).first().click();
  await page.waitForURL("**/today");
  await page.getByRole("link", { name: "Read the brief: Tides and clearances" }).click();
  await expect(page.getByRole("heading", { name: "Tides and clearances" })).toBeVisible();
  await expect(page.getByText("20 minutes", { exact: true })).toBeVisible();
  await expect(page.getByText("Two attempts", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Start now" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Start the attempt" }).click();
  await atDesk(page);

  // One of several, several of several, numeric with parts.
  await page.getByRole("radio", { name: "new and full moon" }).check();
  await goTo(page, 3);
  await page.getByRole("checkbox", { name: "a long onshore gale" }).check();
  await expect(page.getByText("1 of 2 picked")).toBeVisible();
  await page.getByRole("checkbox", { name: "unusually low air pressure" }).check();
  await page.getByRole("checkbox", { name: "a flat calm" }).click();
  await expect(page.getByText("Only 2 options can be picked")).toBeVisible();
  await goTo(page, 4);
  await page.getByLabel("Range of the tide").fill("4,2");
  await expect(page.getByText("read as 4.2", { exact: true })).toBeVisible();
  await expect(page.getByText("2 significant figures", { exact: true })).toBeVisible();
  await page.getByLabel("Height of tide two hours after").fill("3.75");
  await page.getByRole("button", { name: "Come back to this one" }).click();
  await allSaved(page);

  const timer = page.getByRole("timer", { name: "Time left" });
  const before = await timer.textContent();
  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(page.getByRole("region", { name: "Question 4 of 10" })).toBeVisible();
  await expect(page.getByLabel("Range of the tide")).toHaveValue("4,2");
  await expect(page.getByLabel("Height of tide two hours after")).toHaveValue("3.75");
  await expect(page.getByRole("button", { name: "Will come back" })).toBeVisible();
  const seconds = (digits: string | null) => {
    const [minutes = 0, rest = 0] = (digits ?? "").split(":").map(Number);
    return minutes * 60 + rest;
  };
  const passed = seconds(before) - seconds(await timer.textContent());
  expect(passed).toBeGreaterThanOrEqual(0);
  expect(passed).toBeLessThan(20);
  await goTo(page, 3);
  await expect(page.getByRole("checkbox", { name: "a long onshore gale" })).toBeChecked();
  await expect(page.getByRole("checkbox", { name: "a flat calm" })).not.toBeChecked();
  await goTo(page, 1);
  await expect(page.getByRole("radio", { name: "new and full moon" })).toBeChecked();

  await page.getByRole("button", { name: "Look over and hand in" }).click();
  await expect(page.getByRole("heading", { name: "Look over before handing in" })).toBeVisible();
  await expect(page.getByText("Nothing is handed in yet. You have")).toBeVisible();
  await expect(page.getByRole("region", { name: "Still empty" })).toContainText("2 of 3 parts answered");
  await page.getByRole("button", { name: "Hand in" }).click();
  await expect(page.getByRole("alertdialog")).toContainText("It is final");
  await page.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();

  await page.waitForURL("**/slip");
  await expect(page.getByRole("heading", { name: "Your work is handed in" })).toBeVisible();
  await expect(page.getByText("2 of 10, 1 in part", { exact: true })).toBeVisible();
  await expect(page.getByText("Dmitri Aske").last()).toBeVisible();
  await page.getByRole("link", { name: "Marked paper" }).click();
  // 2 for the moons, 3 for the weather, 2 + 2 of 6 for the twelfths.
  await expect(page.getByLabel("Total")).toHaveText("9 / 30 30 %");
  await page.getByRole("link", { name: "Question 4" }).first().click();
  await expect(page.getByRole("region", { name: "Question 4" })).toContainText("4 of 6");
  // The others still write: right and worked answers come once it has closed.
  await expect(page.getByText("In two hours the tide falls")).toHaveCount(0);
  await expect(page.getByText(/right answers/i).first()).toBeVisible();
  await page.getByText("Ask about this mark").click();
  await page.getByRole("textbox", { name: /^What would you like to know/ }).fill("Why did c get nothing?");
  await page.getByRole("button", { name: "Send" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "Why did c get nothing?" })).toContainText(
    "You · today",
  );
  await expectAccessible(page, "marked paper with a question about a mark");
  await page.getByRole("link", { name: /^Only what was missed/ }).click();
  await expect(page.getByRole("region", { name: "Question 4" })).toBeVisible();
  await expect(page.getByRole("region", { name: "Question 1", exact: true })).toHaveCount(0);

  await page.goto(`${house.url}/gradebook/nav-110`);
  const row = page.getByRole("row", { name: "Tides and clearances" });
  await expect(row).toContainText("9 / 30");
});

test("back and forward, and a second tab, are harmless", async ({ page, house }) => {
  await house.signIn(page, "isolde.fairweather");
  await startFromBrief(page, house, "Tides and clearances");
  await page.getByRole("radio", { name: "new and full moon" }).check();
  await allSaved(page);
  await page.goBack();
  await expect(page.getByRole("heading", { name: "This attempt is running" })).toBeVisible();
  await page.goForward();
  await page.locator("[data-ready=true]").waitFor();
  await expect(page.getByRole("radio", { name: "new and full moon" })).toBeChecked();

  await page.getByRole("button", { name: "Look over and hand in" }).click();
  await page.goBack();
  await expect(page.getByRole("region", { name: "Question 1 of 10" })).toBeVisible();

  const second = await page.context().newPage();
  await second.goto(page.url());
  await second.locator("[data-ready=true]").waitFor();
  await second.getByRole("radio", { name: "full moon only" }).check();
  // The first tab follows without a reload.
  await expect(page.getByRole("radio", { name: "full moon only" })).toBeChecked();
  await allSaved(second);
  expect(attemptIn(second)).toBe(attemptIn(page));
});

test("leaving for now hands nothing in, and the way back stands on top of Today", async ({ page, house }) => {
  await house.signIn(page, "leif.okonma");
  await startFromBrief(page, house, "Tides and clearances");
  await page.getByRole("radio", { name: "the equinoxes only" }).check();
  await page.getByRole("button", { name: "Leave for now" }).click();
  await expect(page.getByRole("alertdialog")).toContainText("The clock runs on");
  await page.getByRole("alertdialog").getByRole("button", { name: "Leave for now" }).click();
  await page.waitForURL("**/today");
  await page.getByRole("link", { name: "Go back in" }).first().click();
  await atDesk(page);
  await expect(page.getByRole("radio", { name: "the equinoxes only" })).toBeChecked();
});

test("the keys of the desk do what they say", async ({ page, house }) => {
  await house.signIn(page, "jun.abernathy");
  await startFromBrief(page, house, "Tides and clearances");
  await page.keyboard.press("2");
  await expect(page.getByRole("radio").nth(1)).toBeChecked();
  await page.keyboard.press("a");
  await expect(page.getByRole("radio").nth(0)).toBeChecked();
  await page.keyboard.press("x");
  await page.keyboard.press("3");
  await expect(page.getByRole("button", { name: /^Bring back/ })).toBeVisible();
  await page.keyboard.press("r");
  await expect(page.getByRole("button", { name: "Will come back" })).toBeVisible();
  await page.keyboard.press("j");
  await expect(page.getByRole("region", { name: "Question 2 of 10" })).toBeVisible();
  await page.keyboard.press("k");
  await expect(page.getByRole("region", { name: "Question 1 of 10" })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys that work here" })).toBeVisible();
  await page.keyboard.press("Escape");
  await goTo(page, 4);
  // Inside a text field every key writes.
  await page.getByLabel("Range of the tide").pressSequentially("fx4.2");
  await expect(page.getByLabel("Range of the tide")).toHaveValue("fx4.2");
  await expect(page.getByText("Start with a number")).toBeVisible();
});

test("the digits can be hidden and shown; the time warnings come all the same", async ({ page, house }) => {
  await house.signIn(page, "farid.kjeldsen");
  await startFromBrief(page, house, "Lights at a glance");
  await page.getByRole("button", { name: "Hide digits" }).click();
  await expect(page.getByRole("timer", { name: "Time left" })).toHaveText("hidden");
  await expect(page.getByText(/you had 30 seconds left/)).toBeVisible({ timeout: 40_000 });
  await page.getByRole("button", { name: "Show digits" }).click();
  await expect(page.getByRole("timer", { name: "Time left" })).toHaveText(/^0:\d\d$/);
});
