import { and, asc, eq, inArray, isNull, or, sql } from "drizzle-orm";
import {
  type BankChoice,
  type BankLine,
  type BankPicture,
  type BankQuestion,
  isChosen,
} from "@/core/draft/bank";
import { firstWords, plainText } from "@/core/text/plain-text";
import { database, type Queryable } from "@/data/database";
import { asset, bankQuestion, bankShare, course } from "@/data/schema";
import { newId } from "@/data/schema/columns";

type Row = typeof bankQuestion.$inferSelect;

/** The courses whose banks a course may take from: its own, and those that are shared with it. */
const mayBeTakenBy = (courseId: string) =>
  and(
    isNull(bankQuestion.removedAt),
    or(
      eq(bankQuestion.courseId, courseId),
      inArray(
        bankQuestion.courseId,
        database().select({ id: bankShare.courseId }).from(bankShare).where(eq(bankShare.withId, courseId)),
      ),
    ),
  );

/** The questions that a course may take, as lists name them: by topic, then in the order in which they came. One query. */
export async function bankLines(courseId: string): Promise<BankLine[]> {
  const rows = await database()
    .select({ row: bankQuestion, course: course.title })
    .from(bankQuestion)
    .innerJoin(course, eq(course.id, bankQuestion.courseId))
    .where(mayBeTakenBy(courseId))
    .orderBy(asc(bankQuestion.topic), asc(bankQuestion.id));
  return rows.map(({ row, course: title }) => ({
    id: row.id,
    version: row.version,
    topic: row.topic,
    tags: row.tags,
    kind: row.question.kind,
    marks: row.question.marks,
    words: firstWords(plainText(row.question.text), 120),
    from: row.courseId === courseId ? null : title,
  }));
}

/**
 * Questions that a course may take, whole, with their pictures as files of that course: what another course shares is kept
 * in it too. What it may not take is left out.
 */
export async function bankQuestions(
  db: Queryable,
  courseId: string,
  wanted: { readonly ids: readonly string[]; readonly choices: readonly BankChoice[] },
): Promise<BankQuestion[]> {
  const { ids, choices } = wanted;
  if (ids.length === 0 && choices.length === 0) return [];
  const topics = choices.map(({ topic }) => topic);
  const found = await db
    .select()
    .from(bankQuestion)
    .where(
      and(
        mayBeTakenBy(courseId),
        or(
          ids.length > 0 ? inArray(bankQuestion.id, [...ids]) : undefined,
          topics.length > 0 ? inArray(bankQuestion.topic, topics) : undefined,
        ),
      ),
    )
    .orderBy(asc(bankQuestion.topic), asc(bankQuestion.id));
  const rows = found.filter((row) => ids.includes(row.id) || choices.some((choice) => isChosen(row, choice)));
  const own = await assetsIn(db, courseId, rows);
  return rows.map((row) => ({
    id: row.id,
    version: row.version,
    topic: row.topic,
    tags: row.tags,
    question: row.question,
    pictures: row.pictures.map(
      (picture): BankPicture => ({
        ...picture,
        asset: own.get(picture.asset) ?? picture.asset,
      }),
    ),
  }));
}

/** The files of another course's questions as files of this one, by what they are there. */
async function assetsIn(db: Queryable, courseId: string, rows: readonly Row[]): Promise<Map<string, string>> {
  const foreign = rows
    .filter((row) => row.courseId !== courseId)
    .flatMap(({ pictures }) => pictures.map((each) => each.asset));
  const own = new Map<string, string>();
  for (const id of new Set(foreign)) {
    await db.execute(sql`
      insert into asset (id, course_id, type, digest, aspect, bytes, created_by)
      select ${newId()}, ${courseId}, type, digest, aspect, bytes, created_by from asset where id = ${id}
      on conflict do nothing`);
    const [kept] = await db
      .select({ id: asset.id })
      .from(asset)
      .where(
        and(eq(asset.courseId, courseId), eq(asset.digest, sql`(select digest from asset where id = ${id})`)),
      );
    if (kept) own.set(id, kept.id);
  }
  return own;
}
