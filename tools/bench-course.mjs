import { Agent, request } from "node:http";
import { onBench } from "./lib/bench.mjs";
import { CHROMIUM_ARGS, ensureChromium } from "./lib/browser.mjs";
import { call, cookiesOf } from "./lib/http.mjs";
import { simulateClass } from "./lib/simulated-class.mjs";
import { main, say } from "./lib/steps.mjs";

/**
 * A course of five hundred: how long its gradebook of sixty pieces of work takes to open, to scroll and to set a mark in; how
 * soon each change is on the screen of whoever watches five hundred write; and what watching costs their saves; beside a plain
 * page, and saves that nobody watches, in the same run.
 */
const ROUNDS = 7;
const WRITING = Number(process.env.WRITING ?? 500);
/** Seconds between two answers of one student, and how long it is looked on, with and without somebody watching. */
const PACE = 20;
const LOOKED = 45;
const agent = new Agent({ keepAlive: true });

const at = (share) => (times) =>
  [...times].sort((a, b) => a - b)[Math.floor((times.length - 1) * share)] ?? 0;
const [half, most] = [at(0.5), at(0.95)];
const sleep = (ms) => new Promise((done) => setTimeout(done, ms));

await main(() =>
  onBench(
    async ({ url, databaseUrl }) => {
      const { default: postgres } = await import("postgres");
      const sql = postgres(databaseUrl, { max: 2 });
      const cookie = await signedIn(url, "ines.marsh@alderquay.example");
      const { chromium } = await import("@playwright/test");
      const browser = await chromium.launch({ executablePath: ensureChromium(), args: CHROMIUM_ARGS });
      try {
        const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
        await context.addCookies(
          cookie.split("; ").map((each) => {
            const [name, ...value] = each.split("=");
            return { name, value: value.join("="), domain: new URL(url).hostname, path: "/" };
          }),
        );
        await gradebook(await context.newPage(), url, cookie);
        await watch(await context.newPage(), url, sql, cookie);
      } finally {
        await browser.close();
        await sql.end();
      }
    },
    { SHIZUKA_DEMO_LARGE: "1", PROCESSES: "2" },
  ),
);

async function signedIn(url, email) {
  const body = new URLSearchParams({ email, password: "quiet harbour" }).toString();
  const type = "application/x-www-form-urlencoded";
  return cookiesOf(await call({ agent, url, method: "POST", path: "/sign-in", body, type }));
}

async function gradebook(page, url, cookie) {
  const path = "/api/courses/nav-200/gradebook";
  const times = [];
  let answer;
  for (let i = 0; i < ROUNDS; i += 1) {
    const from = performance.now();
    answer = await call({ agent, url, method: "GET", path, cookie });
    times.push(performance.now() - from);
  }
  const queries = /(\d+) queries/.exec(answer.headers["server-timing"] ?? "")?.[1] ?? "?";
  say(
    `the table of 500 x 60: half within ${half(times).toFixed(0)} ms, ${queries} queries, ${(answer.text.length / 1024).toFixed(0)} kB`,
  );
  const [opened, plain] = [[], []];
  for (let i = 0; i < ROUNDS; i += 1)
    for (const [to, found, there] of [
      ["/help/desk", plain, "main"],
      ["/courses/nav-200/gradebook", opened, "[role=gridcell]"],
    ]) {
      const from = performance.now();
      await page.goto(url + to, { waitUntil: "commit" });
      await page.locator(there).first().waitFor();
      found.push(performance.now() - from);
    }
  say(
    `the gradebook opens in Chromium: half within ${half(opened).toFixed(0)} ms, the slowest ${Math.max(...opened).toFixed(0)} ms (a plain page ${half(plain).toFixed(0)} ms: ${(half(opened) / half(plain)).toFixed(1)} times that)`,
  );
  const frames = await page.evaluate(scrolled);
  say(
    `scrolled through, down and sideways: ${frames.length} frames, half within ${half(frames).toFixed(0)} ms, the slowest ${Math.max(...frames).toFixed(0)} ms`,
  );
}

/** In the page: the time of each frame while the table is scrolled through, in milliseconds. */
function scrolled() {
  const grid = document.querySelector("[role=grid]");
  const frames = [];
  return new Promise((done) => {
    let last = performance.now();
    let n = 0;
    const step = () => {
      const now = performance.now();
      frames.push(now - last);
      last = now;
      n += 1;
      grid.scrollTop = (n / 240) * grid.scrollHeight;
      grid.scrollLeft = ((n % 120) / 120) * grid.scrollWidth;
      if (n < 240) requestAnimationFrame(step);
      else done(frames.slice(1));
    };
    requestAnimationFrame(step);
  });
}

async function watch(page, url, sql, cookie) {
  const stop = new AbortController();
  const { quizId, done, saves, figures } = await simulateClass({
    url,
    sql,
    students: WRITING,
    pace: PACE,
    say,
    signal: stop.signal,
  });
  say(`${WRITING} write, an answer of each about every ${PACE} s`);
  const timesOfSaves = async () => {
    figures.times.length = 0;
    await sleep(LOOKED * 1_000);
    return figures.times.map(({ took }) => took);
  };
  // Once without a watch, once with, once without: the machine may change in between.
  const before = await timesOfSaves();
  await page.goto(`${url}/quizzes/${quizId}/watch`);
  await page.locator("[data-ready=true]").waitFor();
  await page.evaluate(noteChanges);
  saves.length = 0;
  const watched = await timesOfSaves();
  const seen = await page.evaluate(() => globalThis.seenChanges);
  const lags = lagsOf(saves, seen);
  const longest = await page.evaluate(() => Math.max(...globalThis.longTasks, 0));
  await page.goto("about:blank");
  // What watching costs the server, without the work of a browser on the same machine.
  const stream = request(`${url}/api/quizzes/${quizId}/watch`, { headers: { cookie } }, (answer) =>
    answer.resume(),
  );
  stream.on("error", () => {});
  stream.end();
  const streamed = await timesOfSaves();
  stream.destroy();
  const after = await timesOfSaves();
  const alone = [...before, ...after];
  say(
    `${lags.length} changes were on the screen of the watch: half within ${half(lags).toFixed(0)} ms, 95 % within ${most(lags).toFixed(0)} ms of being saved; the page was never busy longer than ${longest.toFixed(0)} ms`,
  );
  const against = (times) =>
    `half within ${half(times).toFixed(1)} ms, 95 % within ${most(times).toFixed(1)} ms (${(half(times) / half(alone)).toFixed(2)} and ${(most(times) / most(alone)).toFixed(2)} times those)`;
  say(
    `saves that nobody watches: half within ${half(alone).toFixed(1)} ms, 95 % within ${most(alone).toFixed(1)} ms`,
  );
  say(
    `saves that are watched: ${against(streamed)}; with the browser on the same machine: ${against(watched)}`,
  );
  stop.abort();
  await done;
}

/** In the page: when the number of answers of each line was seen to be which. */
function noteChanges() {
  globalThis.seenChanges = [];
  globalThis.longTasks = [];
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) globalThis.longTasks.push(duration);
  }).observe({ entryTypes: ["longtask"] });
  const known = new Map();
  const look = () => {
    for (const row of document.querySelectorAll("tr[data-attempt]")) {
      const text = row.dataset.saved;
      if (known.get(row.dataset.attempt) === text) continue;
      known.set(row.dataset.attempt, text);
      globalThis.seenChanges.push({ attemptId: row.dataset.attempt, savedAt: Number(text), at: Date.now() });
    }
    requestAnimationFrame(look);
  };
  look();
  // What stood there at first is no change.
  globalThis.seenChanges.length = 0;
}

/** From each save to when a state of that moment or later was on the screen, in milliseconds. */
function lagsOf(saves, seen) {
  const byAttempt = new Map();
  for (const each of seen) byAttempt.set(each.attemptId, [...(byAttempt.get(each.attemptId) ?? []), each]);
  return saves.flatMap(({ at: saved, attemptId }) => {
    // A save is noted once its answer is here: the server took it in a little before.
    const shown = byAttempt
      .get(attemptId)
      ?.find(({ savedAt, at: on }) => on >= saved - 200 && savedAt >= saved - 1_500);
    return shown ? [Math.max(0, shown.at - saved)] : [];
  });
}
