import { type Said, said } from "../said";
import type { AnswerReading, Fill } from "./kind";

/**
 * A field of any JSON, or undefined where there is none.
 * @example fieldOf({ pick: "a" }, "pick") → "a"
 */
export const fieldOf = (raw: unknown, name: string): unknown =>
  typeof raw === "object" && raw !== null && Object.hasOwn(raw, name)
    ? (raw as Record<string, unknown>)[name]
    : undefined;

/** @example isRecord([1]) → false */
export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** @example refuse("must be a text") → { ok: false, problem: "must be a text" } */
export const refuse = <A>(problem: Said): AnswerReading<A> => ({ ok: false, problem });
/** @example accept({ text: "ebb" }) → { ok: true, answer: { text: "ebb" } } */
export const accept = <A>(answer: A | null): AnswerReading<A> => ({ ok: true, answer });

/**
 * Some of what is asked for is there.
 * @example partly(1, 2, "one of two") → { state: "part", share: 0.5, words: "one of two" }
 */
export const partly = (done: number, asked: number, words: Said): Fill => ({
  state: "part",
  share: done / asked,
  words,
});

/**
 * The answer is empty, or it is all there.
 * @example emptyOrFull({ text: "ebb" }) → { state: "full", words: "answered" }
 */
export const emptyOrFull = (answer: unknown, words: Said = said("kinds.common.answered")) =>
  answer === null
    ? ({ state: "empty", words: said("kinds.common.empty") } as const)
    : ({ state: "full", words } as const);
