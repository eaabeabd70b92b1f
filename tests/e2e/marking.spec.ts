import type { Page } from "@playwright/test";
import { expectAccessible, expectNoSideways } from "../support/accessible";
import { allSaved, atDesk, attemptIn, expect, goTo, House, handIn, test } from "../support/house";
import { makeContent } from "../support/marked-work";

const RUBRIC = {
  criteria: [
    {
      id: "cause",
      title: "Cause",
      levels: [
        { id: "none", title: "none", points: 0 },
        { id: "one", title: "one", points: 1 },
        { id: "all", title: "with its reason", points: 3 },
      ],
    },
    {
      id: "test",
      title: "Test",
      levels: [
        { id: "none", title: "none", points: 0 },
        { id: "fair", title: "a fair test", points: 2 },
      ],
    },
  ],
};

const FILE = (title: string) => ({
  format: "shizuka-quiz",
  version: 1,
  title,
  rules: { order: "free" },
  sections: [
    {
      questions: [
        {
          id: "why",
          kind: "essay",
          text: "<p>Why are there more on the bank?</p>",
          marks: 5,
          rubric: RUBRIC,
          model: "<p>Warmth.</p>",
        },
        {
          id: "page",
          kind: "upload",
          text: "<p>The page.</p>",
          marks: 4,
          allows: ["pdf", "picture"],
          mostFiles: 1,
        },
      ],
    },
  ],
});
const SETTINGS = {
  attempts: 1,
  counts: "best",
  reveal: {
    total: "at-hand-in",
    marks: "at-hand-in",
    written: "at-hand-in",
    right: "never",
    worked: "when-returned",
  },
};

/** A PDF of one empty page. */
const PDF = Buffer.from(
  "%PDF-1.4\n1 0 obj\n<< /Type /Catalog /Pages 2 0 R >>\nendobj\n2 0 obj\n<< /Type /Pages /Kids [3 0 R] /Count 1 >>\nendobj\n3 0 obj\n<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] >>\nendobj\nxref\n0 4\n0000000000 65535 f \n0000000009 00000 n \n0000000058 00000 n \n0000000115 00000 n \ntrailer\n<< /Size 4 /Root 1 0 R >>\nstartxref\n187\n%%EOF\n",
);

const room = (page: Page) => page.locator("[data-ready=true]").waitFor();
const saved = (page: Page) =>
  expect(page.getByRole("contentinfo").getByRole("status")).toContainText("All saved");

/** A student writes the essay, brings the page, and hands in. */
async function handedIn(page: Page, house: House, quizId: string, words: string): Promise<string> {
  await page.goto(`${house.url}/quizzes/${quizId}`);
  await page.getByRole("button", { name: "Start now" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Start the attempt" }).click();
  await atDesk(page);
  const attempt = attemptIn(page);
  await page.getByRole("textbox").first().fill(words);
  await goTo(page, 2);
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: /^Choose/ }).click();
  await (await chooser).setFiles({ name: "my page by me.pdf", mimeType: "application/pdf", buffer: PDF });
  await expect(page.getByText("my page by me.pdf").first()).toBeVisible();
  await expect.poll(() => house.answer(attempt, 2)).not.toBeNull();
  await allSaved(page);
  await handIn(page);
  return attempt;
}

test("the whole circle by two people: handed in, marked by rubric, keys and margin, invisible until returned, read, asked about, changed, taken back", async ({
  browser,
  house,
}) => {
  test.setTimeout(120_000);
  const { quizId } = await makeContent(house.sql, "pol-101", FILE("The circle"), SETTINGS, "9");
  const student = await house.page(browser, "keziah.rowden");
  const attempt = await handedIn(
    student,
    house,
    quizId,
    "The bank is dry by eight, so the day is two hours longer there. I would count both at once.",
  );
  const paperText = async () => {
    await student.goto(`${house.url}/attempts/${attempt}/paper?all`);
    // biome-ignore lint/performance/useDomNodeTextContent: what can be read, not what a script holds
    return student.locator("body").innerText();
  };
  expect(await paperText()).toContain("waits for your instructor");

  // Today, the quiz, the room: each one step from the next.
  const okafor = await house.page(browser, "adaeze.okafor");
  await expect(okafor.getByText("2 answers await marking").first()).toBeVisible();
  await expectAccessible(okafor, "today for staff");
  await okafor.goto(`${house.url}/quizzes/${quizId}/staff`);
  await expectAccessible(okafor, "a quiz for staff");
  await okafor.getByRole("link", { name: "Mark", exact: true }).click();
  await room(okafor);
  await expect(okafor.getByRole("main").getByText("Keziah Rowden").first()).toBeVisible();
  await expectAccessible(okafor, "the marking room");

  // By keys: a level for each criterion, and a note beside words.
  await okafor.keyboard.press("3");
  await okafor.keyboard.press("2");
  await expect(okafor.getByText("5 / 5", { exact: false }).first()).toBeVisible();
  await okafor.keyboard.press("z");
  await expect(okafor.getByText("1 criterion left")).toBeVisible();
  await okafor.keyboard.press("2");
  await okafor.locator("[data-answer]").evaluate((answer) => {
    const text = answer.querySelector("p")?.firstChild as Text;
    const at = text.data.indexOf("two hours longer");
    getSelection()?.setBaseAndExtent(text, at, text, at + "two hours longer".length);
  });
  await okafor.keyboard.press("m");
  const note = okafor.getByRole("textbox", { name: "Note 1" });
  await expect(note).toBeFocused();
  await okafor.keyboard.type("Not more bees, but more hours. /care");
  await expect(okafor.getByRole("option", { name: /Careful with/ })).toBeVisible();
  await okafor.keyboard.press("Enter");
  await expect(note).toHaveValue(/Careful with “more”/);
  await okafor.keyboard.press("Escape");
  await expect(okafor.locator("mark[data-passage]")).toHaveText(/two hours longer/);
  await saved(okafor);

  // The page: a place on it, marks by typing.
  await okafor.getByRole("combobox", { name: "Question", exact: true }).selectOption({ index: 1 });
  await okafor.getByRole("button", { name: /Keziah Rowden/ }).click();
  const page = okafor.locator("canvas[data-page='1']");
  await expect(page).toBeVisible();
  await expect.poll(() => page.evaluate((canvas: HTMLCanvasElement) => canvas.width)).toBeGreaterThan(400);
  await page.click({ position: { x: 120, y: 90 } });
  await expect(okafor.getByRole("textbox", { name: "Note 1" })).toBeFocused();
  await okafor.keyboard.type("Date and wind are missing here.");
  await okafor.keyboard.press("Escape");
  await okafor.keyboard.press("3");
  await okafor.getByRole("textbox", { name: "On the whole question" }).fill("Clear, but short.");
  await saved(okafor);
  await expectAccessible(okafor, "a page in the marking room");

  // Nothing of it is shown to its student, in no response.
  const caller = await house.caller(student.request, "keziah.rowden");
  for (const path of [
    `/attempts/${attempt}/paper?all`,
    `/attempts/${attempt}/slip`,
    "/today",
    "/notices",
    "/gradebook/pol-101",
    "/profile/own-data",
  ]) {
    const { text } = await caller.get(path);
    for (const words of ["more hours", "Date and wind", "Clear, but short"])
      expect(text, path).not.toContain(words);
  }

  // Returned: told once, read with the words beside what they are about.
  await okafor.goto(`${house.url}/quizzes/${quizId}/returning`);
  await expectAccessible(okafor, "returning");
  await okafor.getByRole("link", { name: /as its student will read it/ }).click();
  await expect(okafor.getByText("Nothing of this is shown to anyone yet.")).toBeVisible();
  await expect(okafor.getByText("Date and wind are missing here.")).toBeVisible();
  await okafor.getByRole("link", { name: "Back to returning" }).click();
  await okafor.getByRole("button", { name: /Return what is ready/ }).click();
  await okafor.getByRole("alertdialog").getByRole("button", { name: "Return", exact: true }).click();
  await expect(okafor.getByText(/returned .*today/).first()).toBeVisible();
  const read = await paperText();
  for (const words of [
    "more hours",
    "Date and wind are missing here.",
    "Clear, but short.",
    "with its reason",
    "8 / 9",
  ])
    expect(read.replace(/\s+/g, " ")).toContain(words);
  await expect(student.locator("mark[data-passage]")).toHaveText(/two hours longer/);
  await student.getByText("my page by me.pdf").first().scrollIntoViewIfNeeded();
  await expect(student.locator("canvas[data-page='1']")).toBeVisible();
  await expectAccessible(student, "the paper with notes on words and on a page");

  // Asked about, answered, changed with a reason.
  await student.goto(`${house.url}/attempts/${attempt}/paper?q=2`);
  await student.locator("#ask-2 summary").click();
  await student.getByRole("textbox").last().fill("The wind stands in the corner below. Does it not count?");
  await student.getByRole("button", { name: /Ask|Send/ }).click();
  await okafor.goto(`${house.url}/today`);
  await okafor.goto(`${house.url}/questions?quiz=${quizId}`);
  await expectAccessible(okafor, "questions about marks");
  await okafor.getByRole("textbox", { name: /Answer Keziah/ }).fill("It does; I had not seen it.");
  await okafor.getByRole("button", { name: "Answer" }).click();
  await okafor.getByRole("link", { name: "Change the mark" }).click();
  await room(okafor);
  await okafor.getByRole("textbox", { name: /^Marks/ }).fill("4");
  await okafor.getByRole("textbox", { name: /Why the mark changes/ }).fill("The wind was in the corner.");
  await saved(okafor);
  expect((await paperText()).replace(/\s+/g, " ")).toContain("8 / 9");
  await okafor.goto(`${house.url}/quizzes/${quizId}/returning`);
  await okafor.getByRole("button", { name: /Return what is ready/ }).click();
  await okafor.getByRole("alertdialog").getByRole("button", { name: "Return", exact: true }).click();
  await expect.poll(async () => (await paperText()).replace(/\s+/g, " ")).toContain("9 / 9");
  const after = (await paperText()).replace(/\s+/g, " ");
  expect(after).toContain("The wind was in the corner.");
  expect(after).toContain("It does; I had not seen it.");

  // Taken back: named who has read it, and hidden again.
  await okafor.goto(`${house.url}/quizzes/${quizId}/returning`);
  await okafor.getByRole("checkbox", { name: "Choose Keziah Rowden" }).check();
  await okafor.getByRole("button", { name: "Take the return back" }).click();
  const dialog = okafor.getByRole("alertdialog");
  await expect(dialog).toContainText("Keziah Rowden");
  await dialog.getByRole("textbox").fill("One paper was missing.");
  await dialog.getByRole("button", { name: "Take it back" }).click();
  await expect(okafor.getByText("1 had read it: Keziah Rowden")).toBeVisible();
  const hidden = (await paperText()).replace(/\s+/g, " ");
  for (const words of ["more hours", "Clear, but short."]) expect(hidden).not.toContain(words);
  expect(hidden).toContain("One paper was missing.");
});

test("a killed server, a cut network and a closed lid lose nothing that was written in the room", async ({
  browser,
}) => {
  const house = await House.open();
  try {
    const page = await house.page(browser, "adaeze.okafor");
    const quizId = await house.quiz("Sampling pollinators");
    await page.goto(`${house.url}/quizzes/${quizId}/marking`);
    await room(page);
    const feedback = page.getByRole("textbox", { name: "On the whole question" });
    await feedback.fill("Written while all was well.");
    await saved(page);
    await page.context().setOffline(true);
    await feedback.fill("Written without a network.");
    await expect(page.getByRole("contentinfo").getByRole("status")).toContainText("Kept on this device");
    await page.context().setOffline(false);
    await saved(page);
    await house.kill();
    await feedback.fill("Written while the server was down.");
    await expect(page.getByRole("contentinfo").getByRole("status")).toContainText("Kept on this device");
    const address = page.url();
    // The lid is closed: the page is gone, and comes back when the server does.
    await page.close({ runBeforeUnload: false });
    await house.restart();
    const again = await page.context().newPage();
    await again.goto(address);
    await room(again);
    await expect(again.getByRole("textbox", { name: "On the whole question" })).toHaveValue(
      "Written while the server was down.",
    );
    await expect
      .poll(async () =>
        (await house.sql`select work from hand_marking where work->>'feedback' like 'Written%'`).map(
          ({ work }) => work.feedback,
        ),
      )
      .toEqual(["Written while the server was down."]);
  } finally {
    await house.close();
  }
});

test("two markers on one answer: the second is told, may read, and takes over by saying so; nothing is overwritten", async ({
  browser,
  house,
}) => {
  const quizId = await house.quiz("Pages of the field notebook");
  const okafor = await house.page(browser, "adaeze.okafor");
  await okafor.goto(`${house.url}/quizzes/${quizId}/marking`);
  await room(okafor);
  const field = (page: Page) => page.getByRole("textbox", { name: "On the whole question" });
  await field(okafor).fill("By Okafor.");
  await saved(okafor);
  const petrides = await house.page(browser, "yuna.petrides");
  await petrides.goto(okafor.url());
  await room(petrides);
  await expect(petrides.getByText("Dr Adaeze Okafor has this answer open.")).toBeVisible();
  await expect(field(petrides)).toHaveValue("By Okafor.");
  await expect(field(petrides)).toBeDisabled();
  await expectAccessible(petrides, "an answer that somebody else has open");
  await petrides.getByRole("button", { name: "Take it over" }).click();
  await expect(field(petrides)).toBeEnabled();
  await field(petrides).fill("By Petrides.");
  await saved(petrides);
  // The first goes on writing, not knowing: both are shown, and neither is lost.
  await field(okafor).fill("By Okafor, and more.");
  await expect(
    okafor.getByText(/Yuna Petrides (wrote to this answer|has this answer open)/).first(),
  ).toBeVisible();
  const [row] = await house.sql`select work from hand_marking where work->>'feedback' like 'By %'`;
  expect(row?.work.feedback).toBe("By Petrides.");
  await okafor.getByRole("button", { name: "Let mine stand" }).click();
  await saved(okafor);
  await expect
    .poll(
      async () =>
        (await house.sql`select work from hand_marking where work->>'feedback' like 'By %'`)[0]?.work
          .feedback,
    )
    .toBe("By Okafor, and more.");
});

test("an answer that was handed in again is not the one that was marked: nothing is saved before it is looked at", async ({
  browser,
  house,
}) => {
  const quizId = await house.quiz("Pages of the field notebook");
  const page = await house.page(browser, "yuna.petrides");
  await page.goto(`${house.url}/quizzes/${quizId}/marking`);
  await room(page);
  const paper = new URL(page.url()).searchParams;
  const [row] =
    await house.sql`select id from attempt where quiz_id = ${quizId} and paper = ${paper.get("paper")}`;
  // As its student took it back, wrote beside the pages, and handed it in once more.
  await house.sql`update answer set answer = answer || '{"text": "The third page is the one that counts."}'
    where attempt_id = ${row?.id} and slot = ${paper.get("slot")}`;
  await page.getByRole("textbox", { name: "On the whole question" }).fill("On two pages.");
  const told = page.getByRole("alert").filter({ hasText: "not the one that you marked" });
  await expect(told).toBeVisible();
  await expect(page.getByText("The third page is the one that counts.")).toBeVisible();
  await expect(page.getByRole("textbox", { name: "On the whole question" })).toHaveValue("On two pages.");
  await expectAccessible(page, "an answer that has changed");
  await told.getByRole("button", { name: "It holds for this answer too" }).click();
  await saved(page);
  await expect(told).toBeHidden();
  const stored =
    await house.sql`select work from hand_marking where attempt_id = ${row?.id} and slot = ${paper.get("slot")}`;
  expect(stored[0]?.work.feedback).toBe("On two pages.");
});

test("names hidden: no page and no response of the room tells whose answer it is; the next answer is there at once", async ({
  browser,
  house,
}) => {
  const quizId = await house.quiz("Report on the meadow count");
  const page = await house.page(browser, "yuna.petrides");
  await page.goto(`${house.url}/quizzes/${quizId}/marking`);
  await room(page);
  await page.getByRole("button", { name: "Hide names" }).click();
  await expect(page.getByRole("button", { name: /Names are hidden/ })).toBeVisible();
  const bodies: string[] = [];
  page.on("response", async (response) => {
    if (response.url().includes("/api/")) bodies.push(await response.text().catch(() => ""));
  });
  await page.reload();
  await room(page);
  bodies.push(await page.content());
  const headers: string[] = [];
  for (let i = 0; i < 6; i += 1) {
    await page.keyboard.press("j");
    await page.waitForLoadState("networkidle");
  }
  await page.getByRole("combobox", { name: "Question", exact: true }).selectOption({ index: 1 });
  for (let i = 0; i < 4; i += 1) {
    await page.keyboard.press("j");
    await page.waitForLoadState("networkidle");
  }
  bodies.push(await page.content());
  const links = await page
    .locator("a[href*='/files/']")
    .evaluateAll((all) => all.map((a) => (a as HTMLAnchorElement).href));
  const caller = await house.caller(page.request, "yuna.petrides");
  for (const link of links) headers.push(JSON.stringify((await caller.get(new URL(link).pathname)).headers));
  const people =
    await house.sql`select p.name, p.email, a.id from person p join attempt a on a.person_id = p.id where a.quiz_id = ${quizId}`;
  const all = [...bodies, ...headers].join("\n");
  for (const { name, email, id } of people)
    for (const tells of [name, email, id]) expect(all).not.toContain(tells);
  await expectAccessible(page, "the room with names hidden");
  await page.getByRole("button", { name: /Names are hidden/ }).click();
  await expect(page.getByRole("button", { name: "Hide names" })).toBeVisible();
});

test("a pile is marked by keys alone, and on a telephone", async ({ browser, house }) => {
  const title = "Twenty essays";
  const { quizId } = await makeContent(
    house.sql,
    "pol-101",
    { ...FILE(title), sections: [{ questions: FILE(title).sections[0]?.questions.slice(0, 1) ?? [] }] },
    SETTINGS,
    "5",
  );
  await house.sql`update quiz set settings = settings || '{"attempts": 20}' where id = ${quizId}`;
  const people =
    await house.sql`select e.person_id from enrolment e join course c on c.id = e.course_id where c.slug = 'pol-101' and e.role = 'student' limit 18`;
  const [version] = await house.sql`select id from quiz_version where quiz_id = ${quizId}`;
  for (const [i, { person_id }] of people.entries()) {
    const [made] =
      await house.sql`insert into attempt (id, quiz_id, version_id, person_id, number, seed, started_at, confirmed, deadline, maximum)
      values (gen_random_uuid(), ${quizId}, ${version?.id}, ${person_id}, 1, ${`seed ${i}`}, now() - interval '2 hours', true, now() + interval '1 hour', 5) returning id`;
    await house.sql`insert into attempt_question values (${made?.id}, 1, 'why')`;
    await house.sql`insert into answer (attempt_id, slot, answer, revision, device, written_at, saved_at)
      values (${made?.id}, 1, ${house.sql.json({ rich: `<p>Essay number ${i} on the bank and the ditch.</p>` })}, 1, gen_random_uuid(), now(), now())`;
  }
  // Over once everything is there: the clock hands in what it finds.
  await house.sql`update attempt set deadline = now() - interval '1 hour' where quiz_id = ${quizId}`;
  await expect
    .poll(
      async () =>
        (
          await house.sql`select count(*)::int as n from attempt where quiz_id = ${quizId} and handed_in_at is not null`
        )[0]?.n,
      { timeout: 20_000 },
    )
    .toBe(18);
  const page = await house.page(browser, "adaeze.okafor");
  await page.goto(`${house.url}/quizzes/${quizId}/marking`);
  await room(page);
  let presses = 0;
  const press = async (key: string) => {
    presses += 1;
    await page.keyboard.press(key);
  };
  const shown = async (i: number) => expect(page.getByText(`${i} of 18 marked`)).toBeVisible();
  for (let i = 0; i < 18; i += 1) {
    await shown(i);
    await press("2");
    await press("2");
    await shown(i + 1);
    if (i < 17) {
      const before = page.url();
      await press("n");
      await page.waitForURL((url) => url.href !== before);
      await page.locator("[data-answer]").waitFor();
    }
  }
  await saved(page);
  expect(presses / 18).toBeLessThanOrEqual(3);
  await expect
    .poll(
      async () =>
        (
          await house.sql`select count(*)::int as n from hand_marking h join attempt a on a.id = h.attempt_id where a.quiz_id = ${quizId} and h.done`
        )[0]?.n,
    )
    .toBe(18);

  const phone = await (
    await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })
  ).newPage();
  await house.signIn(phone, "adaeze.okafor");
  await phone.goto(`${house.url}/quizzes/${quizId}/marking`);
  await room(phone);
  await expectNoSideways(phone, "the room on a telephone");
  await expectAccessible(phone, "the room on a telephone");
  await phone.getByText("with its reason", { exact: true }).tap();
  await saved(phone);
  await phone.getByText("The pile ·").tap();
  await expect(phone.getByRole("navigation", { name: "The pile" })).toBeVisible();
  for (const path of ["staff", "returning", "answers"]) {
    await phone.goto(`${house.url}/quizzes/${quizId}/${path}`);
    await expectNoSideways(phone, path);
  }
});

test("what the class wrote: a wrong key is found and put right, with its progress, and undone", async ({
  browser,
  house,
}) => {
  const quizId = await house.quiz("Oven and steam");
  const page = await house.page(browser, "tomas.oyelaran");
  await page.goto(`${house.url}/quizzes/${quizId}/answers`);
  await expectAccessible(page, "the questions of a quiz with what the class has of each");
  await page.getByRole("link", { name: /A large loaf is baked through/ }).click();
  await page.locator("astro-island:not([ssr])").first().waitFor();
  await page.getByRole("checkbox", { name: "Pick “96 °C”" }).check();
  await page.getByRole("button", { name: "Make it the key" }).click();
  await expect(page.getByText(/people gain marks/)).toBeVisible();
  await expectAccessible(page, "what a new key changes, before it does");
  await expect(page.getByRole("button", { name: "Mark again" })).toBeDisabled();
  await page.getByRole("textbox", { name: /Reason/ }).fill("The key was a line too high.");
  await page.getByRole("button", { name: "Mark again" }).click();
  await expect(page.getByRole("row", { name: /96 °C/ })).toContainText("1", { timeout: 15_000 });
  await expect(page.getByText("Marked again:")).toBeVisible();
  await page.getByRole("button", { name: "undo the last change" }).click();
  await expect(page.getByText(/people lose marks/)).toBeVisible();
  await page.getByRole("textbox", { name: /Reason/ }).fill("Only tried.");
  await page.getByRole("button", { name: "Mark again" }).click();
  await expect(page.getByText("Marked again, and taken back since:")).toBeVisible({ timeout: 15_000 });
});

test("late writing is decided, and alike answers are looked at, side by side", async ({ browser, house }) => {
  const quizId = await house.quiz("Report on the meadow count");
  const page = await house.page(browser, "adaeze.okafor");
  await page.goto(`${house.url}/quizzes/${quizId}/late`);
  await expectAccessible(page, "late writing to decide");
  await page.locator("astro-island:not([ssr])").first().waitFor();
  await page.getByRole("button", { name: "Take what came later" }).click();
  await expect(page.getByRole("alert")).toContainText("Say why");
  await page.getByRole("textbox").fill("The train had no signal.");
  await page.getByRole("button", { name: "Take what came later" }).click();
  await expect(page.getByText("Taken: what came later counts")).toBeVisible();
  const student = await house.page(browser, "tadhg.villanueva");
  await student.goto(`${house.url}/notices`);
  await expect(student.getByText("The train had no signal.")).toBeVisible();

  await page.goto(`${house.url}/quizzes/${quizId}/alike`);
  if (!(await page.getByText("Zofia Marchetti").first().isVisible())) {
    await page.getByRole("button", { name: "Compare now" }).click();
    await expect
      .poll(
        async () => {
          await page.reload();
          return page.getByText("Zofia Marchetti").first().isVisible();
        },
        { timeout: 20_000 },
      )
      .toBe(true);
  }
  await expectAccessible(page, "alike answers");
});
