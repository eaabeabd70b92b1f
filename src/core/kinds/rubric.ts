import { type Exact, exact, shown, sum, ZERO } from "../numbers/exact";
import { type Said, said } from "../said";

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

/** What a marker decided of one criterion: a level, or points between the levels; and what they say of it. */
export interface CriterionMark {
  /** The id of the level reached. */
  readonly level?: string | undefined;
  /** Exact, as text: given in the place of a level's. */
  readonly points?: string | undefined;
  readonly remark?: string | undefined;
}

/** What was decided by a rubric, by criterion. */
export type CriteriaMarks = Readonly<Record<string, CriterionMark>>;

export type RubricScore =
  | { readonly ok: true; readonly marks: Exact; readonly left: readonly RubricCriterion[] }
  | { readonly ok: false; readonly problem: Said };

/**
 * The points of one criterion; null while nothing is decided of it.
 * @example pointsIn({ id: "a", title: "A", levels: [{ id: "all", title: "All", points: 2 }] }, { level: "all" }) → exact("2")
 */
export function pointsIn(criterion: RubricCriterion, decided: CriterionMark | undefined): Exact | null {
  if (decided?.points !== undefined) return exact(decided.points);
  const level = criterion.levels.find(({ id }) => id === decided?.level);
  return level ? pointsOf(level) : null;
}

const problemOf = (criterion: RubricCriterion, { level, points }: CriterionMark): Said | null => {
  const { title } = criterion;
  if (level !== undefined && !criterion.levels.some(({ id }) => id === level))
    return said("kinds.rubric.the-criterion-has-no-level", { title, levelId: level });
  if (points === undefined) return null;
  const most = mostOf(criterion);
  const wrong = said("kinds.rubric.points-must-be-from-0-to", { title, most: shown(most) });
  try {
    const given = exact(points);
    return given.compare(ZERO) < 0 || given.compare(most) > 0 ? wrong : null;
  } catch {
    return wrong;
  }
};

/**
 * The marks of what was decided by a rubric, and which criteria are left.
 * @example scoreRubric({ criteria: [{ id: "a", title: "A", levels: [{ id: "all", title: "All", points: 2 }] }] }, { a: { level: "all" } }) → { ok: true, marks: exact("2"), left: [] }
 */
export function scoreRubric(rubric: Rubric, decided: CriteriaMarks): RubricScore {
  const left: RubricCriterion[] = [];
  let marks = ZERO;
  const unknown = Object.keys(decided).find((id) => !rubric.criteria.some((each) => each.id === id));
  if (unknown !== undefined)
    return { ok: false, problem: said("kinds.rubric.there-is-no-criterion", { criterionId: unknown }) };
  for (const criterion of rubric.criteria) {
    const own = Object.hasOwn(decided, criterion.id) ? decided[criterion.id] : undefined;
    const problem = own && problemOf(criterion, own);
    if (problem) return { ok: false, problem };
    const points = pointsIn(criterion, own);
    if (points === null) left.push(criterion);
    else marks = marks.add(points);
  }
  return { ok: true, marks, left };
}
