import { expectAccessible } from "../support/accessible";
import { allSaved, attemptIn, expect, goTo, startFromBrief, test } from "../support/house";

test("questions of every kind that the desk has are answered by keyboard alone, kept over a reload, and marked as the core says", async ({
  page,
  house,
}) => {
  test.setTimeout(180_000);
  await house.signIn(page, "keziah.rowden");
  await startFromBrief(page, house, "Field day warm-up");
  await expect(page.getByText("No time limit").first()).toBeVisible();
  const press = async (...keys: string[]) => {
    for (const key of keys) await page.keyboard.press(key);
  };
  const clean = () => expectAccessible(page, "the desk");

  // True or false: 2 picks the second option.
  await press("2");
  await expect(page.getByRole("radio", { name: "False" })).toBeChecked();
  await clean();

  await press("j");
  await page.getByRole("textbox").focus();
  await page.keyboard.type("polen basket");
  await clean();

  await goTo(page, 3);
  await page.getByLabel("Gap 1 of 3").focus();
  await page.keyboard.type("anther");
  await press("Tab");
  await page.keyboard.type("pistil");
  await press("Tab");
  await page.keyboard.type("sp");
  await expect(page.getByLabel("Gap 3 of 3")).toHaveValue(/.+/);
  await clean();

  await goTo(page, 4);
  // Beside each other, by keys alone: a place is chosen, then what belongs to it; a used one moves, and it is said.
  const matched = page.getByText(/\d of 3 matched/);
  const match = async (prompt: string, target: string) => {
    await page.getByRole("button", { name: new RegExp(`^${prompt}`) }).focus();
    await press("Enter");
    await expect(page.locator("[data-target]:focus")).toHaveCount(1);
    await page.getByRole("button", { name: new RegExp(`^${target}`) }).focus();
    await press("Enter");
  };
  await match("red, without scent, much nectar", "birds");
  await expect(matched).toContainText("red, without scent, much nectar: birds.");
  await match("white, strongly scented at night", "bees");
  await match("blue, with dark lines to the middle", "bees");
  await expect(matched).toContainText("white, strongly scented at night is empty now.");
  // Escape takes back what a press on a place began.
  await page.getByRole("button", { name: /^white, strongly scented/ }).focus();
  await press("Enter");
  await press("Escape");
  await expect(page.getByRole("button", { name: /^white, strongly scented/ })).toBeFocused();
  await expect(page.getByText("2 of 3 matched")).toBeVisible();
  await clean();

  await goTo(page, 5);
  await expect(page.getByText("Not answered until you move something")).toBeVisible();
  const right = ["egg on a ball of pollen", "larva that eats it", "pupa in a cocoon", "winged bee"];
  const items = page.getByRole("main").getByRole("listitem");
  for (const [place, text] of right.entries()) {
    for (;;) {
      const texts = await items.allInnerTexts();
      const at = texts.findIndex((each) => each.includes(text));
      if (at === place) break;
      await page.getByRole("button", { name: `Move up: ${text}` }).focus();
      await press("Enter");
      await expect(items.nth(at - 1)).toContainText(text);
    }
  }
  await expect(page.getByText("This order is your answer.")).toBeVisible();
  await expect(page.getByText(/now [1-4](st|nd|rd|th) of 4/)).toBeAttached();
  await clean();

  await goTo(page, 6);
  const question = await page.getByRole("heading", { level: 2 }).textContent();
  const [, length = 0, , bees = 0] =
    /transect of (\d+)\sm, counting within (\d)\sm on either side, and see (\d+) bees/
      .exec(question ?? "")
      ?.map(Number) ?? [];
  // The area is wrong; the density is right for that wrong area.
  await page.getByLabel("Area covered").fill(String(length * 2));
  await page.getByLabel("Bees per 100 m²").fill(String((bees / (length * 2)) * 100));
  await goTo(page, 7);
  await page.getByRole("radio", { name: "I bring my own net" }).focus();
  await press("Space");
  await allSaved(page);

  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(page.getByRole("radio", { name: "I bring my own net" })).toBeChecked();
  await goTo(page, 3);
  await expect(page.getByLabel("Gap 2 of 3")).toHaveValue("pistil");
  await goTo(page, 5);
  await expect(page.getByText("This order is your answer.")).toBeVisible();
  await expect(items.first()).toContainText("egg on a ball of pollen");

  await page.getByRole("button", { name: "Look over and hand in" }).click();
  await expect(page.getByRole("region", { name: "Still empty" })).toContainText("2 of 3 matched");
  await clean();
  await page.getByRole("button", { name: "Hand in" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
  await page.waitForURL("**/slip");
  const marks =
    await house.sql`select slot, marks from mark where attempt_id = ${attemptIn(page)} order by slot`;
  // 1; 2 with a typing slip; 1 + 1/2 + 1 of the gaps; two of the matched; all of the order; carried forward; nothing.
  expect(marks.map((row) => row.marks)).toEqual([
    "1.0000",
    "2.0000",
    "2.5000",
    "2.0000",
    "3.0000",
    "2.0000",
    "0.0000",
  ]);
  await page.getByRole("link", { name: "Marked paper" }).click();
  await page.goto(`${page.url()}?q=6`);
  await expect(page.getByText(`carried forward: right for the ${length * 2} you found in a`)).toBeVisible();
  await expect(page.getByText(`${length} m × 4 m = ${length * 4} m²`)).toBeVisible();
  await clean();
});

test("items are put in order by dragging too", async ({ page, house }) => {
  await house.signIn(page, "ottoline.diaz");
  await startFromBrief(page, house, "Field day warm-up");
  await goTo(page, 5);
  const items = page.getByRole("main").getByRole("listitem");
  const [first = ""] = await items.allInnerTexts();
  const from = await page
    .getByRole("button", { name: /^Drag: / })
    .first()
    .boundingBox();
  const to = await page
    .getByRole("button", { name: /^Drag: / })
    .last()
    .boundingBox();
  if (!from || !to) throw new Error("nothing to drag");
  await page.mouse.move(from.x + 10, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(to.x + 10, to.y + 5, { steps: 8 });
  await page.mouse.move(to.x + 10, to.y + 14, { steps: 4 });
  await page.mouse.up();
  await expect(items.last()).toContainText(first.replace(/^\d+\s*/, "").trim());
  await allSaved(page);
});
