import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

/** The project's own folder. */
export const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), "../..");

/** Where clusters, secrets and results lie. SHIZUKA_HOME moves it, so that trials of the start touch nobody's demo. */
export const HOME = process.env.SHIZUKA_HOME ?? join(ROOT, ".shizuka");

export const say = (text) => console.log(text);

/** Ends with one clear line, and no stack. */
export class Stop extends Error {}

/** Runs a step's main function; a `Stop` ends with its sentence alone. */
export async function main(run) {
  try {
    await run();
  } catch (error) {
    console.error(error instanceof Stop ? error.message : error);
    process.exitCode = 1;
  }
}

/** Runs a program and answers its output; throws with the end of it when it fails. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: ROOT, encoding: "utf8", maxBuffer: 1 << 26, ...options });
  if (done.error) throw done.error;
  if (done.status !== 0) {
    const output = `${done.stdout ?? ""}${done.stderr ?? ""}`.trim().split("\n").slice(-25).join("\n");
    throw new Stop(`${command} ${args.join(" ")} failed (${done.status ?? done.signal}):\n${output}`);
  }
  return done.stdout ?? "";
}

/** Runs a program with its output shown; returns its exit code. */
export function runShown(command, args, options = {}) {
  return new Promise((done, failed) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: "inherit", ...options });
    child.on("error", failed);
    child.on("exit", (code, signal) => done(signal ? 1 : (code ?? 1)));
  });
}

function filesUnder(path) {
  if (!existsSync(path)) return [];
  if (statSync(path).isFile()) return [path];
  return readdirSync(path)
    .sort()
    .flatMap((name) => filesUnder(join(path, name)));
}

/** One hash over the contents of some files and folders of the project. */
export function fingerprint(paths) {
  const hash = createHash("sha256");
  for (const file of paths.flatMap((path) => filesUnder(join(ROOT, path)))) {
    hash.update(file.slice(ROOT.length)).update("\0").update(readFileSync(file)).update("\0");
  }
  return hash.digest("hex");
}

/** Does something unless it was done for the same fingerprint before; the stamp lies in `stampFile`. */
export async function unlessDone(stampFile, stamp, todo) {
  const path = resolve(ROOT, stampFile);
  if (existsSync(path) && readFileSync(path, "utf8") === stamp) return false;
  await todo();
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, stamp);
  return true;
}

/** Installs what package-lock.json names, if it is missing or stale. */
export async function ensurePackages() {
  await unlessDone("node_modules/.shizuka-stamp", fingerprint(["package-lock.json"]), () => {
    say("Installing packages (a minute or two the first time) ...");
    run("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"]);
  });
}

/** Builds the application if anything it is made of has changed. */
export async function ensureBuild() {
  const made = ["src", "public", "astro.config.ts", "package-lock.json", "tsconfig.json", "tools/build.mjs"];
  await unlessDone("dist/.shizuka-stamp", fingerprint(made), () => {
    say("Building ...");
    run("node", ["tools/build.mjs"]);
  });
}

/** A port on the host that nobody listens on: the wanted one, or else any. */
export function freePort(wanted = 0, host = "127.0.0.1") {
  return new Promise((done, failed) => {
    const server = createServer();
    server.on("error", (error) => {
      if (error.code === "EADDRINUSE" && wanted !== 0) done(null);
      else failed(error);
    });
    server.listen({ port: wanted, host, exclusive: true }, () => {
      const { port } = server.address();
      server.close(() => done(port));
    });
  });
}

/** Installs Debian packages if this user may; returns whether they are there now. */
export function installDebian(packages, say_) {
  if (process.getuid?.() !== 0 || spawnSync("which", ["apt-get"]).status !== 0) return false;
  say_(`Installing ${packages.join(" and ")} from Debian's packages ...`);
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  spawnSync("apt-get", ["update", "-qq"], { env, stdio: "ignore" });
  return (
    spawnSync("apt-get", ["install", "-y", "-qq", "--no-install-recommends", ...packages], {
      env,
      stdio: "ignore",
    }).status === 0
  );
}
