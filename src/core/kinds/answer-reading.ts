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

export const refuse = <A>(problem: Said): AnswerReading<A> => ({ ok: false, problem });
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

/** The answer is empty, or it is all there. */
export const emptyOrFull = (answer: unknown, words: Said = said("kinds.common.answered")) =>
  answer === null
    ? ({ state: "empty", words: said("kinds.common.empty") } as const)
    : ({ state: "full", words } as const);
