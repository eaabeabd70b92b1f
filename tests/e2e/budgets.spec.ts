import { readFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync } from "node:zlib";
import { allSaved, atDesk, expect, startFromBrief, test } from "../support/house";

test("the desk ships at most 150 kB of compressed script and words before the first answer, in either language", async ({
  page,
  house,
}) => {
  await house.signIn(page, "mbali.arkwell");
  const scripts = new Set<string>();
  page.on("response", (response) => {
    const path = new URL(response.url()).pathname;
    if (path.endsWith(".js")) scripts.add(path);
  });
  await startFromBrief(page, house, "Flower shapes");
  for (const language of ["en", "ja"]) {
    scripts.clear();
    await page.context().addCookies([{ name: "shizuka.language", value: language, url: house.url }]);
    await page.reload();
    await page.locator("[data-ready=true]").waitFor();
    expect(scripts.size).toBeGreaterThan(2);
    const words = brotliCompressSync((await page.locator("#words").textContent()) ?? "").length;
    expect(words).toBeGreaterThan(1_000);
    const size = [...scripts]
      .map((path) => brotliCompressSync(readFileSync(join("dist/client", path))).length)
      .reduce((sum, each) => sum + each, words);
    const description = `${language}: ${(size / 1024).toFixed(1)} kB, of them words ${(words / 1024).toFixed(1)}`;
    test.info().annotations.push({ type: "size", description });
    console.log(description);
    expect(size).toBeLessThan(150 * 1024);
  }
});

test("what is saved, asked and heard goes past the worker that keeps the desk, and never waits for it", async ({
  page,
  house,
}) => {
  await house.signIn(page, "wanjiru.holloway");
  await startFromBrief(page, house, "Flower shapes");
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller?.state)).toBe("activated");
  await page.reload();
  await atDesk(page);
  await page.getByRole("radio").first().check();
  await allSaved(page);
  const ways = await page.evaluate(() =>
    performance
      .getEntriesByType("resource")
      .concat(performance.getEntriesByType("navigation"))
      .map((entry) => ({
        path: new URL(entry.name).pathname,
        // By the worker unless the browser itself was told otherwise.
        way: (entry as { workerFinalSourceType?: string }).workerFinalSourceType || "worker",
      })),
  );
  // The page itself goes by the worker, which can bring it without a network.
  expect(ways).toContainEqual({ path: new URL(page.url()).pathname, way: "worker" });
  const asked = ways.filter(({ path }) => path.startsWith("/api/"));
  expect(asked.map(({ path }) => path)).toContainEqual(expect.stringMatching(/\/save$/));
  expect(new Set(asked.map(({ way }) => way))).toEqual(new Set(["network"]));
});

test("pages come compressed, assets are kept for good, and no script runs that we did not write", async ({
  page,
  request,
  house,
}) => {
  await house.signIn(page, "elin.karimi");
  const answer = await page.goto(`${house.url}/today`);
  const headers = (await answer?.allHeaders()) ?? {};
  expect(headers["content-encoding"]).toMatch(/gzip|br/);
  const policy = headers["content-security-policy"] ?? "";
  expect(policy).toContain("default-src 'self'");
  expect(/script-src[^;]*/.exec(policy)?.[0]).not.toMatch(/unsafe|\*|http/);
  const ran = await page.evaluate(() => {
    const script = document.createElement("script");
    script.textContent = "window.ran = true";
    document.head.append(script);
    return "ran" in window;
  });
  expect(ran).toBe(false);
  const sheet = await page.locator("link[rel=stylesheet]").first().getAttribute("href");
  const asset = await request.get(`${house.url}${sheet}`, { headers: { "accept-encoding": "br" } });
  expect(asset.headers()["cache-control"]).toContain("immutable");
  expect(asset.headers()["content-encoding"]).toBe("br");
});
