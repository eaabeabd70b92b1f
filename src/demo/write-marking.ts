import { and, eq, isNotNull } from "drizzle-orm";
import { planAttempt } from "@/core/attempt/plan";
import { questionIn } from "@/core/marking/mark-attempt";
import type { QuizContent } from "@/core/quiz/quiz-file";
import { HOUR, type Instant, MINUTE } from "@/core/time/instants";
import type { Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { seedOf } from "@/server/attempts/seeds";
import type { CourseKey } from "./college";
import { type DemoQuiz, type Ids, idOf } from "./demo-quiz";
import { ASSISTANT, INSTRUCTORS, OBSERVER, STUDENTS } from "./people";

/** The quizzes of Pollinator Ecology that are given to its assistant. */
const GIVEN = ["report", "essays", "notebook", "letters"];

/** The remarks that Dr Okafor has come to keep, and one that her assistant shares. */
const REMARKS: readonly (readonly [
  author: string,
  short: string,
  text: string,
  used: number,
  shared: boolean,
])[] = [
  [INSTRUCTORS.pol, "cause", "Say it above, as a cause of its own.", 9, true],
  [INSTRUCTORS.pol, "care", "Careful with “more”: more than what?", 7, true],
  [INSTRUCTORS.pol, "each", "Divide by what there was to visit before you compare.", 12, true],
  [INSTRUCTORS.pol, "sure", "How sure are you, and what would change your mind?", 4, false],
  [
    ASSISTANT,
    "head",
    "Date, wind and cloud first: without them nobody can use your rows next year.",
    5,
    true,
  ],
];

/** An answer of the oven quiz that was keyed a line too high: nearly everyone is marked wrong for knowing it. */
const WRONG_KEY = { quiz: "oven", question: "done", option: "b" } as const;

/** A quiz as it was really keyed: of one question another option than the right one. */
export function asKeyed(key: string, content: QuizContent): QuizContent {
  if (key !== WRONG_KEY.quiz) return content;
  const question = questionIn(content, WRONG_KEY.question);
  if (question?.kind !== "one-of-several") throw new Error("The demo’s wrong key has lost its question.");
  const slipped = {
    ...question,
    options: question.options.map(({ right: _, ...option }) => ({
      ...option,
      ...(option.id === WRONG_KEY.option ? { right: true } : {}),
    })),
  };
  return {
    ...content,
    sections: content.sections.map((section) => ({
      ...section,
      questions: section.questions.map((each) => (each.id === slipped.id ? slipped : each)),
    })),
  };
}

/** Writes who helps and who examines, the sections of a course, and what markers keep to use again. */
export async function writeMarkers(
  db: Queryable,
  courses: ReadonlyMap<CourseKey, string>,
  quizzes: readonly DemoQuiz[],
  people: Ids,
): Promise<void> {
  const courseId = courses.get("pol") ?? "";
  await db.insert(schema.enrolment).values([
    { courseId, personId: idOf(people, ASSISTANT), role: "assistant" as const },
    { courseId, personId: idOf(people, OBSERVER), role: "observer" as const },
  ]);
  await db
    .insert(schema.givenQuiz)
    .values(
      quizzes
        .filter(({ key }) => GIVEN.includes(key))
        .map(({ id }) => ({ quizId: id, personId: idOf(people, ASSISTANT) })),
    );
  const sections = ["Tuesday group", "Thursday group"].map((title, position) => ({
    id: newId(),
    courseId,
    title,
    position,
  }));
  await db.insert(schema.courseSection).values(sections);
  const members = STUDENTS.filter(([, taken]) => taken.includes("p")).map(([name]) => name);
  await db.insert(schema.sectionMember).values(
    members.map((name, i) => ({
      sectionId: sections[i % sections.length]?.id ?? "",
      personId: idOf(people, name),
    })),
  );
  await db.insert(schema.remark).values(
    REMARKS.map(([author, short, text, used, shared]) => ({
      personId: idOf(people, author),
      courseId,
      short,
      text,
      used,
      sharedAt: shared ? new Date() : null,
    })),
  );
}

/** What Tadhg wrote on the train, and his telephone could deliver only when the quiz had closed. */
const CAME_LATE =
  "<p>One thing more: on the bank I also saw that the visitors were small bees nearly all, and on the ditch bumblebees. If wind keeps the small ones down, then the Monday count says little about the ditch, and I would say so before anyone mows it.</p>";

/** Writes what came late to the report on the meadow count, to be decided. */
export async function writeLate(db: Queryable, quizzes: readonly DemoQuiz[], people: Ids): Promise<void> {
  const quiz = quizzes.find(({ key }) => key === "report");
  const [attempt] = await db
    .select()
    .from(schema.attempt)
    .where(
      and(
        eq(schema.attempt.quizId, quiz?.id ?? ""),
        eq(schema.attempt.personId, idOf(people, "Tadhg Villanueva")),
        isNotNull(schema.attempt.handedInAt),
      ),
    );
  if (!quiz || !attempt?.handedInAt) throw new Error("The demo has nobody whose writing came late.");
  const place = planAttempt(quiz.content, await seedOf(attempt)).find(
    ({ question }) => question.id === "survey",
  );
  const slot = place?.slot ?? 1;
  const [stood] = await db
    .select()
    .from(schema.answer)
    .where(and(eq(schema.answer.attemptId, attempt.id), eq(schema.answer.slot, slot)));
  const before = (stood?.answer as { rich?: string } | undefined)?.rich ?? "";
  const end: Instant = attempt.handedInAt.getTime();
  await db.insert(schema.lateWriting).values({
    attemptId: attempt.id,
    slot,
    device: newId(),
    revision: 3,
    answer: { rich: `${before}${CAME_LATE}` },
    writtenAt: new Date(end - 2 * MINUTE),
    arrivedAt: new Date(end + 3 * HOUR),
  });
}
