import { parentPort } from "node:worker_threads";
import { type AlikePair, alikePairs, type TypedAnswer } from "@/core/marking/alike";
import { cleanEssay } from "./rich-text";
import { drawnTex } from "./tex";

/** Work that may take long, done away from the thread that answers everyone. */
const TASKS = {
  /** Formulas that a student wrote, drawn. */
  formulas: (formulas: readonly string[]): string[] => formulas.map(drawnTex),
  /** A long essay, cleaned. */
  essay: ({ rich, attemptId }: { readonly rich: string; readonly attemptId: string }): string =>
    cleanEssay(rich, attemptId),
  /** The answers of a class, compared with one another. */
  alike: ({
    answers,
    given,
  }: {
    readonly answers: readonly TypedAnswer[];
    readonly given: readonly string[];
  }): AlikePair[] => alikePairs(answers, given),
};
export type Tasks = typeof TASKS;
export type TaskName = keyof Tasks;

parentPort?.on("message", ({ name, terms }: { name: TaskName; terms: never }) => {
  try {
    parentPort?.postMessage({ done: TASKS[name](terms) });
  } catch {
    parentPort?.postMessage({ failed: true });
  }
});
