import { randomUUID } from "node:crypto";
import { Agent, request } from "node:http";
import { connect } from "node:net";
import { setPriority } from "node:os";
import { call } from "../../tools/lib/http.mjs";

/**
 * One student who tries everything that could stop the server, in a process of their own, as they would have a machine of
 * their own: `villain.mjs <url> <cookie> <attempt with two essays>`. Goes on until it is told to stop.
 */
const [url, cookie, essays] = process.argv.slice(2);
setPriority(19);

const agent = new Agent({ keepAlive: true, maxSockets: Number.POSITIVE_INFINITY });
const sent = (method, path, body, type) => call({ agent, url, method, path, cookie, body, type });
let revision = 0;
const save = (slot, rich) => {
  revision += 1;
  const entry = {
    slot,
    device: randomUUID(),
    answer: { rich },
    ribbon: false,
    ruledOut: [],
    revision,
    writtenAt: Date.now(),
  };
  return sent("POST", `/api/attempts/${essays}/save`, JSON.stringify({ here: slot, entries: [entry] }));
};

const formula = `<span data-type="inline-math" data-latex="${"\\frac{a}{b}".repeat(85)}"></span>`;
const words = `<p>${"word ".repeat(58_000)}</p>`;
const guess = JSON.stringify({ email: "hana.drummond@alderquay.example", password: "guess" });

/** A body without a length, that never ends. */
async function endless() {
  const { hostname, port } = new URL(url);
  const socket = connect(Number(port), hostname);
  socket.on("error", () => {});
  const head = `POST /api/sign-in HTTP/1.1\r\nhost: ${hostname}:${port}\r\norigin: ${url}\r\ncontent-type: application/json\r\ntransfer-encoding: chunked\r\n\r\n`;
  socket.write(head);
  const piece = "x".repeat(60_000);
  for (let i = 0; i < 40 && !socket.destroyed; i += 1) {
    socket.write(`${piece.length.toString(16)}\r\n${piece}\r\n`);
    await new Promise((done) => setTimeout(done, 5));
  }
  socket.destroy();
}

const ATTACKS = [
  () => save(1, `<p>${formula.repeat(10)}</p>`),
  () => save(2, words),
  () => save(2, "<b>".repeat(90_000)),
  () => save(2, "<table><tr><td>".repeat(18_000)),
  () => save(2, "<".repeat(250_000)),
  () => sent("POST", `/api/attempts/${essays}/save`, "[".repeat(1_900_000)),
  () => sent("GET", `/attempts/${essays}`),
  () => sent("GET", "/_image?href=/x.png&w=2500&h=2500&f=avif"),
  () => sent("GET", "/gradebook/pol-101"),
  () => sent("POST", "/api/sign-in", guess),
  () =>
    sent(
      "PUT",
      `/api/attempts/${essays}/files/${randomUUID()}?slot=1&name=a.png&size=1048576&at=0`,
      Buffer.alloc(1_048_576),
      "application/octet-stream",
    ),
  endless,
];

for (let i = 0; i < 250; i += 1) {
  const stream = request(`${url}/api/attempts/${essays}/events`, { agent, headers: { cookie } }, (response) =>
    response.on("error", () => {}).resume(),
  );
  stream.on("error", () => {});
  stream.end();
}
const answers = {};
for (const [i, attack] of ATTACKS.entries()) {
  for (let twice = 0; twice < 2; twice += 1) {
    void (async () => {
      for (;;) {
        const answer = await attack().catch(() => null);
        const key = `${i} ${answer?.status ?? "-"}`;
        answers[key] = (answers[key] ?? 0) + 1;
        // What fails at once would only keep this process busy.
        await new Promise((done) => setTimeout(done, 10));
      }
    })();
  }
}
process.send?.({ begun: true });
process.on("message", () => {
  process.send?.({ answers }, () => process.exit(0));
});
process.on("disconnect", () => process.exit(0));
