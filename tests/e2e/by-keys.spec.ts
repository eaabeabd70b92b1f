import type { Page } from "@playwright/test";
import { expectAccessible } from "../support/accessible";
import { atDesk, attemptIn, expect, test } from "../support/house";

/** Presses Tab until what has the focus has this role and name, as one who does not see the page does. */
async function tabTo(page: Page, role: string, name: RegExp): Promise<void> {
  for (let i = 0; i < 60; i += 1) {
    await page.keyboard.press("Tab");
    const focused = page.locator(":focus");
    if ((await focused.count()) === 0) continue;
    const found = await page
      .getByRole(role as "button", { name })
      .and(focused)
      .count();
    if (found > 0) return;
  }
  throw new Error(`Tab never came to the ${role} ${name}.`);
}

test("a whole quiz by the keys of a screen reader: every step has a role and a name, and what changes is said", async ({
  page,
  house,
}) => {
  test.setTimeout(90_000);
  await house.signIn(page, "tadhg.villanueva");
  await page.goto(`${house.url}/quizzes/${await house.quiz("Tides and clearances")}`);
  await expect(page.getByRole("main")).toHaveCount(1);
  await tabTo(page, "button", /^Start now$/);
  await page.keyboard.press("Enter");
  const asked = page.getByRole("alertdialog");
  await expect(asked).toBeVisible();
  // A dialog takes the focus and holds it.
  await expect(asked.locator(":focus")).toHaveCount(1);
  await tabTo(page, "button", /^Start the attempt$/);
  await page.keyboard.press("Enter");
  await atDesk(page);

  await expect(page.getByRole("timer", { name: "Time left" })).toBeVisible();
  const saved = page.getByRole("banner").getByRole("status");
  await expect(saved).toHaveText("Nothing to save yet");
  await expect(page.getByRole("region", { name: "Question 1 of 10" })).toBeVisible();
  await tabTo(page, "radio", /./);
  await page.keyboard.press("Space");
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("radio", { checked: true })).toHaveCount(1);
  await expect(saved).toHaveText(/^All saved \d\d:\d\d:\d\d$/);
  await tabTo(page, "button", /^Come back to this one$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Will come back", pressed: true })).toBeVisible();
  await tabTo(page, "button", /^Next, 2/);
  await page.keyboard.press("Enter");
  // The reading begins at the question that was turned to.
  await expect(page.getByRole("heading", { level: 2 })).toBeFocused();
  await expect(page.getByRole("region", { name: "Question 2 of 10" })).toBeVisible();
  await expect(
    page
      .getByRole("navigation", { name: "Questions" })
      .getByRole("button", { name: "Question 1, answered, with a ribbon" }),
  ).toBeVisible();
  await expect(page.getByRole("button", { name: "Question 2, here, empty" })).toHaveAttribute(
    "aria-current",
    "step",
  );

  await tabTo(page, "button", /^Question 3, empty$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 2 })).toBeFocused();
  await tabTo(page, "checkbox", /./);
  await page.keyboard.press("Space");
  await expect(
    page.locator("[aria-live=polite], [role=status]").filter({ hasText: "1 of 2 picked" }).first(),
  ).toBeVisible();

  await page.keyboard.press("?");
  const keys = page.getByRole("dialog", { name: "Keys that work here" });
  await expect(keys).toBeVisible();
  await expectAccessible(page, "the keys of the desk");
  await page.keyboard.press("Escape");
  await expect(keys).toBeHidden();

  await tabTo(page, "button", /^Look over and hand in$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Look over before handing in" })).toBeFocused();
  await expect(
    page.getByRole("region", { name: "Still empty or not complete" }).getByRole("listitem"),
  ).toHaveCount(9);
  await tabTo(page, "button", /^Hand in$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alertdialog", { name: "Hand in now?" })).toBeVisible();
  await tabTo(page, "button", /^Hand in$/);
  const attempt = attemptIn(page);
  await page.keyboard.press("Enter");
  await page.waitForURL("**/slip");
  await expect(page.getByRole("heading", { name: "Your work is handed in" })).toBeVisible();
  const [row] = await house.sql`select handed_in_by from attempt where id = ${attempt}`;
  expect(row?.handed_in_by).toBe("student");
});
