import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { csvOf } from "../base/csv";
import { gradebookOf } from "./gradebook";

const COLUMNS = [
  "category",
  "work",
  "state",
  "attempts",
  "marks",
  "maximum",
  "weight",
  "per-cent",
  "why",
] as const;

/**
 * A course's gradebook as CSV in UTF-8, with a mark that programs for tables need to see that. Marks that wait are "?",
 * never a number; texts that such programs would take for formulas are kept from it.
 */
export async function gradebookFile(viewer: Viewer, slug: string): Promise<string> {
  const book = await gradebookOf(viewer, slug);
  const rows = book.categories.flatMap((category) =>
    category.rows.map((row) => [
      category.title,
      row.title,
      row.state,
      row.attempts.map(({ figure }) => figure).join("; "),
      row.mark?.figure ?? "",
      row.maximum,
      row.weight,
      row.mark?.percent ?? "",
      row.why,
    ]),
  );
  const { markedSoFar, range, stillToCome } = book.standing;
  const course = t("server.gradebook.gradebook-file.course");
  const whose = `${viewer.name}, ${book.course.code} ${book.course.title}`;
  const totals = [
    [t("server.gradebook.gradebook-file.marked-so-far"), markedSoFar],
    [t("server.gradebook.gradebook-file.all-that-is-handed-in-once"), range],
    [t("server.gradebook.gradebook-file.still-to-come"), stillToCome],
  ].map(([work, figure]) => [course, work, whose, "", "", "", "", figure ?? "", ""]);
  const fields = COLUMNS.map((column) => t(`server.gradebook.gradebook-file.column-${column}`));
  const data = [...rows, ...totals];
  return csvOf(fields, data);
}
