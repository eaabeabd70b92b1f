import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { ensureChromium } from "./lib/browser.mjs";
import { startCluster } from "./lib/postgres.mjs";
import { createDemoTemplate } from "./lib/server.mjs";
import { ensureBuild, ensurePackages, main, ROOT, runShown, say } from "./lib/steps.mjs";

/**
 * `npm test`: everything from a fresh clone, on a cluster and ports of its own. The first argument may name one part
 * (checks, unit, e2e); what follows goes to its runner: `npm test e2e desk`. The last line is "N passed, N failed".
 */
const [part, ...rest] = process.argv.slice(2);
const wanted = (name) => part === undefined || part === name;
const results = join(ROOT, ".shizuka/results");
const env = {
  ...process.env,
  ASTRO_TELEMETRY_DISABLED: "1",
  ASTRO_DISABLE_UPDATE_CHECK: "true",
  FORCE_COLOR: "0",
};
let passed = 0;
let failed = 0;
/** Parts with a failure, named at the very end: what a part printed may be thousands of lines further up. */
const failedParts = [];

function count(part, ok, bad) {
  passed += ok;
  failed += bad;
  if (bad > 0) failedParts.push(part);
}

async function check(name, command, args) {
  say(`\n== ${name}`);
  const code = await runShown(command, args, { env });
  count(name, code === 0 ? 1 : 0, code === 0 ? 0 : 1);
}

/** Counts what a runner wrote down; a runner that ends badly without a failed test counts as one. */
function countFile(part, file, code, read) {
  if (!existsSync(file)) return count(part, 0, 1);
  const [ok, bad] = read(JSON.parse(readFileSync(file, "utf8")));
  count(part, ok, bad === 0 && code !== 0 ? 1 : bad);
}

async function unit(cluster) {
  say("\n== unit and database tests");
  const file = join(results, "unit.json");
  const args = [
    "vitest",
    "run",
    "--reporter=default",
    "--reporter=json",
    `--outputFile.json=${file}`,
    ...rest,
  ];
  const code = await runShown("npx", args, { env: { ...env, TEST_CLUSTER: cluster.url("") } });
  countFile("unit and database tests", file, code, (report) => [
    report.numPassedTests,
    report.numFailedTests,
  ]);
}

async function endToEnd(cluster) {
  say("\n== end to end, in Chromium");
  const file = join(results, "e2e.json");
  const code = await runShown("npx", ["playwright", "test", ...rest], {
    env: {
      ...env,
      TEST_CLUSTER: cluster.url(""),
      CHROMIUM: ensureChromium(),
      PLAYWRIGHT_JSON_OUTPUT_NAME: file,
    },
  });
  countFile("end to end", file, code, ({ stats }) => [stats.expected + stats.flaky, stats.unexpected]);
}

await main(async () => {
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });
  await ensurePackages();
  if (wanted("checks")) {
    await check("format and lint", "npx", ["biome", "ci", "--colors=off", "."]);
    await check("types", "npx", ["astro", "check"]);
    await check("arrows", "node", ["tools/check-arrows.mjs"]);
    await check("words", "node", ["tools/check-words.mjs"]);
    await check("documents", "node", ["tools/check-docs.mjs"]);
    await check("nothing unused", "npx", ["knip"]);
  }
  if (wanted("unit") || wanted("e2e")) {
    await ensureBuild();
    const cluster = await startCluster("test", { fresh: true, fast: true });
    try {
      await createDemoTemplate(cluster);
      if (wanted("unit")) await unit(cluster);
      if (wanted("e2e")) await endToEnd(cluster);
    } finally {
      cluster.stop("immediate");
    }
  }
  process.exitCode = failed === 0 && passed > 0 ? 0 : 1;
  if (failedParts.length > 0) say(`\nFailed: ${failedParts.join(", ")}`);
  say(`\n${passed} passed, ${failed} failed`);
});
