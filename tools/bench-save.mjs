import { Agent } from "node:http";
import { onBench } from "./lib/bench.mjs";
import { call, cookiesOf } from "./lib/http.mjs";
import { main, say } from "./lib/steps.mjs";

/**
 * How much saving costs, against an endpoint of the same server that does nothing: rounds of both in turn, in one run,
 * and their ratio. Then the time to an acknowledgement at a steady 300 saves a second. The database is as safe as in use.
 */
const ROUND = 2_000;
const ROUNDS = 5;
const AT_ONCE = 16;
const RATE = 300;
const RATE_SECONDS = 10;
const PEOPLE = 12;
const agent = new Agent({ keepAlive: true, maxSockets: 64 });

await main(() =>
  onBench(async ({ url, databaseUrl }) => {
    const desks = await openDesks(url, databaseUrl);
    const ratios = [];
    for (let round = 0; round < ROUNDS; round += 1) {
      const empty = await throughput(() =>
        call({ agent, url, method: "GET", path: "/api/time", cookie: desks[0].cookie }),
      );
      let next = 0;
      const saving = await throughput(() => desks[next++ % desks.length].save());
      ratios.push(saving / empty);
      say(
        `round ${round + 1}: empty ${empty.toFixed(0)}/s, save ${saving.toFixed(0)}/s, ratio ${(saving / empty).toFixed(2)}`,
      );
    }
    ratios.sort((a, b) => a - b);
    say(`median ratio ${ratios[Math.floor(ratios.length / 2)].toFixed(2)} (at least 0.6 is asked)`);
    const times = await steady(desks);
    const at = (share) => times[Math.min(times.length - 1, Math.floor(times.length * share))].toFixed(0);
    say(
      `${RATE} saves/s: ${times.length} acknowledged, half within ${at(0.5)} ms, 95 % within ${at(0.95)} ms, all within ${at(1)} ms`,
    );
  }),
);

/** Some students at their desks, each with a way to save a fresh number. */
async function openDesks(url, databaseUrl) {
  const { default: postgres } = await import("postgres");
  const sql = postgres(databaseUrl, { max: 1 });
  const [quiz] = await sql`select id from quiz where title = 'Tides and clearances'`;
  const students = await sql`
    select p.email from person p join enrolment e on e.person_id = p.id join course c on c.id = e.course_id
    where c.slug = 'nav-110' and e.role = 'student' limit ${PEOPLE}`;
  await sql.end();
  return Promise.all(
    students.map(async ({ email }) => {
      const form = new URLSearchParams({ email, password: "quiet harbour" }).toString();
      const post = (path, body, more) => call({ agent, url, method: "POST", path, body, ...more });
      const cookie = cookiesOf(await post("/sign-in", form, { type: "application/x-www-form-urlencoded" }));
      const { attemptId } = JSON.parse(
        (await post(`/api/quizzes/${quiz.id}/attempts`, "{}", { cookie })).text,
      );
      const device = crypto.randomUUID();
      let revision = 0;
      const save = async () => {
        revision += 1;
        const entry = {
          slot: (revision % 2) + 5 === 5 ? 5 : 10,
          device,
          revision,
          answer: { parts: { a: String(revision) } },
          ribbon: false,
          ruledOut: [],
          writtenAt: Date.now(),
        };
        const body = JSON.stringify({ here: 5, entries: [entry] });
        const answer = await post(`/api/attempts/${attemptId}/save`, body, { cookie });
        if (answer.status !== 200) throw new Error(`${answer.status} ${answer.text}`);
      };
      return { cookie, save };
    }),
  );
}

/** Calls a second, with a fixed number under way at once. */
async function throughput(todo) {
  let left = ROUND;
  const started = performance.now();
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (left-- > 0) await todo();
    }),
  );
  return (ROUND / (performance.now() - started)) * 1_000;
}

/** The times to the acknowledgements of saves that leave at a steady rate, in order of size. */
async function steady(desks) {
  const times = [];
  const calls = [];
  const started = performance.now();
  for (let i = 0; i < RATE * RATE_SECONDS; i += 1) {
    const wait = started + (i * 1_000) / RATE - performance.now();
    if (wait > 0) await new Promise((next) => setTimeout(next, wait));
    const sent = performance.now();
    calls.push(desks[i % desks.length].save().then(() => times.push(performance.now() - sent)));
  }
  await Promise.all(calls);
  return times.sort((a, b) => a - b);
}
