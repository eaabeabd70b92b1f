import { sql } from "drizzle-orm";
import { contradictionsOf } from "@/core/quiz/contradictions";
import { readQuizFile, splitFile } from "@/core/quiz/quiz-file";
import type { Instant } from "@/core/time/instants";
import { inTransaction, type Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { now } from "@/server/base/clock";
import { config } from "@/server/base/config";
import { cleanQuiz } from "@/server/quizzes/clean-quiz";
import { factsOf } from "@/server/quizzes/quiz-facts";
import { hashPassword } from "@/server/sign-in/accounts";
import { COURSES, type CourseKey, type SetQuiz, setQuizzes } from "./college";
import { type DemoQuiz, type Ids, idOf } from "./demo-quiz";
import {
  ADMINISTRATOR,
  ASSISTANT,
  addressOf,
  DEMO_PASSWORD,
  INSTRUCTORS,
  NOOR,
  OBSERVER,
  STUDENTS,
} from "./people";
import { writeAttempts } from "./write-attempts";
import { writeGradebook } from "./write-gradebook";
import { asKeyed, writeLate, writeMarkers } from "./write-marking";
import { writeBell, writeNotices, writeTalk } from "./write-messages";
import { writePlans } from "./write-plans";

/** Writes Alder Quay College into an empty database, its windows around the present moment; else does nothing. */
export async function writeDemo(): Promise<boolean> {
  const password = await hashPassword(DEMO_PASSWORD);
  return inTransaction(async (tx) => {
    // One process writes it, however many start at once.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('shizuka demo'))`);
    const [anyone] = await tx.select({ id: schema.person.id }).from(schema.person).limit(1);
    if (anyone) return false;
    const at = now();
    const people = await writePeople(tx, password);
    const courses = await writeCourses(tx, people);
    const quizzes = await writeQuizzes(tx, people, courses, at);
    await writeGradebook(tx, courses, quizzes, people, at);
    await writePlans(tx, courses, quizzes, at);
    await writeMarkers(tx, courses, quizzes, people);
    await writeAttempts(tx, quizzes, people, at);
    await writeLate(tx, quizzes, people);
    await writeTalk(tx, quizzes, people, at);
    await writeNotices(tx, courses, people, at);
    await writeBell(tx, quizzes, people, at);
    return true;
  });
}

async function writePeople(db: Queryable, password: string): Promise<Ids> {
  const names = [
    ...Object.values(INSTRUCTORS),
    ASSISTANT,
    OBSERVER,
    ADMINISTRATOR,
    ...STUDENTS.map(([name]) => name),
  ];
  const rows = names.map((name) => ({
    id: newId(),
    name,
    email: addressOf(name),
    administrator: name === ADMINISTRATOR,
  }));
  await db.insert(schema.person).values(rows);
  await db
    .insert(schema.account)
    .values(rows.map(({ id }) => ({ userId: id, accountId: id, providerId: "credential", password })));
  return new Map(rows.map(({ id, name }) => [name, id]));
}

async function writeCourses(db: Queryable, people: Ids): Promise<ReadonlyMap<CourseKey, string>> {
  const ids = new Map<CourseKey, string>();
  for (const [key, { slug, code, title, letter, ...shown }] of Object.entries(COURSES) as [
    CourseKey,
    (typeof COURSES)[CourseKey],
  ][]) {
    const id = newId();
    ids.set(key, id);
    await db.insert(schema.course).values({ id, slug, code, title, ...shown });
    const students = STUDENTS.filter(([, taken]) => taken.includes(letter)).map(([name]) => name);
    await db
      .insert(schema.enrolment)
      .values([
        { courseId: id, personId: idOf(people, INSTRUCTORS[key]), role: "instructor" as const },
        ...students.map((name) => ({ courseId: id, personId: idOf(people, name), role: "student" as const })),
      ]);
  }
  return ids;
}

async function writeQuizzes(
  db: Queryable,
  people: Ids,
  courses: ReadonlyMap<CourseKey, string>,
  at: Instant,
): Promise<DemoQuiz[]> {
  const written: DemoQuiz[] = [];
  for (const set of setQuizzes(at, config.zone)) {
    const first = written.find(({ key }) => key === set.first)?.id ?? null;
    written.push(await writeQuiz(db, set, courses.get(set.course) ?? "", people, first));
  }
  return written;
}

/** Writes a quiz of the demo into a course, its file checked as any other. */
export async function writeQuiz(
  db: Queryable,
  set: SetQuiz,
  courseId: string,
  people: Ids,
  firstQuizId: string | null = null,
): Promise<DemoQuiz> {
  const reading = readQuizFile(set.file);
  if (!reading.ok) {
    throw new Error(`The demo quiz ${set.key} is faulty: ${JSON.stringify(reading.mistakes)}`);
  }
  const { content, settings } = splitFile(cleanQuiz(reading.quiz), COURSES[set.course].unitMeanings);
  const [contradiction] = contradictionsOf(settings, set.window);
  if (contradiction)
    throw new Error(`The demo quiz ${set.key} contradicts itself: ${JSON.stringify(contradiction)}`);
  const id = newId();
  const versionId = newId();
  const date = (instant: Instant | null) => (instant === null ? null : new Date(instant));
  await db.insert(schema.quiz).values({
    id,
    courseId,
    title: content.title,
    opens: date(set.window.opens),
    due: date(set.window.due),
    closes: date(set.window.closes),
    settings,
    firstQuizId,
    instructorId: idOf(people, INSTRUCTORS[set.course]),
    onlyAssigned: set.only !== undefined,
  });
  if (set.only) {
    await db
      .insert(schema.assignment)
      .values(set.only.map((name) => ({ quizId: id, personId: idOf(people, name) })));
  }
  await db.insert(schema.quizVersion).values({
    id: versionId,
    quizId: id,
    number: 1,
    content: asKeyed(set.key, content),
    facts: factsOf(content),
    createdBy: idOf(people, INSTRUCTORS[set.course]),
  });
  if (set.extraForNoor) {
    await db.insert(schema.allowance).values({
      quizId: id,
      personId: idOf(people, NOOR),
      ...set.extraForNoor,
      grantedBy: idOf(people, INSTRUCTORS[set.course]),
    });
  }
  return { ...set, id, versionId, content, settings };
}
