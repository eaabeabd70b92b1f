import { type Answer, headingOf, type PresentedQuestion, summaryOf } from "../kinds/answering";
import type { MarkedQuestion, MarkState, Recording, Stimulus } from "../kinds/kind";
import { type Question, rightAnswerTo } from "../kinds/marking";
import type { OptionContent } from "../kinds/picks/content";
import { type CriteriaMarks, mostOf, pointsIn } from "../kinds/rubric";
import { shown } from "../numbers/exact";
import type { AttemptSeed } from "../numbers/seeded";
import type { Said } from "../said";
import type { Instant } from "../time/instants";
import type { NoteAnchor } from "./note-anchor";
import type { Revelations } from "./reveal";
import { type ShownAnswer, shownAnswer } from "./shown-answer";

/** A marked question with everything, before the reveal rules. */
export interface MarkedSlot {
  readonly slot: number;
  readonly question: Question;
  readonly seed: AttemptSeed;
  readonly presented: PresentedQuestion;
  readonly answer: Answer | null;
  readonly marked: MarkedQuestion;
  readonly worked: string | null;
  readonly readMore: string | null;
  /** By a rubric: what was decided of each criterion. */
  readonly criteria: CriteriaMarks | null;
  /** What its marker says of the whole answer; rich text. */
  readonly feedback: string | null;
  /** What became of its mark, oldest first: the first one, and each that replaced it. */
  readonly history: readonly MarkChange[];
  readonly notes: readonly MarginNote[];
}

/** A mark as it was set, by the rule or by a person. */
export interface MarkChange {
  readonly at: Instant;
  /** Exact, as text. */
  readonly marks: string;
  readonly maximum: string;
  readonly awaits: boolean;
  readonly reason: Said;
  /** Who set it; null: the rule. */
  readonly by: string | null;
}

/** What a marker wrote in the margin. */
export interface MarginNote {
  readonly author: string;
  readonly at: Instant;
  /** What of the answer it is about; null: the whole. */
  readonly anchor: NoteAnchor | null;
  /** Rich text. */
  readonly text: string;
}

/** What may be shown of one line; absent fields are not revealed. */
export interface PaperPart {
  readonly label: Said | null;
  readonly written?: Said;
  readonly right?: Said;
  /** What only differed in its writing, or was forgiven. */
  readonly difference?: Said;
  readonly state?: MarkState;
  readonly marks?: string;
  readonly maximum: string;
  readonly why?: Said;
  readonly feedback?: string;
}

export interface PaperQuestion {
  readonly slot: number;
  readonly text: string;
  /** The language of its texts, and that of its answers, where they are others than the quiz's. */
  readonly language?: string;
  readonly answerLanguage?: string;
  /** The picture below its text. */
  readonly figure?: string;
  readonly stimulus?: Stimulus;
  readonly recording?: Recording;
  /** How its marks are given, where that is not plain. */
  readonly scoring?: Said;
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
  /** What a good answer holds, of questions that a person marks. */
  readonly model?: Said;
  /** The rubric, with the level that was reached in each criterion. */
  readonly rubric?: readonly PaperCriterion[];
  /** Where the mark was set anew: how it was and how it became. Figures as people see them; "?" while it waited. */
  readonly history?: readonly {
    readonly at: Instant;
    readonly marks: string;
    readonly reason: Said;
    readonly by: string | null;
  }[];
  /** What its marker says of the whole answer; rich text. */
  readonly feedback?: string;
  readonly notes?: readonly MarginNote[];
}

export interface PaperCriterion {
  readonly title: string;
  readonly most: string;
  /** Null: not decided yet. Without a title: points between the levels. */
  readonly reached: { readonly title: string | null; readonly points: string; readonly text?: string } | null;
  /** What the marker says of it; plain. */
  readonly remark?: string;
  /** The other levels that there are. */
  readonly others: readonly string[];
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

function rubricOf({ question, criteria }: MarkedSlot, withRemarks: boolean): PaperCriterion[] {
  if (!("rubric" in question) || !question.rubric || criteria === null) return [];
  return question.rubric.criteria.map((criterion) => {
    const decided = criteria[criterion.id];
    const points = pointsIn(criterion, decided);
    const reached =
      decided?.points === undefined ? criterion.levels.find(({ id }) => id === decided?.level) : undefined;
    return {
      title: criterion.title,
      most: shown(mostOf(criterion)),
      reached:
        points === null
          ? null
          : {
              title: reached?.title ?? null,
              points: shown(points),
              ...(reached?.text ? { text: reached.text } : {}),
            },
      ...(withRemarks && decided?.remark ? { remark: decided.remark } : {}),
      others: criterion.levels.filter((level) => level !== reached).map(({ title }) => title),
    };
  });
}

const shownChange = ({ at, marks, maximum, awaits, reason, by }: MarkChange) => ({
  at,
  marks: awaits ? `? / ${shown(maximum)}` : `${shown(marks)} / ${shown(maximum)}`,
  reason,
  by,
});

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
  const handWords = worked ? slot.notes : [];
  const rubric = marks ? rubricOf(slot, worked) : [];
  const model = "model" in slot.question ? slot.question.model : undefined;
  const shownWhole = written ? shownAnswer(slot.question, slot.presented, slot.answer, right) : null;
  return {
    slot: slot.slot,
    text: written ? headingOf(slot.presented) : "",
    ...(slot.question.language ? { language: slot.question.language } : {}),
    ...(slot.question.answerLanguage ? { answerLanguage: slot.question.answerLanguage } : {}),
    ...(written && slot.presented.figure ? { figure: slot.presented.figure } : {}),
    ...(written && slot.presented.stimulus ? { stimulus: slot.presented.stimulus } : {}),
    ...(written && slot.presented.recording ? { recording: slot.presented.recording } : {}),
    ...(written && slot.presented.scoring ? { scoring: slot.presented.scoring } : {}),
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
      ...(right && part.difference ? { difference: part.difference } : {}),
      ...(marks && { state: part.state, marks: shown(part.marks), why: part.why }),
      ...(worked && part.feedback ? { feedback: part.feedback } : {}),
    })),
    ...(worked && slot.worked ? { worked: slot.worked } : {}),
    ...(worked && slot.readMore ? { readMore: slot.readMore } : {}),
    ...(right && model ? { model } : {}),
    ...(rubric.length > 0 ? { rubric } : {}),
    ...(marks && slot.history.length > 1 ? { history: slot.history.map(shownChange) } : {}),
    ...(worked && slot.feedback ? { feedback: slot.feedback } : {}),
    ...(handWords.length > 0 ? { notes: handWords } : {}),
  };
}
