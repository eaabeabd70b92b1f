import { fork } from "node:child_process";
import { join } from "node:path";
import { freePort, ROOT } from "./steps.mjs";

/** A secret for servers that live as long as a test or a picture. */
export const TRIAL_SECRET = "a secret for trials only, not for people";

/** Starts the built application on a database, and waits until it answers. */
export async function startServer(databaseUrl, env = {}) {
  const port = env.PORT ? Number(env.PORT) : await freePort();
  const child = fork(join(ROOT, "dist/server/serve.mjs"), [], {
    cwd: ROOT,
    env: {
      ...process.env,
      SHIZUKA_DEMO: "1",
      SHIZUKA_SECRET: TRIAL_SECRET,
      SHIZUKA_TEST: "1",
      SHIZUKA_TELLS_QUERIES: "1",
      PROCESSES: "1",
      ...env,
      DATABASE_URL: databaseUrl,
      HOST: "127.0.0.1",
      PORT: String(port),
    },
    stdio: ["ignore", "inherit", "inherit", "ipc"],
  });
  await new Promise((ready, failed) => {
    child.once("message", ready);
    child.once("exit", (code) => failed(new Error(`The server ended with ${code} before it was ready.`)));
  });
  const gone = new Promise((done) => child.once("exit", done));
  const end = (signal) => {
    child.kill(signal);
    return gone;
  };
  return {
    url: `http://127.0.0.1:${port}`,
    port,
    pid: child.pid,
    stop: () => end("SIGTERM"),
    kill: () => end("SIGKILL"),
  };
}

/** Runs one statement as the cluster's owner. */
export async function onCluster(cluster, statement) {
  const { default: postgres } = await import("postgres");
  const sql = postgres(cluster.url("postgres"), { max: 1, onnotice: () => {} });
  try {
    return await sql.unsafe(statement);
  } finally {
    await sql.end();
  }
}

/** Makes an empty database in a cluster, or a copy of another; returns its address. */
export async function createDatabase(cluster, name, template) {
  await onCluster(cluster, `drop database if exists "${name}" with (force)`);
  await onCluster(cluster, `create database "${name}"${template ? ` template "${template}"` : ""}`);
  return cluster.url(name);
}

/** A database with the demo college in it, to be copied by tests. */
export async function createDemoTemplate(cluster, name = "demo_template") {
  const server = await startServer(await createDatabase(cluster, name));
  await server.stop();
  return name;
}
