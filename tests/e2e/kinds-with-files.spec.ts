import sharp from "sharp";
import { expectAccessible } from "../support/accessible";
import { allSaved, attemptIn, expect, goTo, handIn, startFromBrief, test } from "../support/house";

const picture = (colour: string, width = 1_600, height = 1_200) =>
  sharp({ create: { width, height, channels: 3, background: colour } })
    .png({ compressionLevel: 0 })
    .toBuffer();

test("an essay is written by keyboard alone, with a heading, a list, a table, a formula and a picture; it counts its words and is kept as it is", async ({
  page,
  house,
}) => {
  test.setTimeout(90_000);
  await house.signIn(page, "rosalind.takahashi");
  await startFromBrief(page, house, "Two short essays on the meadow");
  const text = page.getByRole("textbox", { name: /hay meadow/ });
  await text.focus();
  await page.keyboard.type("What changes");
  await page.getByRole("button", { name: "Heading" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Heading" })).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("End");
  await page.keyboard.press("Enter");
  await page.keyboard.type("Fewer flowers set seed.");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "List", exact: true }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.type("bumblebees first");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Formula" }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.type("N_5 = N_0 q^5");
  await page.keyboard.press("Enter");
  await expect(text.locator(".katex").first()).toBeVisible();
  await text.focus();
  await page.keyboard.press("Control+End");
  await page.getByRole("button", { name: "Table", exact: true }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.type("year");
  await page.keyboard.press("Tab");
  await page.keyboard.type("bees");
  await expect(page.getByRole("group", { name: "Table" })).toBeVisible();
  await expect(
    page.getByText(/^\d+ words, \d+ fewer than asked for · asked for: 150 to 300 words$/),
  ).toBeVisible();
  await expectAccessible(page, "an essay in the writing");
  await allSaved(page);

  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Picture" }).focus();
  await page.keyboard.press("Enter");
  await (await chooser).setFiles({
    name: "meadow.png",
    mimeType: "image/png",
    buffer: await picture("#7a4"),
  });
  await expect(text.locator("img[src]")).toHaveAttribute("src", /\/api\/attempts\/.+\/files\//);
  await allSaved(page);

  const attempt = attemptIn(page);
  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(text.getByRole("heading", { name: "What changes" })).toBeVisible();
  await expect(text.getByRole("listitem")).toContainText("bumblebees first");
  await expect(
    text.getByRole("cell", { name: "year" }).or(text.getByRole("columnheader", { name: "year" })),
  ).toBeVisible();
  await expect(text.locator(".katex").first()).toBeVisible();
  await expect
    .poll(() => text.locator("img[src]").evaluate((img: HTMLImageElement) => img.naturalWidth))
    .toBe(1_600);
  const kept = await house.answer(attempt, 1);
  expect(kept.rich).toContain("<h3>What changes</h3>");
  expect(kept.rich).toContain("N_5 = N_0 q^5");

  await handIn(page);
  const marks = await house.sql`select awaiting from mark where attempt_id = ${attempt} order by slot`;
  // A person marks what was written; an essay left empty gets nothing.
  expect(marks.map((row) => Number(row.awaiting))).toEqual([10, 0, 0]);
  // Nothing is marked yet: what was handed in reads as it was written, the formula drawn.
  await expect(page.getByRole("link", { name: "Marked paper" })).toHaveCount(0);
  await page.getByRole("link", { name: "What was handed in" }).click();
  await expect(page.getByRole("heading", { name: "What changes" })).toBeVisible();
  await expect(page.locator("main .katex").first()).toBeVisible();
  await expect(page.locator("main img[src*='/files/']")).toBeVisible();
  await expectAccessible(page, "what was handed in, with an essay");
});

test("whoever writes faster than a slow device draws loses no letter of an essay", async ({
  page,
  house,
}) => {
  await house.signIn(page, "mbali.arkwell");
  await startFromBrief(page, house, "Two short essays on the meadow");
  const text = page.getByRole("textbox", { name: /hay meadow/ });
  await text.click();
  await page.getByRole("button", { name: "List", exact: true }).focus();
  const words = "Bumblebees first, then the solitary bees.";
  const slow = await page.context().newCDPSession(page);
  await slow.send("Emulation.setCPUThrottlingRate", { rate: 8 });
  // All keys are on their way before the first of them is drawn, as when a device hangs for a moment.
  const enter = { key: "Enter", code: "Enter", windowsVirtualKeyCode: 13 };
  await Promise.all([
    slow.send("Input.dispatchKeyEvent", { type: "keyDown", text: "\r", ...enter }),
    slow.send("Input.dispatchKeyEvent", { type: "keyUp", ...enter }),
    ...[...words].map((key) => slow.send("Input.dispatchKeyEvent", { type: "char", text: key })),
  ]);
  await slow.send("Emulation.setCPUThrottlingRate", { rate: 1 });
  await expect(text.getByRole("listitem")).toHaveText(words);
  await allSaved(page);
  expect((await house.answer(attemptIn(page), 1)).rich).toBe(`<ul><li><p>${words}</p></li></ul>`);
});

test("a picture is pasted into an essay, and dropped on it; what is written next takes the place of neither", async ({
  page,
  house,
}) => {
  await house.signIn(page, "efua.moorcroft");
  await startFromBrief(page, house, "Two short essays on the meadow");
  const text = page.getByRole("textbox", { name: /hay meadow/ });
  await text.focus();
  await page.keyboard.type("As in the picture:");
  const hand = async (event: "paste" | "drop", colour: string) => {
    const bytes = [...(await picture(colour, 40, 30))];
    await text.evaluate(
      (element, [kind, content]) => {
        const data = new DataTransfer();
        data.items.add(new File([new Uint8Array(content)], "meadow.png", { type: "image/png" }));
        const init = { bubbles: true, cancelable: true };
        const words = [...element.querySelectorAll("p")].at(-1) ?? element;
        words.scrollIntoView({ block: "center" });
        const { right, top } = words.getBoundingClientRect();
        element.dispatchEvent(
          kind === "paste"
            ? new ClipboardEvent("paste", { ...init, clipboardData: data })
            : new DragEvent("drop", { ...init, dataTransfer: data, clientX: right - 5, clientY: top + 5 }),
        );
      },
      [event, bytes] as const,
    );
  };
  const pictures = text.locator("img[src*='/files/']");
  await hand("paste", "#7a4");
  await expect(pictures).toHaveCount(1);
  await page.keyboard.type("and, a year later:");
  // It goes where it is dropped, not where the cursor is.
  await page.keyboard.press("Control+Home");
  await hand("drop", "#47a");
  await expect(pictures).toHaveCount(2);
  // Nothing that is selected is lost to it.
  await page.keyboard.type("The end.");
  await page.keyboard.press("Shift+Home");
  await hand("paste", "#a47");
  await expect(pictures).toHaveCount(3);
  await page.getByRole("button", { name: "Formula" }).click();
  await page.keyboard.type("q^2");
  await page.keyboard.press("Enter");
  await expect(text.locator(".katex")).toHaveCount(1);
  await page.keyboard.type(" is left.");
  await allSaved(page);
  const { rich } = await house.answer(attemptIn(page), 1);
  expect(
    rich
      .replace(/<figure[^>]*><img[^>]*><\/figure>/g, "[picture]")
      .replace(/<span[^>]*><\/span>/g, "[formula]"),
  ).toBe(
    "<p>As in the picture:</p>[picture]<p>and, a year later:</p>[picture]<p>The end.</p>[picture]<p>[formula] is left.</p>",
  );
  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(pictures).toHaveCount(3);
  await expect(text).toContainText("As in the picture:");
});

test("files are dropped on the folder: taken as if chosen", async ({ page, house }) => {
  await house.signIn(page, "wanjiru.holloway");
  await startFromBrief(page, house, "Pages of the field notebook");
  const bytes = [...(await picture("#cde", 20, 20))];
  await page
    .getByText("or drop", { exact: false })
    .first()
    .evaluate((element, content) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(content)], "page one.png", { type: "image/png" }));
      element.dispatchEvent(new DragEvent("drop", { bubbles: true, cancelable: true, dataTransfer: data }));
    }, bytes);
  const list = page.getByRole("list", { name: "Your files" });
  await expect(list.getByRole("listitem")).toContainText("on the server");
  await expect(list.getByRole("img")).toBeVisible();
  await allSaved(page);
  expect((await house.answer(attemptIn(page), 1)).files).toMatchObject([{ name: "page one.png" }]);
});

test("a point is placed, moved and removed by keyboard, and marked by where it stands; by pointer too, and zoomed", async ({
  page,
  house,
}) => {
  await house.signIn(page, "mbali.arkwell");
  await startFromBrief(page, house, "Bees and flowers, on one page");
  const question = page.getByRole("region", { name: "Question 1 of 6" });
  const place = question.getByRole("button", { name: "Place a point in the middle" });
  const steps = async (key: string, count: number) => {
    for (let i = 0; i < count; i += 1) await page.keyboard.press(key);
  };
  await place.focus();
  await page.keyboard.press("Enter");
  await expect(question.getByRole("button", { name: /^Point 1, 50 % across, 50 % down/ })).toBeFocused();
  await steps("ArrowLeft", 14);
  await steps("ArrowUp", 11);
  await expect(question.getByRole("button", { name: /^Point 1, 36 % across, 39 % down/ })).toBeFocused();
  await place.focus();
  await page.keyboard.press("Enter");
  await expect(question.getByText("2 of 2 placed")).toBeVisible();
  await page.keyboard.press("Delete");
  await expect(question.getByText("1 of 2 placed")).toBeVisible();
  // The focus is not lost with the point.
  await expect(place).toBeFocused();
  await page.keyboard.press("Enter");
  await steps("Shift+ArrowRight", 3);
  await steps("ArrowLeft", 1);
  await steps("ArrowUp", 11);
  await expect(question.getByRole("button", { name: /^Point 2, 64 % across, 39 % down/ })).toBeFocused();
  await expectAccessible(page, "points on a picture");
  await allSaved(page);
  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(question.getByRole("button", { name: /^Point 2, 64 % across, 39 % down/ })).toBeVisible();

  // By pointer: dragged away and back, zoomed in.
  await question.getByRole("button", { name: "2 ×", exact: true }).click();
  const point = question.getByRole("button", { name: /^Point 1/ });
  const [from, frame] = await Promise.all([point.boundingBox(), question.getByRole("img").boundingBox()]);
  if (!from || !frame) throw new Error("no picture");
  await page.mouse.move(from.x + 14, from.y + 14);
  await page.mouse.down();
  await page.mouse.move(from.x + 14 + frame.width * 0.1, from.y + 14, { steps: 5 });
  await page.mouse.up();
  await expect(question.getByRole("button", { name: /^Point 1, 46 % across/ })).toBeVisible();
  await point.focus();
  await steps("Shift+ArrowLeft", 2);
  await allSaved(page);
  const attempt = attemptIn(page);
  await handIn(page);
  const [mark] = await house.sql`select marks from mark where attempt_id = ${attempt} and slot = 1`;
  expect(mark?.marks).toBe("2.0000");
  await page.getByRole("link", { name: "Marked paper" }).click();
  await expect(
    page.getByText("Numbered: your points. Dashed: the left anther, the right anther."),
  ).toBeVisible();
  await page.goto(`${page.url()}?q=2`);
  await expect(page.locator("main li img")).toHaveCount(2);
  await page.goto(`${page.url().replace("q=2", "q=4")}`);
  await expect(page.locator("main li .katex")).toHaveCount(3);
  await expectAccessible(page, "marked paper with formulas");
});

test("files are brought, looked at, replaced and removed; what is wrong with one is said, and the rest stays", async ({
  page,
  house,
}) => {
  test.setTimeout(90_000);
  await house.signIn(page, "elin.karimi");
  await startFromBrief(page, house, "Pages of the field notebook");
  const bring = async (...files: { name: string; mimeType: string; buffer: Buffer }[]) => {
    const chooser = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "Choose files" }).focus();
    await page.keyboard.press("Enter");
    await (await chooser).setFiles(files);
  };
  const list = page.getByRole("list", { name: "Your files" });
  await bring({ name: "page one.png", mimeType: "image/png", buffer: await picture("#cde") });
  await expect(list.getByRole("listitem")).toContainText("on the server");
  await expect(list.getByRole("img")).toBeVisible();
  await allSaved(page);

  // By its content, whatever it is called.
  await bring({ name: "page two.png", mimeType: "image/png", buffer: Buffer.from("MZ this is a program") });
  await expect(
    list.getByText("“page two.png” is not a picture or a PDF by its content, so it was not taken."),
  ).toBeVisible();
  await expectAccessible(page, "a file refused");
  await page.getByRole("button", { name: /^I have read it/ }).click();
  await bring(
    { name: "a.png", mimeType: "image/png", buffer: await picture("#edc", 10, 10) },
    { name: "b.png", mimeType: "image/png", buffer: await picture("#dec", 10, 10) },
  );
  await expect(page.getByRole("alert")).toHaveText(
    "You can bring 1 more here; 2 were chosen, so none was taken.",
  );
  await page.getByLabel("Beside your files").fill("The second page was lost to the rain.");
  await allSaved(page);

  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(list.getByRole("listitem")).toHaveCount(1);
  await expect(page.getByLabel("Beside your files")).toHaveValue("The second page was lost to the rain.");
  await list.getByRole("button", { name: /^Remove/ }).click();
  await expect(list.getByRole("listitem")).toHaveCount(0);
  await allSaved(page);
  expect(await house.answer(attemptIn(page), 1)).toEqual({
    files: [],
    text: "The second page was lost to the rain.",
  });

  await bring({ name: "page one.png", mimeType: "image/png", buffer: await picture("#cde", 20, 20) });
  await expect(list.getByRole("listitem")).toContainText("on the server");
  await allSaved(page);
  const attempt = attemptIn(page);
  await handIn(page);
  const marks = await house.sql`select awaiting from mark where attempt_id = ${attempt} order by slot`;
  expect(marks.map((row) => Number(row.awaiting))).toEqual([6, 0, 0]);
  // The file is there as it was handed in.
  await page.getByRole("link", { name: "What was handed in" }).click();
  await expect(page.getByRole("link", { name: "page one.png", exact: true })).toBeVisible();
  await expect(page.getByText("The second page was lost to the rain.")).toBeVisible();
  await expectAccessible(page, "what was handed in, with files");
});

test("a file whose connection is lost goes on where it broke off, also after a reload without a network", async ({
  browser,
  house,
}) => {
  test.setTimeout(90_000);
  const page = await house.page(browser, "ottoline.diaz");
  await startFromBrief(page, house, "Pages of the field notebook");
  const attempt = attemptIn(page);
  // The name is there before what it holds, and the worker before it answers for the page.
  await page.waitForFunction(async () => {
    if (!navigator.serviceWorker.controller) return false;
    return (await (await caches.open("desk-pages")).match(location.pathname)) !== undefined;
  });
  const chooser = page.waitForEvent("filechooser");
  let pieces = 0;
  await page.context().route("**/files/*", async (route) => {
    pieces += 1;
    if (pieces === 4) await page.context().setOffline(true);
    await route.continue();
  });
  await page.getByRole("button", { name: "Choose files" }).click();
  // About 5 MB: twenty pieces and more.
  const big = await picture("#abc", 1_500, 1_200);
  await (await chooser).setFiles({ name: "big.png", mimeType: "image/png", buffer: big });
  await expect(page.getByRole("status").filter({ hasText: "waits for the connection" })).toBeVisible();
  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  await expect(page.getByRole("list", { name: "Your files" })).toContainText("big.png");
  await page.context().unrouteAll({ behavior: "ignoreErrors" });
  await page.context().setOffline(false);
  await expect(page.getByRole("list", { name: "Your files" })).toContainText("on the server", {
    timeout: 30_000,
  });
  await allSaved(page);
  const answer = await house.answer(attempt, 1);
  expect(answer.files).toMatchObject([{ name: "big.png", size: big.length }]);
  const [row] = await house.sql`
    select sum(length(bytes))::int as bytes from upload_piece where upload_id = ${answer.files[0].id}`;
  expect(row?.bytes).toBe(big.length);
});

test("on a phone: a point by touch, the list of all questions, and an order by its buttons", async ({
  browser,
  house,
}) => {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  });
  const page = await context.newPage();
  await house.signIn(page, "josefa.lyle");
  await startFromBrief(page, house, "Field day warm-up");
  await page.getByRole("radio", { name: "False" }).tap();
  await page.getByRole("button", { name: /saved, all questions$/ }).tap();
  await expectAccessible(page, "all questions, listed");
  await page
    .getByRole("navigation", { name: "Questions with their first words" })
    .getByRole("listitem")
    .nth(4)
    .getByRole("button")
    .tap();
  await page
    .getByRole("button", { name: /^Move down/ })
    .first()
    .tap();
  await expect(page.getByText("This order is your answer.")).toBeVisible();
  await allSaved(page);
  await goTo(page, 4);
  await expect(page.getByRole("combobox").first()).toBeVisible();
  await context.close();
});
