import { createHash } from "node:crypto";
import { and, asc, eq, inArray } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { TimesEffect } from "@/core/allowances/times-view";
import { contradictionsOf } from "@/core/quiz/contradictions";
import { type Said, said, saidTogether } from "@/core/said";
import type { Instant } from "@/core/time/instants";
import { type Database, inTransaction } from "@/data/database";
import { assignment, enrolment, quiz as quizTable } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { instantOf, iso } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { badInput, notFound, Problem } from "../base/problems";
import { note } from "../base/record";
import { tried } from "../base/tried";
import { notify } from "../notices/notify";
import { writeSettings } from "./change-settings";
import { moment } from "./moments";
import { holdQuizzes, moveDeadlines } from "./move-deadlines";
import {
  briefLine,
  changesBetween,
  inOrder,
  refuseDisorder,
  timesOfStudents,
  warningsAbout,
} from "./times-of-students";

const MOST_PEOPLE = 2_000;
const MOMENTS = ["opens", "due", "closes"] as const;
const LIMITS = ["timeLimit", "attempts", "closingCutsClock"] as const;

/** Who may take a quiz, by their ids; null: everyone in the course; absent: as it is. */
export const takersShape = () =>
  yup
    .array()
    .of(
      yup
        .string()
        .strict()
        .test("uuid", said("server.quizzes.set-times.not-a-person"), (id) => isUuid(id ?? ""))
        .required(),
    )
    .min(1, said("server.quizzes.set-times.choose-someone"))
    .max(MOST_PEOPLE)
    .nullable()
    .default(undefined);

/** What may be set of a quiz's times; what is not named stays. */
const body = yup
  .object({
    opens: moment("opens"),
    due: moment("due"),
    closes: moment("closes"),
    /** Minutes; null: none. */
    timeLimit: yup.number().strict().nullable().positive().max(10_080),
    attempts: yup.number().strict().nullable().integer().min(1).max(1000),
    closingCutsClock: yup.boolean().strict(),
    /** Who may take it; null: everyone in the course. */
    onlyFor: takersShape(),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.quizzes.set-times.say-why-the-students-read-it"), hasWords)
      .max(500),
    /** The state that was looked over; absent: whatever it is. */
    expects: yup.string().strict().max(100),
  })
  .strict()
  .noUnknown();

type Wanted = yup.InferType<typeof body>;

/** What a change of a quiz's times would do; nothing is changed. */
export async function lookOverTimes(viewer: Viewer, quizId: string, input: unknown): Promise<TimesEffect> {
  const wanted = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "rule");
  return tried((tx) => change(tx, viewer, opened.quiz.id, wanted, null));
}

/**
 * An instructor sets the window of a quiz, its limit, its attempts, or who may take it. Attempts that run move with it, whoever
 * is concerned is told what becomes otherwise for them, and every open desk shows it.
 */
export async function setTimes(viewer: Viewer, quizId: string, input: unknown): Promise<TimesEffect> {
  const wanted = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "rule");
  const { reason } = wanted;
  if (reason === undefined) throw badInput(t("server.quizzes.set-times.say-why-the-students-read-it"));
  return inTransaction((tx) => change(tx, viewer, opened.quiz.id, wanted, reason));
}

const listOf = async (tx: Database, quizId: string) =>
  (
    await tx
      .select({ personId: assignment.personId })
      .from(assignment)
      .where(eq(assignment.quizId, quizId))
      .orderBy(asc(assignment.personId))
  ).map(({ personId }) => personId);

async function change(
  tx: Database,
  viewer: Viewer,
  quizId: string,
  wanted: Wanted,
  reason: string | null,
): Promise<TimesEffect> {
  const by = { actorId: viewer.id, reason };
  const [quiz] = await holdQuizzes(tx, [quizId], by);
  if (!quiz) throw notFound();
  const list = quiz.onlyAssigned ? await listOf(tx, quizId) : null;
  const expects = createHash("sha256")
    .update(JSON.stringify([quiz.opens, quiz.due, quiz.closes, quiz.settings, list]))
    .digest("base64url");
  if (wanted.expects !== undefined && wanted.expects !== expects)
    throw new Problem(409, "changed-meanwhile", t("server.quizzes.set-times.changed-meanwhile"));
  const before = await timesOfStudents(tx, [quizId]);
  const moved = await setWindow(tx, quiz, wanted);
  const limits = Object.fromEntries(
    LIMITS.flatMap((name) => (wanted[name] === undefined ? [] : [[name, wanted[name]]])),
  );
  if (Object.keys(limits).length > 0) await writeSettings(tx, viewer, quiz.id, limits, reason ?? "");
  if (wanted.onlyFor !== undefined) await setTakers(tx, quiz, wanted.onlyFor);
  const after = await timesOfStudents(tx, [quizId]);
  refuseDisorder(after);
  const held = await holdQuizzes(tx, [quizId], by);
  const now = held[0];
  if (now) {
    const [contradiction] = contradictionsOf(now.settings, {
      due: instantOf(now.due),
      closes: instantOf(now.closes),
    });
    if (contradiction) throw badInput(contradiction);
  }
  const ends = await moveDeadlines(tx, held, by);
  if (reason !== null && (Object.keys(moved).length > 0 || wanted.onlyFor !== undefined))
    await note(tx, {
      actorId: viewer.id,
      action: "moved",
      subject: "quiz",
      subjectId: quiz.id,
      details: { reason, ...moved, ...(wanted.onlyFor === undefined ? {} : { onlyFor: wanted.onlyFor }) },
    });
  const news = newsOf(quiz, before, after, reason ?? "");
  if (reason !== null) await notify(tx, news);
  const reader =
    [...after.values()].find(({ allowance }) => allowance.factor === 1) ?? [...after.values()][0];
  return {
    moved: ends,
    told: news.length,
    reads: reader ? { name: reader.name, title: quiz.title, line: briefLine(reader) } : null,
    warnings: await warningsAbout(tx, before, after),
    expects,
  };
}

/** Sets the window; returns what of it has moved, for the record. */
async function setWindow(tx: Database, quiz: typeof quizTable.$inferSelect, wanted: Wanted) {
  const window = Object.fromEntries(
    MOMENTS.map((what) => {
      const text = wanted[what];
      return [what, text === undefined ? instantOf(quiz[what]) : text === null ? null : Date.parse(text)];
    }),
  ) as { readonly [W in (typeof MOMENTS)[number]]: Instant | null };
  if (!inOrder(window)) throw badInput(t("server.quizzes.set-times.a-quiz-opens-first-is-due"));
  const moved = MOMENTS.filter((what) => instantOf(quiz[what]) !== window[what]);
  if (moved.length === 0) return {};
  const date = (at: Instant | null) => (at === null ? null : new Date(at));
  await tx
    .update(quizTable)
    .set({ opens: date(window.opens), due: date(window.due), closes: date(window.closes) })
    .where(eq(quizTable.id, quiz.id));
  const text = (at: Instant | null) => (at === null ? null : iso(at));
  return Object.fromEntries(
    moved.map((what) => [what, { from: text(instantOf(quiz[what])), to: text(window[what]) }]),
  );
}

/** Sets who may take a quiz; null: everyone in its course. @throws Problem where somebody is no student of it */
export async function setTakers(
  tx: Database,
  quiz: Pick<typeof quizTable.$inferSelect, "id" | "courseId">,
  people: readonly string[] | null,
): Promise<void> {
  const chosen = [...new Set(people ?? [])];
  if (chosen.length > 0) {
    const students = await tx
      .select({ id: enrolment.personId })
      .from(enrolment)
      .where(
        and(
          eq(enrolment.courseId, quiz.courseId),
          eq(enrolment.role, "student"),
          inArray(enrolment.personId, chosen),
        ),
      );
    if (students.length < chosen.length) throw badInput(t("server.quizzes.set-times.not-a-student"));
  }
  await tx
    .update(quizTable)
    .set({ onlyAssigned: people !== null })
    .where(eq(quizTable.id, quiz.id));
  await tx.delete(assignment).where(eq(assignment.quizId, quiz.id));
  if (chosen.length > 0)
    await tx.insert(assignment).values(chosen.map((personId) => ({ quizId: quiz.id, personId })));
}

type Times = Awaited<ReturnType<typeof timesOfStudents>>;

/** What each student is told: what becomes otherwise for them, and nothing to whom nothing does. */
function newsOf(quiz: typeof quizTable.$inferSelect, before: Times, after: Times, reason: string) {
  const { title } = quiz;
  const tell = (personId: string, text: Said) => ({
    personId,
    kind: "moved" as const,
    text,
    path: `/quizzes/${quiz.id}`,
  });
  const news = [...after].flatMap(([key, now]) => {
    const then = before.get(key);
    if (!then)
      return [tell(now.personId, said("server.quizzes.set-times.is-set-for-you", { title, reason }))];
    const changes = changesBetween(then, now);
    return changes.length === 0
      ? []
      : [
          tell(
            now.personId,
            said("server.quizzes.set-times.moved", { title, changes: saidTogether(changes, "and"), reason }),
          ),
        ];
  });
  const out = [...before]
    .filter(([key]) => !after.has(key))
    .map(([, { personId }]) =>
      tell(personId, said("server.quizzes.set-times.is-no-longer-set-for-you", { title, reason })),
    );
  return [...news, ...out];
}
