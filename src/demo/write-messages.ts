import { and, eq } from "drizzle-orm";
import { planAttempt } from "@/core/attempt/plan";
import type { NoticeKind } from "@/core/notices/notice-kinds";
import { type Said, said } from "@/core/said";
import { DAY, HOUR, type Instant } from "@/core/time/instants";
import { dayAndTime } from "@/core/time/said-times";
import type { Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { seedOf } from "@/server/attempts/seeds";
import { config } from "@/server/base/config";
import type { CourseKey } from "./college";
import { type DemoQuiz, type Ids, idOf } from "./demo-quiz";
import { INSTRUCTORS, NOOR } from "./people";

/** Writes what the instructors said to their courses. */
export async function writeNotices(
  db: Queryable,
  courses: ReadonlyMap<CourseKey, string>,
  people: Ids,
  at: Instant,
): Promise<void> {
  await db.insert(schema.announcement).values([
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

/** Writes a talk between Noor and her instructor about a mark. */
export async function writeTalk(
  db: Queryable,
  quizzes: readonly DemoQuiz[],
  people: Ids,
  at: Instant,
): Promise<void> {
  const compass = await noorsAttempt(db, quizzes, people, "compass", 2);
  const line = (author: string, hoursAgo: number, text: string) => ({
    attemptId: compass,
    slot: 6,
    authorId: idOf(people, author),
    text,
    createdAt: new Date(at - hoursAgo * HOUR),
  });
  await db
    .insert(schema.markQuery)
    .values([
      line(NOOR, 130, "Why is half of (a) lost? I only rounded the speed, and (b) was right with it."),
      line(
        INSTRUCTORS.nav,
        104,
        "(b) was right with it, and has its full marks. In (a) two figures were asked for and you wrote one: that is what half of it was lost for. Next time keep the second figure until the last line.",
      ),
    ]);
  for (const { quiz, who, question, hoursAgo, text } of QUESTIONS) {
    const set = quizzes.find(({ key }) => key === quiz);
    const row = await attemptAt(db, set, idOf(people, who), 1);
    const place =
      set && planAttempt(set.content, await seedOf(row)).find((each) => each.question.id === question);
    if (!place) throw new Error(`${who} has no question ${question} at ${quiz}.`);
    await db.insert(schema.markQuery).values({
      attemptId: row.id,
      slot: place.slot,
      authorId: idOf(people, who),
      text,
      createdAt: new Date(at - hoursAgo * HOUR),
    });
  }
}

/** What others of the class ask about their marks, and nobody has answered yet. */
const QUESTIONS = [
  {
    quiz: "review",
    who: "Greta Nwosu",
    question: "why",
    hoursAgo: 40,
    text: "I named warmth and flowers, each with a reason. What is missing for the top level in “Cause”? Is it that I wrote them in one sentence?",
  },
  {
    quiz: "review",
    who: "Anneke Tremaine",
    question: "page",
    hoursAgo: 22,
    text: "My page says the wind was “3”. Does that not count as weather? I meant the Beaufort number.",
  },
  {
    quiz: "half-term",
    who: "Isolde Fairweather",
    question: "p-lee",
    hoursAgo: 9,
    text: "Do the 5° of leeway come on top of the angle for the stream, or are they part of it? I should like to understand it, whatever becomes of the mark.",
  },
] as const;

/** Writes what stands at Noor's bell, and at Captain Marsh's. */
export async function writeBell(
  db: Queryable,
  quizzes: readonly DemoQuiz[],
  people: Ids,
  at: Instant,
): Promise<void> {
  const attempt = (key: string, number = 1) => noorsAttempt(db, quizzes, people, key, number);
  const shapes = quizzes.find(({ key }) => key === "shapes");
  const compass = await attempt("compass", 2);
  const line = (
    person: string,
    hoursAgo: number,
    seen: boolean,
    kind: NoticeKind,
    text: Said,
    path: string,
  ) => ({
    personId: idOf(people, person),
    kind,
    text,
    path,
    readAt: seen ? new Date(at - (hoursAgo - 1) * HOUR) : null,
    mail: "sent" as const,
    mailTries: 1,
    createdAt: new Date(at - hoursAgo * HOUR),
  });
  const returned = (title: string, number: number) =>
    said("server.marking.return-work.attempt-is-returned-its-marks-and", { title, number });
  await db.insert(schema.personNotice).values([
    line(NOOR, 144, true, "returned", returned("Compass and variation", 2), `/attempts/${compass}/paper`),
    line(
      NOOR,
      104,
      true,
      "answered",
      said("server.marking.mark-queries.answered-you-about-the-mark-of", {
        name: INSTRUCTORS.nav,
        slot: 6,
        title: "Compass and variation",
      }),
      `/attempts/${compass}/paper?q=6#ask-6`,
    ),
    line(
      NOOR,
      72,
      true,
      "returned",
      returned("Field camp review", 1),
      `/attempts/${await attempt("review")}/paper`,
    ),
    line(
      NOOR,
      26,
      false,
      "moved",
      said("server.quizzes.set-times.moved", {
        title: "Flower shapes",
        changes: said("server.quizzes.set-times.now-closes", {
          when: dayAndTime(shapes?.window.closes ?? at, config.zone),
        }),
        reason: "The greenhouse was shut for a day; take the time it cost you.",
      }),
      `/quizzes/${shapes?.id}`,
    ),
    line(
      NOOR,
      5,
      false,
      "returned",
      returned("Flour and enzymes", 1),
      `/attempts/${await attempt("flour")}/paper`,
    ),
    line(
      INSTRUCTORS.nav,
      130,
      false,
      "asked",
      said("server.marking.mark-queries.asks-about-the-mark-of-question", {
        name: NOOR,
        slot: 6,
        title: "Compass and variation",
      }),
      `/attempts/${compass}/paper?q=6#ask-6`,
    ),
  ]);
}

async function attemptAt(db: Queryable, quiz: DemoQuiz | undefined, personId: string, number: number) {
  const { attempt } = schema;
  const [row] = await db
    .select()
    .from(attempt)
    .where(
      and(eq(attempt.quizId, quiz?.id ?? ""), eq(attempt.personId, personId), eq(attempt.number, number)),
    );
  if (!row) throw new Error(`There is no attempt ${number} of ${personId} at ${quiz?.key}.`);
  return row;
}

async function noorsAttempt(
  db: Queryable,
  quizzes: readonly DemoQuiz[],
  people: Ids,
  key: string,
  number: number,
): Promise<string> {
  const quiz = quizzes.find((each) => each.key === key);
  return (await attemptAt(db, quiz, idOf(people, NOOR), number)).id;
}
