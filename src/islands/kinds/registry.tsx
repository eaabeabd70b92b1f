import type { ComponentType } from "react";
import { agreed } from "@/core/kinds/agreed";
import type { Answer, KindName, PresentedQuestion } from "@/core/kinds/answering";
import type { AnswerProps } from "./answer-props";
import { DeclarationView } from "./declaration/Answer";
import { GapsView } from "./gaps/Answer";
import { MatchingView } from "./matching/Answer";
import { NumericView } from "./numeric/Answer";
import { OneOfSeveralView } from "./one-of-several/Answer";
import { OrderingView } from "./ordering/LazyAnswer";
import { SeveralOfSeveralView } from "./several-of-several/Answer";
import { ShortTextView } from "./short-text/Answer";
import { TrueOrFalseView } from "./true-or-false/Answer";

/** The kinds that can be answered at the desk so far; the core marks more. */
const VIEWS: Partial<Record<KindName, unknown>> = {
  "one-of-several": OneOfSeveralView,
  "several-of-several": SeveralOfSeveralView,
  "true-or-false": TrueOrFalseView,
  "short-text": ShortTextView,
  gaps: GapsView,
  matching: MatchingView,
  ordering: OrderingView,
  numeric: NumericView,
  declaration: DeclarationView,
};

/** Said in place of an answer, so that nobody looks for it in vain. */
function NoView() {
  return (
    <p className="border-l-[3px] border-plum pl-3 text-plum">
      This kind of question cannot be answered here yet. Tell your instructor.
    </p>
  );
}

/** The view in which questions of a kind are answered. */
export const answerView = (kind: KindName) =>
  agreed<ComponentType<AnswerProps<PresentedQuestion, Answer>>>(VIEWS[kind] ?? NoView);
