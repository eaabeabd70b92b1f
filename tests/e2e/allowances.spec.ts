import type { Page } from "@playwright/test";
import { expectAccessible, expectNoSideways } from "../support/accessible";
import { expect, House, startFromBrief, test } from "../support/house";

const TIDES = "Tides and clearances";
const opened = async (house: House, page: Page, path: string) => {
  await page.goto(`${house.url}${path}`);
  await page.locator("[data-ready=true]").waitFor();
};
const clockOf = async (page: Page): Promise<number> => {
  const [minutes = 0, seconds = 0] = ((await page.getByRole("timer").textContent()) ?? "")
    .split(":")
    .map(Number);
  return minutes * 60 + seconds;
};

test("more time while it is written: shown beforehand, at the desk at once, said on the brief of the one alone", async ({
  browser,
}) => {
  test.setTimeout(150_000);
  const house = await House.open();
  try {
    const student = await house.page(browser, "bao.lindqvist");
    await startFromBrief(student, house, TIDES);
    const quiz = await house.quiz(TIDES);
    const ines = await house.page(browser, "ines.marsh");
    await ines.goto(`${house.url}/quizzes/${quiz}/staff`);
    await ines.getByRole("link", { name: "Times and allowances" }).click();
    await ines.locator("[data-ready=true]").waitFor();
    await expectAccessible(ines, "the times of a quiz");
    await ines.getByRole("button", { name: "Give an allowance" }).click();
    const picker = ines.getByRole("group", { name: "Students" });
    await picker.getByRole("searchbox").fill("lindq");
    await picker.getByRole("checkbox", { name: "Bao Lindqvist" }).check();
    await expect(picker.getByRole("status")).toHaveText("1 chosen: Bao Lindqvist");
    await ines.getByRole("textbox", { name: "Times the time limit" }).fill("1,5");
    const effect = ines.getByRole("region", { name: "What this does" });
    await expect(effect.getByText("30 min for you, two attempts")).toBeVisible();
    await expect(effect.getByRole("listitem")).toHaveText(/^Bao Lindqvist.+ → /);
    await expectAccessible(ines, "an allowance, before it is given");
    // Without a reason nothing is done, and what is missing is said.
    await effect.getByRole("button", { name: "Give it" }).click();
    await expect(effect.getByRole("alert")).toContainText("Say why first");
    expect(await clockOf(student)).toBeLessThanOrEqual(20 * 60);
    await effect.getByRole("textbox", { name: "Why (they read it)" }).fill("reads slowly");
    await effect.getByRole("button", { name: "Give it" }).click();
    await expect.poll(() => clockOf(student), { timeout: 10_000 }).toBeGreaterThan(25 * 60);
    await expect(ines.getByText("1.5 × the time")).toBeVisible();
    await expect(ines.getByText(/^Captain Ines Marsh, .+: reads slowly$/)).toBeVisible();

    const reader = await house.page(browser, "bao.lindqvist");
    await reader.goto(`${house.url}/quizzes/${quiz}`);
    await expect(reader.getByText("30 minutes for you")).toBeVisible();
    await reader.goto(`${house.url}/notices`);
    await expect(
      reader.getByText(/“Tides and clearances” now gives you 30 min\. reads slowly/),
    ).toBeVisible();
    const other = await house.page(browser, "noor.haldane");
    await other.goto(`${house.url}/quizzes/${quiz}`);
    await expect(other.getByText("20 minutes").first()).toBeVisible();
    await expect(other.getByText("for you")).toHaveCount(0);

    // Taken back on a telephone.
    await ines.setViewportSize({ width: 360, height: 720 });
    await ines.locator("[data-ready=true]").waitFor();
    await expectNoSideways(ines, "the times of a quiz on a telephone");
    await ines.getByRole("button", { name: "Take back the allowance of Bao Lindqvist" }).click();
    await expect(effect.getByText("20 min, two attempts")).toBeVisible();
    await expectAccessible(ines, "taking an allowance back");
    await effect.getByRole("textbox", { name: "Why (they read it)" }).fill("It was meant for another.");
    await effect.getByRole("button", { name: "Take it back" }).click();
    await expect.poll(() => clockOf(student), { timeout: 10_000 }).toBeLessThanOrEqual(20 * 60);
    await ines.getByText("1 earlier allowance").click();
    await expect(
      ines.getByText(/Taken back by Captain Ines Marsh, .+: It was meant for another\./),
    ).toBeVisible();
  } finally {
    await house.close();
  }
});

test("a window and who may take it, by keys alone; a section's own window; throughout the course", async ({
  browser,
}) => {
  test.setTimeout(150_000);
  const house = await House.open();
  try {
    await house.sql`insert into course_section (id, course_id, title, position)
      select gen_random_uuid(), id, 'Harbour group', 1 from course where slug = 'nav-110'`;
    await house.sql`insert into section_member (section_id, person_id)
      select s.id, p.id from course_section s, person p where s.title = 'Harbour group' and p.name in ('Bao Lindqvist', 'Dmitri Aske')`;
    const quiz = await house.quiz(TIDES);
    const page = await house.page(browser, "ines.marsh");
    await opened(house, page, `/quizzes/${quiz}/times`);
    const effect = page.getByRole("region", { name: "What this does" });
    await page.getByRole("combobox", { name: "Due" }).focus();
    await page.keyboard.type("none");
    await expect(effect.getByText(/students are told/)).toBeVisible();
    await page.getByRole("textbox", { name: "Time limit, in minutes" }).focus();
    await page.keyboard.press("Control+A");
    await page.keyboard.type("2x");
    await expect(effect.getByText("Write numbers only")).toBeVisible();
    await page.keyboard.press("Backspace");
    await page.keyboard.type("5");
    await expect(effect.getByText(/^25 min, two attempts/)).toBeVisible();
    await effect.getByRole("textbox").focus();
    await page.keyboard.type("The harbour is busy.");
    await page.keyboard.press("Tab");
    await page.keyboard.press("Enter");
    const student = await house.page(browser, "bao.lindqvist");
    await expect(async () => {
      await student.goto(`${house.url}/quizzes/${quiz}`);
      await expect(student.getByText("25 minutes").first()).toBeVisible({ timeout: 1_000 });
    }).toPass();

    await opened(house, page, `/quizzes/${quiz}/times`);
    await page.getByRole("radio", { name: /^Only some/ }).check();
    await expect(effect.getByText("Choose at least one student")).toBeVisible();
    await page.getByRole("button", { name: "Add Harbour group" }).click();
    await effect.getByRole("textbox").fill("A second sitting.");
    await expect(effect.getByText(/students are told/)).toBeVisible();
    await effect.getByRole("button", { name: "Set it so" }).click();
    const outside = await house.page(browser, "noor.haldane");
    await expect(async () => {
      await outside.goto(`${house.url}/quizzes/${quiz}`);
      await expect(outside.getByText("This quiz is set for some students")).toBeVisible({ timeout: 1_000 });
    }).toPass();

    await opened(house, page, `/quizzes/${quiz}/times`);
    await page.getByRole("button", { name: "Give an allowance" }).click();
    await page
      .getByRole("combobox", { name: "To whom" })
      .selectOption({ label: "Harbour group, 2 students" });
    await page.getByRole("combobox", { name: "Opens" }).last().selectOption({ label: "on a date" });
    await expect(effect.getByText("A date is missing")).toBeVisible();
    await page.getByLabel("Opens: date and time").last().fill("2031-03-04T09:00");
    // What contradicts itself is said, with the dates.
    await expect(
      effect.getByText(/would be due or close before it opens .*opens Tue 4 Mar, 09:00/),
    ).toBeVisible();
    await page.getByRole("combobox", { name: "Closes" }).last().selectOption({ label: "on a date" });
    await page.getByLabel("Closes: date and time").last().fill("2031-03-04T11:00");
    await expect(effect.getByText(/^25 min, two attempts.*opens Tue 4 Mar, 09:00$/)).toBeVisible();
    await effect.getByRole("textbox").fill("Their own morning.");
    await effect.getByRole("button", { name: "Give it" }).click();
    await expect(page.getByText(/^Captain Ines Marsh, .+: Their own morning\.$/)).toBeVisible();
    await student.goto(`${house.url}/quizzes/${quiz}`);
    await expect(student.getByText("These times are your own.")).toBeVisible();

    await opened(house, page, "/courses/nav-110/allowances");
    await expect(page.getByRole("link", { name: TIDES })).toBeVisible();
    await page.getByRole("button", { name: "Give an allowance" }).click();
    await page.getByRole("checkbox", { name: "Noor Haldane" }).check();
    await page.getByRole("textbox", { name: "More minutes" }).fill("7");
    await effect.getByRole("textbox").fill("Agreed for the term.");
    await expect(effect.getByText("1 student is told.")).toBeVisible();
    await expectAccessible(page, "the allowances of a course");
    await effect.getByRole("button", { name: "Give it" }).click();
    await expect(page.getByText("7 more minutes")).toBeVisible();
    await outside.goto(`${house.url}/notices`);
    await expect(
      outside.getByText(
        "In all quizzes of Coastal Navigation you now have: 7 more minutes. Agreed for the term.",
      ),
    ).toBeVisible();
  } finally {
    await house.close();
  }
});
