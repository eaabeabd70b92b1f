import { asc, desc, eq } from "drizzle-orm";
import type { PictureView } from "@/core/attempt/desk-view";
import { planAttempt } from "@/core/attempt/plan";
import type { HandedInBy } from "@/core/attempt/state";
import { readAnswer } from "@/core/kinds/answering";
import { filledIn, present } from "@/core/kinds/marking";
import { rangeWords } from "@/core/marking/mark-words";
import { shown } from "@/core/numbers/exact";
import type { Revealed } from "@/core/quiz/rules";
import { REVEALED } from "@/core/quiz/rules";
import { type PaperQuestion, paperQuestion } from "@/core/reveal/marked-paper";
import type { Revelations } from "@/core/reveal/reveal";
import { database } from "@/data/database";
import { answer, mark } from "@/data/schema";
import { withFormulas, withPaperFormulas } from "../formulas";
import { versionContent } from "../quiz-versions";
import { attemptsLeft, totalOf } from "../student/lines";
import type { Viewer } from "../viewer";
import { openAttempt } from "./access";
import { type MarkQueryLine, markQueriesOf } from "./mark-queries";
import { type RecordLine, recordOf } from "./own-record";
import { picturesShown } from "./pictures";
import { revealedOf } from "./revealed";

export interface PaperView {
  readonly attemptId: string;
  readonly quizId: string;
  readonly title: string;
  readonly course: { readonly title: string; readonly slug: string };
  readonly student: string;
  readonly number: number;
  readonly allowed: number | null;
  readonly startedAt: number;
  readonly handedInAt: number;
  readonly by: HandedInBy;
  readonly limitMinutes: number | null;
  readonly instructor: string;
  readonly returnedAt: number | null;
  /** The total, or null while it is not revealed. Figures as people see them. */
  readonly total: {
    readonly earned: string;
    readonly maximum: string;
    readonly waiting: string | null;
  } | null;
  readonly feedback: string | null;
  readonly questions: readonly PaperQuestion[];
  readonly pictures: readonly PictureView[];
  /** The student's attempts at this quiz, this one among them; empty for anyone else. */
  readonly attempts: readonly {
    readonly id: string;
    readonly number: number;
    /** The total as it may be shown, or what stands in its place. */
    readonly words: string;
  }[];
  /** Attempts that are left to the student; null: without limit, or not the student. */
  readonly left: number | null;
  readonly record: readonly RecordLine[];
  /** What was said about its marks. */
  readonly queries: readonly MarkQueryLine[];
  /** Whether something may be asked or answered: the marks are shown. */
  readonly mayAsk: boolean;
  /** What is not shown yet, each with when it will be. */
  readonly hidden: readonly { readonly what: Revealed; readonly when: string }[];
}

/** What was handed in and nothing else of it: no marks, no answers. */
const writtenOnly = (reveal: Revelations): Revelations => ({
  ...(Object.fromEntries(
    REVEALED.map((what) => [what, { visible: false, when: "" }]),
  ) as unknown as Revelations),
  written: reveal.written,
});

/**
 * A handed-in attempt as far as it may be read now, or only what was handed in; null while it runs. Staff of the course
 * read all of it.
 */
export async function markedPaperOf(
  viewer: Viewer,
  attemptId: string,
  what: "paper" | "hand-in" = "paper",
): Promise<PaperView | null> {
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  const { attempt: row, quiz, course, student, instructor } = opened;
  if (row.handedInAt === null || row.handedInBy === null) return null;
  const content = await versionContent(row.versionId);
  const { item, reveal: revealed } = await revealedOf(viewer, opened);
  const reveal = revealed && what === "hand-in" ? writtenOnly(revealed) : revealed;
  if (!reveal)
    throw new Error("A marked paper was asked for by someone who is neither its student nor staff.");
  const [answers, marks] = await Promise.all([
    database().select().from(answer).where(eq(answer.attemptId, row.id)),
    database()
      .selectDistinctOn([mark.slot])
      .from(mark)
      .where(eq(mark.attemptId, row.id))
      .orderBy(asc(mark.slot), desc(mark.id)),
  ]);
  const questions = planAttempt(content, row.seed).flatMap(({ slot, question }) => {
    const presented = present(question, row.seed);
    const reading = readAnswer(presented, answers.find((each) => each.slot === slot)?.answer ?? null);
    const marked = marks.find((each) => each.slot === slot)?.detail;
    if (!marked) return [];
    return paperQuestion(
      {
        slot,
        question,
        seed: row.seed,
        presented,
        answer: reading.ok ? reading.answer : null,
        marked,
        worked: question.worked === undefined ? null : filledIn(question, row.seed, question.worked),
        readMore: question.readMore ?? null,
      },
      reveal,
    );
  });
  const totals = { earned: row.earned ?? "0", awaited: row.awaited ?? "0" };
  return {
    attemptId: row.id,
    quizId: quiz.id,
    title: quiz.title,
    course,
    student: student.name,
    number: row.number,
    allowed:
      content.rules.attempts === undefined
        ? null
        : content.rules.attempts + (item?.allowance.extraAttempts ?? 0),
    startedAt: row.startedAt.getTime(),
    handedInAt: row.handedInAt.getTime(),
    by: row.handedInBy,
    limitMinutes: content.rules.timeLimit ?? null,
    instructor,
    returnedAt: row.returnedAt?.getTime() ?? null,
    total: reveal.total.visible
      ? { earned: shown(totals.earned), maximum: shown(row.maximum), waiting: rangeWords(totals) }
      : null,
    feedback: reveal.worked.visible && row.feedback !== null ? withFormulas(row.feedback) : null,
    questions: questions.map(withPaperFormulas),
    pictures: await picturesShown(row.versionId, content, questions),
    attempts: (item?.attempts ?? []).map((each) => ({
      id: each.id,
      number: each.number,
      words:
        item === undefined || each.handedInAt === null
          ? "running"
          : (totalOf(item, each).figure ?? "mark not shown yet"),
    })),
    left: item ? attemptsLeft(item) : null,
    record: await recordOf(row),
    queries: reveal.marks.visible ? await markQueriesOf(viewer, row.id) : [],
    mayAsk: reveal.marks.visible,
    hidden: REVEALED.filter((each) => !reveal[each].visible).map((each) => ({
      what: each,
      when: reveal[each].when,
    })),
  };
}
