import { Agent } from "node:http";
import { call } from "./http.mjs";
import { openDesk, signIn } from "./load-run.mjs";

/**
 * A class that writes by itself, each through the real endpoints at a pace of their own: most write on, some think long, some
 * leave their desk for a while, some hand in early. Goes on until it is stopped or everyone has handed in.
 */
const SITTING = "Tides, everyone at once";
/** So many sign in at the same time: a password takes the server a while. */
const AT_ONCE = 4;

const sleep = (ms) => new Promise((done) => setTimeout(done, ms));

/**
 * @param {{ url: string, sql: import("postgres").Sql, students?: number, pace?: number, say?: (line: string) => void,
 *   signal?: AbortSignal }} terms the running application with the large course, its database, how many write, the seconds
 *   between two answers of one of them, and what stops it
 * @returns {Promise<{ quizId: string, done: Promise<void>, saves: { at: number, attemptId: string }[] }>} once all are at their desks
 */
export async function simulateClass({ url, sql, students = 500, pace = 25, say = () => {}, signal }) {
  const agent = new Agent({ keepAlive: true });
  const streams = new Agent({ keepAlive: false });
  const [quiz] = await sql`select id from quiz where title = ${SITTING}`;
  const people = await sql`
    select p.email from person p join enrolment e on e.person_id = p.id join course c on c.id = e.course_id
    where c.slug = 'nav-200' and e.role = 'student' order by p.email limit ${students}`;
  const figures = { times: [], refused: 0, failed: 0, events: 0, starting: false };
  const saves = [];
  const writing = [];
  let next = 0;
  const seat = async () => {
    for (;;) {
      const i = next;
      next += 1;
      const email = people[i]?.email;
      if (!email || signal?.aborted) return;
      const cookie = await signIn(agent, url, email);
      const desk = await openDesk({ agent, streams, url, quizId: quiz.id, cookie, i, figures });
      writing.push(write({ agent, url, cookie, desk, i, pace, saves, signal }).catch(() => {}));
      if ((i + 1) % 100 === 0) say(`${i + 1} students are at their desks`);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, seat));
  const done = Promise.all(writing).then(() => agent.destroy());
  return { quizId: quiz.id, done, saves, figures };
}

async function write({ agent, url, cookie, desk, i, pace, saves, signal }) {
  // Of every twenty one leaves for a while, one thinks long, and one hands in early.
  const sort = i % 20;
  const leavesAfter = sort === 7 ? 2 + (i % 5) : Number.POSITIVE_INFINITY;
  const stopsAt = sort === 13 ? 3 : sort === 17 ? desk.questions.length : Number.POSITIVE_INFINITY;
  for (let n = 1; !signal?.aborted; n += 1) {
    await sleep(pace * 1_000 * (0.4 + Math.random() * 1.2));
    if (signal?.aborted) break;
    if (n > stopsAt && sort === 13) continue;
    if (n === leavesAfter) desk.close();
    if (n >= leavesAfter) continue;
    const slot = ((n - 1) % desk.questions.length) + 1;
    const status = await desk.save(slot);
    saves.push({ at: Date.now(), attemptId: desk.attemptId });
    if (status === 409) break;
    if (sort === 17 && n >= stopsAt) {
      await call({
        agent,
        url,
        method: "POST",
        path: `/api/attempts/${desk.attemptId}/hand-in`,
        cookie,
        body: "{}",
      });
      break;
    }
  }
  desk.close();
}
