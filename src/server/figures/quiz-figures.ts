import { and, asc, desc, eq, inArray, isNotNull, sql } from "drizzle-orm";
import {
  type FiguredAttempt,
  type FiguredQuestion,
  type QuizFigures,
  quizFigures,
} from "@/core/figures/question-figures";
import { median } from "@/core/figures/statistics";
import { countedMark } from "@/core/gradebook/counts";
import { marking } from "@/core/kinds/marking";
import { exact, ZERO } from "@/core/numbers/exact";
import { firstWords, plainText } from "@/core/text/plain-text";
import { startOfDay } from "@/core/time/days";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt, attemptQuestion, courseSection, mark, quizVersion, sectionMember } from "@/data/schema";
import { allowancesIn, windowOf } from "../access/allowances";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { instantOf } from "../base/clock";
import { config } from "../base/config";
import { versionContent } from "../quizzes/versions";
import { countingOf } from "../reveal/counting-totals";

/** Which attempts the figures are of. */
export interface FiguresChoice {
  /** Those that make each student's mark, or every handed-in one. */
  readonly attempts: "counting" | "all";
  /** The number of a version; null: any. */
  readonly version: number | null;
  /** The day on which they were begun, its midnight; null: any. */
  readonly sitting: Instant | null;
  /** The id of a section of the course; null: everyone. */
  readonly section: string | null;
}

/** A question in the figures of its quiz. */
export interface ListedQuestion {
  readonly id: string;
  /** Its place in the newest version that has it, from 1. */
  readonly number: number;
  readonly title: string;
  readonly byHand: boolean;
}

export interface FiguresView {
  readonly quiz: { readonly id: string; readonly title: string };
  readonly course: { readonly slug: string; readonly title: string };
  readonly choice: FiguresChoice;
  readonly versions: readonly number[];
  readonly sittings: readonly Instant[];
  readonly sections: readonly { readonly id: string; readonly title: string }[];
  readonly questions: readonly ListedQuestion[];
  readonly figures: QuizFigures;
  /** What the attempts are out of, in marks; null: they differ. */
  readonly maximum: number | null;
  /** How many of the chosen attempts still wait for marks, and so are left out. */
  readonly waiting: number;
  /** Of each question, the median time from its first sight to its last change, in milliseconds; absent: it is not known. */
  readonly times: ReadonlyMap<string, number>;
  /** The median time from the start to the hand-in, in milliseconds. */
  readonly time: number | null;
  /** Questions to which a wrong answer was given more often than the right one. */
  readonly wrongMoreOften: ReadonlySet<string>;
  /** Of each question, the attempts that are counted, with what each reached in all others, as a share. */
  readonly rest: ReadonlyMap<string, ReadonlyMap<string, number>>;
}

const rowsOf = (quizId: string) =>
  database()
    .select({
      id: attempt.id,
      personId: attempt.personId,
      number: attempt.number,
      version: quizVersion.number,
      versionId: attempt.versionId,
      startedAt: attempt.startedAt,
      handedInAt: attempt.handedInAt,
      addedMs: attempt.addedMs,
      earned: attempt.earned,
      awaited: attempt.awaited,
      maximum: attempt.maximum,
    })
    .from(attempt)
    .innerJoin(quizVersion, eq(quizVersion.id, attempt.versionId))
    .where(and(eq(attempt.quizId, quizId), isNotNull(attempt.handedInAt)))
    .orderBy(asc(attempt.personId), asc(attempt.number));

type Row = Awaited<ReturnType<typeof rowsOf>>[number];

const sittingOf = ({ startedAt }: Row): Instant => startOfDay(startedAt.getTime(), config.zone);

/** One attempt for each student: that which makes the mark, or, where a mean does, the last one. */
function countingOnes(
  rows: readonly Row[],
  allowed: Awaited<ReturnType<typeof allowancesIn>>,
  quiz: Parameters<typeof windowOf>[0] &
    Parameters<typeof countingOf>[0]["quiz"] & {
      readonly id: string;
      readonly settings: { readonly counts: Parameters<typeof countedMark>[0] };
    },
): Row[] {
  const people = new Map<string, Row[]>();
  for (const row of rows) people.set(row.personId, [...(people.get(row.personId) ?? []), row]);
  return [...people.values()].flatMap((own) => {
    const totals = own.map((row) =>
      countingOf({ window: windowOf(quiz, allowed(quiz.id, row.personId)), quiz }, row),
    );
    const counted = countedMark(quiz.settings.counts, totals, exact(own.at(-1)?.maximum ?? "0"));
    const one = own[counted?.attempt ?? own.length - 1];
    return one ? [one] : [];
  });
}

/** The marks that hold in some attempts: question, marks and maximum. */
async function marksIn(ids: readonly string[]) {
  if (ids.length === 0) return [];
  return database()
    .selectDistinctOn([mark.attemptId, mark.slot], {
      attemptId: mark.attemptId,
      question: attemptQuestion.questionId,
      marks: sql<number>`${mark.marks}::float8`,
      maximum: sql<number>`${mark.maximum}::float8`,
    })
    .from(mark)
    .innerJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, mark.attemptId), eq(attemptQuestion.slot, mark.slot)),
    )
    .where(inArray(mark.attemptId, [...ids]))
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
}

/** Of each question, the median time from its first sight to its last change, over those who changed something. */
async function timesIn(ids: readonly string[]): Promise<ReadonlyMap<string, number>> {
  if (ids.length === 0) return new Map();
  const rows = await database().execute<{ question: string; time: number }>(sql`
    select q.question_id as question,
      (percentile_cont(0.5) within group (order by extract(epoch from x.written_at - q.seen_at)) * 1000)::float8 as time
    from attempt_question q
    join answer x on x.attempt_id = q.attempt_id and x.slot = q.slot
    where q.attempt_id in (select id::uuid from jsonb_array_elements_text(${JSON.stringify(ids)}::jsonb) as chosen(id))
      and q.seen_at is not null and x.answer is not null and x.written_at >= q.seen_at
    group by q.question_id`);
  return new Map(rows.map(({ question, time }) => [question, time]));
}

/** Questions of one part in which one wrong answer was given more often than all that earned everything. */
async function wrongMoreOften(ids: readonly string[]): Promise<ReadonlySet<string>> {
  if (ids.length === 0) return new Set();
  const rows = await database().execute<{ question: string; state: string; count: number }>(sql`
    with held as (
      select distinct on (m.attempt_id, m.slot) m.question_id, m.detail from mark m
      where m.attempt_id in ${[...ids]} order by m.attempt_id, m.slot, m.added desc
    )
    select question_id as question, detail #>> '{parts,0,state}' as state, count(*)::int as count from held
    where jsonb_array_length(detail -> 'parts') = 1
    group by question_id, detail #>> '{parts,0,state}', case when detail #>> '{parts,0,state}' = 'none' then detail #>> '{parts,0,written}' end`);
  const most = (question: string, state: string) =>
    rows.reduce(
      (max, row) => (row.question === question && row.state === state ? Math.max(max, row.count) : max),
      0,
    );
  return new Set(
    rows.map(({ question }) => question).filter((each) => most(each, "none") > most(each, "full")),
  );
}

/** All questions of the versions that were taken, the newest version's places first. */
async function questionsIn(rows: readonly Row[]) {
  const versions = [...new Map(rows.map((row) => [row.version, row.versionId]))].sort(([a], [b]) => b - a);
  const listed = new Map<string, ListedQuestion & { readonly section: string }>();
  for (const [, versionId] of versions) {
    const content = await versionContent(versionId);
    let number = 0;
    for (const [i, section] of content.sections.entries()) {
      for (const question of section.questions) {
        if (question.kind === "declaration") continue;
        number += 1;
        if (listed.has(question.id)) continue;
        listed.set(question.id, {
          id: question.id,
          number,
          title: firstWords(plainText(question.text), 80),
          byHand: marking(question.kind).byHand ?? false,
          section: section.title ?? `${i + 1}`,
        });
      }
    }
  }
  return [...listed.values()];
}

async function sectionsOf(courseId: string) {
  return database()
    .select({ id: courseSection.id, title: courseSection.title })
    .from(courseSection)
    .where(eq(courseSection.courseId, courseId))
    .orderBy(asc(courseSection.position), asc(courseSection.id));
}

async function membersOf(section: string | null): Promise<ReadonlySet<string> | null> {
  if (section === null) return null;
  const rows = await database()
    .select({ id: sectionMember.personId })
    .from(sectionMember)
    .where(eq(sectionMember.sectionId, section));
  return new Set(rows.map(({ id }) => id));
}

/** How the questions of a quiz behaved, for its instructors. @throws Problem "not found" */
export async function figuresOf(viewer: Viewer, quizId: string, asked: FiguresChoice): Promise<FiguresView> {
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "rule");
  const { quiz, course } = opened;
  const all = await rowsOf(quiz.id);
  const sections = await sectionsOf(course.id);
  const versions = [...new Set(all.map(({ version }) => version))].sort((a, b) => b - a);
  const sittings = [...new Set(all.map(sittingOf))].sort();
  const choice: FiguresChoice = {
    attempts: asked.attempts,
    version: versions.includes(asked.version ?? 0) ? asked.version : null,
    sitting: sittings.includes(asked.sitting ?? 0) ? asked.sitting : null,
    section: sections.some(({ id }) => id === asked.section) ? asked.section : null,
  };
  const members = await membersOf(choice.section);
  const chosen = (
    choice.attempts === "all" ? all : countingOnes(all, await allowancesIn([quiz.id]), quiz)
  ).filter(
    (row) =>
      (choice.version === null || row.version === choice.version) &&
      (choice.sitting === null || sittingOf(row) === choice.sitting) &&
      (members === null || members.has(row.personId)),
  );
  const marked = chosen.filter(({ awaited }) => exact(awaited ?? "0").compare(ZERO) === 0);
  const marks = await marksIn(marked.map(({ id }) => id));
  const listed = await questionsIn(all);
  const held = new Map<string, Map<string, { marks: number; maximum: number }>>();
  for (const { attemptId, question, ...each } of marks) {
    const own = held.get(attemptId) ?? new Map();
    held.set(attemptId, own.set(question, each));
  }
  const maximumOf = (id: string) =>
    marked.reduce((most, row) => Math.max(most, held.get(row.id)?.get(id)?.maximum ?? 0), 0);
  const counted = listed.filter(({ id }) => marked.some((row) => held.get(row.id)?.has(id)));
  const questions = counted.map(
    ({ id, section }): FiguredQuestion => ({ id, section, maximum: maximumOf(id) }),
  );
  const attempts = marked.map(
    (row): FiguredAttempt =>
      questions.map(({ id }) => {
        const own = held.get(row.id)?.get(id);
        // A question that was dropped out of the maximum counts for nobody.
        return own === undefined || own.maximum === 0 ? null : own.marks;
      }),
  );
  const maxima = new Set(marked.map(({ maximum }) => Number(maximum)));
  return {
    quiz: { id: quiz.id, title: quiz.title },
    course: { slug: course.slug, title: course.title },
    choice,
    versions,
    sittings,
    sections,
    questions: counted.map(({ section: _, ...question }) => question),
    figures: quizFigures(questions, attempts),
    maximum: maxima.size === 1 ? ([...maxima][0] ?? null) : null,
    waiting: chosen.length - marked.length,
    time: median(
      marked.map((row) => (instantOf(row.handedInAt) ?? row.startedAt.getTime()) - row.startedAt.getTime()),
    ),
    times: await timesIn(marked.map(({ id }) => id)),
    wrongMoreOften: await wrongMoreOften(marked.map(({ id }) => id)),
    rest: restOf(
      questions,
      attempts,
      marked.map(({ id }) => id),
    ),
  };
}

/** Of each question, what the attempts that had it reached in all others, as a share of what they could have. */
function restOf(
  questions: readonly FiguredQuestion[],
  attempts: readonly FiguredAttempt[],
  ids: readonly string[],
): ReadonlyMap<string, ReadonlyMap<string, number>> {
  const rest = new Map(questions.map(({ id }) => [id, new Map<string, number>()]));
  for (const [place, row] of attempts.entries()) {
    const earned = row.reduce<number>((sum, marks) => sum + (marks ?? 0), 0);
    const most = row.reduce<number>(
      (sum, marks, i) => sum + (marks === null ? 0 : (questions[i]?.maximum ?? 0)),
      0,
    );
    for (const [i, { id, maximum }] of questions.entries()) {
      const marks = row[i] ?? null;
      if (marks !== null && most > maximum)
        rest.get(id)?.set(ids[place] ?? "", (earned - marks) / (most - maximum));
    }
  }
  return rest;
}
