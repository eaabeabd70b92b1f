import type { ComponentType } from "react";
import type { KindName } from "@/core/kinds/answering";
import type { Question } from "@/core/kinds/marking";
import type { NumbersDrawn } from "@/core/kinds/numeric/draws";
import { agreed } from "@/core/kinds/trusted-type";
import type { ComposeProps } from "./compose-props";
import { DeclarationCompose } from "./declaration/Compose";
import { EssayCompose } from "./essay/Compose";
import { GapsCompose } from "./gaps/Compose";
import { MatchingCompose } from "./matching/Compose";
import { NumericCompose } from "./numeric/Compose";
import { NumericAside } from "./numeric/ComposeAside";
import { OneOfSeveralCompose } from "./one-of-several/Compose";
import { OrderingCompose } from "./ordering/Compose";
import { PointOnPictureCompose } from "./point-on-picture/Compose";
import { SeveralOfSeveralCompose } from "./several-of-several/Compose";
import { ShortTextCompose } from "./short-text/Compose";
import { TrueOrFalseCompose } from "./true-or-false/Compose";
import { UploadCompose } from "./upload/Compose";

/** What a kind has to say beside its question. */
export interface ComposeAsideProps extends ComposeProps<Question> {
  readonly numbers: NumbersDrawn | null;
}

interface Composing {
  readonly view: unknown;
  /** What stands beside the question, where its kind has something to write there. */
  readonly aside?: unknown;
}

/** The views in which questions are written, a line for each kind. */
const VIEWS: { readonly [K in KindName]: Composing } = {
  "one-of-several": { view: OneOfSeveralCompose },
  "several-of-several": { view: SeveralOfSeveralCompose },
  "true-or-false": { view: TrueOrFalseCompose },
  "short-text": { view: ShortTextCompose },
  gaps: { view: GapsCompose },
  matching: { view: MatchingCompose },
  ordering: { view: OrderingCompose },
  numeric: { view: NumericCompose, aside: NumericAside },
  "point-on-picture": { view: PointOnPictureCompose },
  essay: { view: EssayCompose },
  upload: { view: UploadCompose },
  declaration: { view: DeclarationCompose },
};

/** The view in which questions of a kind are written. */
export const composeView = (kind: KindName) =>
  agreed<ComponentType<ComposeProps<Question>>>(VIEWS[kind].view);

/** What a kind has beside its question; null: nothing. */
export const composeAside = (kind: KindName) => {
  const { aside } = VIEWS[kind];
  return aside === undefined ? null : agreed<ComponentType<ComposeAsideProps>>(aside);
};
