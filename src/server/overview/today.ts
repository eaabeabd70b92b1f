import { and, desc, eq, inArray, isNull } from "drizzle-orm";
import { rangeWords } from "@/core/marking/mark-words";
import { firstWords, plainText } from "@/core/text/plain-text";
import type { Instant } from "@/core/time/instants";
import { DAY } from "@/core/time/instants";
import { database } from "@/data/database";
import { announcement, course, enrolment, person, slip } from "@/data/schema";
import { say } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { instantOf, now } from "../base/clock";
import { standsOnToday } from "../course/announce";
import type { GradebookRow } from "../gradebook/entries";
import { marksOfQuizzes } from "../gradebook/gradebook-work";
import { totalOf } from "../reveal/counting-attempts";
import { countingOf } from "../reveal/counting-totals";
import { paperReadable, type QuizOfPerson, quizzesOf, revelationsOf } from "../reveal/quizzes-of-person";
import { type StaffQuiz, staffQuizzes } from "./staff-quizzes";

export interface ReturnedWork {
  readonly attemptId: string;
  readonly title: string;
  readonly course: string;
  readonly at: Instant;
  /** The mark that the work has in the gradebook. */
  readonly figure: string;
  /** How it comes from several attempts: "best counts"; null: there is only one. */
  readonly counts: string | null;
  /** The instructor's first words, or null. */
  readonly firstWords: string | null;
  /** What still waits, or null. */
  readonly waiting: string | null;
}

export interface TodayView {
  readonly now: Instant;
  readonly running: readonly QuizOfPerson[];
  /** The quizzes that this person teaches or helps to; null: none. */
  readonly taught: readonly StaffQuiz[] | null;
  /** Whether this person is a student somewhere, or nothing at all yet. */
  readonly studies: boolean;
  /** Everything that is open, coming or lately handed in, nearest end first. */
  readonly bands: readonly QuizOfPerson[];
  /** Marks and feedback that were not looked at yet. */
  readonly returned: readonly ReturnedWork[];
  /** What the clock handed in lately, until its slip or paper was looked at. */
  readonly byClock: readonly {
    readonly attemptId: string;
    readonly title: string;
    readonly at: Instant;
    readonly answered: number;
    readonly questions: number;
    readonly inPart: number;
    readonly hasPaper: boolean;
  }[];
  readonly announcements: readonly {
    readonly text: string;
    readonly course: string;
    readonly author: string;
    readonly at: Instant;
  }[];
}

/** How long handed-in or closed work stays among the bands: as long as the axis shows it. */
const LATELY = 2 * DAY;
const MOST_RETURNED = 4;

/** What runs stands on top by itself; what is not set for one is in no list. */
function inBands(item: QuizOfPerson, at: Instant): boolean {
  if (["running", "not-assigned"].includes(item.status.state)) return false;
  if (item.status.mayStart || ["not-open-yet", "locked"].includes(item.status.state)) return true;
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
  const rank = (item: QuizOfPerson) => (item.quiz.settings.practice ? 0.5 : 0) + RANK[item.status.state];
  const end = (item: QuizOfPerson) => item.window.due ?? item.window.closes ?? Number.POSITIVE_INFINITY;
  return rank(a) - rank(b) || end(a) - end(b) || a.quiz.title.localeCompare(b.quiz.title);
}

/** The newest attempt of a quiz whose total may be read, with the mark that the quiz has: that of the gradebook. */
function returnedOf(item: QuizOfPerson, inGradebook: GradebookRow | undefined): ReturnedWork[] {
  const row = item.attempts
    .filter((each) => each.handedInAt !== null && totalOf(item, each).figure !== null)
    .at(-1);
  const figure = row && totalOf(item, row).figure;
  const shownAt = row && (instantOf(row.returnedAt) ?? instantOf(row.handedInAt));
  if (!row || !figure || !shownAt || item.quiz.settings.practice) return [];
  // What was read since is no longer to read.
  if (row.paperReadAt !== null && row.paperReadAt.getTime() >= shownAt) return [];
  const mark = inGradebook?.mark;
  const several = item.attempts.filter((each) => each.handedInAt !== null).length > 1;
  const isWorkedShown = row.feedback !== null && revelationsOf(item, row).worked.visible;
  return [
    {
      attemptId: row.id,
      title: item.quiz.title,
      course: item.course.title,
      at: shownAt,
      figure: mark ? `${mark.figure} / ${mark.maximum}` : figure,
      counts: mark && several ? (inGradebook?.countsWords ?? null) : null,
      firstWords: isWorkedShown && row.feedback ? firstWords(plainText(row.feedback), 110) : null,
      waiting: say(rangeWords(countingOf(item, row), item.instructor)),
    },
  ];
}

/** The first page, over all courses: four queries, and one more for who teaches. */
export async function todayOf(viewer: Viewer): Promise<TodayView> {
  const at = now();
  const [items, announcements] = await Promise.all([quizzesOf(viewer), announcementsOf(viewer)]);
  const marks = await marksOfQuizzes(viewer, items);
  const isStaff = items.some(({ role }) => role !== "student");
  const returned = items.flatMap((item) => returnedOf(item, marks.get(item.quiz.id)));
  return {
    now: at,
    taught: isStaff ? await staffQuizzes(viewer) : null,
    studies: !isStaff || items.some(({ role }) => role === "student"),
    running: items.filter((item) => item.status.state === "running"),
    bands: items.filter((item) => inBands(item, at)).sort(bandOrder),
    byClock: await byClockOf(items, at),
    returned: returned.sort((a, b) => b.at - a.at).slice(0, MOST_RETURNED),
    announcements,
  };
}

/** What the clock handed in within the last days and was not looked at since; a query only where there is some. */
async function byClockOf(items: readonly QuizOfPerson[], at: Instant): Promise<TodayView["byClock"]> {
  const found = items.flatMap((item) =>
    item.attempts.flatMap((row) =>
      row.handedInBy === "clock" &&
      row.handedInAt !== null &&
      at - row.handedInAt.getTime() < LATELY &&
      row.paperReadAt === null
        ? [{ item, row, handedInAt: row.handedInAt }]
        : [],
    ),
  );
  if (found.length === 0) return [];
  const slips = await database()
    .select({ id: slip.attemptId, answered: slip.answered, inPart: slip.inPart, questions: slip.questions })
    .from(slip)
    .where(
      and(
        inArray(
          slip.attemptId,
          found.map(({ row }) => row.id),
        ),
        // What was taken back before is another hand-in's.
        isNull(slip.takenBackAt),
      ),
    );
  return found
    .map(({ item, row, handedInAt }) => {
      const stands = slips.find(({ id }) => id === row.id);
      return {
        attemptId: row.id,
        title: item.quiz.title,
        at: handedInAt.getTime(),
        answered: stands?.answered ?? 0,
        questions: stands?.questions ?? 0,
        inPart: stands?.inPart ?? 0,
        hasPaper: paperReadable(item, row),
      };
    })
    .sort((a, b) => b.at - a.at);
}

async function announcementsOf(viewer: Viewer): Promise<TodayView["announcements"]> {
  const rows = await database()
    .select({
      text: announcement.text,
      course: course.title,
      author: person.name,
      at: announcement.createdAt,
    })
    .from(enrolment)
    .innerJoin(announcement, eq(announcement.courseId, enrolment.courseId))
    .innerJoin(course, eq(course.id, announcement.courseId))
    .innerJoin(person, eq(person.id, announcement.authorId))
    .where(and(eq(enrolment.personId, viewer.id), standsOnToday()))
    .orderBy(desc(announcement.createdAt))
    .limit(5);
  return rows.map((row) => ({ ...row, at: row.at.getTime() }));
}
