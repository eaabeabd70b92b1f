import { expectAccessible } from "../support/accessible";
import { allSaved, entryOf, expect, House, startFromBrief, test } from "../support/house";

// A college of its own: its students take quizzes that other tests take too.
let house: House;
test.beforeAll(async () => {
  house = await House.open();
});
test.afterAll(() => house.close());

test("after a pick by key the arrows change nothing and turn nothing; what a key did is said, with a way back", async ({
  page,
}) => {
  await house.signIn(page, "farid.kjeldsen");
  await startFromBrief(page, house, "Tides and clearances");
  const radios = page.getByRole("radio");
  await page.keyboard.press("b");
  await expect(radios.nth(1)).toBeChecked();
  await expect(page.getByText(/^By key B, picked: /)).toBeVisible();
  await expectAccessible(page, "picked by a key");
  for (const arrow of ["ArrowRight", "ArrowLeft", "ArrowDown", "ArrowUp"]) await page.keyboard.press(arrow);
  await expect(radios.nth(1)).toBeChecked();
  await expect(page.getByRole("region", { name: "Question 1 of 10" })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("radio", { checked: true })).toHaveCount(0);
  // Within the group they do what they do in every group of options.
  await radios.first().focus();
  await page.keyboard.press("Space");
  await page.keyboard.press("ArrowDown");
  await expect(radios.nth(1)).toBeChecked();
  await expect(page.getByRole("region", { name: "Question 1 of 10" })).toBeVisible();
  // Turning has its own keys, from within the group too, and changes nothing.
  await page.keyboard.press("j");
  await expect(page.getByRole("region", { name: "Question 2 of 10" })).toBeVisible();
  await expect(page.getByRole("radio", { checked: true })).toHaveCount(0);
  await page.keyboard.press("k");
  await expect(radios.nth(1)).toBeChecked();
});

test("a key that comes before the device's own store was read is told all the same", async ({ page }) => {
  // The store answers only when it is let: on a slow device that is later than the first key.
  await page.addInitScript(() => {
    const read = IDBIndex.prototype.getAll;
    const held: (() => void)[] = [];
    let isLet = false;
    Object.assign(window, {
      letStore: () => {
        isLet = true;
        for (const each of held) each();
      },
    });
    IDBIndex.prototype.getAll = function (this: IDBIndex, ...args: Parameters<typeof read>) {
      const request = read.apply(this, args);
      const listen = request.addEventListener.bind(request) as (type: string, listener: () => void) => void;
      const later = (type: string, listener: () => void) =>
        listen(type, () => (isLet ? listener() : held.push(listener)));
      request.addEventListener = later as typeof request.addEventListener;
      return request;
    };
  });
  await house.signIn(page, "jun.abernathy");
  await startFromBrief(page, house, "Tides and clearances");
  await page.keyboard.press("b");
  const told = page.getByText(/^By key B, picked: /);
  await expect(told).toBeVisible();
  await page.evaluate(() => (window as unknown as { letStore: () => void }).letStore());
  await allSaved(page);
  await expect(told).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("radio", { checked: true })).toHaveCount(0);
});

test("on one page letters pick only in the question that has the focus, and only what is on the screen", async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 500 });
  await house.signIn(page, "keziah.rowden");
  await startFromBrief(page, house, "Bees and flowers, on one page");
  const questions = page.getByRole("region", { name: /^Question \d+ of/ });
  // The views of the kinds come after the desk itself.
  await expect(page.locator("[data-pick]").first()).toBeAttached();
  const count = await questions.count();
  const picks = () => page.locator("[data-pick]:checked").count();
  // Nothing has the focus, and there are several questions: no letter does anything.
  await page.keyboard.press("a");
  expect(await picks()).toBe(0);
  // The last question with options has it; the first is on the screen.
  const places: number[] = [];
  for (let i = 0; i < count; i += 1)
    if ((await questions.nth(i).locator("[data-pick]").count()) > 0) places.push(i);
  const last = questions.nth(places.at(-1) ?? 0);
  await last.locator("[data-pick]").first().focus();
  await page.locator("#content").evaluate((main) => main.scrollTo({ top: 0 }));
  await expect(last.locator("[data-pick]").first()).not.toBeInViewport();
  await page.keyboard.press("a");
  expect(await picks()).toBe(0);
  // What it would have picked is shown instead; pressed again, now that it is seen, it picks.
  await expect(last.locator("[data-pick]").first()).toBeInViewport();
  await page.keyboard.press("a");
  await expect(last.locator("[data-pick]").first()).toBeChecked();
  expect(await picks()).toBe(1);
});

test("Ctrl+S answers also when all is saved, and says so when the server is not there", async ({ page }) => {
  await house.signIn(page, "samir.eastlake");
  await startFromBrief(page, house, "Tides and clearances");
  await page.getByRole("radio").first().check();
  await allSaved(page);
  const words = page.getByRole("status").filter({ hasText: /^All saved \d\d:\d\d:\d\d$/ });
  const before = await words.textContent();
  await expect(async () => {
    await page.keyboard.press("Control+s");
    expect(await words.textContent()).not.toBe(before);
  }).toPass({ timeout: 10_000 });
  const button = page.getByRole("button", { name: "Save now" });
  const place = await button.boundingBox();
  await page.context().setOffline(true);
  await page.keyboard.press("Control+s");
  await expect(page.getByText(/^Kept on this device, no connection since/)).toBeVisible();
  expect(await button.boundingBox()).toEqual(place);
  await page.context().setOffline(false);
  await button.click();
  await expect(words).toBeVisible();
});

test("the list of keys holds what works where one is; single keys can be switched off", async ({ page }) => {
  await house.signIn(page, "quentin.mbele");
  await startFromBrief(page, house, "Tides and clearances");
  await page.keyboard.press("?");
  const keys = page.getByRole("dialog", { name: "Keys that work here" });
  await expect(keys).toContainText("A to I, or 1 to 9");
  await page.keyboard.press("Escape");
  // A question with boxes has no options to pick or to rule out.
  await entryOf(page, 4).click();
  await page.keyboard.press("?");
  await expect(keys).toContainText("J, K");
  await expect(keys).not.toContainText("A to I");
  await page.keyboard.press("Escape");
  await entryOf(page, 1).click();
  await page.getByRole("tab", { name: "View" }).click();
  await page.getByLabel("Single letters and digits work as keys").uncheck();
  await page.getByRole("heading", { level: 2 }).focus();
  for (const key of ["a", "j", "r", "?"]) await page.keyboard.press(key);
  await expect(page.getByRole("radio", { checked: true })).toHaveCount(0);
  await expect(keys).toBeHidden();
  await expect(page.getByRole("region", { name: "Question 1 of 10" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Come back to this one" })).toBeVisible();
});

test("what if: typed marks change the standing at once, are told apart, and are gone by one press", async ({
  page,
}) => {
  await house.signIn(page, "noor.haldane");
  await page.goto(`${house.url}/gradebook/brd-120`);
  const real = await page.locator("main dl").first().textContent();
  await page.getByRole("button", { name: "What if …" }).click();
  const box = page.getByLabel("What if, marks in Hydration and dough strength");
  await box.fill("19");
  const said = page.getByRole("region", { name: "What if" }).getByRole("status");
  await expect(said).toContainText(/Then the course would stand at \d/);
  const full = await said.textContent();
  await box.fill("0");
  await expect(said).not.toHaveText(full ?? "");
  await box.fill("20");
  await expect(page.getByText("0 to 19")).toBeVisible();
  await expectAccessible(page, "what if");
  expect(await page.locator("main dl").first().textContent()).toBe(real);
  await page.getByRole("button", { name: "Back to my real marks" }).click();
  await expect(box).toHaveCount(0);
  // Nothing of it is kept.
  await page.reload();
  expect(await page.locator("main dl").first().textContent()).toBe(real);
  await expect(page.getByRole("button", { name: "What if …" })).toBeVisible();
});
