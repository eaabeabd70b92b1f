import { and, asc, desc, eq, isNull } from "drizzle-orm";
import { may } from "@/core/access/may";
import type { HandedInBy } from "@/core/attempt/answered-words";
import { attemptsAllowed } from "@/core/attempt/attempts-left";
import { hasMoreTime, timeAllowed } from "@/core/attempt/deadline";
import type { PictureView } from "@/core/desk/desk-view";
import { type PresentedQuestion, readAnswer } from "@/core/kinds/answering";
import { filledIn, present } from "@/core/kinds/marking";
import { type KeyOf, planWithKeys } from "@/core/marking/mark-attempt";
import { percentOf, rangeWords } from "@/core/marking/mark-words";
import { shown } from "@/core/numbers/exact";
import type { QuizContent } from "@/core/quiz/quiz-file";
import type { Counts, Revealed } from "@/core/quiz/rules";
import { REVEALED } from "@/core/quiz/rules";
import { type PaperQuestion, paperQuestion } from "@/core/reveal/marked-paper";
import type { Revelations } from "@/core/reveal/reveal";
import { database } from "@/data/database";
import { adjustment, answer, attempt, gradebookItem, marginNote, mark, person } from "@/data/schema";
import { say, t } from "@/words/t";
import { dateWithYear } from "@/words/times";
import { windowOf } from "../access/allowances";
import type { Viewer } from "../access/viewer";
import { openAttempt } from "../attempts/open-attempt";
import { seedOf } from "../attempts/seeds";
import { now } from "../base/clock";
import { config } from "../base/config";
import { contentLanguage } from "../base/content-language";
import { notFound, Problem } from "../base/problems";
import { picturesShown } from "../desk/media";
import { type MarkQueryLine, markQueriesOf } from "../marking/mark-queries";
import { versionContent } from "../quizzes/versions";
import { attemptsLeft, countingAttempts, totalOf } from "../reveal/counting-attempts";
import { countingOf } from "../reveal/counting-totals";
import { paperReadable } from "../reveal/quizzes-of-person";
import { revealedOf } from "../reveal/revealed";
import { drawnPaper, withFormulas } from "../text/formulas";
import { type RecordLine, recordOf } from "./own-record";
import { mayPractise, practisable } from "./practisable-questions";

export interface PaperView {
  readonly attemptId: string;
  readonly quizId: string;
  readonly title: string;
  /** The language of what the author wrote, as a tag (BCP 47). */
  readonly language: string;
  readonly course: { readonly title: string; readonly slug: string };
  readonly student: string;
  readonly number: number;
  readonly allowed: number | null;
  readonly startedAt: number;
  readonly handedInAt: number;
  readonly by: HandedInBy;
  /** Milliseconds; null: no limit. */
  readonly allowedTime: number | null;
  readonly hasAllowance: boolean;
  /** "late", "1 day late: 10 % of the marks lost"; null: in time. */
  readonly late: string | null;
  readonly instructor: string;
  readonly returnedAt: number | null;
  /** The total, or null while it is not revealed. Figures as people see them. */
  readonly total: {
    /** What is known of it; "" while all that there could be still waits. */
    readonly known: string;
    readonly maximum: string;
    readonly waiting: string | null;
    /** "85 %"; null while some of it waits. */
    readonly percent: string | null;
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
    /** Whether it makes the mark. */
    readonly counts: boolean;
  }[];
  /** Which of several attempts counts; null: there is only one. */
  readonly countsRule: Counts | null;
  /** What stands in the gradebook in the place of the computed mark, and why; null: nothing. */
  readonly adjusted: {
    readonly words: string;
    readonly reason: string;
    readonly by: string;
    readonly at: number;
  } | null;
  /** How many of the missed questions may be practised now; null: practising is not allowed. */
  readonly practise: number | null;
  /** Attempts that are left to the student; null: without limit, or not the student. */
  readonly left: number | null;
  readonly record: readonly RecordLine[];
  /** What was said about its marks. */
  readonly queries: readonly MarkQueryLine[];
  /** Whether something may be asked or answered: the marks are shown. */
  readonly mayAsk: boolean;
  /** What is not shown yet, each with when it will be. */
  readonly hidden: readonly { readonly what: Revealed; readonly when: string; readonly isNever: boolean }[];
}

/** What was handed in and nothing else of it: no marks, no answers. */
const writtenOnly = (reveal: Revelations): Revelations => ({
  ...(Object.fromEntries(
    REVEALED.map((what) => [what, { visible: false, isNever: false, when: "" }]),
  ) as unknown as Revelations),
  written: reveal.written,
});

/** The adjustment that holds for a quiz's item in the gradebook. */
async function adjustedOf(quizId: string, personId: string): Promise<PaperView["adjusted"]> {
  const [row] = await database()
    .select({ set: adjustment, by: person.name, maximum: gradebookItem.maximum })
    .from(adjustment)
    .innerJoin(gradebookItem, eq(gradebookItem.id, adjustment.itemId))
    .innerJoin(person, eq(person.id, adjustment.setBy))
    .where(and(eq(gradebookItem.quizId, quizId), eq(adjustment.personId, personId)))
    .orderBy(desc(adjustment.added))
    .limit(1);
  if (!row || row.set.withdrawn) return null;
  const { marks, reason, createdAt } = row.set;
  const words =
    marks === null ? t("server.handed-in.marked-paper.excused") : `${shown(marks)} / ${shown(row.maximum)}`;
  return { words, reason, by: row.by, at: createdAt.getTime() };
}

/** Its student has looked at it: what is on it is no longer to read. */
async function noteRead(attemptId: string): Promise<void> {
  await database()
    .update(attempt)
    .set({ paperReadAt: new Date(now()) })
    .where(eq(attempt.id, attemptId));
}

/** The keys by which the marks that hold were made: the paper shows those. */
async function keysOfMarks(writtenOn: string, marks: readonly (typeof mark.$inferSelect)[]): Promise<KeyOf> {
  const versions = new Map<string, string>();
  for (const { questionId, versionId } of marks)
    if (questionId && versionId) versions.set(questionId, versionId);
  const contents = new Map<string, QuizContent>();
  for (const id of new Set(versions.values()))
    if (id !== writtenOn) contents.set(id, await versionContent(id));
  return (questionId) => contents.get(versions.get(questionId) ?? "");
}

const removed = (at: number) =>
  new Problem(
    410,
    "removed",
    t("server.handed-in.marked-paper.what-was-written-in-this-attempt", {
      dateWithYear: dateWithYear(at, config.zone),
      institution: config.institution,
    }),
  );

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
  if (row.writtenRemovedAt !== null) throw removed(row.writtenRemovedAt.getTime());
  const content = await versionContent(row.versionId);
  const { item, reveal: revealed } = await revealedOf(viewer, opened);
  const reveal = revealed && what === "hand-in" ? writtenOnly(revealed) : revealed;
  if (!reveal) throw notFound();
  if (what === "paper" && item && paperReadable(item, row)) await noteRead(row.id);
  const seed = await seedOf(row);
  const [record, queries, answers, marks, notes, adjusted] = await Promise.all([
    recordOf(row),
    reveal.marks.visible ? markQueriesOf(viewer, row.id) : [],
    database().select().from(answer).where(eq(answer.attemptId, row.id)),
    database()
      .select({ mark, by: person.name })
      .from(mark)
      .leftJoin(person, eq(person.id, mark.markedBy))
      .where(eq(mark.attemptId, row.id))
      .orderBy(asc(mark.slot), asc(mark.added)),
    reveal.worked.visible
      ? database()
          .select({ note: marginNote, author: person.name })
          .from(marginNote)
          .innerJoin(person, eq(person.id, marginNote.authorId))
          .where(and(eq(marginNote.attemptId, row.id), isNull(marginNote.withdrawnAt)))
          .orderBy(asc(marginNote.createdAt), asc(marginNote.id))
      : [],
    what === "paper" ? adjustedOf(quiz.id, row.personId) : null,
  ]);
  // Marks of a hand-in that was taken back are no part of how this one came about.
  const lastHandIn = Math.max(...marks.map((each) => each.mark.handIn));
  const holding = marks.filter((each) => each.mark.handIn === lastHandIn);
  const seen: PresentedQuestion[] = [];
  const keyOf = await keysOfMarks(
    row.versionId,
    holding.map(({ mark: each }) => each),
  );
  const questions = planWithKeys(content, seed, keyOf).flatMap(({ slot, question }) => {
    const presented = present(question, seed);
    if (reveal.written.visible) seen.push(presented);
    const reading = readAnswer(presented, answers.find((each) => each.slot === slot)?.answer ?? null);
    const given = holding.filter((each) => each.mark.slot === slot);
    const current = given.at(-1)?.mark;
    if (!current) return [];
    const marked = current.detail;
    return paperQuestion(
      {
        slot,
        question,
        seed,
        presented,
        answer: reading.ok ? reading.answer : null,
        marked,
        worked: question.worked === undefined ? null : filledIn(question, seed, question.worked),
        readMore: question.readMore ?? null,
        criteria: current.criteria,
        feedback: current.feedback,
        history: given.map(({ mark: each, by }) => ({
          at: each.createdAt.getTime(),
          marks: each.detail.marks,
          maximum: each.detail.maximum,
          awaits: each.detail.state === "awaits",
          reason: each.reason,
          by,
        })),
        notes: notes.flatMap(({ note, author }) =>
          note.slot === slot
            ? [
                {
                  author,
                  at: (note.editedAt ?? note.createdAt).getTime(),
                  anchor: note.anchor,
                  text: note.text,
                },
              ]
            : [],
        ),
      },
      reveal,
    );
  });
  const settings = quiz.settings;
  const counting = item ? countingAttempts(item) : null;
  const currentDetails = new Map(holding.map(({ mark: each }) => [each.slot, each.detail]));
  const own = opened.allowance;
  const totals = countingOf({ window: windowOf(quiz, own), quiz }, row);
  return {
    attemptId: row.id,
    quizId: quiz.id,
    title: quiz.title,
    language: contentLanguage(content),
    course,
    student: student.name,
    number: row.number,
    allowed: attemptsAllowed(settings.attempts, own),
    startedAt: row.startedAt.getTime(),
    handedInAt: row.handedInAt.getTime(),
    by: row.handedInBy,
    allowedTime: timeAllowed(settings.timeLimit ?? null, own),
    hasAllowance: hasMoreTime(own),
    late: say(totals.lateWords),
    instructor,
    returnedAt: row.returnedAt?.getTime() ?? null,
    total: reveal.total.visible
      ? {
          known: totals.awaited.n !== 0n && totals.earned.n === 0n ? "" : shown(totals.earned),
          maximum: shown(row.maximum),
          waiting: say(rangeWords(totals, instructor)),
          percent: percentOf({ ...totals, maximum: row.maximum }),
        }
      : null,
    feedback: reveal.worked.visible && row.feedback !== null ? withFormulas(row.feedback) : null,
    questions: await drawnPaper(questions),
    pictures: await picturesShown(row, content, seen),
    attempts:
      item && what === "paper"
        ? item.attempts.map((each) => ({
            id: each.id,
            number: each.number,
            words:
              each.handedInAt === null
                ? t("server.handed-in.marked-paper.running")
                : (totalOf(item, each).figure ?? t("server.handed-in.marked-paper.mark-not-shown-yet")),
            counts:
              counting?.counted?.attempt != null &&
              counting.visible[counting.counted.attempt]?.id === each.id,
          }))
        : [],
    countsRule: settings.attempts === 1 ? null : settings.counts,
    adjusted,
    practise:
      what === "paper" && item && mayPractise(settings, reveal)
        ? practisable(content, seed, currentDetails).length
        : null,
    left: item ? attemptsLeft(item) : null,
    record,
    queries,
    mayAsk: reveal.marks.visible && (row.personId === viewer.id || may(opened, "answer")),
    hidden: REVEALED.filter((each) => !reveal[each].visible).map((each) => ({
      what: each,
      when: say(reveal[each].when),
      isNever: reveal[each].isNever,
    })),
  };
}
