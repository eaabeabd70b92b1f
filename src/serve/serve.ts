import cluster from "node:cluster";
import { availableParallelism } from "node:os";
import type { Prepared } from "./application";

/**
 * Serves the built application on HOST:PORT with as many processes as there are processors, at most four, or as PROCESSES
 * says; one that dies is replaced. Expects DATABASE_URL and SHIZUKA_SECRET, and to run in the project's folder. Stops on
 * SIGTERM and SIGINT, and when the process that started it is gone. Tells the process that started it, if any, when it
 * answers.
 */
process.env.NODE_ENV = "production";

/** What a process of the server says once it answers. */
type Ready = Prepared & { readonly ready: true };

/** Milliseconds before a process that died is replaced: one that cannot live is not tried without end. */
const REST = 1_000;

const processes = Number(process.env.PROCESSES ?? Math.min(availableParallelism(), 4));
if (!Number.isInteger(processes) || processes < 1 || processes > 64) {
  console.error("PROCESSES must be a number from 1 to 64.");
  process.exit(1);
}

const say = (ready: Ready): void => {
  process.send?.(ready);
};

if (cluster.isPrimary && processes > 1) await serveWithWorkers();
else {
  // Loaded only where it answers: the process that looks after the others stays small.
  const { serveInThisProcess } = await import("./one-process");
  await serveInThisProcess((prepared) => say({ ready: true, ...prepared }));
}

async function serveWithWorkers(): Promise<void> {
  let stopping = false;
  let hasServed = false;
  // One that has ended may still be listed: its end and the end of its channel come in either order.
  const endWithTheLast = () => {
    if (Object.values(cluster.workers ?? {}).every((worker) => worker?.isDead() ?? true)) process.exit(0);
  };
  const stop = () => {
    if (stopping) return;
    stopping = true;
    for (const worker of Object.values(cluster.workers ?? {})) worker?.process.kill("SIGTERM");
    endWithTheLast();
  };
  process.on("SIGTERM", stop);
  process.on("SIGINT", stop);
  process.on("disconnect", stop);

  // Pages that are made at once, on all processors together, so that a save finds one that is free.
  const turns = Math.max(1, Math.round(4 / processes));
  const start = () =>
    new Promise<Ready>((ready) => {
      const worker = cluster.fork({ TURNS: String(turns) });
      let isReady = false;
      worker.on("message", (said: Ready) => {
        isReady = true;
        ready(said);
      });
      worker.on("exit", (code) => {
        if (stopping) {
          endWithTheLast();
        } else if (!isReady && !hasServed) {
          process.exit(code || 1);
        } else {
          console.error("A process of the server ended; another takes its place.");
          setTimeout(() => {
            if (!stopping) void start();
          }, REST);
        }
      });
    });

  // The first one brings the database up to date and writes the demo; the others find it so.
  const said = await start();
  await Promise.all(Array.from({ length: processes - 1 }, start));
  hasServed = true;
  say(said);
}
