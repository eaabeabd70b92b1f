import { expectAccessible, expectNoSideways } from "../support/accessible";
import { expect, House, test } from "../support/house";

test("the plan is written by keys: a week with a quiz, something to read and a note, moved, kept, and read by a student", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    await page.goto(`${house.url}/courses/nav-110/plan`);
    await page.getByRole("link", { name: "Write the plan" }).click();
    await page.locator("[data-ready=true]").waitFor();
    await expectAccessible(page, "the plan, being written");
    const keep = page.getByRole("button", { name: "Keep the plan" });
    await expect(keep).toBeDisabled();
    await page.getByRole("button", { name: "Add a week or a topic" }).click();
    const week = page.getByRole("group").last();
    await week.getByRole("textbox", { name: "Week or topic" }).fill("Week 15: the passage plan");
    const own = page.getByRole("group", { name: "Week 15: the passage plan" });
    await own.getByLabel("First day (may be empty)").fill("2031-03-03");
    await own.getByRole("button", { name: "Add a note" }).click();
    await keep.click();
    // What is missing is said, and nothing typed is lost.
    await expect(page.getByRole("alert")).toContainText("In “Week 15: the passage plan” something to read");
    const note = own.getByRole("textbox", { name: /^Note/ });
    await note.focus();
    await page.keyboard.type("Bring the pilot book. ");
    await page.keyboard.press("Control+b");
    await page.keyboard.type("All of it.");
    await own.getByRole("combobox", { name: /^Add a quiz/ }).selectOption({ label: "Tides and clearances" });
    await own.getByRole("button", { name: /^Move up: Quiz|^Move up: Tides and clearances/ }).press("Enter");
    await expect(own.getByRole("listitem").first()).toContainText("Tides and clearances");
    await expect(page.getByText("Changed, and not kept yet")).toBeVisible();
    await keep.press("Enter");
    await expect(page.getByText("Kept. Students see it so.")).toBeVisible();
    await expect(keep).toBeDisabled();
    await expectAccessible(page, "the plan, kept");

    const student = await house.page(browser, "noor.haldane");
    await student.goto(`${house.url}/courses/nav-110/plan`);
    const last = student.getByRole("listitem").filter({ hasText: "Week 15: the passage plan" });
    await expect(last.locator("strong")).toHaveText("All of it.");
    await last.getByRole("link", { name: "Tides and clearances", exact: true }).click();
    await expect(student).toHaveURL(`${house.url}/quizzes/${await house.quiz("Tides and clearances")}`);
    await expect(student.getByRole("link", { name: "Write the plan" })).toHaveCount(0);

    await page.setViewportSize({ width: 360, height: 720 });
    await expectNoSideways(page, "the plan on a telephone");
  } finally {
    await house.close();
  }
});

test("something is announced: on Today, at the bell and in the course, and taken off Today again", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    await page.goto(`${house.url}/courses/nav-110/announcements`);
    await page.locator("[data-ready=true]").waitFor();
    await expectAccessible(page, "announcements, for who makes them");
    await page
      .getByRole("textbox", { name: "What everyone in the course reads" })
      .fill("The lamp room is shut today.\nCome to the pier.");
    await expect(page.getByText(/It goes to \d+ students at once/)).toBeVisible();
    await page.getByRole("button", { name: "Announce it" }).click();
    const listed = page.getByRole("listitem").filter({ hasText: "The lamp room is shut today." });
    await expect(listed).toBeVisible();

    const student = await house.page(browser, "noor.haldane");
    await expect(student.getByText("The lamp room is shut today.").first()).toBeVisible();
    await student.goto(`${house.url}/notices`);
    await student.getByRole("link", { name: /The lamp room is shut today/ }).click();
    await expect(student).toHaveURL(`${house.url}/courses/nav-110/announcements`);
    await expect(student.getByText("Come to the pier.")).toBeVisible();
    await expect(student.getByRole("button", { name: "Announce it" })).toHaveCount(0);
    await expectAccessible(student, "announcements, for a student");
    await student.setViewportSize({ width: 360, height: 720 });
    await expectNoSideways(student, "announcements on a telephone");

    await listed.getByRole("button", { name: "Take it off Today" }).click();
    await expect(listed).toContainText("no longer on Today");
    await student.goto(`${house.url}/today`);
    await expect(student.getByText("The lamp room is shut today.")).toHaveCount(0);
  } finally {
    await house.close();
  }
});
