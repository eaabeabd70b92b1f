import { Agent, request as ask } from "node:http";
import { expect, House, test } from "../support/house";
import { RawConnection } from "../support/raw-request";

/** Of its own: here people start what others start elsewhere. */
let house: House;
test.beforeAll(async () => {
  house = await House.open();
});
test.afterAll(async () => {
  await house.close();
});

const MB = 1024 * 1024;
const host = (house: House) => `host: ${new URL(house.url).host}`;
const origin = (house: House) => `origin: ${house.url}`;

/** Starts an attempt by its endpoint; returns its id. */
async function startedBy(
  caller: Awaited<ReturnType<House["caller"]>>,
  house: House,
  title: string,
): Promise<string> {
  const started = await caller.post(`/api/quizzes/${await house.quiz(title)}/attempts`, {});
  expect(started.status).toBe(201);
  const { attemptId } = started.json;
  await caller.post(`/api/attempts/${attemptId}/begin`, {});
  return attemptId;
}

let revision = 0;
const saveOf = (slot: number, answer: unknown) => {
  revision += 1;
  const device = "5b1f2a56-1f0e-4c3b-9d6e-0c8f6a7b8c9d";
  return {
    here: slot,
    entries: [{ slot, device, answer, ribbon: false, ruledOut: [], revision, writtenAt: Date.now() }],
  };
};

test("what the framework would serve beside our pages is not there", async ({ request }) => {
  const student = await house.caller(request, "hana.drummond");
  const none = await student.get("/api/nothing");
  for (const path of [
    "/_image?href=/assets/x.png&w=2500&f=avif",
    "/_image",
    "/_server-islands/x",
    "/_actions/x",
  ]) {
    expect((await student.get(path)).status, path).toBe(404);
    expect((await student.post(path, {})).status, path).toBe(404);
  }
  expect(none.status).toBe(404);
});

test("nobody who is not signed in has a body read: it is refused at its head, whatever its length says", async () => {
  for (const [path, status] of [
    ["/api/attempts/5b1f2a56-1f0e-4c3b-9d6e-0c8f6a7b8c9d/save", 401],
    ["/api/attempts/5b1f2a56-1f0e-4c3b-9d6e-0c8f6a7b8c9d/hand-in", 401],
    ["/profile", 303],
    ["/api/sign-in", 413],
    ["/sign-in", 413],
  ] as const) {
    const connection = await RawConnection.to(house.url);
    connection.write([
      `POST ${path} HTTP/1.1`,
      host(house),
      origin(house),
      "content-type: application/json",
      `content-length: ${60 * MB}`,
    ]);
    await expect.poll(() => connection.status, { message: path }).toBe(status);
    await expect.poll(() => connection.isClosed, { message: path }).toBe(true);
  }
});

test("a body without a length is counted as it comes, and ended where it is too much", async ({
  request,
}) => {
  const student = await house.caller(request, "hana.drummond");
  for (const [path, cookie] of [
    ["/api/sign-in", ""],
    ["/profile", student.cookie],
    ["/api/attempts/5b1f2a56-1f0e-4c3b-9d6e-0c8f6a7b8c9d/save", student.cookie],
    ["/api/attempts/5b1f2a56-1f0e-4c3b-9d6e-0c8f6a7b8c9d/hand-in", student.cookie],
  ] as const) {
    const connection = await RawConnection.to(house.url);
    const type = path === "/profile" ? "application/x-www-form-urlencoded" : "application/json";
    connection.write([
      `POST ${path} HTTP/1.1`,
      host(house),
      origin(house),
      `content-type: ${type}`,
      `cookie: ${cookie}`,
      "transfer-encoding: chunked",
    ]);
    const piece = "x".repeat(65_536);
    // Until it is answered: what is still written after that makes the answer be thrown away before it is read.
    const goesOn = () => !connection.isClosed && connection.status === null;
    for (let sent = 0; sent < 4 * MB && goesOn(); sent += piece.length) {
      connection.write(`${piece.length.toString(16)}\r\n${piece}\r\n`);
      await new Promise((done) => setTimeout(done, 1));
    }
    await expect.poll(() => connection.status, { message: path }).toBe(413);
    await expect.poll(() => connection.isClosed, { message: path }).toBe(true);
  }
});

test("a body that comes byte by byte is ended, before sign-in within seconds", async () => {
  test.setTimeout(90_000);
  const connections = await Promise.all(
    Array.from({ length: 40 }, async () => {
      const connection = await RawConnection.to(house.url);
      connection.write([
        "POST /api/sign-in HTTP/1.1",
        host(house),
        origin(house),
        "content-type: application/json",
        "content-length: 100",
      ]);
      return connection;
    }),
  );
  const drip = setInterval(() => {
    for (const connection of connections) if (!connection.isClosed) connection.write("x");
  }, 1_000);
  try {
    await expect
      .poll(() => connections.filter(({ isClosed }) => !isClosed).length, { timeout: 40_000 })
      .toBe(0);
    expect(new Set(connections.map(({ status }) => status))).toEqual(new Set([408]));
  } finally {
    clearInterval(drip);
  }
});

test("a body that breaks off is nobody's fault and leaves nothing behind", async ({ request }) => {
  const student = await house.caller(request, "hana.drummond");
  const attempt = await startedBy(student, house, "Flower shapes");
  for (const path of [`/api/attempts/${attempt}/save`, `/api/attempts/${attempt}/move`, "/profile"]) {
    const connection = await RawConnection.to(house.url);
    connection.write([
      `POST ${path} HTTP/1.1`,
      host(house),
      origin(house),
      "content-type: application/json",
      `cookie: ${student.cookie}`,
      "content-length: 500",
    ]);
    connection.write('{"here":1');
    connection.end();
  }
  expect((await student.get("/today")).status).toBe(200);
  expect(await house.answer(attempt, 1)).toBe(null);
});

test("a wrong or missing content type and a broken form are refused with a sentence", async ({ request }) => {
  const student = await house.caller(request, "hana.drummond");
  const send = async (path: string, type: string | null, body: string) => {
    const answer = await request.fetch(house.url + path, {
      method: "POST",
      data: Buffer.from(body),
      headers: { cookie: student.cookie, origin: house.url, "content-type": type ?? "" },
      maxRedirects: 0,
    });
    return { status: answer.status(), text: await answer.text() };
  };
  const id = "5b1f2a56-1f0e-4c3b-9d6e-0c8f6a7b8c9d";
  for (const type of ["text/plain", "application/x-www-form-urlencoded", ""]) {
    for (const path of [
      `/api/attempts/${id}/move`,
      `/api/attempts/${id}/save`,
      `/api/quizzes/${id}/extend`,
    ]) {
      const { status, text } = await send(path, type, '{"from":0,"to":1}');
      expect(status, `${path} as ${type}`).toBe(415);
      expect(text).toContain("application/json");
    }
  }
  for (const path of ["/profile"]) {
    const wrong = await send(path, "application/json", "{}");
    expect(wrong.status, path).toBe(415);
    expect(wrong.text).toContain("form");
    const broken = await send(path, "multipart/form-data; boundary=x", "--x\r\nno end");
    expect(broken.status, path).toBe(400);
    expect(broken.text).toContain("could not be read");
  }
  // The sign-in page says so in its own look.
  const signIn = await send("/sign-in", "application/json", "{}");
  expect([415, 303]).toContain(signIn.status);
});

test("addresses that hold what no address has, or cannot be read, are not there", async ({ request }) => {
  const student = await house.caller(request, "hana.drummond");
  for (const path of [
    "/courses/%00",
    "/courses/nav-110%00",
    "/courses/%ff",
    "/verify?code=%00",
    "/today?show=%00",
    "/gradebook/%E0%A4%A",
    "/attempts/%2e%2e%2f%00",
    "/calendar/%00.ics",
  ]) {
    const { status } = await student.get(path);
    expect(status, path).toBe(404);
  }
});

test("nobody is believed about the address that they come from", async ({ request }) => {
  const before = await house.sql`select who from try_pace where who like 'network %'`;
  for (const forged of ["203.0.113.7", "198.51.100.9, 203.0.113.7"]) {
    const answer = await request.post(`${house.url}/api/sign-in`, {
      data: { email: "nobody@alderquay.example", password: "wrong" },
      headers: { origin: house.url, "x-forwarded-for": forged, forwarded: `for=${forged}` },
    });
    expect(answer.status()).toBe(401);
  }
  const after = await house.sql`select who from try_pace where who like 'network %'`;
  const known = new Set([...before, ...after].map(({ who }) => who));
  expect([...known].filter((who) => String(who).includes("203.0.113.7"))).toEqual([]);
});

test("one trusted proxy is believed about whom it speaks for, and nobody before it", async ({ request }) => {
  const house = await House.open({ SHIZUKA_TRUST_PROXY: "1" });
  try {
    await request.post(`${house.url}/api/sign-in`, {
      data: { email: "nobody@alderquay.example", password: "wrong" },
      headers: { origin: house.url, "x-forwarded-for": "198.51.100.9, 203.0.113.7" },
    });
    const rows = await house.sql`select who from try_pace where who like 'network %'`;
    expect(rows.map(({ who }) => who)).toEqual(["network 203.0.113.7"]);
  } finally {
    await house.close();
  }
});

test("the number of queries is told in tests and benchmarks only", async ({ request }) => {
  const student = await house.caller(request, "hana.drummond");
  expect((await student.get("/today")).headers["server-timing"]).toContain("queries");
  const quiet = await House.open({ SHIZUKA_TELLS_QUERIES: "" });
  try {
    const caller = await quiet.caller(request, "hana.drummond");
    const attempt = await startedBy(caller, quiet, "Flower shapes");
    for (const answer of [
      await caller.get("/today"),
      await caller.get(`/api/attempts/${attempt}`),
      await caller.post(`/api/attempts/${attempt}/save`, saveOf(3, { parts: { a: "1" } })),
      await caller.post("/api/sign-in", { email: "nobody@alderquay.example", password: "x" }),
    ]) {
      expect(answer.headers["server-timing"]).toBeUndefined();
    }
  } finally {
    await quiet.close();
  }
});

/** Opens a stream of events; returns how to know that it lives. */
function listen(url: string, attempt: string, cookie: string, agent: Agent) {
  const stream = { isOpen: false, isClosed: false, text: "", end: () => {} };
  const sent = ask(`${url}/api/attempts/${attempt}/events`, { agent, headers: { cookie } }, (response) => {
    stream.isOpen = response.statusCode === 200;
    response.on("data", (piece) => {
      stream.text += piece;
    });
    response.on("close", () => {
      stream.isClosed = true;
    });
    response.on("error", () => {});
  });
  sent.on("error", () => {});
  sent.end();
  stream.end = () => sent.destroy();
  return stream;
}

test("a student's hundred streams are a few: the oldest give way, and the newest are told", async ({
  request,
}) => {
  const student = await house.caller(request, "elin.karimi");
  const attempt = await startedBy(student, house, "Flower shapes");
  const agent = new Agent({ maxSockets: Number.POSITIVE_INFINITY });
  const streams: ReturnType<typeof listen>[] = [];
  for (let i = 0; i < 30; i += 1) {
    const stream = listen(house.url, attempt, student.cookie, agent);
    streams.push(stream);
    await expect.poll(() => stream.isOpen).toBe(true);
  }
  const alive = () => streams.filter(({ isOpen, isClosed }) => isOpen && !isClosed).length;
  await expect.poll(alive).toBe(6);
  expect(streams.slice(-6).every(({ isClosed }) => !isClosed)).toBe(true);
  const instructor = await house.caller(request, "adaeze.okafor");
  await instructor.post(`/api/quizzes/${await house.quiz("Flower shapes")}/messages`, {
    text: "Look at the petals.",
  });
  await expect.poll(() => streams.filter(({ text }) => text.includes("petals")).length).toBe(6);
  for (const stream of streams) stream.end();
});

test("after signing out no stream is told anything any more", async ({ request }) => {
  const student = await house.caller(request, "wanjiru.holloway");
  const attempt = await startedBy(student, house, "Flower shapes");
  const stream = listen(house.url, attempt, student.cookie, new Agent());
  await expect.poll(() => stream.isOpen).toBe(true);
  const out = await request.post(`${house.url}/sign-out`, {
    form: { "all-the-same": "yes" },
    headers: { cookie: student.cookie, origin: house.url },
    maxRedirects: 0,
  });
  expect(out.status()).toBe(303);
  await expect.poll(() => stream.isClosed, { timeout: 40_000 }).toBe(true);
});

test("whoever asks without end is told to wait, and a plain save is taken all the same", async ({
  request,
}) => {
  const house = await House.open();
  try {
    const student = await house.caller(request, "hana.drummond");
    const attempt = await startedBy(student, house, "Flower shapes");
    const statuses: number[] = [];
    for (let i = 0; i < 150; i += 1) {
      const { status, headers, json } = await student.post(`/api/attempts/${attempt}/move`, {
        from: 0,
        to: 0,
      });
      statuses.push(status);
      if (status !== 429) continue;
      expect(Number(headers["retry-after"])).toBeGreaterThan(0);
      expect(json.title).toContain("try again in");
      break;
    }
    expect(statuses.at(-1)).toBe(429);
    const saved = await student.post(`/api/attempts/${attempt}/save`, saveOf(3, { parts: { a: "5" } }));
    expect(saved.status).toBe(200);
    expect(await house.answer(attempt, 3)).toEqual({ parts: { a: "5" } });
    // Another's budget is their own.
    const other = await house.caller(request, "elin.karimi");
    expect((await other.get("/today")).status).toBe(200);
  } finally {
    await house.close();
  }
});

test("three hundred saves at once by one student are answered one after the other or put off, and none is lost", async ({
  request,
}) => {
  const student = await house.caller(request, "ottoline.diaz");
  const attempt = await startedBy(student, house, "Flower shapes");
  const saves = Array.from({ length: 300 }, (_, i) => saveOf(3, { parts: { a: String(i) } }));
  const answers = await Promise.all(saves.map((body) => student.post(`/api/attempts/${attempt}/save`, body)));
  const statuses = new Set(answers.map(({ status }) => status));
  expect([...statuses].filter((status) => status !== 200 && status !== 429)).toEqual([]);
  const taken = answers.filter(({ status }) => status === 200).length;
  const [{ count } = { count: 0 }] =
    await house.sql`select count(*)::int as count from answer_log where attempt_id = ${attempt} and slot = 3`;
  expect(count).toBe(taken);
});
