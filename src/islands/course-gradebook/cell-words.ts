import type { CellMark, TableCell, TableItem, TableStudent } from "@/core/gradebook/table-data";
import { t } from "@/words/t";

/** What stands in a cell as a figure: "17", "33 + ?", "?"; null: it has none. */
export function cellFigure([state, earned, awaited]: TableCell): string | null {
  if (earned === undefined || earned === null) return null;
  if (!awaited || state !== "awaits") return earned;
  return earned === "0" ? "?" : `${earned} + ?`;
}

/** What stands in a cell that has no figure. */
export function cellWord([state]: TableCell): string {
  switch (state) {
    case "writing":
      return t("course-gradebook.cell-words.writing");
    case "not-begun":
      return t("course-gradebook.cell-words.not-begun");
    case "excused":
      return t("course-gradebook.cell-words.excused");
    case "not-set":
      return t("course-gradebook.cell-words.not-assigned");
    case "missed":
      return "–";
    default:
      return "";
  }
}

const MARK_WORDS: { readonly [M in CellMark]: () => string } = {
  late: () => t("course-gradebook.cell-words.late"),
  set: () => t("course-gradebook.cell-words.set"),
  dropped: () => t("course-gradebook.cell-words.dropped"),
  again: () => t("course-gradebook.cell-words.writing-again"),
  "stands-in": () => t("course-gradebook.cell-words.stands-in"),
  "taking-part": () => t("course-gradebook.cell-words.for-taking-part"),
};

/** What is seen beside a figure; what is dropped is struck through instead. */
export const wordsBeside = ([, , , marks = []]: TableCell): string[] =>
  marks.filter((each) => each !== "dropped" && each !== "taking-part").map((each) => MARK_WORDS[each]());

/** A cell in words, for those who do not see it. */
export function cellInWords(student: TableStudent, item: TableItem, cell: TableCell): string {
  const [state, , , marks = []] = cell;
  const figure = cellFigure(cell);
  const what =
    state === "missed"
      ? t("course-gradebook.cell-words.nothing-handed-in")
      : state === "to-come"
        ? t("course-gradebook.cell-words.to-come")
        : figure === null
          ? cellWord(cell)
          : t("course-gradebook.cell-words.of", { figure, maximum: item.maximum });
  return [
    t("course-gradebook.cell-words.who-and-what", { name: student.name, title: item.title }),
    what,
    ...(state === "awaits" ? [t("course-gradebook.cell-words.awaits-marking")] : []),
    ...marks.map((each) => MARK_WORDS[each]()),
  ].join(t("joint.commas"));
}
