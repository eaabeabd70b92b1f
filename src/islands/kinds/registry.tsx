import type { ComponentType } from "react";
import type { Answer, KindName, PresentedQuestion } from "@/core/kinds/answering";
import { agreed } from "@/core/kinds/trusted-type";
import { said } from "@/core/said";
import type { AnswerProps } from "./answer-props";
import { DeclarationView } from "./declaration/Answer";
import { GapsView } from "./gaps/Answer";
import { type LazyView, lazily } from "./lazily";
import { NumericView } from "./numeric/Answer";
import { OneOfSeveralView } from "./one-of-several/Answer";
import { SeveralOfSeveralView } from "./several-of-several/Answer";
import { ShortTextView } from "./short-text/Answer";
import { TrueOrFalseView } from "./true-or-false/Answer";

/** The views in which questions are answered, a line for each kind. What needs a large library comes when it is needed. */
const VIEWS: { readonly [K in KindName]: unknown } = {
  "one-of-several": OneOfSeveralView,
  "several-of-several": SeveralOfSeveralView,
  "true-or-false": TrueOrFalseView,
  "short-text": ShortTextView,
  gaps: GapsView,
  matching: lazily(
    () => import("./matching/Answer").then((m) => m.MatchingView),
    said("kinds.registry.loading-what-can-be-matched"),
  ),
  ordering: lazily(
    () => import("./ordering/Answer").then((m) => m.OrderingView),
    said("kinds.registry.loading-the-items"),
  ),
  numeric: NumericView,
  "point-on-picture": lazily(
    () => import("./point-on-picture/Answer").then((m) => m.PointOnPictureView),
    said("kinds.registry.loading-the-picture"),
  ),
  essay: lazily(
    () => import("./essay/Answer").then((m) => m.EssayView),
    said("kinds.registry.loading-the-editor"),
  ),
  upload: lazily(
    () => import("./upload/Answer").then((m) => m.UploadView),
    said("kinds.registry.loading-the-files"),
  ),
  declaration: DeclarationView,
};

/** The view in which questions of a kind are answered. */
export const answerView = (kind: KindName) =>
  agreed<ComponentType<AnswerProps<PresentedQuestion, Answer>>>(VIEWS[kind]);

/** Loads the views of these kinds before they are turned to. */
export function loadViewsAhead(kinds: Iterable<KindName>): void {
  for (const kind of kinds) {
    const view = answerView(kind);
    if ("ahead" in view) (view as LazyView<never>).ahead();
  }
}
