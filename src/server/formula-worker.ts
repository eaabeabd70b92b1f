import { parentPort } from "node:worker_threads";
import { drawnTex } from "./tex";

/** Draws the formulas that students wrote, away from the thread that answers everyone. */
parentPort?.on("message", (formulas: readonly string[]) => {
  parentPort?.postMessage(formulas.map(drawnTex));
});
