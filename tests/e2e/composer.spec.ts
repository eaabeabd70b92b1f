import type { Locator, Page } from "@playwright/test";
import { expectAccessible, expectNoSideways } from "../support/accessible";
import { allSaved, atDesk, expect, goTo, House, handIn, startFromBrief, test } from "../support/house";

const PICTURE = {
  name: "chart.png",
  mimeType: "image/png",
  // One point: what it shows does not matter here.
  buffer: Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  ),
};

const box = (page: Page | Locator, name: string | RegExp) => page.getByRole("textbox", { name });
const kept = (page: Page) => expect(page.locator("[data-saved=true]")).toBeVisible({ timeout: 20_000 });

/** Starts from the brief that is on the screen. */
async function start(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Start now" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Start the attempt" }).click();
  await atDesk(page);
}

/** Writes into an editor or a field as a person does. */
async function write(page: Page, name: string | RegExp, text: string): Promise<void> {
  const field = box(page, name).first();
  await field.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type(text);
}

async function begin(house: House, page: Page, title: string): Promise<void> {
  await page.goto(`${house.url}/courses/nav-110/writing`);
  await page.getByRole("textbox", { name: "Title of a new quiz" }).fill(title);
  await page.getByRole("button", { name: "Begin writing" }).click();
  await page.waitForURL("**/drafts/*");
  await page.locator("[data-ready=true]").waitFor();
}

async function add(page: Page, kind: string, text: string): Promise<void> {
  await page.getByRole("button", { name: "Add a question" }).click();
  await page.getByRole("menuitem", { name: new RegExp(`^${kind}`) }).click();
  // The new question waits for its words.
  await expect(box(page, "The question")).toBeFocused();
  await page.keyboard.type(text);
}

/** How a question of each kind is written. */
const KINDS: readonly { readonly kind: string; readonly does: (page: Page) => Promise<void> }[] = [
  {
    kind: "One of several",
    does: async (page) => {
      await write(page, "option A", "the ebb");
      await write(page, "option B", "the flood");
      await write(page, "option C", "slack water");
      await page.getByRole("button", { name: "Remove option D" }).click();
      await page.getByRole("radio", { name: "option B is right" }).check();
    },
  },
  {
    kind: "Several of several",
    does: async (page) => {
      for (const [letter, text] of [
        ["A", "red"],
        ["B", "green"],
        ["C", "blue"],
        ["D", "grey"],
      ])
        await write(page, `option ${letter}`, text ?? "");
      await page.getByRole("checkbox", { name: "option A is right" }).check();
      await page.getByRole("checkbox", { name: "option B is right" }).check();
    },
  },
  {
    kind: "True or false",
    does: (page) => page.getByRole("radio", { name: "True", exact: true }).check(),
  },
  {
    kind: "A short text",
    does: (page) => page.getByRole("textbox", { name: "answer 1", exact: true }).fill("ebb"),
  },
  {
    kind: "Numbers",
    does: async (page) => {
      await page.getByRole("button", { name: "Draw a number" }).click();
      await box(page, "number h from").fill("2");
      await box(page, "number h to").fill("4");
      await write(page, "The question", "How long are {h} m and one more?");
      await box(page, "Key of part a").fill("h + 1");
      await page
        .getByRole("combobox", { name: "How near part a has to be" })
        .selectOption({ label: "± a number" });
      await box(page, "How far off part a may be").fill("0.1");
      await box(page, "Unit of part a").fill("m");
    },
  },
  {
    kind: "Gaps in a text",
    does: async (page) => {
      await page.getByRole("button", { name: "Add a gap" }).click();
      await page.getByRole("textbox", { name: "answer 1", exact: true }).fill("flood");
    },
  },
  {
    kind: "Matching",
    does: async (page) => {
      for (const [nth, left, right] of [
        [1, "N", "north"],
        [2, "E", "east"],
        [3, "S", "south"],
      ] as const) {
        await write(page, `prompt ${nth}`, left);
        await write(page, `match ${"ABC"[nth - 1]}`, right);
      }
    },
  },
  {
    kind: "An order",
    does: async (page) => {
      for (const [nth, text] of ["one", "two", "three", "four"].entries())
        await write(page, `item ${nth + 1}`, text);
    },
  },
  {
    kind: "Places on a picture",
    does: async (page) => {
      await page.locator("input[type=file]").first().setInputFiles(PICTURE);
      await box(page, "What it shows, for who cannot see it").fill("A chart");
      await page.getByRole("button", { name: "Add a place" }).click();
      await box(page, "What is at place 1").fill("The light");
    },
  },
  {
    kind: "An essay",
    does: async (page) => {
      await page.getByRole("button", { name: "Mark by a rubric" }).click();
      await page.getByRole("textbox", { name: "criterion 1", exact: true }).fill("Order");
      for (const nth of [1, 2, 3])
        await box(page, `Title of level ${nth} of criterion 1`).fill(`level ${nth}`);
    },
  },
  { kind: "Files", does: (page) => page.getByRole("checkbox", { name: "PDF" }).check() },
  {
    kind: "A declaration",
    does: (page) => write(page, "statement A", "I wrote this myself."),
  },
];

const toPutRight = (page: Page) => page.getByRole("heading", { name: /to put right/ });

test("from nothing: all kinds written, tried with an allowance, assigned to a section, taken, its key changed, and marked again", async ({
  browser,
}) => {
  test.setTimeout(300_000);
  const house = await House.open();
  try {
    await house.sql`insert into course_section (id, course_id, title, position)
      select gen_random_uuid(), id, 'Tuesday group', 40 from course where slug = 'nav-110'`;
    await house.sql`insert into section_member (section_id, person_id)
      select s.id, p.id from course_section s, person p
      where s.title = 'Tuesday group' and p.email in ('bao.lindqvist@alderquay.example', 'josefa.lyle@alderquay.example')`;
    const page = await house.page(browser, "ines.marsh");
    page.setDefaultTimeout(30_000);
    await begin(house, page, "Everything at once");
    await expectAccessible(page, "a new draft");
    for (const { kind, does } of KINDS) {
      await add(page, kind, `A question of the kind ${kind}.`);
      await does(page);
      await expectAccessible(page, `composing: ${kind}`);
    }
    // Its whole list, so that a failure says which.
    await expect(toPutRight(page).locator("..")).toContainText("Nothing to put right", { timeout: 20_000 });
    await kept(page);

    // The rules: what students read follows.
    await page.getByRole("button", { name: "Rules", exact: true }).click();
    await box(page, "Time limit in minutes").fill("40");
    await box(page, "Time limit in minutes").press("Enter");
    await expect(page.getByRole("complementary")).toContainText("40 minutes");
    await expectAccessible(page, "the rules");
    await page.getByRole("button", { name: "Title and brief" }).click();
    await write(page, "What students read before they start", "Read chapter 3 first.");
    await expectAccessible(page, "title and brief");
    await kept(page);

    // Tried as a student with half as much time again.
    await page.getByRole("link", { name: "Take it as a student" }).click();
    await page.waitForURL("**/trial", { timeout: 20_000 });
    await page.locator("[data-ready=true]").waitFor();
    await expectAccessible(page, "trying it out");
    await box(page, "Time factor").fill("1.5");
    await page.getByRole("button", { name: "Take it", exact: true }).click();
    await expect(page.getByText("This is a trial.")).toBeVisible();
    await expect(page.getByText("Read chapter 3 first.")).toBeVisible();
    await expect(page.getByText(/60 minutes/).first()).toBeVisible();
    await expectAccessible(page, "the brief of a trial");
    await start(page);
    await expect(page.getByText("This is a trial.")).toBeVisible();
    await page.getByRole("radio", { name: "the flood" }).check();
    await allSaved(page);
    await handIn(page);
    await page.getByRole("button", { name: "Show what is shown after closing" }).click();
    await expect(page).toHaveURL(/\/paper$/);
    await expect(page.getByText("the flood").first()).toBeVisible();
    await expectAccessible(page, "the paper of a trial");
    await page.getByRole("button", { name: "End the trial" }).click();
    await expect(page).toHaveURL(/\/drafts\/[^/]+\/trial$/);
    await page.getByRole("link", { name: "Back to writing" }).click();
    await page.waitForURL("**/drafts/*");
    await page.locator("[data-ready=true]").waitFor();

    // Assigned to a section.
    await page.getByRole("link", { name: /^Assign/ }).click();
    await page.waitForURL("**/assign");
    await page.locator("[data-ready=true]").waitFor();
    await page.getByRole("combobox", { name: "Closes" }).selectOption({ label: "on a date" });
    await page.getByLabel(/^Closes: date and time|^Closes.*date/).fill("2031-01-01T12:00");
    await page.getByRole("radio", { name: "Only sections, or people" }).check();
    await page.getByRole("button", { name: "Add Tuesday group" }).first().click();
    await expect(page.getByText(/It is set for/)).toBeVisible();
    await expectAccessible(page, "assigning");
    await page.getByRole("button", { name: "Assign it" }).click();
    await expect(page.getByRole("status")).toContainText("is assigned to");
    await expectAccessible(page, "assigned");
    await page.getByRole("link", { name: "To the quiz" }).click();
    await expect(page.getByRole("heading", { name: "Everything at once" })).toBeVisible();

    // Taken by a student of that section.
    const [taker] = await house.sql`select p.email from assignment a join person p on p.id = a.person_id
      where a.quiz_id = ${await house.quiz("Everything at once")} order by p.email limit 1`;
    const name = String(taker?.email).split("@")[0] ?? "";
    const student = await house.page(browser, name);
    student.setDefaultTimeout(30_000);
    await startFromBrief(student, house, "Everything at once");
    await student.getByRole("radio", { name: "the ebb" }).check();
    await allSaved(student);
    await goTo(student, 5);
    await expect(student.getByText(/How long are [234] m and one more\?/).first()).toBeVisible();
    await handIn(student);

    // The key was wrong: changed, assigned again, and marked again.
    await page.getByRole("button", { name: "Write", exact: true }).click();
    await page.waitForURL("**/drafts/*");
    await page.locator("[data-ready=true]").waitFor();
    await page.getByRole("button", { name: /A question of the kind One of several/ }).click();
    await page.getByRole("radio", { name: "option A is right" }).check();
    await kept(page);
    await page.getByRole("link", { name: /^Assign the changes/ }).click();
    await page.waitForURL("**/assign");
    await page.locator("[data-ready=true]").waitFor();
    await expect(page.getByText("reads the same; it is marked or explained otherwise")).toBeVisible();
    await box(page, "Why (it goes on record)").fill("The key was wrong.");
    await page.getByRole("button", { name: "Assign the changes" }).click();
    await page.getByRole("link", { name: /^Mark again/ }).click();
    await expect(page.getByRole("heading", { name: "Mark all by the key as it stands now" })).toBeVisible();
    await page.getByLabel("Reason, told to the students").fill("The key was wrong.");
    await page.getByRole("button", { name: "Mark again" }).click();
    await expect
      .poll(
        async () => {
          const [row] =
            await house.sql`select earned from attempt where quiz_id = ${await house.quiz("Everything at once")}`;
          return Number(row?.earned);
        },
        { timeout: 30_000 },
      )
      .toBe(1);
  } finally {
    await house.close();
  }
});

test("by keys alone: written, put in another order, undone, tried with the key, assigned", async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    await page.goto(`${house.url}/courses/nav-110/writing`);
    // A field that does not listen yet takes no focus.
    await page.locator("[data-ready=true]").first().waitFor();
    await page.getByRole("textbox", { name: "Title of a new quiz" }).focus();
    await page.keyboard.type("By keys");
    await page.keyboard.press("Enter");
    await page.waitForURL("**/drafts/*");
    await page.locator("[data-ready=true]").waitFor();
    const press = async (name: string, key = "Enter") => {
      await page.getByRole("button", { name }).first().focus();
      await page.keyboard.press(key);
    };
    const choose = async (kind: string) => {
      await press("Add a question");
      await page.keyboard.type(kind.slice(0, 4));
      await expect(page.getByRole("menuitem", { name: new RegExp(`^${kind}`) })).toBeFocused();
      await page.keyboard.press("Enter");
      await expect(box(page, "The question")).toBeFocused();
    };
    await choose("True or false");
    await page.keyboard.type("It ebbs twice a day.");
    // From the question with Tab alone to its key.
    const right = page.getByRole("radio", { name: "True", exact: true });
    for (let i = 0; i < 12 && !(await right.evaluate((each) => each === document.activeElement)); i += 1)
      await page.keyboard.press("Tab");
    await expect(right).toBeFocused();
    await page.keyboard.press("Space");
    await choose("An order");
    await page.keyboard.type("From north to south.");
    for (const [nth, text] of ["Thule", "Ness", "Quay", "Bar"].entries()) {
      await box(page, `item ${nth + 1}`).focus();
      await page.keyboard.type(text);
    }
    // Alt with the arrows moves the row that one writes in.
    await box(page, "item 4").focus();
    await page.keyboard.press("Alt+ArrowUp");
    await expect(box(page, "item 3")).toHaveText("Bar");
    await page.keyboard.press("ControlOrMeta+z");
    await expect(box(page, "item 3")).toHaveText("Quay");
    await page.keyboard.press("ControlOrMeta+Shift+z");
    await expect(box(page, "item 3")).toHaveText("Bar");
    // The paper: the second question becomes the first, and goes out and comes back.
    const lines = page.getByRole("navigation", { name: "The paper" }).locator("[data-question]");
    await lines.nth(1).focus();
    await page.keyboard.press("Alt+ArrowUp");
    await expect(lines.first()).toContainText("From north to south");
    await lines.first().focus();
    await page.keyboard.press("Delete");
    await expect(lines).toHaveCount(1);
    await page.keyboard.press("ControlOrMeta+z");
    await expect(lines).toHaveCount(2);
    await press("Try the key");
    await expect(toPutRight(page)).toHaveText("Nothing to put right", { timeout: 20_000 });
    await kept(page);
    await page.getByRole("link", { name: /^Assign/ }).focus();
    await page.keyboard.press("Enter");
    await page.waitForURL("**/assign");
    await page.locator("[data-ready=true]").waitFor();
    await page.getByRole("combobox", { name: "Closes" }).selectOption({ label: "on a date" });
    await page.getByLabel(/^Closes.*date/).fill("2031-01-01T12:00");
    await expect(page.getByText(/It is set for/)).toBeVisible();
    await press("Assign it");
    await expect(page.getByRole("status")).toContainText("is assigned to");
  } finally {
    await house.close();
  }
});

test("nothing written is lost: the server killed, the network cut, the page closed, two authors", async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    await begin(house, page, "Kept");
    await add(page, "An essay", "Before the server died.");
    await kept(page);
    await house.kill();
    await write(page, "The question", "While there was no server.");
    await expect(page.getByText(/Kept on this device/)).toBeVisible({ timeout: 20_000 });
    await house.restart();
    await kept(page);

    // The lid is closed while there is no network.
    await page.context().setOffline(true);
    await write(page, "The question", "Without a network.");
    await expect(page.getByText(/Kept on this device/)).toBeVisible({ timeout: 20_000 });
    const address = page.url();
    const again = await page.context().newPage();
    await page.close();
    await again.context().setOffline(false);
    await again.goto(address);
    await expect(box(again, "The question")).toHaveText("Without a network.");
    await kept(again);

    // Another author writes in the same place: both states are there, and one of them is chosen.
    await house.sql`insert into enrolment (course_id, person_id, role)
      select c.id, p.id, 'instructor' from course c, person p
      where c.slug = 'nav-110' and p.email = 'tomas.oyelaran@alderquay.example'`;
    const tomas = await house.page(browser, "tomas.oyelaran");
    await tomas.goto(address);
    await expect(box(tomas, "The question")).toHaveText("Without a network.");
    await expect(again.getByText(/Tomas.* has this draft open too/)).toBeVisible({ timeout: 20_000 });
    await again.context().setOffline(true);
    await write(again, "The question", "As Ines has it.");
    await write(tomas, "The question", "As Tomas has it.");
    await kept(tomas);
    await again.context().setOffline(false);
    const alert = again.getByRole("alert").filter({ hasText: "wrote here meanwhile" });
    await expect(alert).toContainText("As Tomas has it.", { timeout: 20_000 });
    await expect(box(again, "The question")).toHaveText("As Ines has it.");
    await expectAccessible(again, "two states of one question");
    await alert.getByRole("button", { name: "Let mine stand" }).click();
    await kept(again);
    await expect(box(tomas, "The question")).toHaveText("As Ines has it.", { timeout: 20_000 });

    // Both put a question in at once: both are there.
    await again.context().setOffline(true);
    await add(again, "True or false", "By Ines.");
    await add(tomas, "True or false", "By Tomas.");
    await kept(tomas);
    await again.context().setOffline(false);
    await kept(again);
    for (const each of [again, tomas])
      for (const text of ["By Ines.", "By Tomas."])
        await expect(each.getByRole("navigation", { name: "The paper" })).toContainText(text, {
          timeout: 20_000,
        });

    // A saved state is brought back.
    await again.getByRole("button", { name: "Saved states" }).click();
    await expectAccessible(again, "saved states");
  } finally {
    await house.close();
  }
});

test("a colleague with a link checks that quiz and sees nothing else, until the link ends", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    await begin(house, page, "To be checked");
    await add(page, "True or false", "It ebbs.");
    await page.getByRole("radio", { name: "True", exact: true }).check();
    await kept(page);
    await page.getByRole("link", { name: "Take it as a student" }).click();
    await page.waitForURL("**/trial", { timeout: 20_000 });
    await page.locator("[data-ready=true]").waitFor();
    await box(page, "For whom").fill("Dr Petrides");
    await page.getByRole("button", { name: "Make a link" }).click();
    const address = await box(page, "The address").inputValue();
    await expectAccessible(page, "a link");

    const other = await browser.newPage();
    await other.goto(address);
    await expectAccessible(other, "following a link");
    await other.getByRole("button", { name: "Take it as a student" }).click();
    await expect(other.getByText("This is a trial.")).toBeVisible();
    const quizPage = other.url();
    await start(other);
    await other.getByRole("radio", { name: "True", exact: true }).check();
    await allSaved(other);
    for (const path of ["/today", "/courses/nav-110", new URL(page.url()).pathname]) {
      await other.goto(house.url + path);
      await expect(other).toHaveURL(/\/sign-in/);
    }
    await page.getByRole("button", { name: /^End the link/ }).click();
    await expect(page.getByRole("button", { name: /^End the link/ })).toHaveCount(0);
    await other.goto(quizPage);
    await expect(other).toHaveURL(/\/sign-in/);
    const response = await other.goto(address);
    expect(response?.status()).toBe(404);
    await other.close();
  } finally {
    await house.close();
  }
});

test("on a telephone and at 200 % nothing goes sideways, and at night it can be read", async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    await page.goto(`${house.url}/quizzes/${await house.quiz("Tides and clearances")}/staff`);
    await page.getByRole("button", { name: "Write", exact: true }).click();
    await page.waitForURL("**/drafts/*");
    await page.locator("[data-ready=true]").waitFor();
    await page.getByRole("button", { name: /High water at Alder Quay/ }).click();
    for (const viewport of [
      { width: 390, height: 844 },
      { width: 640, height: 400 },
    ]) {
      await page.setViewportSize(viewport);
      await expectNoSideways(page, "the composer");
    }
    await page.emulateMedia({ colorScheme: "dark" });
    await expectAccessible(page, "the composer, at night");
  } finally {
    await house.close();
  }
});

test("what is told by itself moves nothing under a press", async ({ browser }) => {
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    page.setDefaultTimeout(30_000);
    await begin(house, page, "Pressed");
    await add(page, "Numbers", "How long?");
    await kept(page);
    await expect(toPutRight(page)).toContainText("1 thing");
    const button = page.getByRole("button", { name: "Draw a number" });
    await box(page, "Key of part a").fill("2");
    await expect(toPutRight(page)).toHaveText("Nothing to put right");
    // The key becomes wrong; what is said of it would move the button that is pressed meanwhile.
    const saved = page.waitForResponse((response) => response.url().endsWith("/pieces"));
    await box(page, "Key of part a").fill("q +");
    await button.hover();
    await page.mouse.down();
    await saved;
    await expect(toPutRight(page)).toHaveText("Nothing to put right");
    await page.mouse.up();
    await expect(box(page, "number h from")).toBeVisible();
    await expect(toPutRight(page)).toContainText("1 thing");
  } finally {
    await house.close();
  }
});

test("twenty questions as text, taken out as an archive and brought in again; how it feels is said", async ({
  browser,
}) => {
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    page.setDefaultTimeout(30_000);
    await begin(house, page, "Quickly");
    await page.getByRole("button", { name: "Add a question" }).click();
    await page.getByRole("menuitem", { name: /^Many at once/ }).click();
    const text = box(page, "Questions as text");
    await expectAccessible(page, "many at once, empty");
    await page.getByRole("button", { name: "Put an example in" }).click();
    await expect(page.getByRole("button", { name: "Put 3 questions in" })).toBeEnabled();
    const many = Array.from(
      { length: 20 },
      (_, i) => `Question ${i + 1}: what runs out?\nright: the ebb\nwrong: the flood\nwrong: the lead`,
    );
    await text.fill(
      ["section: Streams", ...many]
        .join("\n\n")
        .replace("Question 7: what runs out?\nright", "Question 7: what runs out?\nrihgt"),
    );
    // Told by its line, and one step from it; nothing is put in.
    const mistake = page.getByRole("listitem").getByRole("button").first();
    await expect(mistake).toContainText("Line");
    await expect(page.getByRole("button", { name: /^Put/ })).toBeDisabled();
    await expectAccessible(page, "many at once, with a mistake");
    await mistake.click();
    await expect(text).toBeFocused();
    const chosen = await text.evaluate((area: HTMLTextAreaElement) =>
      area.value.slice(area.selectionStart, area.selectionEnd),
    );
    expect(chosen).toBe("rihgt: the ebb");
    // Closed and opened again, it is still there.
    await page.getByRole("button", { name: "Close" }).click();
    await page.getByRole("button", { name: "Add a question" }).click();
    await page.getByRole("menuitem", { name: /^Many at once/ }).click();
    await expect(text).toHaveValue(/rihgt/);
    await text.fill(["section: Streams", ...many].join("\n\n"));
    await page.getByRole("button", { name: "Put 20 questions in" }).click();
    await expect(page.getByText("20 questions, 20 marks")).toBeVisible();
    await expect(page.getByRole("heading", { name: "How it will feel" })).toBeVisible();
    await expect(page.getByText(/20 questions in 20 minutes|About \d+ min of 20 min/).first()).toBeVisible();
    await kept(page);
    // One step, undone and done again.
    await page.getByRole("button", { name: /^Undo/ }).click();
    await expect(page.getByText("0 questions, 0 marks")).toBeVisible();
    await page.getByRole("button", { name: /^Do again/ }).click();
    await expect(page.getByText("20 questions, 20 marks")).toBeVisible();
    await kept(page);

    const coming = page.waitForEvent("download");
    await page.getByRole("link", { name: "Take out as a file" }).click();
    const archive = await (await coming).path();
    await page.goto(`${house.url}/courses/nav-110/writing`);
    await page.locator("[data-ready=true]").first().waitFor();
    await expectAccessible(page, "what is being written");
    const field = page.locator("input[type=file]");
    await field.setInputFiles({
      name: "wrong.zip",
      mimeType: "application/zip",
      buffer: Buffer.from("PK nothing"),
    });
    await expect(page.getByRole("alert")).toContainText("cannot be unpacked");
    // One that is not wanted is put away, and had back.
    await page.getByRole("button", { name: /^Put away/ }).click();
    await page.getByText("1 draft was put away").click();
    await expectAccessible(page, "a draft that was put away");
    await page.getByRole("button", { name: /^Bring back/ }).click();
    await expect(page.getByRole("link", { name: "Quickly" })).toBeVisible();
    await page.locator("[data-ready=true]").first().waitFor();
    await field.setInputFiles(archive);
    await page.waitForURL("**/drafts/*");
    await page.locator("[data-ready=true]").waitFor();
    await expect(page.getByText("20 questions, 20 marks")).toBeVisible();
    await expect(toPutRight(page)).toHaveText("Nothing to put right");
  } finally {
    await house.close();
  }
});

test("a question of one quiz is put into the bank, followed in another, changed for both, and drawn by its topic", async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    page.setDefaultTimeout(30_000);
    await page.goto(`${house.url}/courses/nav-110/bank`);
    await expect(page.getByText("The bank is empty.")).toBeVisible();
    await expectAccessible(page, "an empty bank");
    const putIn = async (text: string) => {
      await add(page, "True or false", text);
      await page.getByRole("radio", { name: "True", exact: true }).check();
      await page.getByRole("button", { name: "Put it into the bank" }).click();
      await box(page, "Tags, with commas between them").fill("short, easy");
      await page.getByLabel("Topic").fill("Tides");
      await expectAccessible(page, "putting a question into the bank");
      await page.getByRole("button", { name: "Put it in", exact: true }).click();
      await expect(page.getByText("As the bank has it (version 1).")).toBeVisible();
    };
    await begin(house, page, "Where they come from");
    await putIn("It ebbs twice a day.");
    await putIn("It floods at night alone.");

    await begin(house, page, "Where they go");
    await page.getByRole("button", { name: "Add a question" }).click();
    await page.getByRole("menuitem", { name: "From the bank" }).click();
    await page.getByRole("searchbox").fill("twice easy");
    await expect(page.getByText("1 question", { exact: true })).toBeVisible();
    await expectAccessible(page, "taking from the bank");
    await page.getByRole("checkbox", { name: /It ebbs twice a day/ }).check();
    await page.getByRole("button", { name: "Put 1 question in" }).click();
    await expect(box(page, "The question")).toHaveText("It ebbs twice a day.");
    await expect(page.getByText("As the bank has it (version 1).")).toBeVisible();
    await kept(page);
    const other = page.url();

    // Changed where it comes from, it is that quiz's own until it is put back; then the other has it too.
    await page.goto(`${house.url}/courses/nav-110/writing`);
    await page.getByRole("link", { name: "Where they come from" }).click();
    await page.waitForURL("**/drafts/*");
    await page.locator("[data-ready=true]").waitFor();
    await write(page, "The question", "It ebbs about twice a day.");
    await expect(page.getByText("this quiz’s own now")).toBeVisible();
    await page.getByRole("button", { name: "Put it into the bank as its next version" }).click();
    await expect(page.getByLabel("Topic")).toHaveValue("Tides");
    await page.getByRole("button", { name: "Put it in", exact: true }).click();
    await expect(page.getByText("As the bank has it (version 2).")).toBeVisible();
    await page.goto(other);
    await page.locator("[data-ready=true]").waitFor();
    await expect(box(page, "The question")).toHaveText("It ebbs about twice a day.");

    // A section draws from the topic.
    await page.getByRole("button", { name: "Add a question" }).click();
    await page.getByRole("menuitem", { name: "A section" }).click();
    await page.getByRole("combobox", { name: "Topic" }).selectOption("Tides");
    await expect(page.getByText("2 questions there now")).toBeVisible();
    await box(page, "No question twice within this many attempts").fill("2");
    await page.keyboard.press("Tab");
    await expect(page.getByText("Of 2 with 1 drawn, that holds for 2 attempts.")).toBeVisible();
    await expectAccessible(page, "a section that draws from the bank");
    await kept(page);
    await expect(toPutRight(page)).toHaveText("Nothing to put right");
    await page.getByText(/worth another look/).click();
    await expect(page.getByText("it stands twice in this quiz")).toBeVisible();
    await page.getByRole("link", { name: /^Assign/ }).click();
    await page.waitForURL("**/assign");
    await page.locator("[data-ready=true]").waitFor();
    await page.getByRole("combobox", { name: "Closes" }).selectOption({ label: "on a date" });
    await page.getByLabel(/^Closes.*date/).fill("2031-01-01T12:00");
    await page.getByRole("button", { name: "Assign it" }).click();
    await expect(page.getByRole("status")).toContainText("is assigned to");

    await page.goto(`${house.url}/courses/nav-110/bank?words=twice`);
    await expect(page.getByRole("link", { name: "Where they go" })).toBeVisible();
    await page.getByText("the whole of it, versions, topic and tags").click();
    await expect(page.getByText("version 2:")).toBeVisible();
    await expectAccessible(page, "the bank");
    await page.getByRole("button", { name: /^Put away/ }).click();
    await page.getByRole("button", { name: "Put it away" }).click();
    await expect(page.getByText("No question has all of that.")).toBeVisible();

    // Nobody who studies comes near it.
    const student = await house.page(browser, "noor.haldane");
    for (const path of ["/courses/nav-110/bank", `/api/drafts/${other.split("/").at(-1)}/bank`]) {
      const answer = await student.request.get(`${house.url}${path}`);
      expect(answer.status()).toBe(404);
      expect(await answer.text()).not.toContain("twice a day");
    }
  } finally {
    await house.close();
  }
});

test("a term is copied: its dates moved together, a break left out, and filled in where each is assigned", async ({
  browser,
}) => {
  const house = await House.open();
  try {
    const page = await house.page(browser, "ines.marsh");
    page.setDefaultTimeout(30_000);
    await house.sql`update quiz set opens = '2026-11-09T09:00Z', due = '2026-11-13T17:00Z', closes = '2026-11-13T18:00Z'
      where title = 'Tides and clearances'`;
    await page.goto(`${house.url}/courses/nav-110/writing`);
    await page.getByRole("link", { name: /^Copy quizzes/ }).click();
    await page.locator("[data-ready=true]").waitFor();
    await expectAccessible(page, "copying quizzes");
    // Only one of them.
    for (const tick of await page.getByRole("row").getByRole("checkbox").all())
      if (!(await tick.evaluate((box: HTMLInputElement) => box.labels?.[0]?.textContent?.includes("Tides"))))
        await tick.uncheck();
    const copy = page.getByRole("button", { name: "Copy 1 quiz" });
    await expect(copy).toBeDisabled();
    await page.getByLabel(/^The first date was/).fill("2031-02-03");
    await page.getByRole("button", { name: "Add a break" }).click();
    await page.getByLabel("Break 1: from").fill("2031-02-03");
    await page.getByLabel("Break 1: to, included").fill("2031-02-02");
    await expect(copy).toBeDisabled();
    await page.getByLabel("Break 1: to, included").fill("2031-02-07");
    const row = page.getByRole("row").filter({ hasText: "Tides and clearances" });
    await expect(row).toContainText(/10 Feb\w* 2031/);
    await expect(row).toContainText(/14 Feb\w* 2031/);
    await expectAccessible(page, "copying with a break");
    await copy.click();
    await page.waitForURL("**/writing");
    await page.getByRole("link", { name: "Tides and clearances" }).click();
    await page.waitForURL("**/drafts/*");
    await page.locator("[data-ready=true]").waitFor();
    await expect(toPutRight(page)).toHaveText("Nothing to put right");
    await page.getByRole("link", { name: /^Assign/ }).click();
    await page.waitForURL("**/assign");
    await page.locator("[data-ready=true]").waitFor();
    await expect(page.getByLabel(/^Opens.*date/)).toHaveValue("2031-02-10T09:00");
    await expect(page.getByLabel(/^Closes.*date/)).toHaveValue("2031-02-14T18:00");
  } finally {
    await house.close();
  }
});
