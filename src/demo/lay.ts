import { sql } from "drizzle-orm";
import { deadlineOf, NO_ALLOWANCE } from "@/core/attempt/deadline";
import { maximumOf, planAttempt } from "@/core/attempt/plan";
import { stored, written } from "@/core/numbers/exact";
import { chance } from "@/core/numbers/seeded";
import { type QuizFile, questionCount, quizMaximum, readQuizFile } from "@/core/quiz/quiz-file";
import { DAY, HOUR, type Instant, MINUTE } from "@/core/time/instants";
import { type Database, database, type Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { hashPassword } from "@/server/accounts";
import { handIn } from "@/server/attempts/settle";
import { now } from "@/server/clock";
import { config } from "@/server/config";
import { DEMO_PASSWORD } from "@/server/offered-people";
import { cleanQuiz } from "@/server/quizzes/clean-quiz";
import { type Slips, sampleAnswers } from "./answers";
import { COURSES, type CourseKey, type SetQuiz, setQuizzes } from "./college";
import { ADMINISTRATOR, addressOf, INSTRUCTORS, NOOR, STUDENTS } from "./people";

interface LaidQuiz extends SetQuiz {
  readonly id: string;
  readonly versionId: string;
  readonly content: QuizFile;
}

/** Lays Alder Quay College into an empty database, its windows around the present moment; else does nothing. */
export async function layDemo(db: Database = database()): Promise<boolean> {
  const password = await hashPassword(DEMO_PASSWORD);
  return db.transaction(async (tx) => {
    // One process lays it, however many start at once.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('shizuka demo'))`);
    const [anyone] = await tx.select({ id: schema.person.id }).from(schema.person).limit(1);
    if (anyone) return false;
    const at = now();
    const people = await layPeople(tx, password);
    const courses = await layCourses(tx, people);
    const quizzes = await layQuizzes(tx, people, courses, at);
    await layGradebook(tx, courses, quizzes, people);
    await layAttempts(tx, quizzes, people, at);
    await layNotices(tx, courses, people, at);
    return true;
  });
}

type Ids = ReadonlyMap<string, string>;
const idOf = (ids: Ids, name: string): string => {
  const id = ids.get(name);
  if (!id) throw new Error(`The demo has no ${name}.`);
  return id;
};

async function layPeople(db: Queryable, password: string): Promise<Ids> {
  const names = [...Object.values(INSTRUCTORS), ADMINISTRATOR, ...STUDENTS.map(([name]) => name)];
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

async function layCourses(db: Queryable, people: Ids): Promise<ReadonlyMap<CourseKey, string>> {
  const ids = new Map<CourseKey, string>();
  for (const [key, { slug, code, title, letter }] of Object.entries(COURSES) as [
    CourseKey,
    (typeof COURSES)[CourseKey],
  ][]) {
    const id = newId();
    ids.set(key, id);
    await db.insert(schema.course).values({ id, slug, code, title });
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

async function layQuizzes(
  db: Queryable,
  people: Ids,
  courses: ReadonlyMap<CourseKey, string>,
  at: Instant,
): Promise<LaidQuiz[]> {
  const laid: LaidQuiz[] = [];
  for (const set of setQuizzes(at, config.zone)) {
    const reading = readQuizFile(set.file);
    if (!reading.ok) {
      throw new Error(`The demo quiz ${set.key} is faulty: ${JSON.stringify(reading.mistakes)}`);
    }
    const content = cleanQuiz(reading.quiz);
    const id = newId();
    const versionId = newId();
    const date = (instant: Instant | null) => (instant === null ? null : new Date(instant));
    const { rules } = content;
    await db.insert(schema.quiz).values({
      id,
      courseId: courses.get(set.course) ?? "",
      title: content.title,
      opens: date(set.window.opens),
      due: date(set.window.due),
      closes: date(set.window.closes),
      firstQuizId: laid.find(({ key }) => key === set.first)?.id ?? null,
      instructorId: idOf(people, INSTRUCTORS[set.course]),
    });
    await db.insert(schema.quizVersion).values({
      id: versionId,
      quizId: id,
      number: 1,
      content,
      facts: {
        timeLimit: rules.timeLimit ?? null,
        attempts: rules.attempts ?? null,
        counts: rules.counts,
        practice: rules.practice ?? false,
        reveal: rules.reveal,
        questions: questionCount(content),
        maximum: written(quizMaximum(content)),
      },
      createdBy: idOf(people, INSTRUCTORS[set.course]),
    });
    laid.push({ ...set, id, versionId, content });
  }
  return laid;
}

/** Work of each course by category: quizzes by their key, other work with what Noor got for it, if anything. */
const GRADEBOOKS: Readonly<
  Record<
    CourseKey,
    readonly {
      readonly title: string;
      readonly weight: string;
      readonly dropLowest?: number;
      readonly work: readonly (
        | string
        | {
            readonly title: string;
            readonly maximum: number;
            readonly noor?: readonly [marks: string, reason: string];
          }
      )[];
    }[]
  >
> = {
  nav: [
    {
      title: "Quizzes",
      weight: "40",
      dropLowest: 1,
      work: [
        { title: "Chart symbols", maximum: 20, noor: ["9", "marked on paper in week 2"] },
        "compass",
        "tides",
        "part-one",
        "part-two",
      ],
    },
    { title: "Written work", weight: "60", work: [{ title: "Passage plan", maximum: 50 }] },
  ],
  brd: [
    { title: "Quizzes", weight: "50", work: ["flour", "hydration", "arithmetic"] },
    {
      title: "At the bench",
      weight: "50",
      work: [
        { title: "Tuesday’s bake", maximum: 50, noor: ["41", "marked at the bench: good crumb, pale crust"] },
      ],
    },
  ],
  pol: [
    { title: "Quizzes", weight: "70", work: ["sampling", "shapes", "ranges", "essays", "notebook"] },
    { title: "Field notebook", weight: "30", work: [{ title: "Field notebook", maximum: 30 }] },
  ],
};

async function layGradebook(
  db: Queryable,
  courses: ReadonlyMap<CourseKey, string>,
  quizzes: readonly LaidQuiz[],
  people: Ids,
) {
  for (const [course, categories] of Object.entries(GRADEBOOKS) as [
    CourseKey,
    (typeof GRADEBOOKS)[CourseKey],
  ][]) {
    for (const [position, { title, weight, dropLowest = 0, work }] of categories.entries()) {
      const categoryId = newId();
      await db.insert(schema.gradebookCategory).values({
        id: categoryId,
        courseId: courses.get(course) ?? "",
        title,
        weight,
        dropLowest,
        position,
      });
      for (const [place, each] of work.entries()) {
        const quiz = typeof each === "string" ? quizzes.find(({ key }) => key === each) : undefined;
        const itemId = newId();
        await db.insert(schema.gradebookItem).values({
          id: itemId,
          categoryId,
          quizId: quiz?.id ?? null,
          title: typeof each === "string" ? (quiz?.content.title ?? each) : each.title,
          maximum:
            typeof each === "string" ? stored(quizMaximum(quiz?.content as QuizFile)) : String(each.maximum),
          position: place,
        });
        if (typeof each === "string" || !each.noor) continue;
        await db.insert(schema.adjustment).values({
          id: newId(),
          itemId,
          personId: idOf(people, NOOR),
          marks: each.noor[0],
          reason: each.noor[1],
          setBy: idOf(people, INSTRUCTORS[course]),
        });
      }
    }
  }
}

interface SampleAttempt {
  readonly quiz: string;
  readonly student: string;
  readonly number?: number;
  readonly started: Instant;
  readonly took: number;
  readonly slips: Slips;
  readonly returned?: Instant;
  readonly feedback?: string;
}

function noorsAttempts(at: Instant): SampleAttempt[] {
  return [
    {
      quiz: "compass",
      student: NOOR,
      started: at - 9 * DAY,
      took: 21 * MINUTE + 40_000,
      slips: { wrong: ["deviation", "near"], written: { course: { a: "72", b: "67" } } },
      returned: at - 6 * DAY,
      feedback: "<p>Watch the signs: east deviation is added on the way from compass to true.</p>",
    },
    {
      quiz: "compass",
      student: NOOR,
      number: 2,
      started: at - 8 * DAY,
      took: 18 * MINUTE + 4_000,
      slips: { written: { std: { a: "6", b: "2.0" } } },
      returned: at - 6 * DAY,
      feedback: "<p>Much better. One figure was missing in the last question; see what it cost.</p>",
    },
    {
      quiz: "flour",
      student: NOOR,
      started: at - 3 * DAY,
      took: 22 * MINUTE + 12_000,
      slips: { wrong: ["proteases"] },
      returned: at - 5 * HOUR,
      feedback:
        "<p>Clear on amylase. Read again what proteases leave alone, and well done on the proofing time.</p>",
    },
    {
      quiz: "sampling",
      student: NOOR,
      started: at - 30 * HOUR,
      took: 24 * MINUTE + 31_000,
      slips: { wrong: ["pan"], empty: ["when"] },
    },
  ];
}

/** Some of the others, so that a class stands behind the figures. */
function othersAttempts(at: Instant): SampleAttempt[] {
  const next = chance("demo attempts");
  const quizzes = [
    {
      key: "compass",
      letter: "n",
      ids: ["course", "variation", "deviation", "near", "back", "std"],
      started: at - 9 * DAY,
      returned: at - 6 * DAY,
    },
    {
      key: "flour",
      letter: "b",
      ids: ["amylase", "falling", "proteases", "protein", "proof", "bran"],
      started: at - 4 * DAY,
      returned: at - 5 * HOUR,
    },
    {
      key: "sampling",
      letter: "p",
      ids: ["transect", "lincoln", "assume", "pan", "when"],
      started: at - 3 * DAY,
      returned: null,
    },
  ];
  return quizzes.flatMap(({ key, letter, ids, started, returned }) =>
    STUDENTS.filter(([name, taken]) => name !== NOOR && taken.includes(letter) && next() < 0.8).map(
      ([student]) => ({
        quiz: key,
        student,
        started: started + Math.floor(next() * DAY),
        took: Math.floor((10 + next() * 10) * MINUTE),
        slips: { wrong: ids.filter(() => next() < 0.25), empty: ids.filter(() => next() < 0.05) },
        ...(returned === null ? {} : { returned }),
      }),
    ),
  );
}

async function layAttempts(
  db: Queryable,
  quizzes: readonly LaidQuiz[],
  people: Ids,
  at: Instant,
): Promise<void> {
  for (const sample of [...noorsAttempts(at), ...othersAttempts(at)]) {
    const quiz = quizzes.find(({ key }) => key === sample.quiz);
    if (!quiz) throw new Error(`The demo has no quiz ${sample.quiz}.`);
    await layAttempt(db, quiz, sample, people);
  }
}

async function layAttempt(db: Queryable, quiz: LaidQuiz, sample: SampleAttempt, people: Ids): Promise<void> {
  const { started, took } = sample;
  const personId = idOf(people, sample.student);
  const seed = `demo ${quiz.key} ${sample.student} ${sample.number ?? 1}`;
  const limitMinutes = quiz.content.rules.timeLimit ?? null;
  const deadline = deadlineOf({
    start: started,
    limitMinutes,
    allowance: NO_ALLOWANCE,
    closes: quiz.window.closes,
    closingCuts: true,
  });
  const [row] = await db
    .insert(schema.attempt)
    .values({
      quizId: quiz.id,
      versionId: quiz.versionId,
      personId,
      number: sample.number ?? 1,
      seed,
      sentAt: new Date(started),
      startedAt: new Date(started),
      confirmed: true,
      deadline: deadline === null ? null : new Date(deadline),
      maximum: stored(maximumOf(planAttempt(quiz.content, seed))),
      returnedAt: sample.returned ? new Date(sample.returned) : null,
      feedback: sample.feedback ?? null,
    })
    .returning();
  if (!row) throw new Error("The attempt was not laid.");
  const answers = [...sampleAnswers(quiz.content, seed, sample.slips)];
  const device = newId();
  const entries = answers.map(([slot, answer], i) => {
    const writtenAt = new Date(started + Math.floor((took * (i + 1)) / (answers.length + 1)));
    return {
      attemptId: row.id,
      slot,
      answer,
      folded: false,
      ruledOut: [],
      revision: 1,
      device,
      writtenAt,
      savedAt: writtenAt,
    };
  });
  if (entries.length > 0) {
    await db.insert(schema.answer).values(entries);
    await db.insert(schema.answerLog).values(entries);
  }
  await handIn(db, row, "student", started + took, personId, quiz.content);
}

async function layNotices(
  db: Queryable,
  courses: ReadonlyMap<CourseKey, string>,
  people: Ids,
  at: Instant,
): Promise<void> {
  await db.insert(schema.notice).values([
    {
      courseId: courses.get("pol") ?? "",
      authorId: idOf(people, INSTRUCTORS.pol),
      text: "“Foraging ranges” is a sitting for the whole class. Come five minutes early and bring a calculator.",
      shownUntil: new Date(at + 3 * DAY),
      createdAt: new Date(at - 20 * HOUR),
    },
    {
      courseId: courses.get("nav") ?? "",
      authorId: idOf(people, INSTRUCTORS.nav),
      text: "“Tides and clearances” is open. Do the exercises of chapter 4 before you start.",
      shownUntil: new Date(at + 2 * DAY),
      createdAt: new Date(at - 26 * HOUR),
    },
  ]);
}
