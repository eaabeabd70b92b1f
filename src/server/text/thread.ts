import { join } from "node:path";
import { Worker } from "node:worker_threads";
import pLimit from "p-limit";
import { SECOND } from "@/core/time/instants";
import { log } from "../base/log";
import type { TaskName, Tasks } from "./thread-tasks";

/** The build makes a file of its own of thread-tasks.ts. */
const FILE = join(process.cwd(), "dist/server/thread-tasks.mjs");
/**
 * A piece of work that takes longer is ended. The longest essay takes a tenth of a second: only a machine that stands still
 * could bring it near its end. A page that shows formulas must not wait that long.
 */
const LONGEST: { readonly [N in TaskName]: number } = {
  formulas: 1.5 * SECOND,
  essay: 5 * SECOND,
  alike: 20 * SECOND,
};

const oneAfterTheOther = pLimit(1);
let worker: Worker | null = null;

function started(): Worker {
  if (worker) return worker;
  const made = new Worker(FILE);
  made.on("error", (error) => log.error({ err: error }, "the thread for long work failed"));
  made.on("exit", () => {
    if (worker === made) worker = null;
  });
  // It never keeps a process that has nothing else to do.
  made.unref();
  worker = made;
  return made;
}

function run<N extends TaskName>(
  name: N,
  terms: Parameters<Tasks[N]>[0],
): Promise<ReturnType<Tasks[N]> | null> {
  const busy = started();
  return new Promise((done) => {
    const end = (result: ReturnType<Tasks[N]> | null) => {
      clearTimeout(timer);
      busy.off("message", answered);
      busy.off("exit", gone);
      done(result);
    };
    const answered = (message: { readonly done?: ReturnType<Tasks[N]> }) => end(message.done ?? null);
    const gone = () => end(null);
    const timer = setTimeout(() => {
      worker = null;
      end(null);
      void busy.terminate();
    }, LONGEST[name]);
    busy.on("message", answered);
    busy.on("exit", gone);
    busy.postMessage({ name, terms });
  });
}

/** Does a piece of work in a thread of its own, within a time; null when it fails or takes longer. */
export const inThread = <N extends TaskName>(
  name: N,
  terms: Parameters<Tasks[N]>[0],
): Promise<ReturnType<Tasks[N]> | null> => oneAfterTheOther(() => run(name, terms));
