import cluster from "node:cluster";
import { availableParallelism } from "node:os";
import { serveInThisProcess } from "./lib/serve-process.mjs";
import { ROOT } from "./lib/steps.mjs";

/**
 * Serves the built application on HOST:PORT with as many processes as there are processors, at most four, or as PROCESSES
 * says; one that dies is replaced. Expects DATABASE_URL and SHIZUKA_SECRET. Stops on SIGTERM and SIGINT, and when the
 * process that started it is gone.
 */
process.env.NODE_ENV = "production";
process.chdir(ROOT);

/** Milliseconds before a process that died is replaced: one that cannot live is not tried without end. */
const REST = 1_000;

const processes = Number(process.env.PROCESSES ?? Math.min(availableParallelism(), 4));
if (!Number.isInteger(processes) || processes < 1 || processes > 64) {
  console.error("PROCESSES must be a number from 1 to 64.");
  process.exit(1);
}

if (cluster.isWorker) {
  await serveInThisProcess((said) => process.send({ ready: true, ...said }));
} else if (processes === 1) {
  await serveInThisProcess((said) => process.send?.({ ready: true, ...said }));
} else {
  await serveWithWorkers();
}

async function serveWithWorkers() {
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    for (const worker of Object.values(cluster.workers)) worker.process.kill("SIGTERM");
  };
  process.on("SIGTERM", stop);
  process.on("SIGINT", stop);
  process.on("disconnect", stop);

  // Pages that are made at once, on all processors together, so that a save finds one that is free.
  const turns = Math.max(1, Math.round(4 / processes));
  const start = () =>
    new Promise((ready) => {
      const worker = cluster.fork({ TURNS: String(turns) });
      let isReady = false;
      worker.on("message", (said) => {
        isReady = true;
        ready(said);
      });
      worker.on("exit", (code) => {
        if (stopping) {
          if (Object.keys(cluster.workers).length === 0) process.exit(0);
        } else if (!isReady && !hasServed) {
          process.exit(code || 1);
        } else {
          console.error("A process of the server ended; another takes its place.");
          setTimeout(() => stopping || start(), REST);
        }
      });
    });

  let hasServed = false;
  // The first one brings the database up to date and lays the demo; the others find it so.
  const said = await start();
  await Promise.all(Array.from({ length: processes - 1 }, start));
  hasServed = true;
  process.send?.(said);
}
