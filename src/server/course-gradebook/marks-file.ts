import { courseStanding } from "@/core/gradebook/standing";
import { cellState } from "@/core/gradebook/table-cell";
import { type Exact, shown, stored, withoutZeros } from "@/core/numbers/exact";
import { t } from "@/words/t";
import type { CourseOfPerson } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { mapInTurns } from "../base/breathe";
import { csvOf } from "../base/csv";
import { type CourseWork, courseWork, type WorkCell } from "./course-work";
import { openGradebook } from "./open-gradebook";

/** A mark with all the decimals that are kept, and none that say nothing. */
const whole = (mark: Exact): string => withoutZeros(stored(mark));

/** What stands in a cell, as a table of marks says it: a mark, what awaits as "?", "excused", or nothing. */
export function cellText(cell: WorkCell): { readonly text: string; readonly mark: Exact | null } {
  const { mark } = cell;
  if (mark === "excused") return { text: t("server.course-gradebook.marks-file.excused"), mark: null };
  if (mark === null || cellState(cell) === "not-set") return { text: "", mark: null };
  if (mark.awaited.n === 0n) return { text: whole(mark.earned), mark: mark.earned };
  return { text: mark.earned.n === 0n ? "?" : `${whole(mark.earned)} + ?`, mark: null };
}

/** What each piece of work is called in a table: its title, and its category's beside it where two have the same. */
export function titlesIn({ categories }: Pick<CourseWork, "categories">): Map<string, string> {
  const all = categories.flatMap(({ title: category, items }) =>
    items.map(({ id, title }) => ({ id, title, category })),
  );
  const times = (title: string) => all.filter((each) => each.title === title).length;
  return new Map(
    all.map(({ id, title, category }) => [
      id,
      times(title) > 1 ? t("server.course-gradebook.marks-file.title-in", { title, category }) : title,
    ]),
  );
}

const percent = (share: Exact | null): string => (share === null ? "" : shown(share.mul(100)));

/**
 * A course's marks as CSV in UTF-8, with a mark that programs for tables need to see that: a line a student, a column a piece
 * of work. What such programs would take for formulas is kept from it. Read back, it changes nothing.
 */
export async function marksFile(viewer: Viewer, slug: string): Promise<string> {
  const course: CourseOfPerson = await openGradebook(viewer, slug);
  const work = await courseWork(course.id);
  const titles = titlesIn(work);
  const items = work.categories.flatMap((category) => category.items);
  const fields = [
    t("server.course-gradebook.marks-file.column-student"),
    t("server.course-gradebook.marks-file.column-email"),
    ...items.map(({ id }) => titles.get(id) ?? ""),
    t("server.course-gradebook.marks-file.column-so-far"),
    t("server.course-gradebook.marks-file.column-low"),
    t("server.course-gradebook.marks-file.column-high"),
  ];
  const data = await mapInTurns(work.students, ({ name, email, cells, categories }) => {
    const standing = courseStanding(categories, { missingCountsZero: course.missingCountsZero });
    return [
      name,
      email,
      ...items.map(({ id }) => {
        const cell = cells.get(id);
        return cell ? cellText(cell).text : "";
      }),
      percent(standing.markedSoFar),
      percent(standing.low),
      percent(standing.high),
    ];
  });
  return csvOf(fields, data);
}
