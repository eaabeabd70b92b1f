import { identityOf, type MarkedPart, type MarkedQuestion, type MarkState } from "../kinds/kind";
import { exact, written } from "../numbers/exact";
import type { Said } from "../said";

/** An answer to a question as it was marked. */
export interface GivenAnswer {
  readonly attemptId: string;
  readonly slot: number;
  readonly marked: MarkedQuestion;
}

/** Answers to one part of a question that are the same after the rule's own folding, and were marked alike. */
export interface AnswerGroup {
  /** The place of the part, from 0. */
  readonly part: number;
  readonly label: Said | null;
  readonly identity: string;
  readonly state: MarkState;
  /** As they were written, the most frequent first. */
  readonly written: readonly Said[];
  /** Why they were marked so. */
  readonly why: Said;
  /** What of the part's marks they have, exact, as text: 0 to 1; null: they await a person. */
  readonly credit: string | null;
  readonly attempts: readonly string[];
}

/** The share of its part that an answer has; null while it awaits. */
function creditOf({ state, marks, maximum }: MarkedPart): string | null {
  if (state === "awaits") return null;
  const most = exact(maximum);
  return most.n === 0n ? "0" : written(exact(marks).div(most));
}

const keyOf = (place: number, part: MarkedPart): string =>
  JSON.stringify([place, part.state === "empty" ? null : identityOf(part), creditOf(part)]);

interface Gathering {
  readonly place: number;
  readonly first: MarkedPart;
  readonly attempts: string[];
  readonly written: Map<string, { readonly words: Said; count: number }>;
}

/**
 * What a class wrote to a question: the answers that are the same together, part by part, most frequent first; those that are
 * empty last.
 * @example answerGroups([]) → []
 */
export function answerGroups(answers: readonly GivenAnswer[]): AnswerGroup[] {
  const groups = new Map<string, Gathering>();
  for (const { attemptId, marked } of answers) {
    for (const [place, part] of marked.parts.entries()) {
      const key = keyOf(place, part);
      const group: Gathering = groups.get(key) ?? { place, first: part, attempts: [], written: new Map() };
      groups.set(key, group);
      group.attempts.push(attemptId);
      const as = JSON.stringify(part.written);
      const held = group.written.get(as) ?? { words: part.written, count: 0 };
      held.count += 1;
      group.written.set(as, held);
    }
  }
  return [...groups.values()]
    .map(
      ({ place, first, attempts, written: ways }): AnswerGroup => ({
        part: place,
        label: first.label,
        identity: identityOf(first),
        state: first.state,
        written: [...ways.values()].sort((a, b) => b.count - a.count).map(({ words }) => words),
        why: first.why,
        credit: creditOf(first),
        attempts,
      }),
    )
    .sort(
      (a, b) =>
        a.part - b.part ||
        Number(a.state === "empty") - Number(b.state === "empty") ||
        b.attempts.length - a.attempts.length ||
        (a.identity < b.identity ? -1 : 1),
    );
}
