import type { AttemptProgress } from "@/core/attempt/attempt-progress";
import type { PracticeQuestion, PracticeTold } from "@/core/desk/practice-view";
import { answering, type PresentedQuestion } from "@/core/kinds/answering";
import { drawnFields, formulasDrawn, plainTex } from "@/core/kinds/drawn";
import { CONTENT_FIELDS, type FieldUses, RECORDING_FIELDS, STIMULUS_FIELDS } from "@/core/kinds/fields";
import type { Rubric } from "@/core/kinds/rubric";
import type { PaperQuestion } from "@/core/reveal/marked-paper";
import type { Told } from "@/core/reveal/told";
import { drawnTex } from "./tex";
import { drawWritten } from "./written-formulas";

/**
 * A formula in TeX as HTML with MathML for screen readers, between marks by which plain text finds the TeX again. What
 * cannot be read is shown as it was written.
 */
const drawnFormula = (tex: string, html = drawnTex(tex)): string =>
  `<!--formula ${tex.replace(/&/g, "&amp;").replace(/>/g, "&gt;")}-->${html}<!--/formula-->`;

/** Rich text with its formulas, written as \\( ... \\), drawn. */
export const withFormulas = (rich: string): string => formulasDrawn(rich, (tex) => drawnFormula(tex));

/** A formula in an essay: its element, with its TeX as an attribute. */
const WRITTEN =
  /<(span|div)(?=[^>]*data-type="(?:inline|block)-math")[^>]*data-latex="([^"]*)"[^>]*>\s*<\/\1>/g;
const texOf = (attribute: string): string => plainTex(attribute.replace(/&quot;/g, '"'));

/** The formulas that are written in an essay, in TeX. */
export const writtenFormulas = (rich: string): string[] =>
  [...rich.matchAll(WRITTEN)].map(([, , attribute = ""]) => texOf(attribute));

/** An essay with its formulas drawn in their place. */
export async function drawnEssay(rich: string): Promise<string> {
  const formulas = writtenFormulas(rich);
  if (formulas.length === 0) return rich;
  const drawings = await drawWritten(formulas);
  return rich.replace(WRITTEN, (_, tag: string, attribute: string) => {
    const tex = texOf(attribute);
    return `<${tag}>${drawnFormula(tex, drawings.get(tex))}</${tag}>`;
  });
}

const drawnRich = <T>(value: T, uses: FieldUses): T => drawnFields(value, uses, (tex) => drawnFormula(tex));

/** A question as its student sees it, with its formulas drawn. */
export const drawnQuestion = <Q extends PresentedQuestion>(question: Q): Q =>
  drawnRich(question, answering(question.kind).fields);

const drawnTold = (told: Told): Told => drawnRich(told, { parts: [{ feedback: "rich" }] });

/** What is on a desk, with its formulas drawn. */
export const drawnProgress = (progress: AttemptProgress): AttemptProgress => ({
  ...progress,
  slots: progress.slots.map((slot) => ({
    ...slot,
    question: slot.question && drawnQuestion(slot.question),
    told: slot.told && drawnTold(slot.told),
  })),
});

const PAPER_FIELDS: FieldUses = {
  text: "rich",
  stimulus: STIMULUS_FIELDS,
  recording: RECORDING_FIELDS,
  worked: "rich",
  readMore: "rich",
  model: "rich",
  options: [CONTENT_FIELDS],
  parts: [{ feedback: "rich" }],
  rubric: [{ reached: { text: "rich" } }],
  feedback: "rich",
  notes: [{ text: "rich" }],
};

/** The questions of a marked paper, with the formulas of their author and of its writer drawn. */
export const drawnPaper = (questions: readonly PaperQuestion[]): Promise<PaperQuestion[]> =>
  Promise.all(
    questions.map(async (question) => {
      const drawn = drawnRich(question, PAPER_FIELDS);
      const { shown } = drawn;
      return shown?.kind === "rich"
        ? { ...drawn, shown: { ...shown, rich: await drawnEssay(shown.rich) } }
        : drawn;
    }),
  );

/** A rubric with the formulas of its author drawn. */
export const drawnRubric = (rubric: Rubric): Rubric =>
  drawnRich(rubric, { criteria: [{ levels: [{ text: "rich" }] }] });

/** What is said of a practised question, with its formulas drawn. */
export const drawnPracticeTold = (told: PracticeTold): PracticeTold =>
  drawnRich(told, { worked: "rich", parts: [{ feedback: "rich" }] });

/** A practised question, with its formulas drawn. */
export const drawnPractice = (question: PracticeQuestion): PracticeQuestion => ({
  ...question,
  presented: drawnQuestion(question.presented),
});
