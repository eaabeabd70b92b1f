import { once } from "node:events";
import { createServer, type IncomingMessage, type Server } from "node:http";
import { type AddressInfo, connect, type Socket } from "node:net";
import { afterEach, beforeEach, expect, test } from "vitest";
import { inTurn } from "./turns";

let server: Server;
let address: string;
let most = 0;
let now = 0;
/** Those that are being answered wait here until they may go on. */
let held: (() => void)[] = [];

async function bodyOf(request: IncomingMessage): Promise<string> {
  let body = "";
  for await (const piece of request) body += piece;
  return body;
}

beforeEach(async () => {
  most = 0;
  now = 0;
  held = [];
  server = createServer((request, response) => {
    void inTurn(request, response, async () => {
      now += 1;
      most = Math.max(most, now);
      const body = await bodyOf(request).catch(() => "gone");
      if (request.url === "/held") await new Promise<void>((go) => held.push(go));
      now -= 1;
      response.end(`read ${body.length}`);
    });
  }).listen(0, "127.0.0.1");
  await once(server, "listening");
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterEach(() => {
  server.closeAllConnections();
  server.close();
});

const text = async (path: string, body?: string) =>
  (await fetch(address + path, body === undefined ? {} : { method: "POST", body })).text();

test("four are answered at once, and all of them in the end", async () => {
  const answers = Array.from({ length: 12 }, () => text("/held"));
  await expect.poll(() => held.length).toBe(4);
  for (let left = 12; left > 0; left -= 1) {
    await expect.poll(() => held.length).toBe(Math.min(left, 4));
    held.shift()?.();
  }
  expect(await Promise.all(answers)).toEqual(Array.from({ length: 12 }, () => "read 0"));
  expect(most).toBe(4);
});

test("bodies arrive whole, small ones and large ones", async () => {
  for (const length of [1, 1_000, 16 * 1024, 16 * 1024 + 1, 1_000_000]) {
    expect(await text("/", "x".repeat(length))).toBe(`read ${length}`);
  }
});

test("any number of requests whose body does not come hold up nobody", async () => {
  const slow: Socket[] = [];
  for (let i = 0; i < 20; i += 1) {
    const socket = connect(Number(new URL(address).port), "127.0.0.1");
    socket.write(`POST / HTTP/1.1\r\nhost: x\r\ncontent-length: ${i % 2 ? 100 : 100_000}\r\n\r\nbegun`);
    slow.push(socket);
  }
  await Promise.all(slow.map((socket) => once(socket, "ready")));
  const from = performance.now();
  expect(await text("/")).toBe("read 0");
  expect(performance.now() - from).toBeLessThan(1_500);
  for (const socket of slow) socket.destroy();
});
