import { and, desc, eq, gt, isNull, or, sql } from "drizzle-orm";
import { firstWords, plainText } from "@/core/kinds/text";
import { rangeWords } from "@/core/marking/mark-words";
import type { Instant } from "@/core/time/instants";
import { DAY } from "@/core/time/instants";
import { database } from "@/data/database";
import { course, enrolment, notice, person } from "@/data/schema";
import { instantOf, now } from "../clock";
import type { GroupEnds } from "../quizzes/group-ends";
import type { Viewer } from "../viewer";
import { attemptsRemain, countingOf, totalOf } from "./lines";
import { type QuizOfPerson, quizzesOf, revelationsOf } from "./quizzes-of";

export interface ReturnedWork {
  readonly attemptId: string;
  readonly title: string;
  readonly course: string;
  readonly at: Instant;
  readonly figure: string;
  /** The instructor's first words, or null. */
  readonly firstWords: string | null;
  /** What still waits, or null. */
  readonly waiting: string | null;
}

export interface TodayView {
  readonly now: Instant;
  readonly running: readonly QuizOfPerson[];
  /** Everything that is running, open, coming or lately handed in, nearest end first. */
  readonly bands: readonly QuizOfPerson[];
  readonly returned: readonly ReturnedWork[];
  readonly notices: readonly {
    readonly text: string;
    readonly course: string;
    readonly author: string;
    readonly at: Instant;
  }[];
}

/** How long handed-in or closed work stays among the bands: as long as the axis shows it. */
const LATELY = 2 * DAY;
const MOST_RETURNED = 4;

function inBands(item: QuizOfPerson, at: Instant): boolean {
  if (item.standing.mayStart || ["running", "not-open-yet", "locked"].includes(item.standing.state))
    return true;
  const moments = item.attempts.flatMap((each) => [
    instantOf(each.handedInAt) ?? 0,
    instantOf(each.returnedAt) ?? 0,
  ]);
  return at - Math.max(item.window.closes ?? 0, ...moments) < LATELY;
}

const RANK = {
  running: 0,
  ready: 1,
  "handed-in": 3,
  marked: 3,
  returned: 3,
  locked: 2,
  "not-assigned": 4,
  "not-open-yet": 2,
  "no-attempts-left": 4,
  closed: 4,
};

function bandOrder(a: QuizOfPerson, b: QuizOfPerson): number {
  const rank = (item: QuizOfPerson) => (item.facts.practice ? 0.5 : 0) + RANK[item.standing.state];
  const end = (item: QuizOfPerson) => item.window.due ?? item.window.closes ?? Number.POSITIVE_INFINITY;
  return rank(a) - rank(b) || end(a) - end(b) || a.quiz.title.localeCompare(b.quiz.title);
}

/** Whether the instructor's words on an attempt may be read now. */
const workedShown = (
  item: QuizOfPerson & { readonly ends: GroupEnds },
  row: QuizOfPerson["attempts"][number],
): boolean => revelationsOf(row, item.facts, item.ends, attemptsRemain(item)).worked.visible;

/** The student's first page, over all courses: three queries. */
export async function todayOf(viewer: Viewer): Promise<TodayView> {
  const at = now();
  const [items, notices] = await Promise.all([quizzesOf(viewer), noticesOf(viewer)]);
  const returned = items.flatMap((item) =>
    item.attempts.flatMap((row): ReturnedWork[] => {
      const total = row.handedInAt === null ? null : totalOf(item, row);
      const shownAt = instantOf(row.returnedAt) ?? instantOf(row.handedInAt);
      if (!total?.figure || shownAt === null || item.facts.practice) return [];
      return [
        {
          attemptId: row.id,
          title: item.quiz.title,
          course: item.course.title,
          at: shownAt,
          figure: total.figure,
          firstWords:
            row.feedback && workedShown(item, row) ? firstWords(plainText(row.feedback), 110) : null,
          waiting: rangeWords(countingOf(item, row)),
        },
      ];
    }),
  );
  return {
    now: at,
    running: items.filter((item) => item.standing.state === "running"),
    bands: items.filter((item) => inBands(item, at)).sort(bandOrder),
    returned: returned.sort((a, b) => b.at - a.at).slice(0, MOST_RETURNED),
    notices,
  };
}

async function noticesOf(viewer: Viewer): Promise<TodayView["notices"]> {
  const rows = await database()
    .select({ text: notice.text, course: course.title, author: person.name, at: notice.createdAt })
    .from(enrolment)
    .innerJoin(notice, eq(notice.courseId, enrolment.courseId))
    .innerJoin(course, eq(course.id, notice.courseId))
    .innerJoin(person, eq(person.id, notice.authorId))
    .where(
      and(
        eq(enrolment.personId, viewer.id),
        or(
          isNull(notice.shownUntil),
          gt(notice.shownUntil, sql`${new Date(now()).toISOString()}::timestamptz`),
        ),
      ),
    )
    .orderBy(desc(notice.createdAt))
    .limit(5);
  return rows.map((row) => ({ ...row, at: row.at.getTime() }));
}
