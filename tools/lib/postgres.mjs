import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { join } from "node:path";
import { freePort, HOME, installDebian, Stop, say } from "./steps.mjs";

const INSTALL = "apt-get install -y postgresql-15";

/** The folder of PostgreSQL's server programs: the newest of Debian's, or what is on the path; installed if need be. */
function findPrograms() {
  const debian = "/usr/lib/postgresql";
  const versions = existsSync(debian) ? readdirSync(debian).filter((name) => Number(name) >= 15) : [];
  const folders = versions
    .sort((a, b) => Number(b) - Number(a))
    .map((version) => join(debian, version, "bin"));
  const onPath = spawnSync("which", ["pg_ctl"], { encoding: "utf8" }).stdout?.trim();
  if (onPath) folders.push(onPath.replace(/\/pg_ctl$/, ""));
  return folders.find((folder) => existsSync(join(folder, "initdb")) && existsSync(join(folder, "pg_ctl")));
}

function ensurePrograms() {
  const found = findPrograms();
  if (found) return found;
  if (installDebian(["postgresql-15"], say)) {
    const installed = findPrograms();
    if (installed) return installed;
  }
  throw new Stop(`PostgreSQL's server programs are missing. Install them with:  sudo ${INSTALL}`);
}

/** Where one of PostgreSQL's own programs is. */
export const databaseProgram = (name) => join(ensurePrograms(), name);

/** PostgreSQL refuses to run as root: then it runs as Debian's own user for it. */
function runner() {
  if (process.getuid() !== 0) return null;
  for (const name of ["postgres", "nobody"]) {
    const ids = ["-u", "-g"].map((flag) => spawnSync("id", [flag, name], { encoding: "utf8" }).stdout.trim());
    if (ids.every((id) => /^\d+$/.test(id))) return { uid: Number(ids[0]), gid: Number(ids[1]) };
  }
  throw new Stop("PostgreSQL does not run as root, and there is no other user here to run it as.");
}

/** Where a cluster lies: under the project, unless the user who runs it cannot get there (a home folder of root's). */
function clusterFolder(name, user) {
  const inside = join(HOME, name);
  mkdirSync(inside, { recursive: true });
  if (!user) return inside;
  chownSync(inside, user.uid, user.gid);
  const reachable = spawnSync("ls", [inside], { ...user, cwd: "/", stdio: "ignore" }).status === 0;
  if (reachable) return inside;
  const outside = join(
    "/var/lib/shizuka",
    createHash("sha256").update(HOME).digest("hex").slice(0, 12),
    name,
  );
  mkdirSync(outside, { recursive: true });
  chownSync(outside, user.uid, user.gid);
  return outside;
}

/** The process that runs on a data folder, or null; a file left by a killed one does not count. */
function runningOn(data) {
  const file = join(data, "postmaster.pid");
  if (!existsSync(file)) return null;
  const [pid, , , port] = readFileSync(file, "utf8").split("\n");
  try {
    process.kill(Number(pid), 0);
  } catch (error) {
    if (error.code === "ESRCH") return null;
  }
  const command = existsSync(`/proc/${pid}/cmdline`) ? readFileSync(`/proc/${pid}/cmdline`, "utf8") : "";
  return command.includes("postgres") ? { pid: Number(pid), port: Number(port) } : null;
}

const addressOf = (port) => (database) => `postgres://shizuka@127.0.0.1:${port}/${database}`;

/** A cluster of ours that runs, as it is; null where it does not. */
export function runningCluster(name) {
  const running = runningOn(join(clusterFolder(name, runner()), "data"));
  return running && { url: addressOf(running.port) };
}

/** Whether a process has ended and only waits to be collected by its parent. */
function isDead(pid) {
  try {
    // The name in parentheses may hold anything; the state follows the last one.
    return readFileSync(`/proc/${pid}/stat`, "utf8").split(")").at(-1).trim().startsWith("Z");
  } catch {
    return true;
  }
}

/** Whether any process still works in a folder, such as one that a killed server left behind for a moment. */
function isWorkedIn(folder) {
  return readdirSync("/proc").some((name) => {
    if (!/^\d+$/.test(name)) return false;
    try {
      return readlinkSync(`/proc/${name}/cwd`) === folder;
    } catch {
      return false;
    }
  });
}

const MOMENT = 100;
/** Longer than a first process of a container takes to collect its dead children, as a rule. */
const LONGEST_WAIT = 5_000;

/**
 * Waits until a killed server is gone altogether. Its lock file names a process that is dead but not collected yet, which
 * PostgreSQL takes for a living one: if that lasts, the file goes, once nothing works in the folder any more.
 */
async function untilGone(data) {
  const file = join(data, "postmaster.pid");
  for (let waited = 0; waited < LONGEST_WAIT && existsSync(file); waited += MOMENT) {
    const pid = Number(readFileSync(file, "utf8").split("\n")[0]);
    const isThere = existsSync(`/proc/${pid}`);
    if (!isThere && !isWorkedIn(data)) return;
    if (isThere && !isDead(pid)) return;
    await new Promise((go) => setTimeout(go, MOMENT));
  }
  if (!existsSync(file)) return;
  const pid = Number(readFileSync(file, "utf8").split("\n")[0]);
  if (isDead(pid) && !isWorkedIn(data)) rmSync(file, { force: true });
}

/**
 * A PostgreSQL cluster of our own under `.shizuka/<name>`, on 127.0.0.1 and a free port. One that still runs from a
 * killed start is taken over. `fast` gives up safety against a crash of the machine, for tests that do not test it.
 */
export async function startCluster(name, { fresh = false, fast = false } = {}) {
  const programs = ensurePrograms();
  const user = runner();
  const folder = clusterFolder(name, user);
  const data = join(folder, "data");
  const ctl = (args) =>
    spawnSync(join(programs, "pg_ctl"), args, {
      ...user,
      cwd: "/",
      encoding: "utf8",
      stdio: ["ignore", "pipe", "pipe"],
    });
  const stop = (mode = "fast") => ctl(["stop", "-D", data, "-m", mode, "-w", "-t", "30"]);
  const start = async () => {
    await untilGone(data);
    return ctl(["start", "-D", data, "-l", join(folder, "postgres.log"), "-w", "-t", "30"]);
  };

  const left = runningOn(data);
  if (left && (fresh || fast)) stop("immediate");
  if (fresh) rmSync(data, { recursive: true, force: true });
  if (!existsSync(join(data, "PG_VERSION"))) {
    rmSync(data, { recursive: true, force: true });
    mkdirSync(data, { recursive: true });
    if (user) chownSync(data, user.uid, user.gid);
    chmodSync(data, 0o700);
    const args = ["-D", data, "-U", "shizuka", "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8", "--no-sync"];
    const made = spawnSync(join(programs, "initdb"), args, { ...user, cwd: "/", encoding: "utf8" });
    if (made.status !== 0) throw new Stop(`The database could not be made:\n${made.stderr}`);
  }
  let port = runningOn(data)?.port;
  if (!port) {
    port = await freePort();
    const settings = [
      "listen_addresses = '127.0.0.1'",
      `port = ${port}`,
      `unix_socket_directories = ''`,
      "max_connections = 100",
      "timezone = 'UTC'",
      "log_timezone = 'UTC'",
      ...(fast ? ["fsync = off", "full_page_writes = off", "synchronous_commit = off"] : []),
    ];
    const conf = join(data, "postgresql.auto.conf");
    writeFileSync(conf, `${settings.join("\n")}\n`);
    if (user) chownSync(conf, user.uid, user.gid);
    const started = await start();
    if (started.status !== 0) {
      throw new Stop(`PostgreSQL did not start; see ${join(folder, "postgres.log")}\n${started.stderr}`);
    }
  }
  const url = addressOf(port);
  return {
    port,
    url,
    stop,
    start,
  };
}
