import { expect, House, startFromBrief, test } from "../support/house";

let house: House;
test.beforeAll(async () => {
  house = await House.open();
});
test.afterAll(() => house.close());

test("a desk whose page comes drop by drop comes alive, in either language", async ({ browser }) => {
  // As on a first visit with scripts already kept: no worker answers with a page of before.
  const context = await browser.newContext({ serviceWorkers: "block" });
  const page = await context.newPage();
  const failures: string[] = [];
  page.on("pageerror", ({ message }) => failures.push(message));
  await house.signIn(page, "bao.lindqvist");
  await startFromBrief(page, house, "Tides and clearances");
  const network = await context.newCDPSession(page);
  for (const language of ["en", "ja"]) {
    await context.addCookies([{ name: "shizuka.language", value: language, url: house.url }]);
    // All that the page loads is kept now, so that it is there long before the page is.
    await page.reload();
    await page.locator("[data-ready=true]").waitFor();
    await network.send("Network.emulateNetworkConditions", {
      offline: false,
      latency: 20,
      downloadThroughput: 6_000,
      uploadThroughput: 50_000,
    });
    await page.reload();
    await page.locator("[data-ready=true]").waitFor({ timeout: 60_000 });
    await network.send("Network.emulateNetworkConditions", {
      offline: false,
      latency: 0,
      downloadThroughput: -1,
      uploadThroughput: -1,
    });
  }
  expect(failures).toEqual([]);
  await context.close();
});
