import { type ChildProcess, spawn } from "node:child_process";
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { freePort } from "../../tools/lib/steps.mjs";

test.describe.configure({ mode: "serial" });

let home: string;
let port: number;
const running: ChildProcess[] = [];

test.beforeAll(async () => {
  home = mkdtempSync(join(tmpdir(), "shizuka-start-"));
  // The database runs as another user when we are root.
  chmodSync(home, 0o755);
  port = Number(await freePort());
});

test.afterAll(async () => {
  for (const child of running) child.kill("SIGTERM");
  await Promise.all(
    running.map(
      (child) => child.exitCode ?? child.signalCode ?? new Promise((done) => child.once("exit", done)),
    ),
  );
  rmSync(home, { recursive: true, force: true });
});

/** Starts the demo in a home of its own; returns what it printed once it says where it is, or when it ends. */
function start(...args: string[]): Promise<{ child: ChildProcess; output: string; code: number | null }> {
  const env = { ...process.env, SHIZUKA_HOME: home, PORT: String(port), DATABASE_URL: "" };
  const child = spawn("node", ["tools/start.mjs", ...args], { env, stdio: ["ignore", "pipe", "pipe"] });
  running.push(child);
  let output = "";
  return new Promise((done) => {
    const read = (piece: Buffer) => {
      output += piece;
      if (output.includes("Stop with Ctrl-C.")) done({ child, output, code: null });
    };
    child.stdout.on("data", read);
    child.stderr.on("data", read);
    child.once("exit", (code) => done({ child, output, code }));
  });
}

const ended = (child: ChildProcess) => new Promise<number | null>((done) => child.once("exit", done));
const people = async (request: import("@playwright/test").APIRequestContext) =>
  (await (await request.get(`http://127.0.0.1:${port}/sign-in`)).text()).includes("Noor Haldane");

test("a first start writes the demo college, prints the address and the sign-ins; a second one says that it runs already", async ({
  request,
}) => {
  const { child, output } = await start();
  expect(output).toContain("Wrote the demo college into the database.");
  expect(output).toContain(`http://127.0.0.1:${port}`);
  expect(output).toContain("noor.haldane@alderquay.example");
  expect(await people(request)).toBe(true);

  const second = await start();
  expect(second.code).toBe(1);
  expect(second.output).toContain(`Shizuka runs already at http://127.0.0.1:${port}`);
  expect(await people(request)).toBe(true);

  // Ctrl-C, and start again: what was there is there.
  child.kill("SIGINT");
  expect(await ended(child)).toBe(0);
  await expect(request.get(`http://127.0.0.1:${port}/health`)).rejects.toThrow();
});

test("after kill -9 the next start works, takes the left database over, and is quick", async ({
  request,
}) => {
  const first = await start();
  expect(first.output).not.toContain("Wrote the demo college into the database.");
  first.child.kill("SIGKILL");
  await ended(first.child);
  // The server notices that its parent is gone.
  await expect
    .poll(() =>
      request.get(`http://127.0.0.1:${port}/health`).then(
        () => true,
        () => false,
      ),
    )
    .toBe(false);
  const before = Date.now();
  const again = await start();
  expect(again.code).toBeNull();
  expect(await people(request)).toBe(true);
  // 8 s are the budget on a quiet machine; here other tests run beside it.
  expect(Date.now() - before).toBeLessThan(16_000);

  const pidFile = join(home, "demo/data/postmaster.pid");
  expect(existsSync(pidFile)).toBe(true);
  again.child.kill("SIGTERM");
  expect(await ended(again.child)).toBe(0);
  expect(existsSync(pidFile), "the database it started is taken down").toBe(false);
});

test("a lock file that names a dead process which its parent never collects holds up no start", async () => {
  const pidFile = join(home, "demo/data/postmaster.pid");
  // A parent that becomes another program after its child has begun never asks for it again.
  const parent = spawn("sh", ["-c", "sleep 0 & echo $!; exec sleep 120"], {
    stdio: ["ignore", "pipe", "ignore"],
  });
  try {
    const pid = await new Promise<number>((done) => {
      parent.stdout.once("data", (piece) => done(Number(piece)));
    });
    const state = () => readFileSync(`/proc/${pid}/stat`, "utf8").split(")").at(-1)?.trim()[0];
    await expect.poll(state).toBe("Z");
    writeFileSync(pidFile, `${pid}\n${join(home, "demo/data")}\n1\n1\n\n\n\n\n`);
    const { child, output, code } = await start();
    expect(output).toContain(`http://127.0.0.1:${port}`);
    expect(code).toBeNull();
    child.kill("SIGTERM");
    expect(await ended(child)).toBe(0);
  } finally {
    parent.kill("SIGKILL");
  }
});

test("--fresh begins anew", async () => {
  const { child, output } = await start("--fresh");
  expect(output).toContain("Wrote the demo college into the database.");
  child.kill("SIGINT");
  expect(await ended(child)).toBe(0);
});

test("a server that is set wrongly says why on the terminal, and does not start", async () => {
  const serve = (env: Readonly<Record<string, string>>): Promise<{ said: string; code: number | null }> => {
    const child = spawn("node", ["dist/server/serve.mjs"], {
      env: {
        ...process.env,
        PROCESSES: "1",
        DATABASE_URL: "postgres://nobody@127.0.0.1:1/nowhere",
        SHIZUKA_SECRET: "3f9c0d1e8b7a6f5e4d3c2b1a09f8e7d6",
        ...env,
      },
      stdio: ["ignore", "ignore", "pipe"],
    });
    running.push(child);
    let said = "";
    child.stderr.on("data", (piece: Buffer) => {
      said += piece;
    });
    return new Promise((done) => child.once("close", (code) => done({ said, code })));
  };
  expect(await serve({ SHIZUKA_LANGUAGE: "jp" })).toEqual({
    said: "Shizuka does not start.\nSHIZUKA_LANGUAGE must be one of en, ja.\n",
    code: 1,
  });
  expect(await serve({ PROCESSES: "none" })).toEqual({
    said: "PROCESSES must be a number from 1 to 64.\n",
    code: 1,
  });
});
