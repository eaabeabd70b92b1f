import { asc, eq } from "drizzle-orm";
import { sharesOfCourse } from "@/core/gradebook/gradebook-plan";
import { onScale, rangeOnScale } from "@/core/gradebook/scales";
import { type CourseStanding, courseStanding } from "@/core/gradebook/standing";
import { cellState } from "@/core/gradebook/table-cell";
import type {
  CellMark,
  TableCategory,
  TableCell,
  TableData,
  TableStudent,
} from "@/core/gradebook/table-data";
import { memo } from "@/core/memo";
import { type Exact, shown, sum } from "@/core/numbers/exact";
import { database } from "@/data/database";
import { courseSection, sectionMember } from "@/data/schema";
import { say } from "@/words/t";
import type { CourseOfPerson } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { mapInTurns } from "../base/breathe";
import { type CourseWork, courseWork, type WorkCell, type WorkOfStudent } from "./course-work";
import { openGradebook } from "./open-gradebook";

/** A course's gradebook, for those who teach it. @throws Problem "not found" */
export async function courseTable(viewer: Viewer, slug: string): Promise<TableData> {
  const course = await openGradebook(viewer, slug);
  const work = await courseWork(course.id);
  const sections = await sectionsOf(course.id);
  const figureOf = figuresOnce();
  return {
    slug: course.slug,
    categories: categoriesOf(work),
    sections: sections.map(({ title }) => title),
    students: await mapInTurns(work.students, (student) => tableStudent(student, course, sections, figureOf)),
  };
}

/** Some students' lines as they are now. */
export async function tableLines(
  course: CourseOfPerson,
  personIds: readonly string[],
): Promise<TableStudent[]> {
  const work = await courseWork(course.id, { personIds });
  const sections = await sectionsOf(course.id);
  const figureOf = figuresOnce();
  return mapInTurns(work.students, (student) => tableStudent(student, course, sections, figureOf));
}

interface SectionMembers {
  readonly title: string;
  readonly members: ReadonlySet<string>;
}

async function sectionsOf(courseId: string): Promise<SectionMembers[]> {
  const rows = await database()
    .select({ id: courseSection.id, title: courseSection.title, personId: sectionMember.personId })
    .from(courseSection)
    .leftJoin(sectionMember, eq(sectionMember.sectionId, courseSection.id))
    .where(eq(courseSection.courseId, courseId))
    .orderBy(asc(courseSection.position));
  const titles = new Map(rows.map(({ id, title }) => [id, title]));
  return [...titles].map(([id, title]) => ({
    title,
    members: new Set(rows.flatMap((row) => (row.id === id && row.personId !== null ? [row.personId] : []))),
  }));
}

const figure = (share: Exact | null): string | null => (share === null ? null : shown(share.mul(100)));

function categoriesOf({ categories, students, seen }: CourseWork): TableCategory[] {
  const shares = sharesOfCourse(categories);
  return categories.map(({ id, title, dropLowest, items }) => ({
    id,
    title,
    share: shown(shares.get(id) ?? "0"),
    dropLowest,
    items: items.map((item) => {
      const cells = students.flatMap(({ cells: own }) => own.get(item.id) ?? []);
      const whole = cells.flatMap(({ mark }) =>
        mark !== null && mark !== "excused" && mark.awaited.n === 0n ? [mark.earned] : [],
      );
      return {
        id: item.id,
        title: item.title,
        maximum: shown(item.maximum),
        quizId: item.quizId,
        mean: whole.length === 0 ? null : shown(sum(whole).div(whole.length)),
        awaiting: cells.filter((cell) => cellState(cell) === "awaits").length,
        writing: cells.filter(({ isRunning }) => isRunning).length,
        seen: seen.get(item.id) ?? 0,
      };
    }),
  }));
}

function marksIn(cell: WorkCell, isDropped: boolean): CellMark[] {
  const { mark, isLate, isRunning, window } = cell;
  const source = mark === "excused" ? null : mark?.source;
  return [
    ...(isLate ? (["late"] as const) : []),
    // What is marked outside is always set by hand: that says nothing.
    ...(source === "adjusted" && window !== null ? (["set"] as const) : []),
    ...(source === "stands-in" || source === "taking-part" ? [source] : []),
    ...(isDropped ? (["dropped"] as const) : []),
    ...(isRunning && cellState(cell) !== "writing" ? (["again"] as const) : []),
  ];
}

/** @param zero whether what was missed counts as 0 */
function tableCell(
  cell: WorkCell,
  isDropped: boolean,
  zero: boolean,
  figureOf: (mark: Exact) => string,
): TableCell {
  const state = cellState(cell);
  const { mark } = cell;
  const marks = marksIn(cell, isDropped);
  if (state === "missed" && zero) return marks.length > 0 ? [state, "0", null, marks] : [state, "0"];
  if (mark === null || mark === "excused") return marks.length > 0 ? [state, null, null, marks] : [state];
  const earned = figureOf(mark.earned);
  const awaited = mark.awaited.n === 0n ? null : shown(mark.awaited);
  return marks.length > 0
    ? [state, earned, awaited, marks]
    : awaited === null
      ? [state, earned]
      : [state, earned, awaited];
}

/** The same few marks stand in thousands of cells: each is written once. */
function figuresOnce(): (mark: Exact) => string {
  const known = new Map<Exact, string>();
  return (mark) => memo(known, mark, () => shown(mark));
}

function tableStudent(
  { id, name, cells, categories }: WorkOfStudent,
  course: Pick<CourseOfPerson, "missingCountsZero" | "scale">,
  sections: readonly SectionMembers[],
  figureOf: (mark: Exact) => string,
): TableStudent {
  const standing = courseStanding(categories, { missingCountsZero: course.missingCountsZero });
  const dropped = new Set(standing.categories.flatMap((category) => [...category.dropped]));
  return {
    id,
    name,
    sections: sections.flatMap(({ members }, i) => (members.has(id) ? [i] : [])),
    cells: [...cells.values()].map((cell) =>
      tableCell(cell, dropped.has(cell.id), course.missingCountsZero, figureOf),
    ),
    standing: {
      soFar: figure(standing.markedSoFar),
      low: figure(standing.low),
      high: figure(standing.high),
    },
    scaled: scaledOf(standing, course.scale),
  };
}

function scaledOf({ low, high }: CourseStanding, scale: CourseOfPerson["scale"]): string | null {
  if (!scale || !low || !high) return null;
  return say(low.equals(high) ? onScale(low, scale) : rangeOnScale(low, high, scale));
}
