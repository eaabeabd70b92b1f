import { Agent } from "node:http";
import sharp from "sharp";
import { onBench } from "./lib/bench.mjs";
import { browserCookies, CHROMIUM_ARGS, ensureChromium } from "./lib/browser.mjs";
import { call, cookiesOf } from "./lib/http.mjs";
import { main, say } from "./lib/steps.mjs";

/**
 * The composer at size: a quiz of 100 questions with 40 pictures. From the press of a key to the frame that shows it, in
 * Chromium: a letter in a question, a question moved among the others, a step undone; beside a letter in a plain field of the
 * same browser, in the same run.
 */
const QUESTIONS = 100;
const PICTURES = 40;
const LETTERS = 150;
const MOVES = 30;
/** Between two keys, in milliseconds: ten letters a second are more than most write. */
const PAUSE = 100;
const agent = new Agent({ keepAlive: true });

const sorted = (times) => [...times].sort((a, b) => a - b);
const middle = (times) => sorted(times)[Math.floor((times.length - 1) / 2)];
const most = (times) => sorted(times)[Math.floor((times.length - 1) * 0.95)];

const words = (count, from) =>
  Array.from({ length: count }, (_, i) => `word${(from * 7 + i * 13) % 97}`).join(" ");

await main(() =>
  onBench(async ({ url }) => {
    const cookie = await signedIn(url, "ines.marsh@alderquay.example");
    const type = "application/octet-stream";
    const path = "/api/courses/nav-110/quiz-file";
    const body = JSON.stringify(await quiz());
    const { text } = await call({ agent, url, method: "POST", path, cookie, body, type });
    const { id } = JSON.parse(text);
    if (!id) throw new Error(text.slice(0, 500));
    say(`${QUESTIONS} questions with ${PICTURES} pictures, ${(body.length / 1e6).toFixed(1)} MB`);
    await inChromium(url, id, cookie);
  }),
);

async function signedIn(url, email) {
  const body = new URLSearchParams({ email, password: "quiet harbour" }).toString();
  const type = "application/x-www-form-urlencoded";
  return cookiesOf(await call({ agent, url, method: "POST", path: "/sign-in", body, type }));
}

async function quiz() {
  const pictures = await Promise.all(
    Array.from({ length: PICTURES }, async (_, i) => {
      const noise = { type: "gaussian", mean: 60 + i * 4, sigma: 20 };
      const bytes = await sharp({
        create: { width: 640, height: 400, channels: 3, background: "#888", noise },
      })
        .jpeg()
        .toBuffer();
      return { id: `p${i}`, alt: words(6, i), data: `data:image/jpeg;base64,${bytes.toString("base64")}` };
    }),
  );
  const questions = Array.from({ length: QUESTIONS }, (_, i) => {
    const common = {
      id: `q${i}`,
      text: `<p>${words(40, i)}</p>`,
      worked: `<p>${words(30, i + 3)}</p>`,
      ...(i < PICTURES ? { figure: `p${i}` } : {}),
    };
    if (i % 5 === 4)
      return {
        ...common,
        kind: "numeric",
        marks: 2,
        variables: [{ name: "h", from: 2, to: 4, step: 0.1 }],
        parts: ["a", "b"].map((part) => ({
          id: part,
          marks: 1,
          key: part === "a" ? "2 * h" : "a + 1",
          tolerance: { rule: "figures", figures: 2 },
          unit: "m",
        })),
      };
    return {
      ...common,
      kind: "one-of-several",
      marks: 1,
      options: ["a", "b", "c", "d"].map((option, j) => ({
        id: option,
        text: words(5, i + j),
        ...(j === i % 4 ? { right: true } : { feedback: words(9, i + j) }),
      })),
    };
  });
  const sections = Array.from({ length: 5 }, (_, i) => ({
    title: `Section ${i + 1}`,
    questions: questions.slice(i * 20, i * 20 + 20),
  }));
  const reveal = {
    total: "at-hand-in",
    marks: "at-hand-in",
    written: "at-hand-in",
    right: "never",
    worked: "never",
  };
  return {
    format: "shizuka-quiz",
    version: 2,
    title: "The composer at size",
    settings: { timeLimit: 90, attempts: 1, counts: "best", reveal },
    rules: { order: "free" },
    pictures,
    sections,
  };
}

async function inChromium(url, id, cookie) {
  const { chromium } = await import("@playwright/test");
  const browser = await chromium.launch({ executablePath: ensureChromium(), args: CHROMIUM_ARGS });
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    await context.addCookies(browserCookies(url, cookie));
    const page = await context.newPage();
    const measured = async (what, asked, count, does) => {
      await page.evaluate(listen);
      for (let i = 0; i < count; i += 1) {
        await does(i);
        // As fast as fast writers write.
        await page.waitForTimeout(PAUSE);
      }
      const times = await page.evaluate(() => globalThis.frames_);
      const limit = asked === null ? "" : ` (asked: ${asked} ms)`;
      say(
        `${what.padEnd(34)} half within ${middle(times).toFixed(0)} ms, 95 % within ${most(times).toFixed(0)} ms, the slowest ${Math.max(...times).toFixed(0)} ms${limit}`,
      );
    };
    await page.goto(`${url}/courses/nav-110/writing`);
    await page.locator("[data-ready=true]").first().waitFor();
    await page.getByRole("textbox").first().click();
    await measured("a letter in a plain field", null, LETTERS, (i) => page.keyboard.press("abcdefgh"[i % 8]));
    const from = performance.now();
    await page.goto(`${url}/drafts/${id}`, { waitUntil: "commit" });
    await page.locator("[data-ready=true]").waitFor();
    await page.getByText("Nothing to put right").waitFor();
    say(`the composer opens and has looked it through in ${(performance.now() - from).toFixed(0)} ms`);
    await page.getByRole("textbox", { name: "The question" }).click();
    await measured("a letter in a question", 50, LETTERS, (i) => page.keyboard.press("abcdefgh"[i % 8]));
    await page.getByRole("button", { name: /word/ }).nth(30).focus();
    await measured("a question moved by keys", 100, MOVES, (i) =>
      page.keyboard.press(i % 2 === 0 ? "Alt+ArrowDown" : "Alt+ArrowUp"),
    );
    await measured("a step undone", 100, MOVES, () => page.keyboard.press("ControlOrMeta+z"));
    await measured("a step done again", 100, MOVES, () => page.keyboard.press("ControlOrMeta+Shift+z"));
  } finally {
    await browser.close();
  }
}

/** In the page: from each press to the end of the frame that comes after it, in milliseconds. */
function listen() {
  globalThis.frames_ = [];
  if (globalThis.listening_) return;
  globalThis.listening_ = true;
  addEventListener(
    "keydown",
    ({ key }) => {
      if (["Alt", "Control", "Shift", "Meta"].includes(key)) return;
      const from = performance.now();
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => globalThis.frames_.push(performance.now() - from);
        port2.postMessage(null);
      });
    },
    true,
  );
}
