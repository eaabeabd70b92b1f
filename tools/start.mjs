import { fork } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { startCluster } from "./lib/postgres.mjs";
import { ensureBuild, ensurePackages, freePort, HOME, main, ROOT, Stop, say } from "./lib/steps.mjs";

/**
 * `npm start`: everything from a fresh clone to a running demo. `--fresh` begins anew; `--large` lays a course of five
 * hundred beside it, in which a quiz runs whose students write by themselves. DATABASE_URL uses an existing
 * server instead of an own cluster; PORT and HOST say where to listen.
 */
const fresh = process.argv.includes("--fresh");
const large = process.argv.includes("--large");
const runFile = join(HOME, "run.json");

await main(async () => {
  mkdirSync(HOME, { recursive: true });
  refuseSecondStart();
  writeFileSync(runFile, JSON.stringify({ pid: process.pid }));
  let cluster = null;
  const tidy = () => {
    cluster?.stop();
    rmSync(runFile, { force: true });
  };
  try {
    await ensurePackages();
    await ensureBuild();
    if (process.env.DATABASE_URL) {
      if (fresh)
        throw new Stop(
          "--fresh empties only Shizuka's own database; with DATABASE_URL, empty that one yourself.",
        );
    } else {
      say("Starting the database ...");
      cluster = await startCluster("demo", { fresh });
    }
    await serve(process.env.DATABASE_URL || cluster.url("postgres"));
  } finally {
    tidy();
  }
});

function refuseSecondStart() {
  if (!existsSync(runFile)) return;
  const { pid, address } = readJson(runFile);
  if (!pid || pid === process.pid || !isStart(pid)) return;
  throw new Stop(
    `Shizuka runs already${address ? ` at ${address}` : ""} (process ${pid}). Stop it there with Ctrl-C.`,
  );
}

function readJson(file) {
  try {
    return JSON.parse(readFileSync(file, "utf8"));
  } catch {
    return {};
  }
}

/** Whether a process is a start of this project, not another that took its number later. */
function isStart(pid) {
  try {
    process.kill(pid, 0);
    return readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("start.mjs");
  } catch {
    return false;
  }
}

/** The secret that signs sessions: SHIZUKA_SECRET, or one made at the first start and kept. */
function secret() {
  if (process.env.SHIZUKA_SECRET) return process.env.SHIZUKA_SECRET;
  const file = join(HOME, "secret");
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString("hex"), { mode: 0o600 });
  return readFileSync(file, "utf8").trim();
}

async function choosePort(host) {
  if (process.env.PORT) {
    const port = Number(process.env.PORT);
    if (!Number.isInteger(port) || port < 1 || port > 65_535)
      throw new Stop("PORT must be a number from 1 to 65535.");
    if ((await freePort(port, host)) === null)
      throw new Stop(`Port ${port} is taken. Choose another with PORT=...`);
    return port;
  }
  return (await freePort(8110, host)) ?? (await freePort(0, host));
}

async function serve(databaseUrl) {
  const host = process.env.HOST ?? "127.0.0.1";
  const port = await choosePort(host);
  const address = `http://${host === "0.0.0.0" ? "localhost" : host}:${port}`;
  const env = {
    SHIZUKA_DEMO: "1",
    ...process.env,
    DATABASE_URL: databaseUrl,
    SHIZUKA_SECRET: secret(),
    HOST: host,
    PORT: String(port),
    NODE_ENV: "production",
    // Five hundred who write from one machine ask for more than one person may.
    ...(large ? { SHIZUKA_DEMO_LARGE: "1", SHIZUKA_BUDGET: process.env.SHIZUKA_BUDGET ?? "1000" } : {}),
  };
  if (large) say("Laying a course of five hundred; the first time it takes a few minutes ...");
  // Its own process group, so that Ctrl-C reaches it only through us, in order.
  const server = fork(join(ROOT, "dist/server/serve.mjs"), [], { cwd: ROOT, env, detached: true });
  const stop = () => server.kill("SIGTERM");
  process.on("SIGINT", stop);
  process.on("SIGTERM", stop);
  server.on("message", ({ ready, wroteDemo, signIns }) => {
    if (!ready) return;
    writeFileSync(runFile, JSON.stringify({ pid: process.pid, address }));
    if (wroteDemo) say("Wrote the demo college into the database.");
    say(`\nShizuka is at ${address}\n`);
    if (env.SHIZUKA_DEMO === "1") {
      say("Sample sign-ins (the sign-in page offers them too):");
      for (const { name, email, password } of signIns)
        say(`  ${name.padEnd(20)} ${email.padEnd(36)} ${password}`);
    }
    say("\nStop with Ctrl-C.");
    if (large) void letThemWrite(address, databaseUrl);
  });
  await new Promise((done) =>
    server.on("exit", (code) => {
      if (code) process.exitCode = code;
      done();
    }),
  );
}

/** The students of the large course begin to write. */
async function letThemWrite(url, databaseUrl) {
  const [{ default: postgres }, { simulateClass }] = await Promise.all([
    import("postgres"),
    import("./lib/simulated-class.mjs"),
  ]);
  const sql = postgres(databaseUrl, { max: 1 });
  try {
    const { quizId } = await simulateClass({ url, sql, say });
    say(`All of them write. Watch them as Captain Ines Marsh: ${url}/quizzes/${quizId}/watch`);
  } catch (error) {
    say(`The class does not write: ${error.message}`);
  } finally {
    await sql.end();
  }
}
