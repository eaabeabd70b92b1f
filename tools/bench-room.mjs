import { randomUUID } from "node:crypto";
import { Agent } from "node:http";
import { join } from "node:path";
import { onBench } from "./lib/bench.mjs";
import { browserCookies, CHROMIUM_ARGS, ensureChromium } from "./lib/browser.mjs";
import { bundle, load } from "./lib/bundle.mjs";
import { call, cookiesOf } from "./lib/http.mjs";
import { HOME, main, ROOT, say } from "./lib/steps.mjs";

/**
 * The marking room at size: a quiz of 40 questions, one of them an essay, taken by 500 students. How long its pile takes to open,
 * and the next answer to stand on the screen after its key, in Chromium; and how long marking one question again in all
 * attempts takes; beside an endpoint that does nothing, in the same run.
 */
const STUDENTS = 500;
const QUESTIONS = 40;
const ROUNDS = 15;
const KEYS = 40;
const agent = new Agent({ keepAlive: true });

const middle = (times) => [...times].sort((a, b) => a - b)[Math.floor((times.length - 1) / 2)];
const most = (times) => [...times].sort((a, b) => a - b)[Math.floor((times.length - 1) * 0.95)];

await main(() =>
  onBench(async ({ url, databaseUrl }) => {
    const { default: postgres } = await import("postgres");
    const sql = postgres(databaseUrl, { max: 2 });
    const quizId = await layQuiz(sql);
    await handedIn(sql, quizId);
    const cookie = await signedIn(url, "adaeze.okafor@alderquay.example");
    const get = (path) => call({ agent, url, method: "GET", path, cookie });
    const plain = await timesOf(() => get("/api/time"));
    say(`an endpoint that does nothing: half within ${middle(plain).toFixed(1)} ms`);
    for (const path of [
      `/quizzes/${quizId}/marking`,
      `/api/quizzes/${quizId}/pile`,
      `/quizzes/${quizId}/returning`,
    ]) {
      let answer;
      const times = await timesOf(async () => {
        answer = await get(path);
      });
      const queries = /(\d+) queries/.exec(answer.headers["server-timing"] ?? "")?.[1] ?? "?";
      say(
        `${path.replace(quizId, "Q").padEnd(24)} half within ${middle(times).toFixed(0)} ms (${(middle(times) / middle(plain)).toFixed(0)} times that), ${queries} queries, ${(answer.text.length / 1024).toFixed(0)} kB`,
      );
    }
    await inChromium(url, quizId, cookie);
    await reMarking(url, quizId, cookie, sql);
    await sql.end();
  }),
);

async function timesOf(what) {
  const times = [];
  for (let i = 0; i < ROUNDS; i += 1) {
    const from = performance.now();
    await what();
    times.push(performance.now() - from);
  }
  return times;
}

async function signedIn(url, email) {
  const body = new URLSearchParams({ email, password: "quiet harbour" }).toString();
  const type = "application/x-www-form-urlencoded";
  return cookiesOf(await call({ agent, url, method: "POST", path: "/sign-in", body, type }));
}

/** A quiz of many questions with an attempt of many students, its time long up; every second answer is right, the others empty. */
async function layQuiz(sql) {
  const core = await coreWithQuiz();
  const content = core.quizOf(QUESTIONS);
  const [course] = await sql`select id from course where slug = 'pol-101'`;
  const [instructor] = await sql`select id from person where email = 'adaeze.okafor@alderquay.example'`;
  const [{ settings }] = await sql`select settings from quiz where title = 'Report on the meadow count'`;
  const [quizId, versionId] = [randomUUID(), randomUUID()];
  await sql`insert into quiz (id, course_id, title, opens, due, closes, instructor_id, settings)
    values (${quizId}, ${course.id}, 'The room at size', now() - interval '9 days', now() - interval '1 hour', now() - interval '1 hour', ${instructor.id}, ${sql.json(settings)})`;
  await sql`insert into quiz_version (id, quiz_id, number, content, facts)
    values (${versionId}, ${quizId}, 1, ${sql.json(content)}, ${sql.json(core.factsOf(content))})`;
  for (let i = 0; i < STUDENTS; i += 1) {
    const [personId, attemptId, seed] = [randomUUID(), randomUUID(), `seed ${i}`];
    const name = `Student ${String(i).padStart(3, "0")}`;
    await sql`insert into person (id, name, email) values (${personId}, ${name}, ${`student.${i}@alderquay.example`})`;
    await sql`insert into enrolment (person_id, course_id, role) values (${personId}, ${course.id}, 'student')`;
    await sql`insert into attempt (id, quiz_id, version_id, person_id, number, seed, started_at, confirmed, deadline, maximum)
      values (${attemptId}, ${quizId}, ${versionId}, ${personId}, 1, ${seed}, now() - interval '3 hours', true, now() - interval '2 hours', ${core.factsOf(content).maximum})`;
    const { places, answers } = core.workAt(content, seed, i);
    await sql`insert into attempt_question ${sql(places.map(({ slot, id }) => ({ attempt_id: attemptId, slot, question_id: id })))}`;
    const device = randomUUID();
    await sql`insert into answer ${sql(
      answers.map(({ slot, answer }) => ({
        attempt_id: attemptId,
        slot,
        answer: sql.json(answer),
        revision: 1,
        device,
        written_at: new Date(),
        saved_at: new Date(),
      })),
    )}`;
  }
  await sql`analyze`;
  return quizId;
}

/** The server hands them in by the clock, as it does for everyone. */
async function handedIn(sql, quizId) {
  const from = performance.now();
  for (;;) {
    const [{ left }] =
      await sql`select count(*)::int as left from attempt where quiz_id = ${quizId} and handed_in_at is null`;
    if (left === 0) break;
    if (performance.now() - from > 180_000) throw new Error(`${left} attempts were not handed in`);
    await new Promise((go) => setTimeout(go, 500));
  }
  say(`${STUDENTS} attempts of ${QUESTIONS} questions are handed in`);
}

async function inChromium(url, quizId, cookie) {
  const { chromium } = await import("@playwright/test");
  const browser = await chromium.launch({ executablePath: ensureChromium(), args: CHROMIUM_ARGS });
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    await context.addCookies(browserCookies(url, cookie));
    const page = await context.newPage();
    const [opened, plain] = [[], []];
    for (let i = 0; i < 7; i += 1) {
      for (const [path, times, there] of [
        ["/help/desk", plain, "main"],
        [`/quizzes/${quizId}/marking`, opened, "[data-ready=true]"],
      ]) {
        const from = performance.now();
        await page.goto(url + path, { waitUntil: "commit" });
        await page.locator(there).first().waitFor();
        times.push(performance.now() - from);
      }
    }
    say(
      `the pile of ${STUDENTS} opens in Chromium: half within ${middle(opened).toFixed(0)} ms, the slowest ${Math.max(...opened).toFixed(0)} ms (a plain page ${middle(plain).toFixed(0)} ms)`,
    );
    const next = [];
    for (let i = 0; i < KEYS; i += 1) {
      await page.waitForLoadState("networkidle");
      next.push(await page.evaluate(nextAnswer));
    }
    say(
      `the next answer is on the screen after its key: half within ${middle(next).toFixed(0)} ms, 95 % within ${most(next).toFixed(0)} ms`,
    );
  } finally {
    await browser.close();
  }
}

/** In the page: from the key to the frame that shows another answer, in milliseconds. */
function nextAnswer() {
  return new Promise((done) => {
    const before = document.querySelector("[data-answer]")?.textContent;
    const from = performance.now();
    const look = () => {
      const now = document.querySelector("[data-answer]")?.textContent;
      if (now !== undefined && now !== before) done(performance.now() - from);
      else requestAnimationFrame(look);
    };
    document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "n", bubbles: true }));
    requestAnimationFrame(look);
  });
}

async function reMarking(url, quizId, cookie, sql) {
  const path = `/api/quizzes/${quizId}/re-marking`;
  const type = "application/json";
  const post = async (body) =>
    JSON.parse(
      (await call({ agent, url, method: "POST", path, cookie, body: JSON.stringify(body), type })).text,
    );
  const [{ question_id: question }] =
    await sql`select m.question_id from mark m join attempt a on a.id = m.attempt_id
    where a.quiz_id = ${quizId} and m.awaiting = 0 group by 1 order by sum(m.marks), 1 limit 1`;
  const change = { kind: "drop", dropped: "marks-to-all" };
  let from = performance.now();
  const { preview } = await post({ question, change });
  const looked = performance.now() - from;
  from = performance.now();
  const { id } = await post({ question, change, reason: "Faulty.", expects: preview.expects });
  const seen = new Set();
  let slowest = 0;
  for (;;) {
    const asked = performance.now();
    const states = JSON.parse((await call({ agent, url, method: "GET", path, cookie })).text);
    slowest = Math.max(slowest, performance.now() - asked);
    const run = states.find((each) => each.id === id);
    seen.add(run.done);
    if (run.state !== "working") {
      if (run.state !== "done") throw new Error(`the re-marking is ${run.state}`);
      break;
    }
    if (performance.now() - from > 120_000) throw new Error("the re-marking does not end");
    await new Promise((go) => setTimeout(go, 50));
  }
  say(
    `one question of ${QUESTIONS} marked again in ${preview.attempts} attempts, ${preview.changed} changed: shown beforehand in ${(looked / 1_000).toFixed(2)} s, done in ${((performance.now() - from) / 1_000).toFixed(2)} s, progress seen ${seen.size} times, a page meanwhile within ${slowest.toFixed(0)} ms`,
  );
}

/** The core with a quiz made of the example's questions, over and over, and an essay. */
async function coreWithQuiz() {
  const outfile = join(HOME, "bench/room.mjs");
  await bundle(outfile, {
    stdin: {
      resolveDir: ROOT,
      loader: "ts",
      contents: `
        import example from "./docs/examples/every-kind.json";
        import { planAttempt } from "@/core/attempt/plan";
        import { marking, rightAnswerTo } from "@/core/kinds/marking";
        import { openSeed } from "@/core/numbers/seeded";
        export { factsOf } from "@/server/quizzes/quiz-facts";
        const essay = { id: "essay", kind: "essay", text: "<p>Say why.</p>", marks: 6, rubric: { criteria: [
          { id: "one", title: "One", levels: [{ id: "none", title: "none", points: 0 }, { id: "all", title: "all", points: 3 }] },
          { id: "two", title: "Two", levels: [{ id: "none", title: "none", points: 0 }, { id: "all", title: "all", points: 3 }] } ] } };
        export function quizOf(count) {
          const questions = example.sections[0].questions.filter(({ kind }) => !marking(kind).byHand);
          return { ...example, title: "The room at size", sections: [{ questions: [essay, ...Array.from({ length: count - 1 }, (_, i) => {
            const question = questions[i % questions.length];
            return { ...question, id: question.id + "-" + i };
          })] }] };
        }
        const sentence = "The bank is dry by eight and the ditch by ten, so the day is longer there. ";
        export function workAt(quiz, text, number) {
          const seed = openSeed(text);
          const plan = planAttempt(quiz, seed);
          return {
            places: plan.map(({ slot, question }) => ({ slot, id: question.id })),
            answers: plan.flatMap(({ slot, question }) => {
              if (question.id === "essay") return [{ slot, answer: { rich: "<p>Essay number " + number + ". " + sentence.repeat(12) + "</p>" } }];
              const answer = slot % 2 === 0 ? rightAnswerTo(question, seed) : null;
              return answer === null ? [] : [{ slot, answer }];
            }),
          };
        }`,
    },
  });
  return load(outfile);
}
