import { and, asc, desc, eq, inArray, sql } from "drizzle-orm";
import { type BankLine, holdsWords } from "@/core/draft/bank";
import { writtenQuestion } from "@/core/plain-form/write-question";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import {
  bankQuestion,
  bankShare,
  bankUse,
  bankVersion,
  course,
  enrolment,
  person,
  quiz,
} from "@/data/schema";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { bankLines } from "./bank-questions";

/** A quiz that asks, or asked, a question of the bank. */
export interface BankUsed {
  readonly quizId: string;
  readonly title: string;
  readonly version: number;
  /** How many handed-in attempts had it, and the mean share of its marks; null: none was marked. */
  readonly attempts: number;
  readonly facility: number | null;
}

/** A question of the bank as its page lists it. */
export interface BankEntry extends BankLine {
  /** The whole of it, with its key, as lines of text; null: it is another course's. */
  readonly whole: string | null;
  readonly versions: readonly { readonly version: number; readonly at: Instant; readonly by: string }[];
  readonly used: readonly BankUsed[];
}

/** Another course of the same instructor, which may be let take from this bank. */
export interface SharedWith {
  readonly slug: string;
  readonly title: string;
  readonly shares: boolean;
}

export interface BankView {
  readonly course: CourseOfPerson;
  readonly entries: readonly BankEntry[];
  /** All topics and tags that there are, in their order. */
  readonly topics: readonly string[];
  readonly tags: readonly string[];
  readonly shared: readonly SharedWith[];
}

/** What is looked for in a bank. */
export interface BankSearch {
  readonly words: string;
  readonly topic: string;
  readonly tag: string;
}

const holds = (line: BankLine, { words, topic, tag }: BankSearch): boolean =>
  (topic === "" || line.topic === topic) &&
  (tag === "" || line.tags.includes(tag)) &&
  holdsWords(line, words);

/** So many entries are shown whole at once; who looks for one among more searches. */
const SHOWN = 100;

/** The bank of a course for its instructors: what it holds, where it is used and how it behaved. @throws Problem "not found" */
export async function bankPage(viewer: Viewer, slug: string, search: BankSearch): Promise<BankView> {
  const own = await courseOf(viewer, slug);
  mustMay({ role: own.role, given: false }, "rule");
  const lines = await bankLines(own.id);
  const shown = lines.filter((line) => holds(line, search)).slice(0, SHOWN);
  const ids = shown.map(({ id }) => id);
  const mine = shown.filter(({ from }) => from === null).map(({ id }) => id);
  const [versions, used, questions, shared] = [
    await versionsOf(mine),
    await usesOf(own.id, ids),
    await questionsOf(mine),
    await sharedOf(viewer, own.id),
  ];
  return {
    course: own,
    entries: shown.map((line) => ({
      ...line,
      whole: questions.get(line.id) ?? null,
      versions: versions.filter(({ bankId }) => bankId === line.id),
      used: used.filter(({ bankId }) => bankId === line.id),
    })),
    topics: [...new Set(lines.map(({ topic }) => topic))],
    tags: [...new Set(lines.flatMap(({ tags }) => tags))].sort(),
    shared,
  };
}

async function versionsOf(ids: readonly string[]) {
  if (ids.length === 0) return [];
  const rows = await database()
    .select({ bankId: bankVersion.bankId, version: bankVersion.version, at: bankVersion.at, by: person.name })
    .from(bankVersion)
    .innerJoin(person, eq(person.id, bankVersion.byId))
    .where(inArray(bankVersion.bankId, [...ids]))
    .orderBy(desc(bankVersion.version));
  return rows.map(({ at, ...row }) => ({ ...row, at: at.getTime() }));
}

async function questionsOf(ids: readonly string[]): Promise<ReadonlyMap<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await database()
    .select({ id: bankQuestion.id, question: bankQuestion.question })
    .from(bankQuestion)
    .where(inArray(bankQuestion.id, [...ids]));
  return new Map(rows.map(({ id, question }) => [id, writtenQuestion(question)]));
}

/** The quizzes of this course that asked them, with what was earned: of each attempt the mark that holds. */
async function usesOf(courseId: string, ids: readonly string[]) {
  if (ids.length === 0) return [];
  const rows = await database()
    .select({
      bankId: bankUse.bankId,
      quizId: bankUse.quizId,
      title: quiz.title,
      version: bankUse.version,
      attempts: sql<number>`(
        select count(*)::int from attempt_question q join attempt a on a.id = q.attempt_id
        where a.quiz_id = ${bankUse.quizId} and q.question_id = ${bankUse.questionId} and a.handed_in_at is not null)`,
      facility: sql<number | null>`(
        select avg(share)::float8 from (
          select distinct on (m.attempt_id) m.marks / nullif(m.maximum, 0) as share from mark m
          join attempt_question q on q.attempt_id = m.attempt_id and q.slot = m.slot
          join attempt a on a.id = m.attempt_id
          where a.quiz_id = ${bankUse.quizId} and q.question_id = ${bankUse.questionId}
          order by m.attempt_id, m.added desc) held)`,
    })
    .from(bankUse)
    .innerJoin(quiz, and(eq(quiz.id, bankUse.quizId), eq(quiz.courseId, courseId)))
    .where(inArray(bankUse.bankId, [...ids]))
    .orderBy(asc(quiz.title));
  // A quiz may ask one in two places.
  const merged = new Map<string, (typeof rows)[number]>();
  for (const row of rows) {
    const key = `${row.bankId} ${row.quizId}`;
    const before = merged.get(key);
    merged.set(key, before ? together(before, row) : row);
  }
  return [...merged.values()];
}

const together = <U extends BankUsed>(one: U, other: U): U => {
  const attempts = one.attempts + other.attempts;
  const weighted = ({ facility, attempts: count }: U) => (facility ?? 0) * count;
  const isKnown = one.facility !== null || other.facility !== null;
  return {
    ...one,
    version: Math.max(one.version, other.version),
    attempts,
    facility: isKnown && attempts > 0 ? (weighted(one) + weighted(other)) / attempts : null,
  };
};

/** The other courses that this person teaches, with whether they may take from this bank. */
async function sharedOf(viewer: Viewer, courseId: string): Promise<SharedWith[]> {
  const rows = await database()
    .select({ id: course.id, slug: course.slug, title: course.title, shares: bankShare.courseId })
    .from(enrolment)
    .innerJoin(course, eq(course.id, enrolment.courseId))
    .leftJoin(bankShare, and(eq(bankShare.courseId, courseId), eq(bankShare.withId, course.id)))
    .where(and(eq(enrolment.personId, viewer.id), eq(enrolment.role, "instructor")))
    .orderBy(asc(course.title));
  return rows
    .filter(({ id }) => id !== courseId)
    .map(({ slug, title, shares }) => ({ slug, title, shares: shares !== null }));
}
