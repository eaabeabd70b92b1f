import { randomUUID } from "node:crypto";
import type postgres from "postgres";
import { REVEALED, type Revealed, type RevealRules, type RevealWhen } from "../../src/core/quiz/rules";

/** What stands for each thing that a marked paper can show, and stands nowhere else: no seconds of a time are above 59. */
export const MARKERS: { readonly [R in Revealed]: readonly string[] } = {
  total: ["79.46"],
  marks: ["73.57"],
  written: ["half-omega", "WORDING-RHO"],
  right: ["keyword-omega", "MODEL-PSI"],
  worked: ["WORKED-TAU", "FEEDBACK-SIGMA", "OVERALL-PHI", "MARGIN-CHI"],
};

/** The answers that make those marks, by slot. */
export const ANSWERS: readonly unknown[] = [
  { text: "half-omega" },
  { value: true },
  { rich: "<p>Half of an essay.</p>" },
];

const content = (title: string) => ({
  format: "shizuka-quiz",
  version: 1,
  title,
  rules: { order: "free" },
  sections: [
    {
      questions: [
        {
          id: "word",
          kind: "short-text",
          text: "<p>WORDING-RHO</p>",
          marks: "147.14",
          accepted: [
            { text: "keyword-omega" },
            { text: "half-omega", credit: "1/2", feedback: "<p>FEEDBACK-SIGMA</p>" },
          ],
          worked: "<p>WORKED-TAU</p>",
        },
        { id: "so", kind: "true-or-false", text: "<p>Is it?</p>", marks: "2.39", right: true },
        { id: "say", kind: "essay", text: "<p>Say.</p>", marks: 5, model: "<p>MODEL-PSI</p>" },
      ],
    },
  ],
});

/** Only one thing is shown, at one time; everything else never. */
export const onlyShown = (what: Revealed, when: RevealWhen): RevealRules =>
  Object.fromEntries(
    REVEALED.map((each) => [each, each === what ? when : "never"]),
  ) as unknown as RevealRules;

export interface MadeWork {
  readonly quizId: string;
  readonly title: string;
}

/** Lays a quiz of its own in a course, open for an hour, worth something in its gradebook. */
export const writeWork = (
  sql: postgres.Sql,
  courseSlug: string,
  title: string,
  reveal: RevealRules,
  more: object = {},
): Promise<MadeWork> =>
  makeContent(sql, courseSlug, content(title), { attempts: 1, counts: "best", ...more, reveal }, "154.53");

/** Lays a quiz of any content. */
export async function makeContent(
  sql: postgres.Sql,
  courseSlug: string,
  file: { readonly title: string; readonly sections: readonly { readonly questions: readonly unknown[] }[] },
  settings: object,
  maximum: string,
): Promise<MadeWork> {
  const quizId = randomUUID();
  const { title } = file;
  const questions = file.sections.reduce((sum, section) => sum + section.questions.length, 0);
  const facts = { questions, maximum };
  const [course] = await sql`select c.id, e.person_id from course c join enrolment e on e.course_id = c.id
    where c.slug = ${courseSlug} and e.role = 'instructor'`;
  await sql`insert into quiz (id, course_id, title, opens, due, closes, instructor_id, settings)
    values (${quizId}, ${course?.id}, ${title}, now() - interval '1 hour', now() + interval '1 hour', now() + interval '1 hour', ${course?.person_id}, ${sql.json(settings as never)})`;
  await sql`insert into quiz_version (id, quiz_id, number, content, facts)
    values (${randomUUID()}, ${quizId}, 1, ${sql.json(file as never)}, ${sql.json(facts)})`;
  const [category] =
    await sql`select id from gradebook_category where course_id = ${course?.id} order by position limit 1`;
  await sql`insert into gradebook_item (id, category_id, quiz_id, title, maximum, position)
    values (${randomUUID()}, ${category?.id}, ${quizId}, ${title}, ${maximum}, 50)`;
  return { quizId, title };
}

/** Marks the essay of a handed-in attempt by hand, and writes what instructors write. */
export async function markEssay(sql: postgres.Sql, attemptId: string): Promise<void> {
  const [row] = await sql`select a.version_id, m.detail, m.maximum, q.instructor_id from mark m
    join attempt a on a.id = m.attempt_id join quiz q on q.id = a.quiz_id where a.id = ${attemptId} and m.slot = 3`;
  const detail = {
    ...row?.detail,
    marks: "7/2",
    awaiting: "0",
    state: "part",
    parts: row?.detail.parts.map((part: object) => ({
      ...part,
      marks: "7/2",
      state: "part",
      why: "by hand: half",
    })),
  };
  await sql`insert into mark (attempt_id, slot, id, question_id, version_id, marks, awaiting, maximum, source, detail, reason, marked_by)
    values (${attemptId}, 3, ${`ffffffff-0000-7000-8000-${randomUUID().slice(-12)}`}, 'say', ${row?.version_id}, 3.5, 0, ${row?.maximum}, 'hand', ${sql.json(detail)}, '"half"', ${row?.instructor_id})`;
  await sql`insert into margin_note (id, attempt_id, slot, author_id, text)
    values (${randomUUID()}, ${attemptId}, 3, ${row?.instructor_id}, '<p>MARGIN-CHI</p>')`;
  await sql`update attempt set earned = 79.46, awaited = 0, feedback = '<p>OVERALL-PHI</p>' where id = ${attemptId}`;
}

/** Which things a response shows. */
export const shownIn = (response: string): Revealed[] =>
  REVEALED.filter((what) => MARKERS[what].some((marker) => response.includes(marker)));

/** What of those things' marks a response misses. */
export const missingFrom = (response: string, what: Revealed): string[] =>
  MARKERS[what].filter((marker) => !response.includes(marker));
