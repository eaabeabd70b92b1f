import type { Page } from "@playwright/test";
import { expectAccessible } from "../support/accessible";
import { allSaved, attemptIn, expect, goTo, House, startFromBrief, test } from "../support/house";

/** What one desk writes is on the other so soon; the checks have the time of a busy machine on top. */
const SOON = { timeout: 6_000 };

// A college of its own: each student here takes a quiz that another test takes too.
let house: House;
test.beforeAll(async () => {
  house = await House.open();
});
test.afterAll(() => house.close());

const atDesk = (page: Page) => page.locator("[data-ready=true]").waitFor();
const status = (page: Page) => page.locator("section[data-slot] [role=status]").last();

/** The same attempt on a laptop and on a phone. */
async function twoDesks(
  browser: Parameters<House["page"]>[0],
  house: House,
  student: string,
  quiz: string,
): Promise<{ laptop: Page; phone: Page }> {
  const laptop = await house.page(browser, student);
  await startFromBrief(laptop, house, quiz);
  const phone = await house.page(browser, student);
  await phone.goto(laptop.url());
  await atDesk(phone);
  return { laptop, phone };
}

test("a pick on one device is on the other, with what stood there before, and can be taken back", async ({
  browser,
}) => {
  const { laptop, phone } = await twoDesks(browser, house, "isolde.fairweather", "Flower shapes");
  for (const page of [laptop, phone]) {
    await expect(page.getByText("open on another device or in another window")).toBeVisible(SOON);
  }
  await expectAccessible(phone, "a second desk");
  await phone.getByRole("button", { name: "Put this message away" }).click();
  await expect(phone.getByText("open on another device")).toBeHidden();

  await laptop.getByRole("radio").first().check();
  const began = Date.now();
  await expect(phone.getByRole("radio").first()).toBeChecked(SOON);
  test.info().annotations.push({ type: "ms to the other desk", description: String(Date.now() - began) });
  await expect(status(phone)).toContainText("Written on your other device");
  await phone.getByRole("radio").nth(1).check();
  await expect(laptop.getByRole("radio").nth(1)).toBeChecked(SOON);
  await expect(status(laptop)).toContainText("Changed on your other device");
  await expectAccessible(laptop, "changed on the other device");
  await laptop.getByRole("button", { name: "Take that one" }).click();
  await expect(laptop.getByRole("radio").first()).toBeChecked();
  await expect(phone.getByRole("radio").first()).toBeChecked(SOON);
  await allSaved(laptop);
  await allSaved(phone);
});

test("a box that is being written in never changes under one's hands; what both wrote is told and kept", async ({
  browser,
}) => {
  const { laptop, phone } = await twoDesks(browser, house, "bao.lindqvist", "Flower shapes");
  for (const page of [laptop, phone]) await goTo(page, 3);
  await laptop.getByRole("textbox").fill("19");
  await allSaved(laptop);
  await phone.getByRole("textbox").fill("21");
  await allSaved(phone);
  await expect(status(laptop)).toContainText("Your other device saved “21” here", SOON);
  await expect(laptop.getByRole("textbox")).toHaveValue("19");
  // Writing on: what is written here is later, and stands; the other is offered.
  await laptop.keyboard.press("End");
  await laptop.keyboard.type("5");
  await expect(laptop.getByRole("textbox")).toHaveValue("195");
  await expect(status(laptop)).toContainText("Your other device wrote “21” here");
  await allSaved(laptop);
  await phone.getByRole("textbox").blur();
  await expect(phone.getByRole("textbox")).toHaveValue("195", SOON);
  await expect(status(phone)).toContainText("was “21”");
  await laptop.getByRole("button", { name: "Take that one" }).click();
  await expect(phone.getByRole("textbox")).toHaveValue("21", SOON);
  await allSaved(laptop);
  expect(await house.answer(attemptIn(laptop), 3)).toEqual({ parts: { a: "21" } });
});

test("handing in waits for what the other device saved: nothing goes in that was not on the screen", async ({
  browser,
}) => {
  const { laptop, phone } = await twoDesks(browser, house, "josefa.lyle", "Flower shapes");
  await laptop.getByRole("radio").first().check();
  await allSaved(laptop);
  await phone.getByRole("button", { name: "Look over and hand in" }).click();
  await expect(phone.getByRole("heading", { name: /^1 of / })).toBeVisible(SOON);
  // The phone hears nothing of what follows, until it hands in.
  const deaf = /\/(events|pages)(\?|$)|\/attempts\/[^/]+$/;
  await phone.route(deaf, (route) => (route.request().method() === "GET" ? route.abort() : route.continue()));
  await goTo(laptop, 3);
  await laptop.getByRole("textbox").fill("12");
  await allSaved(laptop);
  await phone.getByRole("button", { name: "Hand in" }).click();
  await phone.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
  await expect(
    phone.getByText("Nothing is handed in yet: another of your devices changed question 3").first(),
  ).toBeVisible({ timeout: 10_000 });
  expect(
    await house.sql`select handed_in_at from attempt where id = ${attemptIn(laptop)} and handed_in_at is null`,
  ).toHaveLength(1);
  await phone.unroute(deaf);
  await phone.getByRole("alertdialog").getByRole("button", { name: "Not yet" }).click();
  await phone.getByRole("button", { name: "Hand in" }).click();
  await expect(phone.getByRole("alertdialog")).toContainText("2 of ", { timeout: 10_000 });
  await phone.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
  await phone.waitForURL("**/slip");
  // The other one ends with it, at once.
  await laptop.waitForURL("**/slip", SOON);
});

test("what was left unsent on a device, and overtaken since, is told when its desk opens again", async ({
  browser,
}) => {
  const { laptop, phone: first } = await twoDesks(browser, house, "mei-lin.strand", "Flower shapes");
  for (const page of [laptop, first]) await goTo(page, 3);
  // The phone writes while no save of it arrives, and is closed.
  await first.route("**/save", (route) => route.abort());
  await first.getByRole("textbox").fill("33");
  await expect(first.getByText("Kept on this device")).toBeVisible();
  await laptop.getByRole("textbox").fill("44");
  await allSaved(laptop);
  const phone = await first.context().newPage();
  const address = first.url();
  await first.close();
  await phone.goto(address);
  await atDesk(phone);
  await expect(phone.getByRole("textbox")).toHaveValue("44");
  await expect(status(phone)).toContainText("was “33”", SOON);
  await phone.getByRole("button", { name: "Take that one" }).click();
  await laptop.getByRole("textbox").blur();
  await expect(laptop.getByRole("textbox")).toHaveValue("33", SOON);
  await expect(status(laptop)).toContainText("was “44”");
});

test("two windows of one browser say the same, and either can hand in", async ({ browser }) => {
  const left = await house.page(browser, "efua.moorcroft");
  await startFromBrief(left, house, "Flower shapes");
  const right = await left.context().newPage();
  await right.goto(left.url());
  await atDesk(right);
  await left.getByRole("radio").first().check();
  await expect(right.getByRole("radio").first()).toBeChecked(SOON);
  await allSaved(left);
  await right.getByRole("button", { name: "Look over and hand in" }).click();
  await right.getByRole("button", { name: "Hand in" }).click();
  await right.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
  await right.waitForURL("**/slip");
  await left.waitForURL("**/slip", SOON);
});

test("ribbons and turned pages reach the other desk too", async ({ browser }) => {
  const { laptop, phone } = await twoDesks(browser, house, "jun.abernathy", "Steering rules, one way");
  await laptop.getByRole("radio").first().check();
  await expect(phone.getByRole("radio").first()).toBeChecked(SOON);
  await laptop.getByRole("button", { name: "Close it, see if it is right" }).click();
  await expect(
    phone
      .getByRole("navigation", { name: "Questions", exact: true })
      .getByRole("button", { name: /^Question 1, answered.*closed/ }),
  ).toBeVisible(SOON);
});
