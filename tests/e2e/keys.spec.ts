import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { REVEALED, type RevealRules } from "../../src/core/quiz/rules";
import { type Answered, type Caller, expect, House, test } from "../support/house";
import { makeContent } from "../support/marked-work";

/** What every text of a key begins with, and every number of one contains: they stand nowhere else. */
const PLANTED = /KEY[A-Z]+\d+|91827/;
/** How a key would look as JSON, also within a page. */
const FIELDS =
  /(?:"|&quot;)(right|credit|accepted|key|tolerance|target|regions|model|worked|correct)(?:"|&quot;):/;

type Json = { [name: string]: Json } | Json[] | string | number | boolean | null;

/** Every kind of question, with every text that is part of a key made findable. */
function planted(title: string) {
  let count = 0;
  const mark = (what: string) => {
    count += 1;
    return `KEY${what}${count}`;
  };
  const walk = (value: Json, within: string): Json => {
    if (Array.isArray(value)) return value.map((each) => walk(each, within));
    if (typeof value !== "object" || value === null) return value;
    return Object.fromEntries(
      Object.entries(value).map(([name, each]) => {
        if (["worked", "feedback", "model"].includes(name))
          return [name, `<p>${mark(name.toUpperCase())}</p>`];
        if (within === "accepted" && name === "text") return [name, mark("ACCEPTED")];
        if (within === "regions" && name === "name") return [name, mark("REGION")];
        if (name === "key" && typeof each === "string") return [name, `${each} + 91827`];
        return [name, walk(each, name)];
      }),
    );
  };
  const file = JSON.parse(readFileSync("docs/examples/every-kind.json", "utf8"));
  const rules = { order: "free" };
  const sections = walk(file.sections, "sections") as unknown as { questions: Json[] }[];
  return { content: { ...file, title, rules, sections }, planted: count };
}

const NEVER = Object.fromEntries(REVEALED.map((each) => [each, "never"])) as unknown as RevealRules;
const found = ({ text }: Answered): string[] =>
  [PLANTED.exec(text)?.[0], FIELDS.exec(text)?.[0]].flatMap((each) => each ?? []);

/** What is said of a quiz and an attempt at it, wherever that is. */
const everywhere = (quizId: string, attemptId: string | null) => [
  "/today",
  "/notices",
  "/courses/nav-110",
  "/courses/nav-110/plan",
  "/gradebook/nav-110",
  "/gradebook/nav-110/marks.csv",
  `/quizzes/${quizId}`,
  ...(attemptId === null
    ? []
    : [
        `/attempts/${attemptId}`,
        `/attempts/${attemptId}/slip`,
        `/attempts/${attemptId}/slip.txt`,
        `/attempts/${attemptId}/paper`,
        `/attempts/${attemptId}/paper?all`,
        `/attempts/${attemptId}/handed-in`,
        `/api/attempts/${attemptId}`,
        `/api/attempts/${attemptId}/pages`,
      ]),
];

let house: House;
test.beforeAll(async () => {
  house = await House.open({ SHIZUKA_BUDGET: "100" });
});
test.afterAll(async () => {
  await house.close();
});

async function look(callers: readonly Caller[], quizId: string, attemptId: string | null, state: string) {
  for (const caller of callers) {
    for (const path of everywhere(quizId, attemptId)) {
      expect(found(await caller.get(path)), `${state} ${path}`).toEqual([]);
    }
  }
}

test("no key of any kind of question is in any response: before, while it runs, after each save, and after the hand-in", async ({
  request,
}) => {
  const { content, planted: count } = planted("Every kind, with its keys planted");
  expect(count).toBeGreaterThan(10);
  const { quizId } = await makeContent(
    house.sql,
    "nav-110",
    content,
    { attempts: 1, counts: "best", reveal: NEVER },
    "34",
  );
  const owner = await house.caller(request, "noor.haldane");
  const callers = [owner, await house.caller(request, "camila.thornbury"), await house.caller(request, null)];
  await look(callers, quizId, null, "before");
  const started = await owner.post(`/api/quizzes/${quizId}/attempts`, {});
  expect(started.status, started.text).toBe(201);
  const { attemptId } = started.json;
  expect(found(started)).toEqual([]);
  await look(callers, quizId, attemptId, "running");
  const pages = await owner.get(`/api/attempts/${attemptId}/pages`);
  expect(pages.text).toContain("Spring tides happen near");
  // Right, wrong and foolish answers: what is said to a save tells nothing of them.
  const names = [...pages.text.matchAll(/"id":"([^"]+)"/g)].map(([, id]) => id);
  const tries: [number, unknown][] = [
    ...names.map((pick): [number, unknown] => [1, { pick }]),
    [3, { value: true }],
    [3, { value: false }],
    [4, { text: "KEY" }],
    [4, { text: "chart datum" }],
    [8, { parts: { a: "4.2" } }],
    [10, { rich: "<p>The stream.</p>" }],
    [99, null],
  ];
  for (const [i, [slot, answer]] of tries.entries()) {
    const entry = {
      slot,
      device: randomUUID(),
      answer,
      ribbon: false,
      ruledOut: [],
      revision: i + 1,
      writtenAt: Date.now(),
    };
    const saved = await owner.post(`/api/attempts/${attemptId}/save`, { here: 1, entries: [entry] });
    expect(
      found(saved).filter((each) => each !== "KEY"),
      `save ${slot} ${JSON.stringify(answer)}`,
    ).toEqual([]);
    expect(found(await owner.post(`/api/attempts/${attemptId}/check`, { slot }))).toEqual([]);
  }
  await look(callers, quizId, attemptId, "written");
  expect(found(await owner.post(`/api/attempts/${attemptId}/hand-in`, {}))).toEqual([]);
  await look(callers, quizId, attemptId, "handed in");
  await house.sql`update attempt set returned_at = now() where id = ${attemptId}`;
  await house.sql`update quiz set opens = now() - interval '2 hours', due = now() - interval '1 minute', closes = now() - interval '1 minute' where id = ${quizId}`;
  await look(callers, quizId, attemptId, "returned, and closed");
});

test("a key that leaks is found: in a text of the desk, and as a field of its JSON", async ({ request }) => {
  const { content } = planted("Every kind, with a leak");
  const [first] = (content.sections[0]?.questions ?? []) as unknown as { text: string }[];
  if (first) first.text = "Spring tides happen near KEYLEAK1";
  const { quizId } = await makeContent(
    house.sql,
    "nav-110",
    content,
    { attempts: 1, counts: "best", reveal: NEVER },
    "34",
  );
  const owner = await house.caller(request, "dmitri.aske");
  const { attemptId } = (await owner.post(`/api/quizzes/${quizId}/attempts`, {})).json;
  expect(found(await owner.get(`/attempts/${attemptId}`))).toContain("KEYLEAK1");
  const answer = await owner.get(`/api/attempts/${attemptId}/pages`);
  expect(found({ ...answer, text: answer.text.replace('"kind"', '"right":true,"kind"') })).toContain(
    '"right":',
  );
});
