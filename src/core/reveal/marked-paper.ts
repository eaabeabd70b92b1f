import { type Answer, headingOf, type PresentedQuestion, summaryOf } from "../kinds/answering";
import type { MarkedQuestion, MarkState } from "../kinds/kind";
import { type Question, rightAnswerTo } from "../kinds/marking";
import type { OptionContent } from "../kinds/picks/options";
import { shown } from "../numbers/exact";
import type { Revelations } from "./reveal";
import { type ShownAnswer, shownAnswer } from "./shown-answer";

/** A marked question with everything, before the reveal rules. */
export interface MarkedSlot {
  readonly slot: number;
  readonly question: Question;
  readonly seed: string;
  readonly presented: PresentedQuestion;
  readonly answer: Answer | null;
  readonly marked: MarkedQuestion;
  readonly worked: string | null;
  readonly readMore: string | null;
}

/** What may be shown of one line; absent fields are not revealed. */
export interface PaperPart {
  readonly label: string | null;
  readonly written?: string;
  readonly right?: string;
  readonly state?: MarkState;
  readonly marks?: string;
  readonly maximum: string;
  readonly why?: string;
  readonly feedback?: string;
}

export interface PaperQuestion {
  readonly slot: number;
  readonly text: string;
  readonly maximum: string;
  readonly state?: MarkState;
  readonly marks?: string;
  readonly parts: readonly PaperPart[];
  /** What was written, where a line of text does not show it. */
  readonly shown?: ShownAnswer;
  /** The options as they were shown, for kinds that have them. */
  readonly options: readonly PaperOption[];
  readonly worked?: string;
  readonly readMore?: string;
}

export interface PaperOption extends OptionContent {
  readonly picked: boolean;
  /** Absent while the right answer is not revealed. */
  readonly right?: boolean;
}

const picksOf = (answer: Answer | null): readonly string[] =>
  answer === null ? [] : "picks" in answer ? answer.picks : "pick" in answer ? [answer.pick] : [];

function optionsOf({ question, seed, presented, answer }: MarkedSlot, right: boolean): PaperOption[] {
  if (!("options" in presented)) return [];
  const picked = picksOf(answer);
  const best = right ? picksOf(rightAnswerTo(question, seed)) : [];
  return presented.options.map(({ id, ...content }) => ({
    ...content,
    picked: picked.includes(id),
    ...(right && best.length > 0 ? { right: best.includes(id) } : {}),
  }));
}

/**
 * A question of the marked paper, holding only what the reveal rules allow now. Nothing else of a marked question
 * reaches a response. The text of the question and its options go with "what you wrote".
 */
export function paperQuestion(slot: MarkedSlot, reveal: Revelations): PaperQuestion {
  const { marked } = slot;
  const marks = reveal.marks.visible;
  const written = reveal.written.visible;
  const worked = reveal.worked.visible;
  const right = reveal.right.visible;
  const shownWhole = written ? shownAnswer(slot.question, slot.presented, slot.answer, right) : null;
  return {
    slot: slot.slot,
    text: written ? headingOf(slot.presented) : "",
    maximum: shown(marked.maximum),
    ...(marks && { state: marked.state, marks: shown(marked.marks) }),
    options: written ? optionsOf(slot, right) : [],
    ...(shownWhole ? { shown: shownWhole } : {}),
    parts: marked.parts.map((part) => ({
      label: part.label,
      maximum: shown(part.maximum),
      ...(written && {
        written: part.label === null ? summaryOf(slot.presented, slot.answer) : part.written,
      }),
      ...(right && { right: part.right }),
      ...(marks && { state: part.state, marks: shown(part.marks), why: part.why }),
      ...(worked && part.feedback ? { feedback: part.feedback } : {}),
    })),
    ...(worked && slot.worked ? { worked: slot.worked } : {}),
    ...(worked && slot.readMore ? { readMore: slot.readMore } : {}),
  };
}
