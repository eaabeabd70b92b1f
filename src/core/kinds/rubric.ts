import * as yup from "yup";
import { type Exact, exact, sum, ZERO } from "../numbers/exact";
import { type Said, said } from "../said";
import { exactNumber, exactObject, identifier, richText, uniqueBy } from "./shapes";

export interface RubricLevel {
  readonly id: string;
  readonly title: string;
  readonly points: number | string;
  /** Rich text. */
  readonly text?: string | undefined;
}

export interface RubricCriterion {
  readonly id: string;
  readonly title: string;
  readonly levels: readonly RubricLevel[];
}

/** How a person marks: criteria with levels and points. */
export interface Rubric {
  readonly criteria: readonly RubricCriterion[];
}

export const rubricShape = exactObject({
  criteria: yup
    .array()
    .of(
      exactObject({
        id: identifier(),
        title: yup.string().strict().min(1).max(300).required(),
        levels: yup
          .array()
          .of(
            exactObject({
              id: identifier(),
              title: yup.string().strict().min(1).max(300).required(),
              points: exactNumber(0, 1000).required(),
              text: richText(),
            }),
          )
          .min(1, said("kinds.rubric.must-have-at-least-one-level"))
          .max(20)
          .required()
          .test("ids", said("kinds.rubric.must-have-levels-with-different-ids"), uniqueBy("id")),
      }),
    )
    .min(1, said("kinds.rubric.must-have-at-least-one-criterion"))
    .max(30)
    .required()
    .test("ids", said("kinds.rubric.must-have-criteria-with-different-ids"), uniqueBy("id")),
});

const pointsOf = (level: RubricLevel): Exact => exact(level.points);
/**
 * The most that a criterion can give.
 * @example mostOf({ id: "order", title: "Order", levels: [{ id: "some", title: "Some", points: 1 }, { id: "all", title: "All", points: 2 }] }) → exact("2")
 */
export const mostOf = ({ levels }: RubricCriterion): Exact =>
  levels.map(pointsOf).reduce((most, each) => (each.compare(most) > 0 ? each : most), ZERO);

/**
 * The most that a rubric can give.
 * @example rubricMaximum({ criteria: [{ id: "a", title: "A", levels: [{ id: "all", title: "All", points: 2 }] }] }) → exact("2")
 */
export const rubricMaximum = (rubric: Rubric): Exact => sum(rubric.criteria.map(mostOf));

export type RubricScore =
  | { readonly ok: true; readonly marks: Exact; readonly complete: boolean }
  | { readonly ok: false; readonly problem: Said };

/**
 * The marks of the chosen levels, one for each criterion (criterion id to level id); complete when none is left out.
 * @example scoreRubric({ criteria: [{ id: "a", title: "A", levels: [{ id: "all", title: "All", points: 2 }] }] }, { a: "all" }) → { ok: true, marks: exact("2"), complete: true }
 */
export function scoreRubric(rubric: Rubric, chosen: Readonly<Record<string, string>>): RubricScore {
  let marks = ZERO;
  for (const [criterionId, levelId] of Object.entries(chosen)) {
    const criterion = rubric.criteria.find((each) => each.id === criterionId);
    if (!criterion)
      return { ok: false, problem: said("kinds.rubric.there-is-no-criterion", { criterionId }) };
    const level = criterion.levels.find((each) => each.id === levelId);
    if (!level)
      return {
        ok: false,
        problem: said("kinds.rubric.the-criterion-has-no-level", { title: criterion.title, levelId }),
      };
    marks = marks.add(pointsOf(level));
  }
  return { ok: true, marks, complete: rubric.criteria.every((each) => Object.hasOwn(chosen, each.id)) };
}
