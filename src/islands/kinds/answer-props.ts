import type { Answer, PresentedQuestion } from "@/core/kinds/answering";

/** What the answer view of a kind gets. */
export interface AnswerProps<P extends PresentedQuestion, A extends Answer> {
  readonly slot: number;
  readonly question: P;
  readonly answer: A | null;
  readonly ruledOut: readonly string[];
  /** For picks: complete as it is. */
  readonly onChoose: (answer: A | null) => void;
  /** For typing: more may follow. */
  readonly onType: (answer: A | null) => void;
  /** The field was left. */
  readonly onLeave: () => void;
  readonly onRuleOut: (option: string) => void;
}
