import { Agent } from "node:http";
import { onBench } from "./lib/bench.mjs";
import { crowd } from "./lib/crowded.mjs";
import { call, cookiesOf } from "./lib/http.mjs";
import { main, say } from "./lib/steps.mjs";

/**
 * How long the pages of a crowded course take to be made, from the request to its last byte: as they are in the demo, then
 * with 60 quizzes on Today and 200 items in a gradebook; beside an endpoint that does nothing, in the same run, and in
 * Japanese by turns with English.
 */
const TIMES = 41;
const PATHS = [
  "/api/time",
  "/today",
  "/courses/nav-110",
  "/gradebook/nav-110",
  "/gradebook/nav-110/marks.csv",
];
const agent = new Agent({ keepAlive: true });

await main(() =>
  onBench(async ({ url, databaseUrl }) => {
    const body = new URLSearchParams({
      email: "noor.haldane@alderquay.example",
      password: "quiet harbour",
    }).toString();
    const type = "application/x-www-form-urlencoded";
    const cookie = cookiesOf(await call({ agent, url, method: "POST", path: "/sign-in", body, type }));
    say("The demo as it is");
    await measure(url, cookie);
    const { default: postgres } = await import("postgres");
    const sql = postgres(databaseUrl, { max: 1 });
    await crowd(sql);
    await sql.end();
    say("A crowded course");
    await measure(url, cookie);
  }),
);

async function measure(url, cookie) {
  for (const path of PATHS) {
    const took = { en: [], ja: [] };
    let answer;
    for (let i = 0; i < TIMES; i += 1) {
      for (const language of ["ja", "en"]) {
        const from = performance.now();
        const asked = `${cookie}; shizuka.language=${language}`;
        answer = await call({ agent, url, method: "GET", path, cookie: asked });
        took[language].push(performance.now() - from);
      }
    }
    for (const each of Object.values(took)) each.sort((a, b) => a - b);
    const part = (times, share) => times[Math.floor((TIMES - 1) * share)];
    const at = (share) => part(took.en, share).toFixed(0).padStart(4);
    const japanese = (part(took.ja, 0.5) / part(took.en, 0.5)).toFixed(2);
    const queries = /(\d+) queries/.exec(answer.headers["server-timing"] ?? "")?.[1] ?? "?";
    say(
      `${path.padEnd(30)} half within ${at(0.5)} ms, 90 % within ${at(0.9)} ms, ${queries} queries, in Japanese ${japanese} of it, ${(answer.text.length / 1024).toFixed(0)} kB`,
    );
  }
}
