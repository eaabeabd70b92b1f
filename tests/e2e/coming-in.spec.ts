import { expectAccessible } from "../support/accessible";
import { expect, House, test } from "../support/house";
import { timeCode } from "../support/time-code";

let house: House;
test.beforeAll(async () => {
  house = await House.open();
});
test.afterAll(async () => {
  await house.close();
});

test("a second factor is set up in the profile, asked for at sign-in, and a recovery code goes in its place", async ({
  page,
}) => {
  const signIn = async () => {
    await page.goto(`${house.url}/sign-in`);
    await page.getByLabel("E-mail address").fill("uma.granlund@alderquay.example");
    await page.getByLabel("Password").fill("quiet harbour");
    await page.locator("form.mt-7").getByRole("button", { name: "Sign in" }).click();
  };
  await signIn();
  await page.waitForURL("**/today");
  await page.goto(`${house.url}/profile`);
  await page.getByRole("link", { name: "Set it up" }).click();
  await expectAccessible(page, "before the second factor");
  await page.getByLabel("Your password").fill("quiet harbour");
  await page.getByRole("button", { name: "Set it up" }).click();
  await expectAccessible(page, "setting the second factor up");
  const secret = ((await page.locator("code").textContent()) ?? "").replace(/\s/g, "");
  const recovery = (await page.locator("ul.font-mono li").first().textContent()) ?? "";
  await page.getByLabel("The six digits that are shown now").fill("000000");
  await page.getByRole("button", { name: "From now on ask for a code" }).click();
  await expect(page.getByRole("alert")).toContainText("The code is not right");
  await page.getByLabel("The six digits that are shown now").fill(timeCode(secret));
  await page.getByRole("button", { name: "From now on ask for a code" }).click();
  await expect(page.getByRole("status").first()).toHaveText("From now on signing in asks for a code.");

  await page.goto(`${house.url}/sign-out`);
  await page.getByRole("button", { name: "Sign out" }).click();
  await page.waitForURL("**/sign-in");
  await signIn();
  await page.waitForURL("**/sign-in/code**");
  await expectAccessible(page, "the second step");
  await page.goto(`${house.url}/today`);
  await page.waitForURL(/sign-in/);
  await signIn();
  await page.getByLabel("Code").fill("123456");
  await page.getByRole("button", { name: "Go on" }).click();
  await expect(page.getByRole("alert")).toContainText("The code is not right");
  await page.getByLabel("Code").fill(timeCode(secret));
  await page.getByRole("button", { name: "Go on" }).click();
  await page.waitForURL("**/today");

  await page.context().clearCookies();
  await signIn();
  await page.getByLabel("Code").fill(recovery);
  await page.getByRole("button", { name: "Go on" }).click();
  await page.waitForURL("**/today");
});

test("after signing in one goes on within this site alone, however the address is written", async ({
  page,
}) => {
  for (const after of [
    "/%09/evil.example",
    "//evil.example",
    "/\\evil.example",
    "https://evil.example",
    "/%2f/evil.example/..//evil.example",
    "javascript:alert(1)",
  ]) {
    await page.context().clearCookies();
    const address = after.includes("%") ? after : encodeURIComponent(after);
    await page.goto(`${house.url}/sign-in?after=${address}`);
    await page.getByRole("button", { name: "Sign in as Noor Haldane" }).click();
    await page.waitForLoadState();
    expect(new URL(page.url()).origin, after).toBe(house.url);
  }
});

test("with an address over TLS cookies are bound to it, and browsers are told to stay with it", async ({
  request,
}) => {
  const secure = await House.open({ SHIZUKA_ADDRESS: "https://quiz.alderquay.example" });
  try {
    const answer = await request.post(`${secure.url}/sign-in`, {
      form: { email: "noor.haldane@alderquay.example", password: "quiet harbour" },
      headers: { origin: secure.url },
      maxRedirects: 0,
    });
    expect(answer.status()).toBe(303);
    const cookies = answer
      .headersArray()
      .filter(({ name }) => name.toLowerCase() === "set-cookie")
      .map(({ value }) => value);
    expect(cookies.length).toBeGreaterThan(1);
    for (const cookie of cookies) {
      expect(cookie).toMatch(/^__Host-shizuka\./);
      expect(cookie).toMatch(/;\s*secure/i);
      expect(cookie).toMatch(/;\s*path=\/(;|$)/i);
      expect(cookie).not.toMatch(/domain=/i);
    }
    expect(answer.headers()["strict-transport-security"]).toContain("max-age=31536000");
    expect(answer.headers()["clear-site-data"]).toBe('"cache"');
    const page = await request.get(`${secure.url}/today`, {
      headers: { cookie: cookies.map((each) => each.split(";")[0]).join("; ") },
      maxRedirects: 0,
    });
    expect(page.status()).toBe(200);
  } finally {
    await secure.close();
  }
});

test("what is kept about one is said, and taken out as one archive", async ({ page }) => {
  await house.signIn(page, "noor.haldane");
  await page.goto(`${house.url}/help/what-is-kept`);
  await expectAccessible(page, "what is kept");
  const coming = page.waitForEvent("download");
  await page.getByRole("link", { name: "Take out my data" }).click();
  const stream = await (await coming).createReadStream();
  const pieces: Buffer[] = [];
  for await (const piece of stream) pieces.push(piece as Buffer);
  const archive = Buffer.concat(pieces);
  expect(archive.subarray(0, 2).toString()).toBe("PK");
  // The names of its files stand in its directory, at the end.
  const names = archive.toString("latin1");
  for (const name of ["about me.json", "gradebook/nav-110.csv", "slip.txt", "marked paper.json"]) {
    expect(names).toContain(name);
  }
});

test("an administrator sees what a rule on keeping would remove, and decides it; to others there is no such page", async ({
  page,
  request,
}) => {
  const student = await house.caller(request, "hana.drummond");
  expect((await student.get("/retention")).status).toBe(404);
  await house.signIn(page, "yuki.brandvold");
  await page.goto(`${house.url}/retention`);
  await expect(page.getByText("No rule was made yet: everything is kept.")).toBeVisible();
  await page.getByLabel("Years after a course's end").fill("3");
  await page.getByRole("button", { name: "Look" }).click();
  await expect(page.getByText("With 3 years, nothing is removed today.")).toBeVisible();
  await expectAccessible(page, "a rule on keeping");
  await page.getByRole("button", { name: "Keep writing for 3 years" }).click();
  await expect(page.getByText("after a course's end, decided by Yuki Brandvold")).toBeVisible();
  await expect(page.getByText("Nothing is removed before")).toBeVisible();
  await page.getByRole("button", { name: "Keep everything without end" }).click();
  await expect(page.getByText("without end", { exact: false }).first()).toBeVisible();
});
