import type { ComponentType } from "react";
import { agreed } from "@/core/kinds/agreed";
import type { Answer, KindName, PresentedQuestion } from "@/core/kinds/answering";
import type { AnswerProps } from "./answer-props";
import { NumericView } from "./numeric/Answer";
import { OneOfSeveralView } from "./one-of-several/Answer";
import { SeveralOfSeveralView } from "./several-of-several/Answer";

const VIEWS = {
  "one-of-several": OneOfSeveralView,
  "several-of-several": SeveralOfSeveralView,
  numeric: NumericView,
} as const satisfies Record<KindName, unknown>;

/** The view in which questions of a kind are answered. */
export const answerView = (kind: KindName) =>
  agreed<ComponentType<AnswerProps<PresentedQuestion, Answer>>>(VIEWS[kind]);
