import { spawn } from "node:child_process";
import { createReadStream, createWriteStream, existsSync, renameSync, rmSync } from "node:fs";
import { pipeline } from "node:stream/promises";
import { databaseProgram, runningCluster } from "./postgres.mjs";
import { Stop } from "./steps.mjs";

/** The database to save or to fill: DATABASE_URL, or the demo's own where that runs. */
export function databaseToUse() {
  const url = process.env.DATABASE_URL || runningCluster("demo")?.url("postgres");
  if (!url) throw new Stop("Set DATABASE_URL to the database, or start the demo first: npm start");
  return url;
}

/** Runs one of PostgreSQL's own programs; its input or output may be a file's stream. @throws Stop with what it said */
async function program(name, args, { from, to }) {
  const child = spawn(databaseProgram(name), args, { stdio: ["pipe", "pipe", "pipe"] });
  let said = "";
  child.stderr.on("data", (piece) => {
    said += piece;
  });
  const ended = new Promise((done) => child.on("close", done));
  const carried = Promise.all([
    from ? pipeline(from, child.stdin) : child.stdin.end(),
    to ? pipeline(child.stdout, to) : child.stdout.resume(),
  ]).catch((error) => {
    said += error.message;
  });
  const code = await ended;
  await carried;
  if (code !== 0) throw new Stop(`${name} failed:\n${said.trim().split("\n").slice(-12).join("\n")}`);
}

/** Saves a whole database into one file: at one moment, while people go on working. */
export async function backUp(url, file) {
  if (existsSync(file)) throw new Stop(`${file} is there already; a backup never overwrites another.`);
  const unfinished = `${file}.unfinished`;
  try {
    await program("pg_dump", ["--format=custom", "--no-owner", "--no-privileges", `--dbname=${url}`], {
      to: createWriteStream(unfinished, { mode: 0o600, flush: true }),
    });
    // Read back before it counts as a backup.
    await program("pg_restore", ["--list"], { from: createReadStream(unfinished) });
    renameSync(unfinished, file);
  } catch (error) {
    rmSync(unfinished, { force: true });
    throw error;
  }
}

/** How many people a database holds; null where there is no college in it. */
async function peopleIn(url) {
  const { default: postgres } = await import("postgres");
  const sql = postgres(url, { max: 1, onnotice: () => {} });
  try {
    const [{ there }] = await sql`select to_regclass('public.person') is not null as there`;
    return there ? (await sql`select count(*)::int as people from person`)[0].people : null;
  } finally {
    await sql.end();
  }
}

/** Fills a database from a backup, all of it or nothing. One that holds a college is replaced only with `over`. */
export async function restore(url, file, { over = false } = {}) {
  if (!existsSync(file)) throw new Stop(`${file} is not there.`);
  await program("pg_restore", ["--list"], { from: createReadStream(file) });
  const people = await peopleIn(url);
  if (people !== null && !over)
    throw new Stop(
      `This database holds a college of ${people} people. Restore into an empty database, or say --over to replace all of it.`,
    );
  await program(
    "pg_restore",
    [
      "--no-owner",
      "--no-privileges",
      "--single-transaction",
      "--exit-on-error",
      ...(people === null ? [] : ["--clean", "--if-exists"]),
      `--dbname=${url}`,
    ],
    { from: createReadStream(file) },
  );
}
