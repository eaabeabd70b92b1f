import { randomUUID } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { type Answered, type Caller, expect, House, test } from "../support/house";

const now = () => Date.now();

interface Entry {
  slot: number;
  answer: unknown;
  ribbon?: boolean;
  ruledOut?: string[];
  revision?: number;
  device?: string;
  writtenAt?: number;
}

const save = (...entries: Entry[]) => ({
  here: 1,
  entries: entries.map((entry) => ({
    ribbon: false,
    ruledOut: [],
    revision: 1,
    device: randomUUID(),
    writtenAt: now(),
    ...entry,
  })),
});

async function start(caller: Caller, house: House, title: string): Promise<string> {
  const answer = await caller.post(`/api/quizzes/${await house.quiz(title)}/attempts`, {});
  expect(answer.status, answer.text).toBe(201);
  return answer.json.attemptId;
}

function expectProblem(answer: Answered, status: number, type?: string): void {
  expect(answer.status, answer.text).toBe(status);
  expect(answer.type).toContain("application/problem+json");
  expect(answer.json).toMatchObject({
    status,
    title: expect.stringMatching(/^[A-Z“].{10,}\.$/),
    reference: expect.any(String),
  });
  if (type) expect(answer.json.type).toBe(`urn:shizuka:problem:${type}`);
}

const rowsOf = async (house: House, attempt: string) => ({
  answers: await house.sql`select * from answer where attempt_id = ${attempt} order by slot`,
  log: await house.sql`select * from answer_log where attempt_id = ${attempt} order by saved_at`,
  attempt: await house.sql`select handed_in_at, here from attempt where id = ${attempt}`,
});

test("two starts at once make one attempt", async ({ request, house }) => {
  const caller = await house.caller(request, "valentin.aghedo");
  const path = `/api/quizzes/${await house.quiz("Tides and clearances")}/attempts`;
  const answers = await Promise.all(Array.from({ length: 8 }, () => caller.post(path, {})));
  expect(answers.map((answer) => answer.status)).toEqual(Array(8).fill(201));
  expect(new Set(answers.map((answer) => answer.json.attemptId)).size).toBe(1);
  const [row] = await house.sql`
    select count(*)::int as count from attempt a join person p on p.id = a.person_id
    where p.email = 'valentin.aghedo@alderquay.example' and a.quiz_id = ${await house.quiz("Tides and clearances")}`;
  expect(row?.count).toBe(1);
});

test("handing in twice hands in once", async ({ request, house }) => {
  const caller = await house.caller(request, "yusuf.penhallow");
  const attempt = await start(caller, house, "Tides and clearances");
  const answers = await Promise.all([1, 2, 3].map(() => caller.post(`/api/attempts/${attempt}/hand-in`, {})));
  expect(answers.map((answer) => answer.status)).toEqual([200, 200, 200]);
  const [slips] = await house.sql`select count(*)::int as count from slip where attempt_id = ${attempt}`;
  expect(slips?.count).toBe(1);
  const [marks] = await house.sql`select count(*)::int as count from mark where attempt_id = ${attempt}`;
  expect(marks?.count).toBe(10);
});

test("every refusal to start says which rule, and when it would allow it", async ({ request, house }) => {
  const caller = await house.caller(request, "isolde.fairweather");
  const early = await caller.post(`/api/quizzes/${await house.quiz("Foraging ranges")}/attempts`, {});
  expectProblem(early, 409, "not-open-yet");
  expect(Date.parse(early.json.from)).toBeGreaterThan(now());
  const late = await caller.post(`/api/quizzes/${await house.quiz("Compass and variation")}/attempts`, {});
  expectProblem(late, 409, "closed");
});

test("a student's attempt is nobody else's, at every endpoint", async ({ request, house }) => {
  const owner = await house.caller(request, "imran.vestergaard");
  const attempt = await start(owner, house, "Hydration and dough strength");
  const before = await rowsOf(house, attempt);
  const pages = [`/attempts/${attempt}`, `/attempts/${attempt}/slip`, `/attempts/${attempt}/paper`];
  const api = `/api/attempts/${attempt}`;
  const reads = [
    api,
    `${api}/pages`,
    `${api}/events`,
    `${api}/pictures/${randomUUID()}`,
    `${api}/files/${randomUUID()}`,
  ];
  const writes: [string, unknown][] = [
    ["save", save({ slot: 1, answer: null })],
    ["begin", {}],
    ["hand-in", {}],
    ["move", { from: 0, to: 1 }],
    ["check", { slot: 1 }],
    ["take-back", {}],
  ];
  const piece = `${api}/files/${randomUUID()}?slot=1&name=a.png&size=3&at=0`;

  for (const name of ["lucia.harrowgate", "ines.marsh", "yuki.brandvold"]) {
    const other = await house.caller(request, name);
    for (const path of [...reads, ...pages]) {
      expect((await other.get(path)).status, `${name} ${path}`).toBe(404);
    }
    for (const [what, body] of writes) expectProblem(await other.post(`${api}/${what}`, body), 404);
    expectProblem(await other.put(piece, "abc"), 404);
  }
  // The course's own instructor may read what is handed in, but never write.
  const instructor = await house.caller(request, "tomas.oyelaran");
  expect((await instructor.get(`/attempts/${attempt}`)).status).toBe(404);
  for (const [what, body] of writes) expectProblem(await instructor.post(`${api}/${what}`, body), 404);
  expectProblem(await instructor.put(piece, "abc"), 404);

  const nobody = await house.caller(request, null);
  for (const path of pages) {
    const answer = await nobody.get(path);
    expect(answer.status).toBe(303);
    expect(answer.headers.location).toContain("/sign-in");
  }
  for (const path of reads) expectProblem(await nobody.get(path), 401);
  for (const [what, body] of writes) expectProblem(await nobody.post(`${api}/${what}`, body), 401);
  expectProblem(await nobody.put(piece, "abc"), 401);
  expect(await rowsOf(house, attempt)).toEqual(before);
});

test("a quiz of a course that one is not enrolled in is not there", async ({ request, house }) => {
  const caller = await house.caller(request, "camila.thornbury");
  const quiz = await house.quiz("Hydration and dough strength");
  expect((await caller.get(`/quizzes/${quiz}`)).status).toBe(404);
  expectProblem(await caller.post(`/api/quizzes/${quiz}/attempts`, {}), 404);
  expect((await caller.get("/courses/brd-120")).status).toBe(404);
  expect((await caller.get("/gradebook/brd-120")).status).toBe(404);
});

test("bad input gets a clear sentence, and nothing changes", async ({ request, house }) => {
  const caller = await house.caller(request, "bartholomew.iyer");
  const attempt = await start(caller, house, "Tides and clearances");
  const path = `/api/attempts/${attempt}/save`;
  expect((await caller.post(path, save({ slot: 5, answer: { parts: { a: "186" } } }))).status).toBe(200);
  const before = await rowsOf(house, attempt);

  const bad: [string, unknown, number][] = [
    ["no JSON", "not json", 422],
    ["a list", [], 422],
    ["nothing", null, 422],
    ["no entries", { here: 1 }, 422],
    ["an unknown field", { ...save(), clock: 1 }, 422],
    ["an unknown slot", save({ slot: 99, answer: null }), 422],
    ["slot zero", save({ slot: 0, answer: null }), 422],
    ["an option of another question", save({ slot: 1, answer: { pick: "o123" } }), 422],
    ["an answer of another kind", save({ slot: 1, answer: { parts: { a: "1" } } }), 422],
    ["too long a number", save({ slot: 5, answer: { parts: { a: "1".repeat(501) } } }), 422],
    ["a part that is not there", save({ slot: 5, answer: { parts: { z: "1" } } }), 422],
    ["too many picks", save({ slot: 3, answer: { picks: ["a", "b", "c"] } }), 422],
    ["a negative revision", save({ slot: 1, answer: null, revision: -1 }), 422],
    ["a wild revision", save({ slot: 1, answer: null, revision: 2 ** 60 }), 422],
    ["a wild time", save({ slot: 1, answer: null, writtenAt: 9e15 }), 422],
    ["a device that is none", save({ slot: 1, answer: null, device: "my phone" }), 422],
    ["the same slot twice", save({ slot: 1, answer: null }, { slot: 1, answer: null }), 422],
    ["too much", "x".repeat(2_200_000), 413],
  ];
  for (const [what, body, status] of bad) {
    await test.step(what, async () => expectProblem(await caller.post(path, body), status));
  }
  expectProblem(await caller.post("/api/attempts/not-an-id/save", save()), 404);
  expectProblem(await caller.post(`/api/attempts/${randomUUID()}/save`, save()), 404);
  expectProblem(
    await caller.post(path, save(), { origin: "http://elsewhere.example" }),
    403,
    "foreign-origin",
  );
  expectProblem(await caller.get("/api/nothing-here"), 404);
  expect(await rowsOf(house, attempt)).toEqual(before);
});

test("bad input to what turns, checks, hands in, brings files and speaks gets a clear sentence too, and nothing changes", async ({
  request,
  house,
}) => {
  const caller = await house.caller(request, "efua.moorcroft");
  const attempt = await start(caller, house, "Pages of the field notebook");
  const api = `/api/attempts/${attempt}`;
  const file = randomUUID();
  const before = await rowsOf(house, attempt);
  const bad: [string, unknown, number][] = [
    ["move", "nothing", 422],
    ["move", { from: 0 }, 422],
    ["move", { from: -1, to: 0 }, 422],
    ["move", { from: 0, to: 1, seed: "x" }, 422],
    ["move", { from: 0, to: 99 }, 409],
    ["check", { slot: "1" }, 422],
    ["check", { slot: 1 }, 409],
    ["hand-in", { pressedAt: "now" }, 422],
    ["hand-in", { pressedAt: 9e15 }, 422],
    ["hand-in", { force: true }, 422],
    ["save", save({ slot: 1, answer: { files: [{ id: file, name: "a.png", size: 3 }], text: "" } }), 422],
    ["save", save({ slot: 3, answer: { text: "1" } }), 422],
    ["save", save({ slot: 1, answer: { files: "a.png" } }), 422],
  ];
  for (const [what, body, status] of bad) {
    await test.step(`${what} ${JSON.stringify(body)}`, async () =>
      expectProblem(await caller.post(`${api}/${what}`, body), status));
  }
  const pieces: [string, string, Buffer, number, string][] = [
    ["no name", "slot=1&size=3&at=0", Buffer.from("abc"), 422, "Name is missing"],
    ["a name that climbs", "slot=1&name=..%2Fa.png&size=3&at=0", Buffer.from("abc"), 422, "no slashes"],
    [
      "too big",
      "slot=1&name=a.png&size=99999999&at=0",
      Buffer.from("abc"),
      422,
      "is too large: 10 MB at most",
    ],
    [
      "beyond its end",
      "slot=1&name=a.png&size=2&at=0",
      Buffer.from("abc"),
      422,
      "beyond the end of the file",
    ],
    [
      "a question without files",
      "slot=3&name=a.png&size=3&at=0",
      Buffer.from("abc"),
      422,
      "Question 3 takes no files.",
    ],
    [
      "a forbidden kind",
      "slot=1&name=a.zip&size=4&at=0",
      Buffer.from("PK\x03\x04"),
      422,
      "is not a picture or a PDF by its content",
    ],
    [
      "a disguised kind",
      "slot=1&name=a.png&size=6&at=0",
      Buffer.from("<html>"),
      422,
      "is not a picture or a PDF by its content",
    ],
    ["a huge piece", "slot=1&name=a.png&size=3000000&at=0", Buffer.alloc(2_500_000), 413, "1 MB at most"],
  ];
  for (const [what, terms, bytes, status, words] of pieces) {
    await test.step(`a file: ${what}`, async () => {
      const answer = await caller.put(`${api}/files/${randomUUID()}?${terms}`, bytes);
      expectProblem(answer, status);
      expect(answer.json.title).toContain(words);
    });
  }
  // Cut off in the middle: what is there is told, nothing of it is part of an answer, and it can be gone on with.
  const half = await caller.put(
    `${api}/files/${file}?slot=1&name=a.gif&size=42&at=0`,
    Buffer.from("GIF89a\x01\x00"),
  );
  expect(half.json).toEqual({ received: 8, done: false, type: null });
  expectProblem(
    await caller.post(
      `${api}/save`,
      save({ slot: 1, answer: { files: [{ id: file, name: "a.gif", size: 42 }], text: "" } }),
    ),
    422,
  );
  const again = await caller.put(
    `${api}/files/${file}?slot=1&name=a.gif&size=42&at=0`,
    Buffer.from("GIF89a\x01\x00"),
  );
  expect(again.json).toEqual({ received: 8, done: false, type: null });
  expect(await rowsOf(house, attempt)).toEqual(before);
  expect((await caller.get(`${api}/files/${file}`)).status).toBe(404);

  const quiz = await house.quiz("Pages of the field notebook");
  expectProblem(
    await caller.post(`/api/quizzes/${quiz}/messages`, { text: "Hello everybody" }),
    404,
    "not-found",
  );
  expectProblem(
    await caller.post(`/api/quizzes/${quiz}/extend`, { minutes: 10, reason: "I would like to." }),
    404,
    "not-found",
  );
  const instructor = await house.caller(request, "adaeze.okafor");
  for (const body of [
    { minutes: 0, reason: "x" },
    { minutes: 10 },
    { minutes: 10, reason: " " },
    { minutes: 1e9, reason: "x" },
  ]) {
    expectProblem(await instructor.post(`/api/quizzes/${quiz}/extend`, body), 422);
  }
  expectProblem(await instructor.post(`/api/quizzes/${quiz}/messages`, { text: "" }), 422);
  expectProblem(await instructor.post(`/api/quizzes/${quiz}/messages`, { text: "x".repeat(501) }), 422);
  expectProblem(await instructor.post(`/api/quizzes/${randomUUID()}/messages`, { text: "Hello" }), 404);
});

test("after the hand-in a save is refused with a clear sentence", async ({ request, house }) => {
  const caller = await house.caller(request, "daoud.wetherby");
  const attempt = await start(caller, house, "Tides and clearances");
  await caller.post(`/api/attempts/${attempt}/hand-in`, {});
  const before = await rowsOf(house, attempt);
  const answer = await caller.post(`/api/attempts/${attempt}/save`, save({ slot: 1, answer: null }));
  expectProblem(answer, 409, "handed-in");
  expect(answer.json.title).toContain("was handed in");
  expect(await rowsOf(house, attempt)).toEqual(before);
});

test("a save within the grace counts; a later one is refused, and the attempt is handed in at its deadline", async ({
  request,
  house,
}) => {
  const caller = await house.caller(request, "samir.eastlake");
  const attempt = await start(caller, house, "Tides and clearances");
  const path = `/api/attempts/${attempt}/save`;
  const endAgo = (seconds: number) =>
    house.sql`update attempt set deadline = now() - make_interval(secs => ${seconds}), started_at = now() - interval '20 minutes' where id = ${attempt}`;
  await endAgo(1);
  expect((await caller.post(path, save({ slot: 5, answer: { parts: { a: "186" } } }))).status).toBe(200);
  await endAgo(6);
  expectProblem(
    await caller.post(path, save({ slot: 5, answer: { parts: { a: "1" } }, revision: 2 })),
    409,
    "handed-in",
  );
  const [row] =
    await house.sql`select handed_in_by, handed_in_at = deadline as exact, earned from attempt where id = ${attempt}`;
  expect(row).toMatchObject({ handed_in_by: "clock", exact: true, earned: "2.0000" });
});

test("the same save again changes nothing; of two devices the later writing stands and both are kept", async ({
  request,
  house,
}) => {
  const caller = await house.caller(request, "kofi.grunwalder");
  const attempt = await start(caller, house, "Tides and clearances");
  const path = `/api/attempts/${attempt}/save`;
  const written = (text: string, writtenAt: number, device: string, revision = 1) =>
    save({ slot: 5, answer: { parts: { a: text } }, writtenAt, device, revision });
  const [phone, laptop] = [randomUUID(), randomUUID()];
  const at = now() - 5_000;

  const first = written("100", at, phone);
  expect((await caller.post(path, first)).json.saved).toEqual([{ slot: 5, device: phone, revision: 1 }]);
  const again = await caller.post(path, first);
  expect(again.json).toMatchObject({ saved: [{ slot: 5, device: phone, revision: 1 }], newer: [] });

  expect((await caller.post(path, written("186", at + 2_000, laptop))).json.newer).toEqual([]);
  const overtaken = await caller.post(path, written("120", at + 1_000, phone, 2));
  expect(overtaken.status).toBe(200);
  expect(overtaken.json.newer).toMatchObject([{ slot: 5, device: laptop, answer: { parts: { a: "186" } } }]);

  const { answers, log } = await rowsOf(house, attempt);
  expect(answers).toMatchObject([{ slot: 5, answer: { parts: { a: "186" } }, device: laptop }]);
  expect(log.map((line) => line.answer.parts.a).sort()).toEqual(["100", "120", "186"]);
});

test("an acknowledged save survives the kill of the application", async ({ request }) => {
  const house = await House.open();
  try {
    const caller = await house.caller(request, "noor.haldane");
    const attempt = await start(caller, house, "Tides and clearances");
    const saved = await caller.post(
      `/api/attempts/${attempt}/save`,
      save({ slot: 5, answer: { parts: { a: "186" } } }),
    );
    expect(saved.status).toBe(200);
    await house.kill();
    await house.restart();
    const desk = await caller.get(`/attempts/${attempt}`);
    expect(desk.status).toBe(200);
    expect(desk.text.includes("Question 5, answered")).toBe(true);
    const [kept] = await house.sql`select answer from answer where attempt_id = ${attempt} and slot = 5`;
    expect(kept?.answer).toEqual({ parts: { a: "186" } });
  } finally {
    await house.close();
  }
});

/** Everything in the demo's quiz files that only a key holds: worked answers, feedback, further reading. */
function keyMarkers(): string[] {
  const plain = (text: string) =>
    text
      .split(/<[^>]*>|&[a-z]+;/)
      .map((piece) => piece.trim())
      .filter((piece) => piece.length > 12);
  const markers: string[] = [];
  const walk = (value: unknown): void => {
    if (Array.isArray(value)) for (const each of value) walk(each);
    else if (typeof value === "object" && value !== null) {
      for (const [key, each] of Object.entries(value)) {
        // When something is shown is a rule, and no key: its moments are in the words of every page.
        if (key === "reveal") continue;
        if (["worked", "feedback", "readMore"].includes(key) && typeof each === "string")
          markers.push(...plain(each));
        else walk(each);
      }
    }
  };
  for (const file of readdirSync("src/demo/quizzes").filter((each) => each.endsWith(".json"))) {
    walk(JSON.parse(readFileSync(`src/demo/quizzes/${file}`, "utf8")));
  }
  return markers;
}

test("no page or endpoint holds a key before the hand-in", async ({ request }) => {
  test.setTimeout(240_000);
  const house = await House.open();
  try {
    // A student with nothing returned yet: any marker in any response is a leak.
    const caller = await house.caller(request, "noor.haldane");
    await house.sql`delete from attempt`;
    const markers = keyMarkers();
    expect(markers.length).toBeGreaterThan(60);
    const attempt = await start(caller, house, "Tides and clearances");
    const hydration = await start(caller, house, "Hydration and dough strength");
    const quizzes = await house.sql<{ id: string }[]>`select id from quiz`;
    const paths = [
      "/today",
      "/courses",
      ...["nav-110", "brd-120", "pol-101"].flatMap((course) => [
        `/courses/${course}`,
        `/gradebook/${course}`,
      ]),
      ...quizzes.map(({ id }) => `/quizzes/${id}`),
      ...[attempt, hydration].flatMap((id) =>
        ["", "/slip", "/paper", "/paper?all"].map((page) => `/attempts/${id}${page}`),
      ),
      ...[attempt, hydration].map((id) => `/api/attempts/${id}`),
      "/api/time",
    ];
    const answers = await Promise.all(paths.map((path) => caller.get(path)));
    for (const body of [save({ slot: 1, answer: null }), save({ slot: 1, answer: { pick: "x" } })]) {
      answers.push(await caller.post(`/api/attempts/${attempt}/save`, body));
    }
    answers.push(await caller.post(`/api/attempts/${attempt}/begin`, {}));
    // The shape of a key: fields that only a question with its key has.
    const fields = ['"right":', '"key":', '"tolerance":', '"worked":', '"credit":'];
    for (const answer of answers) {
      const text = answer.text
        .replaceAll("&quot;", '"')
        .replaceAll("&#39;", "'")
        .replaceAll("\\u00a0", "\u00a0");
      const leaks = [...markers, ...fields].filter((marker) => text.includes(marker));
      expect(leaks, text.slice(0, 80)).toEqual([]);
    }
    // Handed in, but the others still write: it holds none.
    await caller.post(`/api/attempts/${attempt}/hand-in`, {});
    const early = (await caller.get(`/attempts/${attempt}/paper?all`)).text;
    expect(markers.filter((marker) => early.includes(marker))).toEqual([]);
    // The scan would see a leak: the same scan finds them once the paper may be read.
    await house.sql`update quiz set due = now() - interval '1 second', closes = now() - interval '1 second'
      where title = 'Tides and clearances'`;
    const paper = (await caller.get(`/attempts/${attempt}/paper?all`)).text;
    expect(markers.filter((marker) => paper.includes(marker)).length).toBeGreaterThan(10);
    // Where the rules hold the answers back, the marked paper holds no key either.
    await caller.post(`/api/attempts/${hydration}/hand-in`, {});
    const held = (await caller.get(`/attempts/${hydration}/paper?all`)).text;
    expect(held).toContain("Shown later");
    expect(markers.filter((marker) => held.includes(marker))).toEqual([]);
  } finally {
    await house.close();
  }
});

test("pages keep to their budgets of queries and bytes", async ({ request, house }) => {
  const caller = await house.caller(request, "noor.haldane");
  const budgets: [string, number][] = [
    ["/today", 6],
    [`/quizzes/${await house.quiz("Tides and clearances")}`, 6],
    ["/courses/nav-110", 6],
    ["/gradebook/nav-110", 8],
  ];
  for (const [path, most] of budgets) {
    const answer = await caller.get(path);
    expect(answer.status).toBe(200);
    const queries = Number(/(\d+) queries/.exec(answer.headers["server-timing"] ?? "")?.[1]);
    expect(queries, path).toBeGreaterThan(0);
    expect(queries, path).toBeLessThanOrEqual(most);
    expect(answer.text.length, path).toBeLessThan(100_000);
  }
  const attempt = await start(caller, house, "Tides and clearances");
  await caller.post(`/api/attempts/${attempt}/save`, save({ slot: 1, answer: null }));
  const saved = await caller.post(`/api/attempts/${attempt}/save`, save({ slot: 1, answer: null }));
  expect(saved.headers["server-timing"]).toContain('"1 queries"');
});

test("sign-in attempts are limited, and wrong words tell nothing", async ({ request }) => {
  const house = await House.open();
  try {
    const attempt = (email: string, password: string) =>
      request.post(`${house.url}/sign-in`, {
        form: { email, password },
        headers: { origin: house.url },
        maxRedirects: 0,
      });
    const unknown = await attempt("nobody@alderquay.example", "x");
    const wrong = await attempt("noor.haldane@alderquay.example", "x");
    expect(unknown.status()).toBe(401);
    expect(wrong.status()).toBe(401);
    const sentence = "The e-mail address or the password is not right.";
    expect(await unknown.text()).toContain(sentence);
    expect(await wrong.text()).toContain(sentence);
    for (let i = 0; i < 7; i += 1) await attempt("noor.haldane@alderquay.example", "x");
    const blocked = await attempt("noor.haldane@alderquay.example", "quiet harbour");
    expect(blocked.status()).toBe(429);
    expect(await blocked.text()).toMatch(/Too many tries that failed\. Try again in (1\d|2[0-2]) seconds\./);
    // Others are not kept out by it.
    expect((await attempt("ines.marsh@alderquay.example", "quiet harbour")).status()).toBe(303);
  } finally {
    await house.close();
  }
});

test("a session that was ended is ended at once", async ({ request, house }) => {
  const caller = await house.caller(request, "uma.granlund");
  expect((await caller.get("/today")).status).toBe(200);
  const out = await caller.post("/sign-out", "");
  expect(out.status).toBe(303);
  expect((await caller.get("/today")).headers.location).toContain("/sign-in");
  const forged = await house.caller(request, null);
  expect(forged.cookie).toBe("");
});
