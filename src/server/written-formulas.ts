import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { LRUCache } from "lru-cache";
import pLimit from "p-limit";
import { formulaProblem } from "@/core/text/formulas";
import { SECOND } from "@/core/time/instants";
import { log } from "./log";
import { sourceOf } from "./tex";

/** The build makes a file of its own of formula-worker.ts. */
const FILE = join(process.cwd(), "dist/server/formula-worker.mjs");
/** However many formulas a page has, it waits no longer; what is not drawn by then is shown as it was written. */
const LONGEST = 2 * SECOND;

const drawn = new LRUCache<string, string>({
  maxSize: 20_000_000,
  sizeCalculation: (html, tex) => html.length + tex.length,
});
const oneAfterTheOther = pLimit(1);
let worker: Worker | null = null;

function drawnByWorker(formulas: readonly string[]): Promise<readonly string[] | null> {
  worker ??= new Worker(FILE).on("error", (error) => {
    log.error({ err: error }, "formulas could not be drawn");
    worker = null;
  });
  const busy = worker;
  // It never keeps a process that has nothing else to do.
  busy.unref();
  return new Promise((done) => {
    const end = (html: readonly string[] | null) => {
      clearTimeout(timer);
      busy.removeAllListeners("message");
      busy.off("exit", gone);
      done(html);
    };
    const gone = () => {
      if (worker === busy) worker = null;
      end(null);
    };
    const timer = setTimeout(() => {
      worker = null;
      void busy.terminate();
      end(null);
    }, LONGEST);
    busy.once("message", end);
    busy.once("exit", gone);
    busy.postMessage(formulas);
  });
}

/**
 * The formulas that a student wrote, each with its drawing: made in a thread of its own, within a time, and remembered.
 * What is too long or too deep, or takes too long, is shown as it was written.
 */
export async function drawWritten(formulas: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const unknown = [...new Set(formulas)].filter((tex) => formulaProblem(tex) === null && !drawn.has(tex));
  if (unknown.length > 0) {
    const made = await oneAfterTheOther(() => drawnByWorker(unknown));
    made?.forEach((html, i) => {
      drawn.set(unknown[i] ?? "", html);
    });
  }
  return new Map(formulas.map((tex) => [tex, drawn.get(tex) ?? sourceOf(tex)]));
}
