import { and, asc, desc, eq, inArray, isNotNull, isNull } from "drizzle-orm";
import { headingOf } from "@/core/kinds/answering";
import type { MarkState } from "@/core/kinds/kind";
import { marking, present, rightAnswerTo } from "@/core/kinds/marking";
import { type AnswerGroup, answerGroups } from "@/core/marking/answer-groups";
import { planWithKeys } from "@/core/marking/mark-attempt";
import { shown } from "@/core/numbers/exact";
import type { Said } from "@/core/said";
import { firstWords, plainText } from "@/core/text/plain-text";
import { database } from "@/data/database";
import { attempt, attemptQuestion, mark, quizVersion } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { seedOf } from "../attempts/seeds";
import { contentLanguage } from "../base/content-language";
import { notFound } from "../base/problems";
import { heldKeys } from "../quizzes/keys";
import { versionContent } from "../quizzes/versions";
import { drawnQuestion } from "../text/formulas";
import { type ReMarkingState, reMarkingsOf } from "./re-marking";
import { openRoom } from "./room";

/** A question of a quiz in the list of what the class wrote. */
export interface ClassQuestion {
  readonly id: string;
  readonly title: string;
  readonly answers: number;
  /** What share of the marks the class has, in per cent; null: it is marked by persons, or nothing is marked. */
  readonly facility: number | null;
  readonly byHand: boolean;
}

/** An answer of the class, as it is listed. */
export interface ClassGroup {
  readonly part: number;
  readonly label: Said | null;
  readonly identity: string;
  /** As it was written, the most frequent first. */
  readonly written: readonly Said[];
  readonly why: Said;
  readonly state: MarkState;
  /** The share of the marks, as people see it; null: it awaits a person. */
  readonly credit: string | null;
  readonly people: number;
}

export interface ClassAnswers {
  readonly quizId: string;
  readonly title: string;
  readonly course: { readonly title: string; readonly slug: string };
  readonly language: string;
  readonly question: {
    readonly id: string;
    /** Rich text, as one of the students saw it. */
    readonly text: string;
    readonly maximum: string;
    readonly right: readonly Said[];
    /** Whether another answer can be made the right one. */
    readonly canBeKeyed: boolean;
    /** Whether its values differ between attempts: an answer that is right for one is not for another. */
    readonly isDrawn: boolean;
  };
  readonly groups: readonly ClassGroup[];
  readonly history: readonly ReMarkingState[];
}

/** The marks that hold for a question, in all handed-in attempts that have it. */
const marksFor = (quizId: string, questionId: string) =>
  database()
    .selectDistinctOn([mark.attemptId, mark.slot], {
      attemptId: mark.attemptId,
      slot: mark.slot,
      detail: mark.detail,
    })
    .from(mark)
    .innerJoin(attempt, eq(attempt.id, mark.attemptId))
    .innerJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, mark.attemptId), eq(attemptQuestion.slot, mark.slot)),
    )
    .where(
      and(
        eq(attempt.quizId, quizId),
        eq(attemptQuestion.questionId, questionId),
        isNotNull(attempt.handedInAt),
        isNull(attempt.writtenRemovedAt),
      ),
    )
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));

const listed = ({ attempts, credit, ...group }: AnswerGroup): ClassGroup => ({
  ...group,
  credit: credit === null ? null : shown(credit),
  people: attempts.length,
});

/** The questions of a quiz with what the class has of each, in the order of its newest version. */
export async function classQuestions(viewer: Viewer, quizId: string): Promise<ClassQuestion[]> {
  const { opened } = await openRoom(viewer, quizId, "rule");
  const { quiz } = opened;
  const versions = await database()
    .select({ id: quizVersion.id, number: quizVersion.number })
    .from(quizVersion)
    .where(
      inArray(
        quizVersion.id,
        database().selectDistinct({ id: attempt.versionId }).from(attempt).where(eq(attempt.quizId, quiz.id)),
      ),
    )
    .orderBy(desc(quizVersion.number));
  const rows = await database()
    .selectDistinctOn([mark.attemptId, mark.slot], {
      question: mark.questionId,
      marks: mark.marks,
      maximum: mark.maximum,
      awaiting: mark.awaiting,
    })
    .from(mark)
    .innerJoin(attempt, eq(attempt.id, mark.attemptId))
    .where(and(eq(attempt.quizId, quiz.id), isNotNull(attempt.handedInAt)))
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
  const listedIds = new Set<string>();
  const questions: ClassQuestion[] = [];
  for (const { id } of versions) {
    const content = await versionContent(id);
    for (const question of content.sections.flatMap((section) => section.questions)) {
      if (listedIds.has(question.id) || question.kind === "declaration") continue;
      listedIds.add(question.id);
      const own = rows.filter((row) => row.question === question.id);
      const marked = own.filter(({ awaiting, maximum }) => Number(awaiting) === 0 && Number(maximum) > 0);
      const share =
        marked.reduce((sum, row) => sum + Number(row.marks) / Number(row.maximum), 0) / marked.length;
      questions.push({
        id: question.id,
        title: firstWords(plainText(question.text), 90),
        answers: own.length,
        facility: marked.length === 0 ? null : Math.round(share * 100),
        byHand: marking(question.kind).byHand ?? false,
      });
    }
  }
  return questions.filter(({ answers }) => answers > 0);
}

/** What the class wrote to a question, the same answers together. @throws Problem "not found" */
export async function classAnswersOf(
  viewer: Viewer,
  quizId: string,
  questionId: string,
): Promise<ClassAnswers> {
  const { opened } = await openRoom(viewer, quizId, "rule");
  const { quiz, course } = opened;
  const marks = await marksFor(quiz.id, questionId);
  const [first] = marks;
  if (!first) throw notFound();
  const [row] = await database().select().from(attempt).where(eq(attempt.id, first.attemptId));
  if (!row) throw notFound();
  const content = await versionContent(row.versionId);
  const seed = await seedOf(row);
  const keys = (await heldKeys(database(), [quiz.id]))(quiz.id);
  const place = planWithKeys(content, seed, keys.keyOf(row.versionId)).find(
    ({ question }) => question.id === questionId,
  );
  if (!place) throw notFound();
  const { question } = place;
  const presented = present(question, seed);
  const isDrawn = "variables" in question && (question.variables ?? []).length > 0;
  return {
    quizId: quiz.id,
    title: quiz.title,
    course: { title: course.title, slug: course.slug },
    language: question.language ?? contentLanguage(content),
    question: {
      id: question.id,
      text: drawnQuestion(presented).text || headingOf(presented),
      maximum: shown(question.marks),
      right:
        isDrawn || rightAnswerTo(question, seed) === null
          ? []
          : first.detail.parts.map(({ right }) => right).filter((right) => right !== ""),
      canBeKeyed: marking(question.kind).keyedBy !== undefined && !isDrawn,
      isDrawn,
    },
    groups: answerGroups(
      marks.map(({ attemptId, slot, detail }) => ({ attemptId, slot, marked: detail })),
    ).map(listed),
    history: await reMarkingsOf(viewer, quizId, questionId),
  };
}
