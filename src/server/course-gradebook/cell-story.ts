import { and, asc, desc, eq } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { CellAttempt, CellSet, CellStory } from "@/core/gradebook/cell-story";
import { shown } from "@/core/numbers/exact";
import { said } from "@/core/said";
import { database } from "@/data/database";
import { adjustment, person } from "@/data/schema";
import { say, t } from "@/words/t";
import type { CourseOfPerson } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { instantOf } from "../base/clock";
import { inputOf } from "../base/input";
import { notFound } from "../base/problems";
import { entriesOf } from "../gradebook/entries";
import { figureOf } from "../gradebook/item-words";
import { itemsOf } from "../gradebook/own-items";
import { countingOf } from "../reveal/counting-totals";
import { type QuizOfPerson, quizzesOf } from "../reveal/quizzes-of-person";
import { courseWork, type WorkCell } from "./course-work";
import { openGradebook } from "./open-gradebook";

const uuid = () =>
  yup
    .string()
    .test("uuid", said("server.course-gradebook.set-marks.this-is-not-an-id"), (id) => isUuid(id ?? ""))
    .required(said("server.course-gradebook.set-marks.this-is-not-an-id"));
const asked = yup.object({ student: uuid(), item: uuid() });

/** Everything about one student's mark for one piece of work. @throws Problem "not found" */
export async function cellStory(viewer: Viewer, slug: string, input: unknown): Promise<CellStory> {
  const { student, item } = inputOf(asked, input, "address");
  const course = await openGradebook(viewer, slug);
  const work = await courseWork(course.id, { personIds: [student] });
  const [own] = work.students;
  const cell = own?.cells.get(item);
  const row = work.categories.flatMap(({ items }) => items).find(({ id }) => id === item);
  if (!own || !cell || !row) throw notFound();
  const quizzes = await quizzesOf({ id: student }, course.id);
  const quiz = quizzes.find((each) => each.quiz.id === row.quizId);
  return {
    studentId: student,
    itemId: item,
    attempts: quiz ? attemptsIn(quiz, cell) : [],
    counts: row.quizId === null ? null : (quiz?.quiz.settings.counts ?? null),
    set: await setIn(item, student),
    computed: computedIn(cell),
    seenByStudent: await seenByStudent(course, student, item, quizzes),
    seen: work.seen.get(item) ?? 0,
  };
}

function attemptsIn(quiz: QuizOfPerson, { mark }: WorkCell): CellAttempt[] {
  const counted = mark === "excused" ? null : (mark?.computed?.attempt ?? null);
  const handedIn = quiz.attempts.filter((each) => each.handedInAt !== null);
  return quiz.attempts.map((each) => {
    const total = each.handedInAt === null ? null : countingOf(quiz, each);
    return {
      id: each.id,
      number: each.number,
      startedAt: each.startedAt.getTime(),
      handedInAt: instantOf(each.handedInAt),
      handedInBy: each.handedInBy,
      returnedAt: instantOf(each.returnedAt),
      figure: total === null ? null : figureOf(total.earned, total.awaited),
      maximum: shown(each.maximum),
      late: total?.lateWords ? say(total.lateWords) : null,
      counts: counted !== null && handedIn[counted]?.id === each.id,
    };
  });
}

/** What the work itself gave, where something else stands in its place; null: nothing else does. */
function computedIn({ mark }: WorkCell): string | null {
  if (mark === null || mark === "excused" || mark.source === "counted" || !mark.computed) return null;
  const { low, high } = mark.computed;
  return figureOf(low, high.sub(low));
}

async function setIn(itemId: string, personId: string): Promise<CellSet[]> {
  const rows = await database()
    .select({ set: adjustment, by: person.name })
    .from(adjustment)
    .innerJoin(person, eq(person.id, adjustment.setBy))
    .where(and(eq(adjustment.itemId, itemId), eq(adjustment.personId, personId)))
    .orderBy(desc(adjustment.added), asc(adjustment.id));
  return rows.map(({ set: { marks, withdrawn, excused, reason, createdAt }, by }) => ({
    what: withdrawn ? "as-the-work" : excused || marks === null ? "excused" : "marks",
    marks: marks === null ? null : shown(marks),
    reason,
    by,
    at: createdAt.getTime(),
  }));
}

/** What stands in the student's own gradebook now, worked out as it is for them. */
async function seenByStudent(
  course: CourseOfPerson,
  personId: string,
  itemId: string,
  quizzes: readonly QuizOfPerson[],
): Promise<CellStory["seenByStudent"]> {
  const items = await itemsOf({ id: personId }, course.id);
  const row = entriesOf(items, quizzes, () => course.missingCountsZero).get(itemId)?.row;
  return row?.mark
    ? t("server.course-gradebook.cell-story.mark-of", { figure: row.mark.figure, maximum: row.mark.maximum })
    : null;
}
