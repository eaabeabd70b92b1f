import type { Page } from "@playwright/test";
import { attemptIn, expect, goTo, House, startFromBrief, test } from "../support/house";

/** What the browser itself measured: every movement of what was on the screen that nobody caused. */
interface Shift {
  readonly value: number;
  readonly nodes: readonly string[];
}

async function watchShifts(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const found: { value: number; nodes: string[] }[] = [];
    (window as unknown as { shifts: unknown }).shifts = found;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as unknown as {
        value: number;
        hadRecentInput: boolean;
        sources: { node: Node | null; previousRect: DOMRect; currentRect: DOMRect }[];
      }[]) {
        if (entry.hadRecentInput) continue;
        found.push({
          value: entry.value,
          nodes: entry.sources.map(
            ({ node, previousRect: was, currentRect: is }) =>
              `${node instanceof Element ? node.outerHTML.slice(0, 120) : node?.textContent} y ${was.y}-${was.height} to ${is.y}-${is.height}, x ${was.x} to ${is.x}`,
          ),
        });
      }
    }).observe({ type: "layout-shift", buffered: true });
  });
}

const shiftsOf = (page: Page) => page.evaluate(() => (window as unknown as { shifts: Shift[] }).shifts);

let house: House;
test.beforeAll(async () => {
  house = await House.open();
});
test.afterAll(() => house.close());

for (const [size, viewport] of [
  ["a desktop", { width: 1280, height: 800 }],
  ["a phone", { width: 390, height: 844 }],
] as const) {
  test(`on ${size} nothing moves by itself: not when the desk comes, nor when something is said`, async ({
    browser,
    request,
  }) => {
    test.setTimeout(120_000);
    const student = size === "a phone" ? "josefa.lyle" : "tadhg.villanueva";
    const context = await browser.newContext({ viewport });
    const page = await context.newPage();
    await watchShifts(page);
    await house.signIn(page, student);
    await startFromBrief(page, house, "Field day warm-up");
    const attempt = attemptIn(page);
    const count = await page
      .getByRole("navigation", { name: "Questions", exact: true })
      .last()
      .getByRole("button")
      .count();
    const failures: string[] = [];
    const look = async (when: string) => {
      for (const shift of await shiftsOf(page))
        failures.push(`${when}: ${shift.value} ${shift.nodes.join(" | ")}`);
    };
    await look("at the start");
    // Each kind of question as it comes after a reload.
    for (let slot = 1; slot <= count; slot += 1) {
      await goTo(page, slot);
      await page.reload();
      await page.locator("[data-ready=true]").waitFor();
      await expect(page.getByText(/^Loading .* …$/)).toHaveCount(0);
      await page.waitForLoadState("networkidle");
      await look(`question ${slot}`);
    }
    // What is said while nobody acts.
    const instructor = await house.caller(request, "adaeze.okafor");
    const [row] = await house.sql`select quiz_id from attempt where id = ${attempt}`;
    const said = await instructor.post(`/api/quizzes/${row?.quiz_id}/messages`, {
      text: "In question 2 read “petal” for “sepal”. ".repeat(6).trim(),
    });
    expect(said.status, said.text).toBe(201);
    await expect(page.getByText("read “petal”").first()).toBeVisible({ timeout: 15_000 });
    await instructor.post(`/api/quizzes/${row?.quiz_id}/extend`, { minutes: 3, reason: "The bell rang" });
    await house.sql`delete from session where person_id = (select person_id from attempt where id = ${attempt})`;
    await expect(page.getByRole("button", { name: "Sign in again" })).toBeVisible({ timeout: 30_000 });
    await look("messages");
    expect(failures).toEqual([]);
    await context.close();
  });
}
