import { and, asc, desc, eq, gt, inArray, ne } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { cellState } from "@/core/gradebook/table-cell";
import type { TableStudent } from "@/core/gradebook/table-data";
import { typedMark } from "@/core/gradebook/typed-mark";
import { exact, shown } from "@/core/numbers/exact";
import { type Said, said } from "@/core/said";
import { type Database, inTransaction } from "@/data/database";
import { adjustment, gradebookCategory, gradebookItem, person } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import type { CourseOfPerson } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { badInput, notFound, Problem } from "../base/problems";
import { noteAll } from "../base/record";
import { notify } from "../notices/notify";
import { tableLines } from "./course-table";
import { courseWork, type WorkOfStudent } from "./course-work";
import { openGradebook } from "./open-gradebook";

const setter = alias(person, "setter");

/** More students than any course has. */
const MOST = 1_500;

const uuid = () =>
  yup
    .string()
    .strict()
    .test("uuid", said("server.course-gradebook.set-marks.this-is-not-an-id"), (id) => isUuid(id ?? ""))
    .required(said("server.course-gradebook.set-marks.this-is-not-an-id"));

const body = yup
  .object({
    itemId: uuid(),
    personIds: yup
      .array()
      .of(uuid())
      .min(1, said("server.course-gradebook.set-marks.choose-a-student"))
      .max(MOST)
      .required(said("server.course-gradebook.set-marks.choose-a-student")),
    /** Marks in the place of what the work gave; excused; or as the work itself gave it. */
    deed: yup
      .string()
      .strict()
      .oneOf(
        ["marks", "excuse", "as-the-work"] as const,
        said("server.course-gradebook.set-marks.no-such-deed"),
      )
      .required(said("server.course-gradebook.set-marks.no-such-deed")),
    /** As it was typed. */
    marks: yup.string().strict().max(40),
    /** Only those who have nothing in it. */
    onlyEmpty: yup.boolean().strict(),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.course-gradebook.set-marks.say-why"), hasWords)
      .max(500)
      .required(said("server.course-gradebook.set-marks.say-why")),
    /** The newest mark set by hand in this piece of work that was on the screen; 0: none was. */
    seen: yup
      .number()
      .strict()
      .integer()
      .min(0)
      .required(said("server.course-gradebook.set-marks.seen-is-missing")),
  })
  .strict()
  .noUnknown();

/** What setting marks came to. */
export interface MarksSet {
  readonly changed: number;
  /** The lines of those whose mark was set, as they are now. */
  readonly students: readonly TableStudent[];
}

/** A mark that is set for one student. */
export interface NewAdjustment {
  readonly itemId: string;
  readonly personId: string;
  readonly marks: string | null;
  readonly excused: boolean;
  readonly withdrawn: boolean;
}

/** The work of a course, held until the end of the transaction: two who set marks take turns. */
export async function holdItems(tx: Database, courseId: string, itemIds: readonly string[]) {
  const rows = await tx
    .select({ item: gradebookItem })
    .from(gradebookItem)
    .innerJoin(gradebookCategory, eq(gradebookCategory.id, gradebookItem.categoryId))
    .where(and(eq(gradebookCategory.courseId, courseId), inArray(gradebookItem.id, [...itemIds])))
    .orderBy(asc(gradebookItem.id))
    .for("update", { of: gradebookItem });
  return new Map(rows.map(({ item }) => [item.id, item]));
}

/**
 * Refuses what somebody else has set since the gradebook was read. Within one piece of work marks are numbered in the order in
 * which they are committed, because `holdItems` lets one write at a time.
 * @param seen the newest mark of this piece of work, set by hand, that was on the screen
 * @throws Problem 409 that names whom it is about
 */
async function refuseOvertaken(
  tx: Database,
  viewer: Viewer,
  itemId: string,
  personIds: readonly string[],
  seen: number,
): Promise<void> {
  const [overtaken] = await tx
    .select({ name: person.name, by: setter.name, title: gradebookItem.title })
    .from(adjustment)
    .innerJoin(person, eq(person.id, adjustment.personId))
    .innerJoin(setter, eq(setter.id, adjustment.setBy))
    .innerJoin(gradebookItem, eq(gradebookItem.id, adjustment.itemId))
    .where(
      and(
        eq(adjustment.itemId, itemId),
        inArray(adjustment.personId, [...personIds]),
        gt(adjustment.added, seen),
        ne(adjustment.setBy, viewer.id),
      ),
    )
    .orderBy(desc(adjustment.added))
    .limit(1);
  if (!overtaken) return;
  throw new Problem(409, "set-meanwhile", t("server.course-gradebook.set-marks.set-meanwhile", overtaken));
}

const isEmpty = (student: WorkOfStudent, itemId: string): boolean => {
  const cell = student.cells.get(itemId);
  return cell !== undefined && ["missed", "to-come", "not-begun"].includes(cellState(cell));
};

/**
 * An instructor sets a mark for some students, excuses them, or lets the work itself count again, with a reason that they are
 * told. Nothing is changed where somebody else set one of these marks meanwhile.
 */
export async function setMarks(viewer: Viewer, slug: string, input: unknown): Promise<MarksSet> {
  const { itemId, personIds, deed, marks: typed, onlyEmpty, reason, seen } = inputOf(body, input);
  const course = await openGradebook(viewer, slug);
  const changed = await inTransaction(async (tx) => {
    const item = (await holdItems(tx, course.id, [itemId])).get(itemId);
    if (!item) throw notFound();
    const reading = deed === "marks" ? typedMark(typed ?? "", exact(item.maximum)) : null;
    if (reading && !reading.ok) throw badInput(reading.problem);
    const { students } = await courseWork(course.id, { personIds: [...new Set(personIds)] });
    if (students.length < new Set(personIds).size) throw notFound();
    await refuseOvertaken(
      tx,
      viewer,
      itemId,
      students.map(({ id }) => id),
      seen,
    );
    const chosen = students.filter((student) => {
      if (deed === "as-the-work") return isSetByHand(student, itemId);
      return !onlyEmpty || isEmpty(student, itemId);
    });
    if (chosen.length === 0) throw badInput(t("server.course-gradebook.set-marks.nobody-to-change"));
    await writeAdjustments(
      tx,
      { viewer, course, reason },
      chosen.map(({ id }) => ({
        itemId,
        personId: id,
        marks: reading?.marks ?? null,
        excused: deed === "excuse",
        withdrawn: deed === "as-the-work",
      })),
      new Map([[itemId, item]]),
    );
    return chosen.map(({ id }) => id);
  });
  return { changed: changed.length, students: await tableLines(course, changed) };
}

/** Whether what stands in a cell was set by hand. */
function isSetByHand(student: WorkOfStudent, itemId: string): boolean {
  const mark = student.cells.get(itemId)?.mark;
  return mark === "excused" || mark?.source === "adjusted";
}

type ItemRow = typeof gradebookItem.$inferSelect;

/** Writes marks that are set by hand, records each, and tells their students; within the transaction that decided them. */
export async function writeAdjustments(
  tx: Database,
  {
    viewer,
    course,
    reason,
  }: { readonly viewer: Viewer; readonly course: CourseOfPerson; readonly reason: string },
  all: readonly NewAdjustment[],
  items: ReadonlyMap<string, ItemRow>,
): Promise<void> {
  const createdAt = new Date(now());
  await tx
    .insert(adjustment)
    .values(all.map((each) => ({ ...each, id: newId(), reason, setBy: viewer.id, createdAt })));
  await noteAll(
    tx,
    all.map(({ itemId, personId, ...set }) => ({
      actorId: viewer.id,
      action: "set a mark",
      subject: "gradebook item" as const,
      subjectId: itemId,
      details: { personId, ...set, reason },
    })),
  );
  // Of several marks that are set at once each student is told once.
  const byPerson = new Map<string, NewAdjustment[]>();
  for (const each of all) byPerson.set(each.personId, [...(byPerson.get(each.personId) ?? []), each]);
  await notify(
    tx,
    [...byPerson].map(([personId, [first, ...others]]) => ({
      personId,
      kind: "gradebook" as const,
      text:
        first && others.length === 0
          ? tellingOf(first, items.get(first.itemId), reason)
          : said("server.course-gradebook.set-marks.several-are-set", {
              count: others.length + 1,
              course: course.title,
              reason,
            }),
      path: `/gradebook/${course.slug}${others.length === 0 ? `#work-${first?.itemId}` : ""}`,
    })),
  );
}

function tellingOf({ marks, withdrawn }: NewAdjustment, item: ItemRow | undefined, reason: string): Said {
  const title = item?.title ?? "";
  if (withdrawn) return said("server.course-gradebook.set-marks.as-the-work-gave-it", { title, reason });
  return marks === null
    ? said("server.course-gradebook.set-marks.you-are-excused", { title, reason })
    : said("server.course-gradebook.set-marks.your-mark-is-set", {
        title,
        marks: shown(marks),
        maximum: shown(item?.maximum ?? "0"),
        reason,
      });
}
