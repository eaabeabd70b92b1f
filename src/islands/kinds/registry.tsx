import type { ComponentType } from "react";
import { agreed } from "@/core/kinds/agreed";
import type { Answer, KindName, PresentedQuestion } from "@/core/kinds/answering";
import type { AnswerProps } from "./answer-props";
import { NumericView } from "./numeric/Answer";
import { OneOfSeveralView } from "./one-of-several/Answer";
import { SeveralOfSeveralView } from "./several-of-several/Answer";

/** The kinds that can be answered at the desk so far; the core marks more. */
const VIEWS: Partial<Record<KindName, unknown>> = {
  "one-of-several": OneOfSeveralView,
  "several-of-several": SeveralOfSeveralView,
  numeric: NumericView,
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
