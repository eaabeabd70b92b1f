import type { PlannedWindow } from "../course/moved-windows";
import type { QuizRules } from "../quiz/rules";
import type { Said } from "../said";
import type { Instant } from "../time/instants";
import type { QuestionChange } from "./version-changes";

/** What becomes of a question, and how many it concerns. */
export interface QuestionEffect {
  readonly id: string;
  /** Its beginning, in words. */
  readonly text: string;
  readonly change: QuestionChange;
  /** How many handed-in attempts have it. */
  readonly attempts: number;
}

/** What assigning a draft would do, or did. */
export interface AssignEffect {
  /** The quiz; null: it is looked over, and there is none yet. */
  readonly quizId: string | null;
  /** The number of the version that it becomes; null: it is as it was assigned. */
  readonly version: number | null;
  /** For how many students it is set. */
  readonly students: number;
  /** How many are told. */
  readonly told: number;
  /** Attempts that run on the version before, and stay on it; and those that were handed in. */
  readonly running: number;
  readonly handedIn: number;
  /** Of a quiz that was assigned before: what is otherwise in its questions. */
  readonly questions: readonly QuestionEffect[];
  /** What contradicts itself in its rules and its window: it cannot be assigned so. */
  readonly contradictions: readonly Said[];
  /** The state of the draft that was looked over: it is assigned as it was seen, or not at all. */
  readonly expects: number;
}

/** A quiz of the course as the term is shown: when it can be taken. */
export interface QuizInTerm {
  readonly id: string;
  readonly title: string;
  readonly opens: Instant | null;
  readonly due: Instant | null;
  readonly closes: Instant | null;
}

/** What the page gets on which a draft is assigned. */
export interface AssignView {
  readonly draftId: string;
  /** The quiz that it was assigned as before; null: it is the first time. */
  readonly quizId: string | null;
  readonly course: { readonly slug: string; readonly title: string };
  readonly title: string;
  readonly rules: QuizRules;
  readonly students: readonly { readonly id: string; readonly name: string }[];
  readonly sections: readonly {
    readonly id: string;
    readonly name: string;
    readonly members: readonly string[];
  }[];
  /** The other quizzes of the course, by when they open. */
  readonly quizzes: readonly QuizInTerm[];
  /** When it is meant to be set, where it was copied with its dates. */
  readonly planned: PlannedWindow | null;
  /** What has to be handed in first now. */
  readonly first: { readonly quizId: string; readonly atLeast: string | null } | null;
  readonly zone: string;
  readonly serverNow: Instant;
}
