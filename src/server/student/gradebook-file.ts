import papaparse from "papaparse";
import type { Viewer } from "../viewer";
import { gradebookOf } from "./gradebook";

/**
 * A course's gradebook as CSV in UTF-8, with a mark that programs for tables need to see that. Marks that wait are "?",
 * never a number; texts that such programs would take for formulas are kept from it.
 */
export async function gradebookFile(viewer: Viewer, slug: string): Promise<string> {
  const book = await gradebookOf(viewer, slug);
  const rows = book.categories.flatMap((category) =>
    category.rows.map((row) => ({
      Category: category.title,
      Work: row.title,
      State: row.state,
      Attempts: row.attempts.map(({ figure }) => figure).join("; "),
      Marks: row.mark?.figure ?? "",
      Maximum: row.maximum,
      Weight: row.weight,
      "Per cent": row.mark?.percent ?? "",
      "Why this mark": row.why,
    })),
  );
  const { markedSoFar, range, stillToCome } = book.standing;
  const totals = [
    ["Marked so far", markedSoFar],
    ["All that is handed in, once it is marked", range],
    ["Still to come", stillToCome],
  ].map(([Work, figure]) => ({
    Category: "Course",
    Work,
    State: `${viewer.name}, ${book.course.code} ${book.course.title}`,
    Attempts: "",
    Marks: "",
    Maximum: "",
    Weight: "",
    "Per cent": figure ?? "",
    "Why this mark": "",
  }));
  return `\uFEFF${papaparse.unparse([...rows, ...totals], { escapeFormulae: true })}\r\n`;
}
