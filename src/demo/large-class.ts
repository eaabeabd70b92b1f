import { sql } from "drizzle-orm";
import { exact, stored } from "@/core/numbers/exact";
import { chance } from "@/core/numbers/seeded";
import { DAY, HOUR, type Instant, MINUTE } from "@/core/time/instants";
import { inTransaction, type Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { now } from "@/server/base/clock";
import { hashPassword } from "@/server/sign-in/accounts";
import { charactersOf } from "./class/characters";
import type { ClassAttempt } from "./class/class-attempts";
import type { SetQuiz } from "./college";
import type { DemoQuiz, Ids } from "./demo-quiz";
import { addressOf, DEMO_PASSWORD, INSTRUCTORS } from "./people";
import { quizFile } from "./quiz-files";
import { writeTaken } from "./write-attempts";
import { writeQuiz } from "./write-demo";

/** A course of five hundred, to try the gradebook, the watch and the figures at size. */
export const LARGE_COURSE = { slug: "nav-200", code: "NAV 200", title: "Navigation for All" } as const;
/** The quiz of it that runs when the demo is laid. */
export const LARGE_SITTING = "Tides, everyone at once";

const STUDENTS = 500;
/** Pieces of work marked on paper, beside the quizzes: with them there are sixty. */
const SHEETS = 56;
const SECTIONS = ["Monday, first watch", "Monday, second watch", "Tuesday", "Thursday", "By distance"];
/** So many attempts are written in one transaction. */
const TOGETHER = 60;
/** So many rows at once go into one statement. */
const ROWS_AT_ONCE = 2_000;

const FIRST =
  "Adisa Beatrix Corwin Dalisay Edmund Folake Gunnar Hesper Idris Juniper Kwabena Lorelei Maarten Nadira Osric Petronella Quillon Rashida Sorrel Tamsin Ulrika Vashti Wystan Xanthe Yevgenia".split(
    " ",
  );
const LAST =
  "Ashgrove Birkeland Calloway Dunmarrow Ekström Fenwright Galbraithe Hollins Ingleby Jarnefelt Kestrelby Lindmoor Marchbank Norrland Oakhurst Pellinore Quennell Ravensby Stainforth Tarrow".split(
    " ",
  );

/** Five hundred names, each another. */
export const largeNames = (): string[] =>
  Array.from(
    { length: STUDENTS },
    (_, i) => `${FIRST[i % FIRST.length]} ${LAST[Math.floor(i / FIRST.length) % LAST.length]}`,
  );

function quizzesAt(at: Instant): SetQuiz[] {
  const past = (key: string, file: string, title: string, daysAgo: number): SetQuiz => ({
    key,
    course: "nav",
    file: { ...quizFile(file), title },
    window: { opens: at - (daysAgo + 3) * DAY, due: at - daysAgo * DAY, closes: at - daysAgo * DAY },
  });
  return [
    past("large-compass", "compass-and-variation", "Compass, everyone", 12),
    past("large-half", "half-term-paper", "Half-term paper, everyone", 8),
    past("large-part", "chartroom-part-one", "Chartroom, everyone", 4),
    {
      key: "large-now",
      course: "nav",
      file: { ...quizFile("tides-and-clearances"), title: LARGE_SITTING },
      window: { opens: at - 5 * MINUTE, due: at + 6 * HOUR, closes: at + 6 * HOUR },
    },
  ];
}

/**
 * Writes the large course into a database that has the demo college but not the course; else does nothing. Takes about a
 * minute: every attempt is handed in and marked as it is for anyone.
 */
export async function writeLargeClass(): Promise<boolean> {
  const password = await hashPassword(DEMO_PASSWORD);
  const at = now();
  const laid = await inTransaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('shizuka large class'))`);
    const [there] = await tx
      .select({ id: schema.course.id })
      .from(schema.course)
      .where(sql`${schema.course.slug} = ${LARGE_COURSE.slug}`);
    return there ? null : layCourse(tx, password, at);
  });
  if (!laid) return false;
  for (const attempts of attemptsOf(laid.quizzes, at))
    await inTransaction((tx) => writeTaken(tx, attempts, laid.people));
  return true;
}

async function layCourse(
  db: Queryable,
  password: string,
  at: Instant,
): Promise<{ readonly people: Ids; readonly quizzes: readonly DemoQuiz[] }> {
  const [instructor] = await db
    .select({ id: schema.person.id })
    .from(schema.person)
    .where(sql`${schema.person.name} = ${INSTRUCTORS.nav}`);
  if (!instructor) throw new Error("The demo college is not there.");
  const rows = largeNames().map((name, i) => ({
    id: newId(),
    name,
    email: addressOf(name).replace("@", `.${i + 1}@`),
  }));
  await db.insert(schema.person).values(rows);
  await db
    .insert(schema.account)
    .values(rows.map(({ id }) => ({ userId: id, accountId: id, providerId: "credential", password })));
  const courseId = newId();
  await db.insert(schema.course).values({ id: courseId, ...LARGE_COURSE, missingCountsZero: true });
  await db
    .insert(schema.enrolment)
    .values([
      { courseId, personId: instructor.id, role: "instructor" as const },
      ...rows.map(({ id }) => ({ courseId, personId: id, role: "student" as const })),
    ]);
  for (const [position, title] of SECTIONS.entries()) {
    const sectionId = newId();
    await db.insert(schema.courseSection).values({ id: sectionId, courseId, title, position });
    const own = rows.filter((_, i) => i % SECTIONS.length === position);
    await db.insert(schema.sectionMember).values(own.map(({ id }) => ({ sectionId, personId: id })));
  }
  const people: Ids = new Map([
    ...rows.map(({ id, name }) => [name, id] as const),
    [INSTRUCTORS.nav, instructor.id] as const,
  ]);
  const quizzes: DemoQuiz[] = [];
  for (const set of quizzesAt(at)) quizzes.push(await writeQuiz(db, set, courseId, people));
  await layGradebook(db, courseId, quizzes, rows, instructor.id, at);
  return { people, quizzes };
}

async function layGradebook(
  db: Queryable,
  courseId: string,
  quizzes: readonly DemoQuiz[],
  students: readonly { readonly id: string; readonly name: string }[],
  instructorId: string,
  at: Instant,
): Promise<void> {
  const [quizCategory, sheetCategory] = [newId(), newId()];
  await db.insert(schema.gradebookCategory).values([
    { id: quizCategory, courseId, title: "Quizzes", weight: "40", dropLowest: 1, position: 0 },
    {
      id: sheetCategory,
      courseId,
      title: "Log sheets",
      weight: "60",
      mean: "equal" as const,
      dropLowest: 4,
      position: 1,
    },
  ]);
  await db.insert(schema.gradebookItem).values(
    quizzes.map(({ id, content }, position) => ({
      id: newId(),
      categoryId: quizCategory,
      quizId: id,
      title: content.title,
      maximum: "20",
      position,
    })),
  );
  const sheets = Array.from({ length: SHEETS }, (_, i) => ({
    id: newId(),
    categoryId: sheetCategory,
    title: `Log sheet ${i + 1}`,
    maximum: "10",
    position: i,
  }));
  await db.insert(schema.gradebookItem).values(sheets);
  const characters = charactersOf(students.map(({ name }) => name));
  const marks = students.flatMap(({ id: personId }, i) => {
    const knows = characters[i]?.knows ?? 0;
    const next = chance("log sheets", String(i));
    return sheets.flatMap(({ id: itemId }, sheet) => {
      const share = 1 / (1 + Math.exp(-(knows + 0.8 + (next() - 0.5) * 2)));
      if (next() < 0.04) return [];
      const excused = next() < 0.01;
      return [
        {
          id: newId(),
          itemId,
          personId,
          marks: excused ? null : stored(exact(Math.round(share * 20)).div(2)),
          excused,
          reason: excused ? "away with a reason" : "from the sheet",
          setBy: instructorId,
          createdAt: new Date(at - (SHEETS - sheet) * DAY),
        },
      ];
    });
  });
  for (let i = 0; i < marks.length; i += ROWS_AT_ONCE)
    await db.insert(schema.adjustment).values(marks.slice(i, i + ROWS_AT_ONCE));
}

/** What the class has taken, in parts that are each written at once. */
function attemptsOf(quizzes: readonly DemoQuiz[], at: Instant): ClassAttempt[][] {
  const characters = charactersOf(largeNames());
  return quizzes
    .filter(({ window }) => (window.closes ?? 0) < at)
    .flatMap((quiz) => {
      const opens = quiz.window.opens ?? at;
      const due = quiz.window.due ?? at;
      const attempts = characters.flatMap((character): ClassAttempt[] => {
        const next = chance("large class", quiz.key, character.name);
        if (next() < character.away) return [];
        const limit = (quiz.settings.timeLimit ?? 60) * MINUTE;
        const took = Math.floor(limit * Math.min(1, character.pace * (0.85 + next() * 0.3)));
        const started = opens + Math.floor(next() * (due - opens - limit));
        return [{ quiz, character, number: 1, started, took, returned: due + DAY, marked: true }];
      });
      return Array.from({ length: Math.ceil(attempts.length / TOGETHER) }, (_, i) =>
        attempts.slice(i * TOGETHER, (i + 1) * TOGETHER),
      );
    });
}
