import type { Answer, PresentedQuestion } from "../kinds/answering";
import type { Told } from "../reveal/told";
import type { PictureView } from "./desk-view";

/** What is said of a practised question at once. */
export interface PracticeTold extends Told {
  /** The right answers, part by part, in words. */
  readonly right: readonly string[];
  /** Rich text; null: there is none. */
  readonly worked: string | null;
}

export interface PracticeQuestion {
  readonly slot: number;
  readonly presented: PresentedQuestion;
  readonly answer: Answer | null;
  /** Null until it is marked. */
  readonly told: PracticeTold | null;
}

/** A run of what was missed in a returned attempt, as its student sees it. */
export interface PracticeView {
  readonly runId: string;
  readonly attemptId: string;
  readonly title: string;
  /** The language of what the author wrote, as a tag (BCP 47). */
  readonly language: string;
  readonly course: { readonly title: string; readonly slug: string };
  readonly questions: readonly PracticeQuestion[];
  readonly pictures: readonly PictureView[];
}
