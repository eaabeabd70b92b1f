import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";

async function violationsOf(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .options({
      runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
      // What is right need not be listed, which takes most of the time.
      resultTypes: ["violations"],
    })
    // Everything is checked in the page itself, which has no frames; else each check opens a page of its own.
    .setLegacyMode(true)
    .analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join(" | ")}`);
}

/** The checker of WCAG 2.2 AA and of good practice finds nothing on the page as it stands. */
export async function expectAccessible(page: Page, state: string): Promise<void> {
  await test.step(`accessible: ${state}`, async () => {
    // Asked again where something is found: a page that still moves, as a list that is going, covers what it will not.
    await expect
      .poll(() => violationsOf(page), { intervals: [500, 2_000, 10_000], timeout: 30_000 })
      .toEqual([]);
    await expectSaid(page);
  });
}

/** Everything is said: no code of a message without its words, and nothing that is only meant, stands on the page. */
async function expectSaid(page: Page): Promise<void> {
  const unsaid = await page.evaluate(() => {
    const attributes = ["aria-label", "title", "placeholder", "alt"];
    const said = [...document.querySelectorAll("body *")].flatMap((element) =>
      attributes.flatMap((name) => element.getAttribute(name) ?? []),
    );
    const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walk.nextNode(); node; node = walk.nextNode()) {
      if (!node.parentElement?.closest("script, style")) said.push(node.textContent ?? "");
    }
    return [...said, document.title].flatMap(
      (text) => text.match(/\[object Object\]|\b[a-z]+(?:\.[a-z0-9]+(?:-[a-z0-9]+)+)+\b/g) ?? [],
    );
  });
  expect(unsaid, "codes and values without words").toEqual([]);
}

/** No part of the page may be wider than the screen it is on. */
export async function expectNoSideways(page: Page, state: string): Promise<void> {
  const over = await page.evaluate(
    () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
  );
  expect(over, `${state} scrolls sideways`).toBeLessThanOrEqual(0);
}
