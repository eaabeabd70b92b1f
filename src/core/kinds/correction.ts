import { type Exact, exact, sum, written } from "../numbers/exact";
import { type Said, said } from "../said";
import { identityOf, type MarkedPart, type MarkedQuestion } from "./kind";

/** A question that turned out faulty: its marks go to all, or leave the maximum. */
export type Dropped = "marks-to-all" | "out-of-the-maximum";

/** An answer that gets credit beyond what the rule gives it. */
export interface Grant {
  /** The place of the part that it answers, from 0. */
  readonly part: number;
  /** What makes answers the same, as the rule folds them. */
  readonly identity: string;
  /** Exact, as text: from 0 to 1. */
  readonly credit: string;
  /** Read by the students. */
  readonly reason: string;
}

/** What was put right in the marking of one question after it was assigned; never part of a quiz file. */
export interface QuestionCorrection {
  readonly dropped?: Dropped | undefined;
  readonly grants?: readonly Grant[] | undefined;
}

/** The corrections of a quiz version, by the question's id. */
export type Corrections = Readonly<Record<string, QuestionCorrection>>;

/** What an instructor changes in the marking of a question. */
export type Correction =
  | { readonly kind: "credit"; readonly grants: readonly Grant[] }
  /** An answer that was given becomes the right one. */
  | { readonly kind: "key"; readonly part: number; readonly identity: string; readonly written: string }
  | { readonly kind: "drop"; readonly dropped: Dropped }
  /** The question is marked as it stands in the quiz now, also where it was taken as it was before. */
  | { readonly kind: "as-now" }
  | { readonly kind: "undo" };

const whole = (parts: readonly MarkedPart[], before: MarkedQuestion): MarkedQuestion => {
  const gained = sum(
    parts.map((part, i) => exact(part.marks).sub(exact(before.parts[i]?.marks ?? part.marks))),
  );
  const marks = exact(before.marks).add(gained);
  const state = before.state === "awaits" ? "awaits" : marks.equals(exact(before.maximum)) ? "full" : "part";
  return { ...before, parts, marks: written(marks), state: gained.n === 0n ? before.state : state };
};

const granted = (marked: MarkedQuestion, grants: readonly Grant[]): MarkedQuestion => {
  const parts = marked.parts.map((part, place): MarkedPart => {
    const grant = grants.findLast(
      (each) => each.part === place && part.state !== "empty" && each.identity === identityOf(part),
    );
    if (!grant) return part;
    const marks: Exact = exact(part.maximum).mul(exact(grant.credit));
    // Given credit, an answer never loses by it.
    if (marks.compare(exact(part.marks)) <= 0) return part;
    const why = said("kinds.correction.given-credit", { reason: grant.reason });
    const isFull = marks.equals(exact(part.maximum));
    return { ...part, marks: written(marks), state: isFull ? "full" : "part", why };
  });
  return whole(parts, marked);
};

const inAll = (marked: MarkedQuestion, change: Partial<MarkedPart>): readonly MarkedPart[] =>
  marked.parts.map((part) => ({ ...part, ...change }));

const TO_ALL: Said = said("kinds.correction.dropped-its-marks-to-all");
const OUT: Said = said("kinds.correction.dropped-out-of-the-maximum");

/** A marked question with what was put right in its marking. */
export function withCorrection(
  marked: MarkedQuestion,
  correction: QuestionCorrection | undefined,
): MarkedQuestion {
  if (!correction) return marked;
  if (correction.dropped === "marks-to-all") {
    return {
      ...marked,
      marks: marked.maximum,
      awaiting: "0",
      state: "full",
      parts: marked.parts.map((part) => ({ ...part, marks: part.maximum, state: "full", why: TO_ALL })),
    };
  }
  if (correction.dropped === "out-of-the-maximum") {
    const parts = inAll(marked, { marks: "0", maximum: "0", state: "dropped", why: OUT });
    return { marks: "0", maximum: "0", awaiting: "0", state: "dropped", parts };
  }
  return correction.grants ? granted(marked, correction.grants) : marked;
}
