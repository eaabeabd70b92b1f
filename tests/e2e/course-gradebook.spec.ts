import type { Page } from "@playwright/test";
import { expectAccessible, expectNoSideways } from "../support/accessible";
import { expect, House, test } from "../support/house";

const cell = (page: Page, words: string | RegExp) => page.getByRole("gridcell", { name: words });
const open = async (house: House, page: Page) => {
  await house.signIn(page, "ines.marsh");
  await page.goto(`${house.url}/courses/nav-110/gradebook`);
  await page.locator("[data-ready=true]").waitFor();
};

test("a mark is set by keys alone: the student reads it with its reason, and the way back is there", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await browser.newPage();
    await open(house, page);
    const grid = page.getByRole("grid", { name: "Gradebook of Coastal Navigation" });
    await expectAccessible(page, "the course's gradebook");
    await page.getByRole("searchbox").fill("haldane");
    await expect(page.getByRole("rowheader")).toHaveText(["Noor Haldane"]);
    await page.getByRole("searchbox").press("Tab");
    await expect(grid).toBeFocused();
    // The first key goes to the first cell, the next ones along.
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("ArrowRight");
    await expect(page.getByRole("heading", { name: "Compass and variation" })).toBeVisible();
    await expect(page.getByText("Noor Haldane sees 18.5 / 20.")).toBeVisible();
    await expectAccessible(page, "a cell's story");
    await page.keyboard.press("1");
    const field = page.getByRole("textbox", { name: "Marks out of 20" });
    await expect(field).toBeFocused();
    await expect(field).toHaveValue("1");
    await page.keyboard.type("2.5");
    await page.keyboard.press("Enter");
    await page.keyboard.type("The sketch was yours.");
    await page.keyboard.press("Enter");
    await expect(grid).toBeFocused();
    await expect(cell(page, "Noor Haldane, Compass and variation, 12.5 / 20, set")).toBeVisible();
    await expect(page.getByText("The work itself gave 18.5 / 20.")).toBeVisible();
    await expect(page.getByText("Noor Haldane sees 12.5 / 20.")).toBeVisible();

    const noor = await browser.newPage();
    await house.signIn(noor, "noor.haldane");
    await noor.goto(`${house.url}/notices`);
    await noor.getByRole("link", { name: /is set to 12.5 of 20 by your instructor/ }).click();
    await expect(noor).toHaveURL(/\/gradebook\/nav-110#work-/);
    await expect(noor.getByText("The sketch was yours.").first()).toBeVisible();

    // A mark above the maximum is refused in place, with nothing lost.
    await page.keyboard.press("9");
    await page.keyboard.type("9");
    await page.keyboard.press("Enter");
    await page.keyboard.type("Too much.");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert")).toHaveText("99 is above the maximum of 20.");
    await expect(field).toHaveValue("99");
    await expectAccessible(page, "a mark that is refused");
    await page.keyboard.press("Escape");
    await expect(grid).toBeFocused();

    await page.getByRole("textbox", { name: /^the reason/ }).fill("It was right after all.");
    await page.getByRole("button", { name: "Let the work itself count" }).click();
    await expect(cell(page, "Noor Haldane, Compass and variation, 18.5 / 20")).toBeVisible();
    await noor.goto(`${house.url}/gradebook/nav-110`);
    await expect(noor.getByText("The sketch was yours.")).toHaveCount(0);
  } finally {
    await house.close();
  }
});

test("for everyone who has nothing in it; and two instructors: what the other set is not written over", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    await house.sql`insert into enrolment (person_id, course_id, role) select p.id, c.id, 'instructor' from person p, course c
      where p.email = 'tomas.oyelaran@alderquay.example' and c.slug = 'nav-110'`;
    const page = await browser.newPage();
    await open(house, page);
    await page.getByRole("columnheader", { name: /Compass and variation/ }).click();
    const left = await page.getByRole("radio", { name: /who have nothing in it/ }).getAttribute("checked");
    expect(left).not.toBeNull();
    await expectAccessible(page, "a column");
    const tomas = await browser.newPage();
    await house.signIn(tomas, "tomas.oyelaran");
    await tomas.goto(`${house.url}/courses/nav-110/gradebook`);
    await cell(tomas, "Bartholomew Iyer, Compass and variation, nothing handed in").click();
    await tomas.getByRole("textbox", { name: "Marks out of 20" }).fill("4");
    await tomas.getByRole("textbox", { name: /^the reason/ }).fill("Said aloud.");
    await tomas.getByRole("button", { name: "Set", exact: true }).click();
    await expect(cell(tomas, "Bartholomew Iyer, Compass and variation, 4 / 20, set")).toBeVisible();

    await page.getByRole("textbox", { name: "Marks out of 20" }).fill("0");
    await page.getByRole("textbox", { name: /^the reason/ }).fill("Nothing came.");
    await page.getByRole("button", { name: "Set", exact: true }).click();
    await expect(page.getByRole("alert")).toContainText(
      "Tomas Oyelaran has set the mark of Bartholomew Iyer",
    );
    // What is on the screen is brought up to date when one comes back to it.
    await page.reload();
    await page.getByRole("columnheader", { name: /Compass and variation/ }).click();
    await page.getByRole("textbox", { name: "Marks out of 20" }).fill("0");
    await page.getByRole("textbox", { name: /^the reason/ }).fill("Nothing came.");
    await page.getByRole("button", { name: "Set", exact: true }).click();
    await expect(page.getByText(/^Set for \d+ students\.$/)).toBeVisible();
    await expect(cell(page, "Bartholomew Iyer, Compass and variation, 4 / 20, set")).toBeVisible();
    await expect(cell(page, "Daoud Wetherby, Compass and variation, 0 / 20, set")).toBeVisible();
  } finally {
    await house.close();
  }
});

test("marks as a table: what is wrong is named by its line, what would change is shown, then done", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await browser.newPage();
    await open(house, page);
    await page.getByRole("link", { name: "Bring marks in" }).click();
    await page.locator("[data-ready=true]").waitFor();
    await expectAccessible(page, "bringing marks in");
    const file = (text: string) => ({ name: "marks.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
    const chooser = page.getByLabel("A table of marks (CSV)");
    await chooser.setInputFiles(
      file("E-mail;Compass and variation\nnoor.haldane@alderquay.example;21\nnobody@alderquay.example;3\n"),
    );
    await expect(page.getByRole("heading", { name: "2 things to put right" })).toBeVisible();
    await expect(page.getByText("line 2")).toBeVisible();
    await expect(
      page.getByText("Nobody in this course has the address nobody@alderquay.example."),
    ).toBeVisible();
    await expectAccessible(page, "a table with mistakes");
    await chooser.setInputFiles(file("E-mail;Compass and variation\nnoor.haldane@alderquay.example;19,5\n"));
    await expect(page.getByRole("heading", { name: "It would set 1 mark" })).toBeVisible();
    await expect(page.getByRole("row", { name: /Noor Haldane/ })).toContainText("19.5");
    await expectAccessible(page, "what a table would change");
    await page.getByRole("textbox", { name: "the reason, told to each" }).fill("From the paper.");
    await page.getByRole("button", { name: "Set this mark" }).click();
    await expect(page.getByText("1 mark was set. Its student is told.")).toBeVisible();
    await page.getByRole("link", { name: "To the gradebook" }).click();
    await expect(cell(page, "Noor Haldane, Compass and variation, 19.5 / 20, set")).toBeVisible();
    const loading = page.waitForEvent("download");
    await page.getByRole("link", { name: "Take marks out" }).click();
    expect((await loading).suggestedFilename()).toBe("marks.csv");
  } finally {
    await house.close();
  }
});

test("what counts is changed with its effect beside it, told, and changed back", async ({ browser }) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await browser.newPage();
    await open(house, page);
    await page.getByRole("link", { name: "What counts", exact: true }).click();
    await page.locator("[data-ready=true]").waitFor();
    await expectAccessible(page, "what counts");
    await expect(
      page
        .getByRole("combobox", { name: /^Chartroom sitting, part one may stand in/ })
        .locator("option:checked"),
    ).toHaveText("Chart symbols");
    await page.getByRole("spinbutton", { name: "Lowest dropped" }).first().fill("0");
    const effect = page.getByRole("region", { name: "What it does" });
    await expect(effect).toContainText(/students? rises?|students? falls?|fall/);
    await expectAccessible(page, "the effect of a change");
    await page.getByRole("spinbutton", { name: "Lowest dropped" }).first().fill("40");
    await expect(effect).toContainText("Fewer than that can be dropped");
    await page.getByRole("spinbutton", { name: "Lowest dropped" }).first().fill("0");
    await effect.getByRole("textbox", { name: "The reason, told to everyone" }).fill("As agreed on Monday.");
    await effect.getByRole("button", { name: "Change what counts" }).click();
    await expect(page.getByText(/Captain Ines Marsh, .*: As agreed on Monday\./)).toBeVisible();
    const noor = await browser.newPage();
    await house.signIn(noor, "noor.haldane");
    await noor.goto(`${house.url}/gradebook/nav-110`);
    await expect(noor.getByText(/What counts was changed on .*: As agreed on Monday\./)).toBeVisible();
    await page.getByRole("button", { name: "Look at it again" }).click();
    await expect(page.getByRole("spinbutton", { name: "Lowest dropped" }).first()).toHaveValue("1");
  } finally {
    await house.close();
  }
});

test("on a telephone and at 200 % nothing goes sideways, and a cell is picked by touch", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    for (const viewport of [
      { width: 390, height: 844 },
      { width: 640, height: 400 },
    ]) {
      const page = await browser.newPage({ viewport, hasTouch: true, colorScheme: "dark" });
      await open(house, page);
      await cell(page, /^Amara Delorne-Whitfield, Compass/).tap();
      await expect(page.getByRole("heading", { name: "Compass and variation" })).toBeVisible();
      await expectNoSideways(page, "the course's gradebook");
      await expectAccessible(page, "the course's gradebook, by touch, at night");
      for (const path of ["bring", "what-counts"]) {
        await page.goto(`${house.url}/courses/nav-110/gradebook/${path}`);
        await page.locator("[data-ready=true]").waitFor();
        await expectNoSideways(page, path);
      }
      await page.close();
    }
  } finally {
    await house.close();
  }
});
