import type { Page } from "@playwright/test";
import { expectAccessible } from "../support/accessible";
import { attemptIn, expect, House, test } from "../support/house";

// A college of its own: one of its students chooses another language.
let house: House;
test.beforeAll(async () => {
  house = await House.open();
});
test.afterAll(() => house.close());

/** What people of the college wrote, which keeps its own language: titles, announcements, reasons, names. */
const written = async (): Promise<string[]> =>
  (
    await house.sql`
      select title as text from quiz union select title from course union select text from announcement
      union select title from gradebook_item union select title from gradebook_category
      union select reason from adjustment union select reason from allowance union select name from person
      union select title from plan_section union select text from plan_entry
      union select s->>'title' from quiz_version, jsonb_array_elements(content->'sections') s
      union select content->'rules'->>'material' from quiz_version union select settings->'help'->>'hours' from quiz`
  ).flatMap(({ text }) => (text ? [String(text)] : []));

/** No English sentence is left in what the interface says. */
async function expectJapanese(page: Page, what: string): Promise<void> {
  const texts = await page.evaluate(() => {
    const found: string[] = [];
    const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walk.nextNode(); node; node = walk.nextNode()) {
      const own = node.parentElement?.closest("[lang]")?.getAttribute("lang");
      if (own === "ja" && !node.parentElement?.closest("svg, script, style, noscript"))
        found.push(node.textContent?.trim() ?? "");
    }
    return found;
  });
  const own = (await written()).sort((a, b) => b.length - a.length);
  const english = texts
    .map((text) => own.reduce((rest, each) => rest.replaceAll(each, ""), text))
    .filter((text) => /[a-z]{2,} [a-z]{2,}/.test(text));
  expect(english, `${what} in Japanese`).toEqual([]);
  expect(await page.locator("body").textContent()).not.toContain("[object Object]");
  expect(await page.evaluate(() => document.documentElement.lang)).toBe("ja");
}

test("a student chooses Japanese, takes a quiz in it, and reads slip, paper, gradebook and mail in it", async ({
  page,
}) => {
  await page.goto(`${house.url}/sign-in`);
  await page.getByRole("button", { name: "日本語" }).click();
  await expect(page.getByRole("heading", { name: "サインイン" })).toBeVisible();
  await expectAccessible(page, "signing in, in Japanese");
  await house.signIn(page, "camila.thornbury");
  // Chosen for the person too, so that mail and other devices speak it.
  await page.goto(`${house.url}/profile`);
  await page.getByRole("combobox", { name: "言語" }).selectOption("ja");
  await expect
    .poll(async () => (await house.sql`select language from person where email like 'camila.%'`)[0]?.language)
    .toBe("ja");
  // The page comes anew in the language that was chosen.
  await page.waitForURL("**/profile#language");
  await page.goto(`${house.url}/today`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^\d{1,2}月\d{1,2}日 .曜日$/);
  await expectJapanese(page, "Today");
  await expectAccessible(page, "Today, in Japanese");
  await page.goto(`${house.url}/quizzes/${await house.quiz("Tides and clearances")}`);
  await expectJapanese(page, "the brief");
  await page.getByRole("button", { name: "今すぐ始める" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "受験を始める" }).click();
  await page.waitForURL(/\/attempts\/[^/]+$/);
  await page.locator("[data-ready=true]").waitFor();
  const attempt = attemptIn(page);
  await page.getByRole("radio").first().check();
  await expect(page.getByText(/^すべて保存済み/).first()).toBeVisible();
  await expectJapanese(page, "the desk");
  await expectAccessible(page, "the desk, in Japanese");
  await page.getByRole("button", { name: "見直して提出へ" }).click();
  await expect(page.getByRole("heading", { name: "提出前の見直し" })).toBeVisible();
  await expectJapanese(page, "the final look");
  await page.getByRole("button", { name: "提出する" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "提出する" }).click();
  await page.waitForURL("**/slip");
  await expect(page.getByRole("heading", { name: "提出しました" })).toBeVisible();
  await expectJapanese(page, "the slip");
  await page.goto(`${house.url}/attempts/${attempt}/paper`);
  await expectJapanese(page, "the marked paper");
  await page.goto(`${house.url}/gradebook`);
  await page.locator('main a[href^="/gradebook/"]').first().click();
  await expectJapanese(page, "the gradebook");
  for (const path of ["/notices", "/courses", "/help/desk", "/help/what-is-kept", "/profile", "/verify"]) {
    await page.goto(`${house.url}${path}`);
    await expectJapanese(page, path);
  }
  // Who signs out gives the browser back in the institution's language, and finds their own when signing in again.
  await page.goto(`${house.url}/sign-out`);
  await expectJapanese(page, "signing out");
  await page
    .getByRole("main")
    .getByRole("button", { name: /^サインアウト/ })
    .click();
  await page.waitForURL("**/sign-in");
  await expect(page.getByRole("heading", { name: "Sign in" })).toBeVisible();
  await house.signIn(page, "camila.thornbury");
  await expect(page.getByRole("link", { name: "成績表", exact: true })).toBeVisible();
});

test("an old mark and an old notice read in the language of who reads them", async ({ page, browser }) => {
  const english = await house.page(browser, "quentin.mbele");
  await english.goto(`${house.url}/quizzes/${await house.quiz("Tides and clearances")}`);
  await english.getByRole("button", { name: "Start now" }).click();
  await english.getByRole("alertdialog").getByRole("button", { name: "Start the attempt" }).click();
  await english.locator("[data-ready=true]").waitFor();
  const attempt = attemptIn(english);
  // The time is over, and the clock hands it in while nobody reads.
  await house.sql`update attempt set deadline = now() - interval '2 minutes', started_at = now() - interval '40 minutes' where id = ${attempt}`;
  await expect
    .poll(
      async () => (await house.sql`select handed_in_by from attempt where id = ${attempt}`)[0]?.handed_in_by,
      {
        timeout: 30_000,
      },
    )
    .toBe("clock");
  await english.close();
  await house.signIn(page, "quentin.mbele");
  await page.goto(`${house.url}/notices`);
  await expect(page.getByText(/^Time was up in “Tides and clearances”/)).toBeVisible();
  await page.context().addCookies([{ name: "shizuka.language", value: "ja", url: house.url }]);
  await page.reload();
  await expect(page.getByText(/^「Tides and clearances」の時間が終わり/)).toBeVisible();
  await page.goto(`${house.url}/attempts/${attempt}/slip`);
  await expect(page.getByText("時計（時間切れ）")).toBeVisible();
});

test("refusals and downloads speak the reader's language", async ({ page }) => {
  await house.signIn(page, "samir.eastlake");
  await page.context().addCookies([{ name: "shizuka.language", value: "ja", url: house.url }]);
  const { request } = page.context();
  const refused = await request.post(`${house.url}/api/attempts/01a21a08-2b39-7668-bb0a-9ebdf9a7447c/save`, {
    data: { here: 1, entries: [] },
    headers: { origin: house.url },
  });
  expect(refused.headers()["content-type"]).toContain("application/problem+json");
  expect((await refused.json()).title).toBe(
    "ここにはあなたが見られるものがありません。アドレスを確かめるか、「今日」に戻ってください。",
  );
  const chosen = await request.post(`${house.url}/language`, {
    form: { language: "xx", after: "/today" },
    headers: { origin: house.url },
    maxRedirects: 0,
  });
  expect(chosen.status()).toBe(422);
  expect(await chosen.text()).toBe("その言語はここにはありません。");
});

test("a word that is being composed is neither saved nor counted, and no key of the desk", async ({
  page,
}) => {
  await house.signIn(page, "keziah.rowden");
  await page.goto(`${house.url}/quizzes/${await house.quiz("Field day warm-up")}`);
  await page.getByRole("button", { name: "Start now" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Start the attempt" }).click();
  await page.locator("[data-ready=true]").waitFor();
  const attempt = attemptIn(page);
  const field = page.getByPlaceholder("your answer");
  for (let i = 0; i < 12 && (await field.count()) === 0; i += 1) await page.keyboard.press("j");
  const section = page.locator("section[data-slot]", { has: field });
  const slot = Number(await section.getAttribute("data-slot"));
  const before = await page.getByRole("button", { name: /^\d+ of \d+ saved/ }).textContent();
  await field.focus();
  // What an input method does, by the browser's own protocol.
  const browser = await page.context().newCDPSession(page);
  const compose = (text: string) =>
    browser.send("Input.imeSetComposition", { text, selectionStart: text.length, selectionEnd: text.length });
  await compose("は");
  await compose("はな");
  await expect(field).toHaveValue("はな");
  // Longer than typing waits before it is saved: a save in between would have shown on the server.
  await page.keyboard.press("Control+s");
  await expect(page.getByText(/^(Nothing to save yet|All saved)/).first()).toBeVisible();
  expect(await house.answer(attempt, slot)).toBeNull();
  expect(await page.getByRole("button", { name: /^\d+ of \d+ saved/ }).textContent()).toBe(before);
  await browser.send("Input.insertText", { text: "花" });
  await expect(field).toHaveValue("花");
  await expect.poll(() => house.answer(attempt, slot)).toEqual({ text: "花" });
});

test("what is answered in another language than it is asked says so, at the desk and on the paper", async ({
  page,
}) => {
  await house.sql`update quiz set opens = now() - interval '1 hour', due = now() + interval '2 hours', closes = now() + interval '2 hours',
    settings = jsonb_set(settings, '{reveal,written}', '"at-hand-in"') where title = 'Names of bees'`;
  await house.signIn(page, "keziah.rowden");
  await page.context().addCookies([{ name: "shizuka.language", value: "ja", url: house.url }]);
  await page.goto(`${house.url}/quizzes/${await house.quiz("Names of bees")}`);
  await page.getByRole("button", { name: "今すぐ始める" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "受験を始める" }).click();
  await page.locator("[data-ready=true]").waitFor();
  const attempt = attemptIn(page);
  // Asked in English, answered in Latin, by somebody who reads Japanese.
  await expect(page.locator("#question-1")).toHaveAttribute("lang", "en");
  const field = page.getByRole("textbox").first();
  await expect(field).toHaveAttribute("lang", "la");
  await field.fill("Bombus terrestris");
  await expect(page.getByText(/^すべて保存済み/).first()).toBeVisible();
  await page.getByRole("button", { name: "見直して提出へ" }).click();
  await expect(page.getByText("Bombus terrestris")).toHaveAttribute("lang", "la");
  await page.getByRole("button", { name: "提出する" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "提出する" }).click();
  await page.waitForURL("**/slip");
  await page.goto(`${house.url}/attempts/${attempt}/handed-in`);
  await expect(page.getByText("Bombus terrestris")).toHaveAttribute("lang", "la");
});
