import { SECOND } from "@/core/time/instants";
import { say, t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { csvOf } from "../base/csv";
import { remarkablesOf } from "./figures-words";
import { type FiguresChoice, figuresOf } from "./quiz-figures";

const COLUMNS = [
  "number",
  "question",
  "attempts",
  "facility",
  "deviation",
  "discrimination",
  "seconds",
  "remarkable",
] as const;
const figure = (value: number | null): string => (value === null ? "" : value.toFixed(4));

/** In whole seconds: a time is not known more exactly. */
const seconds = (time: number | undefined): string =>
  time === undefined ? "" : `${Math.round(time / SECOND)}`;

/** The figures of a quiz's questions as CSV, as they are shown. */
export async function figuresFile(viewer: Viewer, quizId: string, choice: FiguresChoice): Promise<string> {
  const view = await figuresOf(viewer, quizId, choice);
  const fields = COLUMNS.map((column) => t(`server.figures.figures-file.column-${column}`));
  const data = view.questions.map(({ id, number, title }, i) => {
    const of = view.figures.questions[i];
    return [
      number,
      title,
      of?.attempts ?? 0,
      figure(of?.facility ?? null),
      figure(of?.deviation ?? null),
      figure(of?.discrimination ?? null),
      seconds(view.times.get(id)),
      remarkablesOf(view, id).map(say).join("; "),
    ];
  });
  return csvOf(fields, data);
}
