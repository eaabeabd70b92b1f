import { and, asc, eq, inArray, sql } from "drizzle-orm";
import { may } from "@/core/access/may";
import { questionIn } from "@/core/marking/mark-attempt";
import { shown } from "@/core/numbers/exact";
import type { Said } from "@/core/said";
import { firstWords, plainText } from "@/core/text/plain-text";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt, attemptQuestion, course, enrolment, markQuery, person, quiz } from "@/data/schema";
import { isGivenTo } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { currentMarks } from "../attempts/marks";
import { versionContent } from "../quizzes/versions";
import { numberPapers } from "./room";

/** A talk about a mark, in the queue of those who answer. */
export interface TalkInQueue {
  readonly attemptId: string;
  readonly slot: number;
  readonly paper: number;
  readonly student: string;
  readonly quiz: { readonly id: string; readonly title: string };
  readonly course: string;
  readonly question: string;
  /** What was written, in plain lines. */
  readonly answer: readonly Said[];
  /** What stands as its mark now: "3 / 6". */
  readonly mark: string;
  readonly byHand: boolean;
  readonly lines: readonly {
    readonly author: string;
    readonly isStudent: boolean;
    readonly at: Instant;
    readonly text: string;
  }[];
  /** Whether its student spoke last. */
  readonly waits: boolean;
}

const MOST = 100;

/** The talks about marks that somebody may answer: those that wait first, oldest first; then the others, newest first. */
export async function questionQueue(viewer: Viewer, quizId?: string): Promise<TalkInQueue[]> {
  const rows = await database()
    .select({
      attemptId: markQuery.attemptId,
      slot: markQuery.slot,
      text: markQuery.text,
      at: markQuery.createdAt,
      authorId: markQuery.authorId,
      author: sql<string>`(select name from person where id = ${markQuery.authorId})`,
      studentId: attempt.personId,
      student: person.name,
      paper: attempt.paper,
      versionId: attempt.versionId,
      quizId: quiz.id,
      title: quiz.title,
      course: course.title,
      role: enrolment.role,
      given: isGivenTo(viewer.id),
      question: attemptQuestion.questionId,
    })
    .from(markQuery)
    .innerJoin(attempt, eq(attempt.id, markQuery.attemptId))
    .innerJoin(person, eq(person.id, attempt.personId))
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .innerJoin(course, eq(course.id, quiz.courseId))
    .innerJoin(
      enrolment,
      and(
        eq(enrolment.courseId, quiz.courseId),
        eq(enrolment.personId, viewer.id),
        inArray(enrolment.role, ["assistant", "instructor"]),
      ),
    )
    .leftJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, markQuery.attemptId), eq(attemptQuestion.slot, markQuery.slot)),
    )
    .where(quizId === undefined ? undefined : eq(quiz.id, quizId))
    .orderBy(asc(markQuery.createdAt), asc(markQuery.id));
  const talks = new Map<string, typeof rows>();
  for (const row of rows) {
    if (!may(row, "answer")) continue;
    const key = `${row.attemptId} ${row.slot}`;
    talks.set(key, [...(talks.get(key) ?? []), row]);
  }
  for (const id of new Set([...talks.values()].flatMap(([row]) => (row?.paper === null ? [row.quizId] : []))))
    await numberPapers(id);
  const queue: TalkInQueue[] = [];
  for (const lines of [...talks.values()].slice(-MOST)) {
    const [first] = lines;
    const last = lines.at(-1);
    if (!first || !last) continue;
    const held = (await currentMarks(database(), first.attemptId)).find(({ slot }) => slot === first.slot);
    const question = questionIn(await versionContent(first.versionId), first.question ?? "");
    queue.push({
      attemptId: first.attemptId,
      slot: first.slot,
      paper: first.paper ?? 0,
      student: first.student,
      quiz: { id: first.quizId, title: first.title },
      course: first.course,
      question: firstWords(plainText(question?.text ?? ""), 160),
      answer: held?.detail.parts.map(({ written }) => written).filter((written) => written !== "") ?? [],
      mark: held
        ? held.detail.state === "awaits"
          ? `? / ${shown(held.detail.maximum)}`
          : `${shown(held.detail.marks)} / ${shown(held.detail.maximum)}`
        : "",
      byHand: held?.source === "hand",
      lines: lines.map((line) => ({
        author: line.author,
        isStudent: line.authorId === line.studentId,
        at: line.at.getTime(),
        text: line.text,
      })),
      waits: last.authorId === last.studentId,
    });
  }
  const at = ({ lines }: TalkInQueue) => lines.at(-1)?.at ?? 0;
  return [
    ...queue.filter(({ waits }) => waits).sort((a, b) => at(a) - at(b)),
    ...queue.filter(({ waits }) => !waits).sort((a, b) => at(b) - at(a)),
  ];
}
