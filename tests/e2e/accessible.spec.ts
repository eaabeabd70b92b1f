import type { Page } from "@playwright/test";
import { expectAccessible, expectNoSideways } from "../support/accessible";
import { allSaved, expect, goTo, startFromBrief, test } from "../support/house";

for (const [name, options] of [
  ["day", { viewport: { width: 1280, height: 800 }, colorScheme: "light" }],
  ["night", { viewport: { width: 1280, height: 800 }, colorScheme: "dark" }],
  ["phone", { viewport: { width: 390, height: 844 }, colorScheme: "light", hasTouch: true }],
  // 200 % zoom of a 1280 wide window.
  ["zoomed", { viewport: { width: 640, height: 400 }, colorScheme: "light" }],
] as const) {
  test.describe(name, () => {
    test.use({ ...options, contextOptions: { reducedMotion: "reduce" } });

    const seen = async (page: Page, state: string) => {
      // Zoom changes where things stand, not what they are called: that is seen on the phone already.
      if (name !== "zoomed") await expectAccessible(page, state);
      await expectNoSideways(page, state);
    };

    test(`what comes after is accessible too, by ${name}`, async ({ page, house }) => {
      test.setTimeout(240_000);
      await house.signIn(page, "noor.haldane");
      // A run that another of these began would go on.
      await house.sql`delete from practice_run`;
      const see = async (path: string, state: string) => {
        await page.goto(house.url + path);
        await seen(page, state);
      };
      await seen(page, "Today in every state");
      await see("/courses/nav-110?show=practice", "course, only practice");
      await see("/courses/nav-110/plan", "course plan");
      await see(
        `/quizzes/${await house.quiz("Compass and variation, second sitting")}`,
        "brief, not set for one",
      );
      await see(`/quizzes/${await house.quiz("Chartroom sitting, part two")}`, "brief, another first");
      await see("/notices", "notices");
      await see("/help/what-is-kept", "what is kept");
      await see("/profile/second-factor", "the second factor");
      await page.goto(`${house.url}/gradebook/nav-110`);
      await page.locator("select[name=class]").selectOption({ label: "Compass and variation" });
      await expect(page.getByText("92.5 %").first()).toBeVisible();
      await page.locator("summary").filter({ hasText: "counts." }).click();
      await seen(page, "gradebook, the class, how a mark is made");
      await see("/gradebook/brd-120", "gradebook with a scale and a mark set by hand");
      await page.goto(`${house.url}/gradebook/pol-101`);
      await page.getByRole("link", { name: "Field camp review" }).click();
      await page.getByRole("link", { name: /^Question 10\b/ }).click();
      await expect(page.getByRole("region", { name: /^Notes on what was written/ })).toContainText(
        "not more bees, but more hours",
      );
      await expect(page.locator("mark[data-passage]").first()).toContainText("the day is two hours longer");
      await expect(page.getByRole("link", { name: /^Question 10\b/ })).toBeInViewport();
      await seen(page, "marked paper, margin notes and rubric");
      await page.getByRole("link", { name: "All on one page" }).click();
      await seen(page, "marked paper, every kind");
      await page.getByRole("button", { name: "Practise" }).click();
      await page.locator("[data-ready=true]").waitFor();
      const first = page.getByRole("region", { name: /^Question/ }).first();
      await first.getByRole("radio").first().check();
      await first.getByRole("button", { name: "Mark it" }).click();
      await expect(first.getByText("This question is closed now.")).toBeVisible();
      await seen(page, "practice, one marked");
      await page.context().clearCookies();
      await house.signIn(page, "yuki.brandvold");
      await see("/mailbox", "internal mailbox");
    });

    test(`every screen and state is accessible, by ${name}`, async ({ page, house }) => {
      test.setTimeout(240_000);
      const see = (state: string) => seen(page, state);
      await page.goto(`${house.url}/sign-in`);
      await see("sign-in");
      await page.getByRole("button", { name: "Sign in", exact: true }).first().click();
      await expect(page.getByRole("alert")).toBeVisible();
      await see("sign-in refused");
      const student = {
        day: "ximena.bratt",
        night: "priya.sandoval",
        phone: "fionnuala.rao",
        zoomed: "noor.haldane",
      }[name];
      await house.signIn(page, student);
      await see("Today");
      await page.goto(`${house.url}/courses`);
      await see("courses");
      await page.goto(`${house.url}/courses/nav-110`);
      await see("course");
      await page.goto(`${house.url}/nothing/here`);
      await see("not found");
      await page.goto(`${house.url}/quizzes/${await house.quiz("Compass and variation")}`);
      await see("brief of a closed quiz");
      await page.goto(`${house.url}/quizzes/${await house.quiz("Tides and clearances")}`);
      await expect(page.getByText("ms to the server")).toBeVisible();
      await see("brief");
      await page.getByRole("button", { name: "Start now" }).click();
      await see("brief, asking");
      await page.getByRole("button", { name: "Not yet" }).click();
      await startFromBrief(page, house, "Tides and clearances");
      await page.getByRole("radio").first().check();
      await allSaved(page);
      await see("desk, one of several");
      await goTo(page, 3);
      await page.getByRole("checkbox").first().check();
      await see("desk, several of several");
      await goTo(page, 4);
      await page.getByLabel("Range of the tide").fill("four");
      await see("desk, numeric, unreadable");
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "Leave" }).click();
      await see("desk, leaving");
      await page.getByRole("button", { name: "Stay" }).click();
      await page.getByRole("button", { name: "Look over and hand in" }).click();
      await see("final look");
      await page.getByRole("button", { name: "Hand in" }).click();
      await see("final look, asking");
      await page.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
      await page.waitForURL("**/slip");
      await see("slip");
      await page.getByRole("link", { name: "check it" }).click();
      await expect(page.getByText("This slip is genuine.")).toBeVisible();
      await see("checking a slip");
      await page.goBack();
      await page.getByRole("link", { name: "What was handed in" }).click();
      await see("what was handed in");
      await page.getByRole("link", { name: "To the slip" }).click();
      await page.getByRole("link", { name: "Marked paper" }).click();
      await page.waitForURL("**/paper");
      await see("marked paper");
      await page.getByRole("link", { name: "All on one page" }).click();
      await see("marked paper, all");
      await page.goto(`${house.url}/gradebook/nav-110`);
      await page.getByRole("button", { name: "Work it out" }).click();
      await expect(page.getByRole("status")).toContainText(/bring the course to|the course is at/);
      await see("gradebook");
      await page.goto(`${house.url}/profile`);
      await see("profile");
      await page.goto(`${house.url}/help/desk`);
      await see("what is on the desk");
      await startFromBrief(page, house, "Steering rules, one way");
      await page.getByRole("radio").first().check();
      await page.getByRole("button", { name: "Close it, see if it is right" }).click();
      await expect(page.getByText("This question is closed now.")).toBeVisible();
      await see("desk, told");
      await page.getByRole("button", { name: "Tools" }).click();
      await page.getByRole("tab", { name: "View" }).click();
      await see("desk, tools");
      await startFromBrief(page, house, "Chartroom sitting, part one");
      await page.getByRole("button", { name: "Place a point in the middle" }).click();
      await see("desk, a point on a picture");
    });
  });
}
