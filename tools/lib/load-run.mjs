import { Agent, request } from "node:http";
import { call, cookiesOf } from "./http.mjs";

/**
 * Many students at one quiz at the same time, over real HTTP, without browsers: all press start in the same moment; each
 * saves answer after answer from when the desk is there, listens for events and asks how the attempt stands, as a desk
 * does. A third hand in by themselves, the rest are handed in when the time is up, all at the same instant. Then the
 * database is asked whether what was acknowledged is there.
 */
const QUESTIONS = 20;
const PULSE = 20_000;
const GRACE = 10_000;
/** Milliseconds that one start may take of the machine. */
const STARTING = 50;
const TITLE = "Load: tides for everybody";

/**
 * @param {{ url: string, sql: import("postgres").Sql, students: number, seconds: number, pause: number,
 *   say?: (line: string) => void }} terms the running application, its database, how many students for how long, and the
 *   milliseconds between two writings of one student
 */
export async function runLoad({ url, sql, students, seconds, pause, say = () => {} }) {
  // Each student has a browser of their own: nobody's save waits for a connection behind somebody else's start.
  const agent = new Agent({ keepAlive: true });
  const streams = new Agent({ keepAlive: false });
  const quizId = await makeQuiz(sql);
  const emails = await makeStudents(sql, students);
  say(`signing ${students} students in`);
  const cookies = [];
  for (const email of emails) cookies.push(await signIn(agent, url, email));

  const asked = Date.now();
  // So long that all are at their desks before it counts.
  const end = asked + seconds * 1_000 + students * STARTING;
  await sql`update quiz set closes = ${new Date(end)} where id = ${quizId}`;
  say(`${students} students start; all time ends in ${Math.round((end - asked) / 1_000)} s`);
  const figures = { times: [], refused: 0, failed: 0, events: 0, starting: true };
  const opening = cookies.map((cookie, i) => openDesk({ agent, streams, url, quizId, cookie, i, figures }));
  // Who is there begins to write, whoever else is still waiting for a desk.
  const working = opening.map(async (desk, i) => (await desk).work({ end, pause, handsIn: i % 3 === 0 }));
  const desks = await Promise.all(opening);
  const startedWithin = Date.now() - asked;
  figures.starting = false;
  say(`all are at their desks after ${(startedWithin / 1_000).toFixed(1)} s`);
  await Promise.all(working);
  const left = end + GRACE - Date.now();
  await until(async () => (await running(sql, quizId)) === 0, Math.max(0, left));
  const latest = Math.max(0, Date.now() - end) / 1_000;
  for (const desk of desks) desk.close();
  agent.destroy();
  return { ...(await report(sql, quizId, desks, figures)), startedWithin, latest };
}

/** A quiz of twenty questions whose time ends for all at once. */
async function makeQuiz(sql) {
  const [model] = await sql`
    select q.*, v.content, v.facts from quiz q join quiz_version v on v.quiz_id = q.id and v.number = q.current_version
    where q.title = 'Tides and clearances'`;
  const questions = model.content.sections.flatMap((section) => section.questions);
  const twenty = Array.from({ length: QUESTIONS }, (_, i) => ({
    ...questions[i % questions.length],
    id: `q${i + 1}`,
  }));
  const content = {
    ...model.content,
    title: TITLE,
    sections: [{ ...model.content.sections[0], questions: twenty }],
  };
  const [{ id }] = await sql`
    insert into quiz (id, course_id, title, opens, instructor_id, settings)
    values (${crypto.randomUUID()}, ${model.course_id}, ${TITLE}, now() - interval '1 hour', ${model.instructor_id}, ${sql.json(model.settings)}) returning id`;
  await sql`
    insert into quiz_version (id, quiz_id, number, content, facts)
    values (${crypto.randomUUID()}, ${id}, 1, ${sql.json(content)}, ${sql.json({ ...model.facts, questions: QUESTIONS })})`;
  return id;
}

async function makeStudents(sql, students) {
  const [model] = await sql`
    select a.password, e.course_id from account a join person p on p.id = a.person_id
    join enrolment e on e.person_id = p.id join course c on c.id = e.course_id where c.slug = 'nav-110' limit 1`;
  const emails = [];
  for (let i = 1; i <= students; i += 1) {
    const id = crypto.randomUUID();
    const email = `load.${i}@alderquay.example`;
    await sql`insert into person (id, name, email) values (${id}, ${`Load ${i}`}, ${email})`;
    await sql`insert into account (id, person_id, account_id, provider_id, password)
      values (${crypto.randomUUID()}, ${id}, ${id}, 'credential', ${model.password})`;
    await sql`insert into enrolment (course_id, person_id, role) values (${model.course_id}, ${id}, 'student')`;
    emails.push(email);
  }
  return emails;
}

/** Signs somebody in. Returns their cookies. */
export async function signIn(agent, url, email) {
  const body = JSON.stringify({ email, password: "quiet harbour" });
  const signed = await call({ agent, url, method: "POST", path: "/api/sign-in", body });
  if (signed.status !== 200) throw new Error(`${email} could not sign in: ${signed.text}`);
  return cookiesOf(signed);
}

/** Opens a desk as a browser does: starts, reads it, begins, and listens. */
export async function openDesk({ agent, streams, url, quizId, cookie, i, figures }) {
  const api = (method, path, body) =>
    call({ agent, url, method, path, cookie, body: body === undefined ? undefined : JSON.stringify(body) });
  const started = await api("POST", `/api/quizzes/${quizId}/attempts`, {});
  if (started.status !== 201) throw new Error(`A start was refused: ${started.status} ${started.text}`);
  const { attemptId } = JSON.parse(started.text);
  const path = `/api/attempts/${attemptId}`;
  const page = await call({ agent, url, method: "GET", path: `/attempts/${attemptId}`, cookie });
  const questions = viewIn(page.text).progress.slots.map((slot) => slot.question);
  await api("POST", `${path}/begin`, {});
  const events = request(`${url}${path}/events`, { agent: streams, headers: { cookie } }, (response) => {
    response.on("data", () => {
      figures.events += 1;
    });
    response.on("error", () => {});
  });
  events.on("error", () => {});
  events.end();

  const device = crypto.randomUUID();
  /** What the server acknowledged last, by slot. */
  const acknowledged = new Map();
  let revision = 0;

  async function save(slot) {
    revision += 1;
    const answer = answerTo(questions[slot - 1], revision);
    const entry = {
      slot,
      device,
      revision,
      answer,
      ribbon: revision % 7 === 0,
      ruledOut: [],
      writtenAt: Date.now(),
    };
    const sent = performance.now();
    const whileStarting = figures.starting;
    const { status } = await api("POST", `${path}/save`, { here: slot, entries: [entry] });
    if (status === 200) {
      figures.times.push({ took: performance.now() - sent, whileStarting });
      acknowledged.set(slot, entry);
    } else if (status === 409) figures.refused += 1;
    else figures.failed += 1;
    return status;
  }

  async function work({ end, pause, handsIn }) {
    const random = seeded(i + 1);
    const stop = handsIn ? end - 500 - random() * 3_000 : end + 1_500;
    let pulse = Date.now() + random() * PULSE;
    let slot = 0;
    await sleep(random() * pause);
    while (Date.now() < stop) {
      slot = (slot % QUESTIONS) + 1;
      if ((await save(slot)) === 409) return;
      if (Date.now() > pulse) {
        await api("GET", path);
        pulse += PULSE;
      }
      await sleep(Math.min(pause * (0.5 + random()), Math.max(0, stop - Date.now())));
    }
    if (handsIn) await api("POST", `${path}/hand-in`, {});
  }

  return { attemptId, questions, acknowledged, save, work, close: () => events.destroy() };
}

/** What the page of a desk was made from: it stands in it, escaped, each value with a mark of its type. */
function viewIn(html) {
  const [, props] = /<astro-island[^>]* props="([^"]*)"/.exec(html) ?? [];
  if (!props) throw new Error(`This is not a desk: ${html.slice(0, 300)}`);
  const plain = ([type, value]) => {
    if (type === 1) return value.map(plain);
    if (type !== 0 || value === null || typeof value !== "object") return value;
    return Object.fromEntries(Object.entries(value).map(([name, each]) => [name, plain(each)]));
  };
  return plain(JSON.parse(props.replaceAll("&quot;", '"').replaceAll("&amp;", "&")).view);
}

/** Another answer each time: an option, or a number. */
export function answerTo(question, revision) {
  if (question.kind === "numeric") return { parts: { [question.parts[0].id]: String(revision) } };
  const { id } = question.options[revision % question.options.length];
  return question.kind === "one-of-several" ? { pick: id } : { picks: [id] };
}

async function running(sql, quizId) {
  const [{ count }] = await sql`
    select count(*)::int as count from attempt where quiz_id = ${quizId} and handed_in_at is null`;
  return count;
}

async function report(sql, quizId, desks, { times, starting: _, ...figures }) {
  const ids = desks.map((desk) => desk.attemptId);
  const rows =
    await sql`select attempt_id, slot, answer, ribbon, revision from answer where attempt_id = any(${ids})`;
  const held = new Map(rows.map((row) => [`${row.attempt_id} ${row.slot}`, row]));
  let checked = 0;
  let lost = 0;
  for (const { attemptId, acknowledged } of desks) {
    for (const [slot, entry] of acknowledged) {
      checked += 1;
      const row = held.get(`${attemptId} ${slot}`);
      const isThere =
        row &&
        (Number(row.revision) > entry.revision ||
          (JSON.stringify(row.answer) === JSON.stringify(entry.answer) && row.ribbon === entry.ribbon));
      if (!isThere) lost += 1;
    }
  }
  const [{ handedIn, byClock }] = await sql`
    select count(*) filter (where a.handed_in_at is not null)::int as "handedIn",
      count(*) filter (where a.handed_in_by = 'clock')::int as "byClock"
    from attempt a where a.quiz_id = ${quizId}`;
  const [{ logged }] = await sql`
    select count(*)::int as logged from answer_log where attempt_id = any(${ids})`;
  const whileStarting = sharesOf(times.filter((each) => each.whileStarting));
  const all = sharesOf(times);
  return {
    students: desks.length,
    acknowledged: times.length,
    ...figures,
    logged,
    checked,
    lost,
    handedIn,
    byClock,
    /** Milliseconds until saves were acknowledged: half of them, 95 % and all; and the same while others were starting. */
    half: all.half,
    most: all.most,
    all: all.all,
    whileStarting,
  };
}

function sharesOf(times) {
  const took = times.map((each) => each.took).sort((a, b) => a - b);
  const at = (share) => took[Math.min(took.length - 1, Math.floor(took.length * share))] ?? 0;
  return { count: took.length, half: at(0.5), most: at(0.95), all: at(1) };
}

const sleep = (ms) => new Promise((done) => setTimeout(done, ms));

async function until(isSo, limit) {
  const last = Date.now() + limit;
  while (!(await isSo()) && Date.now() < last) await sleep(200);
}

/** The same run each time. */
function seeded(seed) {
  let state = seed * 2_654_435_761;
  return () => {
    state = (Math.imul(state ^ (state >>> 15), 2_246_822_519) + 0x9e3779b9) >>> 0;
    return state / 2 ** 32;
  };
}
