import { and, asc, eq, inArray, sql } from "drizzle-orm";
import { type CountingTotals, countingTotals } from "@/core/attempt/late";
import { windowState } from "@/core/attempt/window";
import { countedMark } from "@/core/gradebook/counts";
import { adjustmentIn, type ItemMark, type ItemTerms, itemMark } from "@/core/gradebook/item-mark";
import type { Category } from "@/core/gradebook/standing";
import { type CellFacts, itemOfStudent } from "@/core/gradebook/table-cell";
import { exact } from "@/core/numbers/exact";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { assignment, enrolment, gradebookCategory, gradebookItem, person, quiz } from "@/data/schema";
import { allowancesIn, windowOf } from "../access/allowances";
import { mapInTurns } from "../base/breathe";
import { now } from "../base/clock";

type CategoryRow = typeof gradebookCategory.$inferSelect;
type ItemRow = typeof gradebookItem.$inferSelect;
type QuizRow = Pick<
  typeof quiz.$inferSelect,
  "id" | "opens" | "due" | "closes" | "settings" | "onlyAssigned"
>;

/** One student with one piece of work. */
export interface WorkCell extends CellFacts {
  /** Whether what counts of it was handed in late. */
  readonly isLate: boolean;
}

/** All that counts in a course for one student. */
export interface WorkOfStudent {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly cells: ReadonlyMap<string, WorkCell>;
  readonly categories: readonly Category[];
}

/** All that counts in a course, for everyone in it. */
export interface CourseWork {
  readonly categories: readonly (CategoryRow & { readonly items: readonly ItemRow[] })[];
  readonly students: readonly WorkOfStudent[];
  /** The number of the newest mark that was set by hand, by piece of work. */
  readonly seen: ReadonlyMap<string, number>;
}

/** Whose work is wanted; everyone's where nothing is said. */
interface Wanted {
  readonly personIds?: readonly string[];
}

interface AttemptFacts extends Record<string, unknown> {
  quiz_id: string;
  person_id: string;
  handed_in_at: number | null;
  earned: string | null;
  awaited: string | null;
  maximum: string;
  added_ms: string;
}

interface SetMark extends Record<string, unknown> {
  item_id: string;
  person_id: string;
  added: string;
  marks: string | null;
  excused: boolean;
  withdrawn: boolean;
  reason: string;
}

const idsIn = (ids: readonly string[]) =>
  sql`(${sql.join(
    ids.map((id) => sql`${id}::uuid`),
    sql`, `,
  )})`;

/** By student, and there by the quiz or the piece of work. */
function byPersonAnd<Row extends { readonly person_id: string }>(
  rows: readonly Row[],
  other: (row: Row) => string,
): Map<string, Map<string, Row[]>> {
  const found = new Map<string, Map<string, Row[]>>();
  for (const row of rows) {
    const own = found.get(row.person_id) ?? new Map<string, Row[]>();
    found.set(row.person_id, own);
    const list = own.get(other(row));
    if (list) list.push(row);
    else own.set(other(row), [row]);
  }
  return found;
}

async function plannedIn(courseId: string) {
  const rows = await database()
    .select({ category: gradebookCategory, item: gradebookItem })
    .from(gradebookCategory)
    .leftJoin(gradebookItem, eq(gradebookItem.categoryId, gradebookCategory.id))
    .where(eq(gradebookCategory.courseId, courseId))
    .orderBy(asc(gradebookCategory.position), asc(gradebookItem.position));
  const categories = new Map<string, CategoryRow & { items: ItemRow[] }>();
  for (const { category, item } of rows) {
    const known = categories.get(category.id) ?? { ...category, items: [] };
    categories.set(category.id, known);
    if (item) known.items.push(item);
  }
  return [...categories.values()];
}

/**
 * All that counts in a course, for each of its students: every mark there is, whether or not its student may see it yet. Eight
 * queries at most, however many students and pieces of work there are.
 */
export async function courseWork(courseId: string, { personIds }: Wanted = {}): Promise<CourseWork> {
  const db = database();
  const categories = await plannedIn(courseId);
  const items = categories.flatMap((category) => category.items);
  const quizIds = items.flatMap(({ quizId }) => quizId ?? []);
  const students = await db
    .select({ id: person.id, name: person.name, email: person.email })
    .from(enrolment)
    .innerJoin(person, eq(person.id, enrolment.personId))
    .where(
      and(
        eq(enrolment.courseId, courseId),
        eq(enrolment.role, "student"),
        personIds === undefined ? undefined : inArray(enrolment.personId, [...personIds]),
      ),
    )
    .orderBy(asc(person.name), asc(person.id));
  const theirs = personIds === undefined ? sql`true` : sql`x.person_id in ${idsIn(personIds)}`;
  const none = quizIds.length === 0 || students.length === 0;
  const quizzes: QuizRow[] = none
    ? []
    : await db
        .select({
          id: quiz.id,
          opens: quiz.opens,
          due: quiz.due,
          closes: quiz.closes,
          settings: quiz.settings,
          onlyAssigned: quiz.onlyAssigned,
        })
        .from(quiz)
        .where(inArray(quiz.id, quizIds));
  const attempts = none
    ? []
    : await db.execute<AttemptFacts>(sql`
        select x.quiz_id, x.person_id, (extract(epoch from x.handed_in_at) * 1000)::float8 as handed_in_at,
          x.earned::text, x.awaited::text, x.maximum::text, x.added_ms::text
        from attempt x where x.quiz_id in ${idsIn(quizIds)} and ${theirs}
        order by x.number`);
  const listed = quizzes.some(({ onlyAssigned }) => onlyAssigned)
    ? await db.select().from(assignment).where(inArray(assignment.quizId, quizIds))
    : [];
  const set =
    items.length === 0
      ? []
      : await db.execute<SetMark>(sql`
        select distinct on (x.item_id, x.person_id) x.item_id, x.person_id, x.added::text, x.marks::text, x.excused, x.withdrawn, x.reason
        from adjustment x where x.item_id in ${idsIn(items.map(({ id }) => id))} and ${theirs}
        order by x.item_id, x.person_id, x.added desc`);
  const chosen =
    items.length === 0
      ? []
      : await db.execute<{ item_id: string; person_id: string }>(sql`
        select x.item_id, x.person_id from stand_in x where x.item_id in ${idsIn(items.map(({ id }) => id))} and ${theirs}`);

  const facts: Facts = {
    at: now(),
    quizzes: new Map(quizzes.map((each) => [each.id, each])),
    attempts: byPersonAnd(attempts, (row) => row.quiz_id),
    allowed: await allowancesIn(quizIds),
    listed: new Set(listed.map(({ quizId, personId }) => pair(personId, quizId))),
    set: byPersonAnd(set, (row) => row.item_id),
    chosen: new Set(chosen.map((row) => pair(row.person_id, row.item_id))),
    standingIn: new Map(
      items.flatMap((item) => (item.standsInForId === null ? [] : [[item.standsInForId, item]])),
    ),
  };
  return {
    categories,
    seen: newestOf(set),
    students: await mapInTurns(students, ({ id, name, email }) => {
      const cells = new Map(items.map((item) => [item.id, cellOf(id, item, facts)]));
      return {
        id,
        name,
        email,
        cells,
        categories: categories.map((category) => ({
          id: category.id,
          weight: exact(category.weight),
          mean: category.mean,
          dropLowest: category.dropLowest,
          items: category.items.flatMap((item) => {
            const cell = cells.get(item.id);
            return cell ? [itemOfStudent(cell)] : [];
          }),
        })),
      };
    }),
  };
}

function newestOf(set: readonly SetMark[]): Map<string, number> {
  const newest = new Map<string, number>();
  for (const { item_id: itemId, added } of set)
    newest.set(itemId, Math.max(newest.get(itemId) ?? 0, Number(added)));
  return newest;
}

/** What was read of a course, so that each cell finds its own. */
interface Facts {
  readonly at: Instant;
  readonly quizzes: ReadonlyMap<string, QuizRow>;
  readonly attempts: ReadonlyMap<string, ReadonlyMap<string, readonly AttemptFacts[]>>;
  readonly allowed: Awaited<ReturnType<typeof allowancesIn>>;
  readonly listed: ReadonlySet<string>;
  readonly set: ReadonlyMap<string, ReadonlyMap<string, readonly SetMark[]>>;
  readonly chosen: ReadonlySet<string>;
  /** What may stand in, by what it stands in for. */
  readonly standingIn: ReadonlyMap<string, ItemRow>;
}

const pair = (personId: string, other: string) => `${personId} ${other}`;

/** One student's attempts at the quiz of a piece of work, as they count; null: it is marked outside Shizuka. */
function sittingOf(personId: string, item: ItemRow, facts: Facts) {
  const quizRow = item.quizId === null ? undefined : facts.quizzes.get(item.quizId);
  if (!quizRow) return null;
  const window = windowOf(quizRow, facts.allowed(quizRow.id, personId));
  const attempts = facts.attempts.get(personId)?.get(quizRow.id) ?? [];
  const totals = attempts.flatMap((each): CountingTotals[] =>
    each.handed_in_at === null
      ? []
      : [
          countingTotals({
            earned: each.earned ?? "0",
            awaited: each.awaited ?? "0",
            maximum: each.maximum,
            handedInAt: each.handed_in_at,
            due: window.due,
            costPerDay: quizRow.settings.lateCostPerDay ?? null,
            added: Number(each.added_ms),
          }),
        ],
  );
  return {
    totals,
    counted: countedMark(quizRow.settings.counts, totals, exact(item.maximum)),
    isRunning: attempts.some((each) => each.handed_in_at === null),
    isAssigned: !quizRow.onlyAssigned || facts.listed.has(pair(personId, quizRow.id)),
    window: windowState(window, facts.at),
  };
}

type Sat = ReturnType<typeof sittingOf>;

function markOf(
  personId: string,
  item: ItemRow,
  sat: Sat,
  facts: Facts,
  standsIn?: ItemTerms["standsIn"],
): ItemMark | null | "excused" {
  const [set] = facts.set.get(personId)?.get(item.id) ?? [];
  return itemMark({
    maximum: exact(item.maximum),
    counted: sat?.counted ?? null,
    fullForTakingPart: item.fullForTakingPart,
    adjustment: adjustmentIn(set),
    standsIn,
  });
}

/** What a student chose to let stand in for a piece of work, with its own mark. */
function standInOf(personId: string, item: ItemRow, facts: Facts): ItemTerms["standsIn"] {
  const other = facts.chosen.has(pair(personId, item.id)) ? facts.standingIn.get(item.id) : undefined;
  if (!other) return undefined;
  const mark = markOf(personId, other, sittingOf(personId, other, facts), facts);
  return { title: other.title, maximum: exact(other.maximum), mark: mark === "excused" ? null : mark };
}

function cellOf(personId: string, item: ItemRow, facts: Facts): WorkCell {
  const sat = sittingOf(personId, item, facts);
  const mark = markOf(personId, item, sat, facts, standInOf(personId, item, facts));
  const computed = mark === "excused" ? null : mark?.computed;
  const counting = typeof computed?.attempt === "number" ? [sat?.totals[computed.attempt]] : sat?.totals;
  return {
    id: item.id,
    maximum: exact(item.maximum),
    mark,
    isAssigned: sat?.isAssigned ?? true,
    isHandedIn: (sat?.totals.length ?? 0) > 0,
    isRunning: sat?.isRunning ?? false,
    window: sat?.window ?? null,
    isLate: counting?.some((total) => (total?.daysLate ?? 0) > 0) ?? false,
  };
}
