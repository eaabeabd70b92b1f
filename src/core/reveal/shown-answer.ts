import type { Answer, PresentedQuestion } from "../kinds/answering";
import type { Question } from "../kinds/marking";
import type { Point } from "../kinds/point-on-picture/answer";
import type { Region } from "../kinds/point-on-picture/mark";
import type { UploadedFile } from "../kinds/upload/answer";

/** An answer of a kind that a line of text cannot show. */
export type ShownAnswer =
  | { readonly kind: "rich"; readonly rich: string }
  | { readonly kind: "files"; readonly files: readonly UploadedFile[]; readonly beside: string }
  | {
      readonly kind: "points";
      readonly picture: string;
      readonly points: readonly Point[];
      /** The right places; empty while they are not revealed. */
      readonly regions: readonly Region[];
    };

/** What was written, whole; null where the line of text says it all. The right places only where `right` is revealed. */
export function shownAnswer(
  question: Question,
  presented: PresentedQuestion,
  answer: Answer | null,
  right: boolean,
): ShownAnswer | null {
  if (question.kind === "point-on-picture" && presented.kind === "point-on-picture") {
    const points = answer !== null && "points" in answer ? answer.points : [];
    return { kind: "points", picture: presented.picture, points, regions: right ? question.regions : [] };
  }
  if (answer !== null && "rich" in answer) return { kind: "rich", rich: answer.rich };
  if (answer !== null && "files" in answer) {
    return { kind: "files", files: answer.files, beside: answer.text };
  }
  return null;
}
