import { type Said, said } from "../said";
import type { Step } from "./to-put-right";

/** What a check says to who writes a file, and what it says to who writes in the composer. */
const PLAINER: Readonly<Record<string, Said>> = {
  "quiz-file.kinds.gaps.mark.must-have-exactly-one-option-with": said("draft.step-words.mark-one-right"),
  "quiz-file.kinds.several-of-several.mark.must-have-at-least-one-option": said(
    "draft.step-words.mark-some-right",
  ),
  "quiz-file.kinds.several-of-several.mark.least-and-most-must-let-the": said(
    "draft.step-words.picks-must-fit",
  ),
  "quiz-file.kinds.gaps.mark.the-text-must-hold-id-once": said("draft.step-words.each-gap-once"),
  "quiz-file.kinds.gaps.mark.must-have-at-least-one-gap": said("draft.step-words.add-a-gap"),
  "quiz-file.kinds.picks.options.is-missing-what-the-option-says": said("draft.step-words.say-something"),
  "quiz-file.kinds.shapes.is-missing-the-question-itself": said("draft.step-words.write-the-question"),
  "quiz-file.kinds.true-or-false.mark.is-missing-whether-the-statement-is": said(
    "draft.step-words.say-if-it-is-true",
  ),
  "quiz-file.kinds.numeric.question.is-missing-the-right-number-or": said("draft.step-words.write-the-key"),
  "quiz-file.kinds.numeric.question.figures-is-missing-how-many": said("draft.step-words.how-many-figures"),
  "quiz-file.kinds.numeric.question.within-is-missing-how-far-off": said("draft.step-words.how-far-off"),
  "quiz-file.kinds.numeric.question.must-have-a-list-or-from": said("draft.step-words.from-to-and-step"),
  "quiz-file.kinds.accepted-texts.must-have-one-without-a-star": said("draft.step-words.one-without-a-star"),
  "kinds.accepted-texts.must-not-be-empty": said("draft.step-words.write-an-answer"),
  "quiz-file.kinds.matching.mark.a-target-that-is-used-once": said("draft.step-words.one-target-for-two"),
  "quiz-file.kinds.point-on-picture.mark.must-have-at-least-one-region": said(
    "draft.step-words.draw-a-place",
  ),
  "quiz-file.kinds.point-on-picture.mark.is-missing-what-is-there": said("draft.step-words.name-the-place"),
  "quiz-file.kinds.point-on-picture.mark.most-must-let-every-region-be": said(
    "draft.step-words.points-must-fit",
  ),
  "quiz-file.kinds.by-hand.the-best-levels-of-the-rubric": said("draft.step-words.levels-make-the-marks"),
  "quiz-file.kinds.upload.mark.must-allow-at-least-one-kind": said("draft.step-words.take-some-files"),
  "quiz.quiz-file.must-show-pictures-by-the-ids": said("draft.step-words.bring-a-picture"),
  "quiz.quiz-file.draw-must-not-be-more-than": said("draft.step-words.fewer-than-are-drawn"),
  "quiz.quiz-file.the-questions-of-a-section-with": said("draft.step-words.drawn-with-the-same-marks"),
  "quiz.quiz-file.must-have-at-least-one-question": said("draft.step-words.no-question-in-a-section"),
  "quiz.quiz-file.must-have-at-least-one-section": said("draft.step-words.no-section"),
};

/** What has the place in a piece, for what a check says without naming it. */
const PLACES: readonly (readonly [RegExp, Said])[] = [
  [/^title$/, said("draft.step-words.the-title")],
  [/^marks$/, said("draft.step-words.the-marks")],
  [/^timeLimit$/, said("draft.step-words.the-time-limit")],
  [/^attempts$/, said("draft.step-words.the-attempts")],
  [/^parts\[\d+\]\.marks$/, said("draft.step-words.the-marks-of-a-part")],
  [/^parts\[\d+\]\.unit$/, said("draft.step-words.the-unit")],
  [/^(.*\.)?credit$/, said("draft.step-words.a-share-of-the-marks")],
  [/^rubric\..*\.title$/, said("draft.step-words.a-title-in-the-rubric")],
  [/^rubric\..*\.points$/, said("draft.step-words.points-in-the-rubric")],
  [/^variables\[\d+\]/, said("draft.step-words.a-drawn-number")],
  [/^help\./, said("draft.step-words.where-help-is")],
  [/^alt$/, said("draft.step-words.what-a-picture-shows")],
];

/**
 * What a step of a draft says to its author, as a sentence of its own.
 * @example stepWords({ slot: 9, path: "", words: "two options say the same", must: false }) → { code: "draft.step-words.by-itself", values: { problem: "two options say the same" } }
 */
export function stepWords({ path, words }: Pick<Step, "slot" | "path" | "words" | "must">): Said {
  const plainer = typeof words === "string" ? undefined : PLAINER[words.code];
  if (plainer) return plainer;
  const place = PLACES.find(([pattern]) => pattern.test(path))?.[1];
  return place
    ? said("draft.step-words.at-a-place", { place, problem: words })
    : said("draft.step-words.by-itself", { problem: words });
}
