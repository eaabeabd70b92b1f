import { readFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync } from "node:zlib";
import { expect, startFromBrief, test } from "../support/house";

test("the desk ships at most 150 kB of compressed script before the first answer", async ({
  page,
  house,
}) => {
  await house.signIn(page, "mbali.arkwright");
  const scripts = new Set<string>();
  page.on("response", (response) => {
    const path = new URL(response.url()).pathname;
    if (path.endsWith(".js")) scripts.add(path);
  });
  await startFromBrief(page, house, "Flower shapes");
  scripts.clear();
  await page.reload();
  await page.locator("[data-ready=true]").waitFor();
  expect(scripts.size).toBeGreaterThan(2);
  const size = [...scripts]
    .map((path) => brotliCompressSync(readFileSync(join("dist/client", path))).length)
    .reduce((a, b) => a + b);
  test.info().annotations.push({ type: "size", description: `${(size / 1024).toFixed(1)} kB` });
  expect(size).toBeLessThan(150 * 1024);
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
