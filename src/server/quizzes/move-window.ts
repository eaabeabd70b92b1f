import { and, eq } from "drizzle-orm";
import * as yup from "yup";
import { contradictionsOf } from "@/core/quiz/contradictions";
import { said, saidTogether } from "@/core/said";
import { dayAndTime } from "@/core/time/said-times";
import { inTransaction } from "@/data/database";
import { assignment, enrolment, quiz as quizTable } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { instantOf, iso } from "../base/clock";
import { config } from "../base/config";
import { inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { note } from "../base/record";
import { notify } from "../notices/notify";

const moment = (what: string) =>
  yup
    .string()
    .strict()
    .nullable()
    .test(
      "instant",
      said("server.quizzes.move-window.must-be-an-instant-such-as", { what }),
      (text) => text == null || (/^\d{4}-\d{2}-\d{2}T/.test(text) && !Number.isNaN(Date.parse(text))),
    );

const body = yup
  .object({
    opens: moment("opens"),
    due: moment("due"),
    closes: moment("closes"),
    reason: yup
      .string()
      .strict()
      .trim()
      .min(1, said("server.quizzes.move-window.say-why-the-students-read-it"))
      .max(500)
      .required(said("server.quizzes.move-window.reason-is-missing-the-students-read")),
  })
  .strict()
  .noUnknown();

type Moments = { readonly [W in "opens" | "due" | "closes"]: number | null };

const inOrder = ({ opens, due, closes }: Moments): boolean => {
  const set = [opens, due, closes].filter((each) => each !== null);
  return set.every((each, i) => i === 0 || (set[i - 1] ?? 0) <= each);
};

/**
 * An instructor moves the window of a quiz: what is not named stays. Its students are told. Attempts that run keep the end
 * they have; `extend-running` is what moves that.
 */
export async function moveWindow(viewer: Viewer, quizId: string, input: unknown): Promise<Moments> {
  const { reason, ...wanted } = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "rule");
  const { quiz } = opened;
  const before: Moments = {
    opens: instantOf(quiz.opens),
    due: instantOf(quiz.due),
    closes: instantOf(quiz.closes),
  };
  const after = Object.fromEntries(
    (["opens", "due", "closes"] as const).map((what) => {
      const text = wanted[what];
      return [what, text === undefined ? before[what] : text === null ? null : Date.parse(text)];
    }),
  ) as Moments;
  if (!inOrder(after)) throw badInput(t("server.quizzes.move-window.a-quiz-opens-first-is-due"));
  const [contradiction] = contradictionsOf(quiz.settings, after);
  if (contradiction) throw badInput(contradiction);
  const moved = (["opens", "due", "closes"] as const).filter((what) => before[what] !== after[what]);
  if (moved.length === 0) return after;
  const date = (at: number | null) => (at === null ? null : new Date(at));
  const changes = saidTogether(
    moved.map((what) =>
      after[what] === null
        ? said(`server.quizzes.move-window.no-longer-${what}`)
        : said(`server.quizzes.move-window.now-${what}`, { when: dayAndTime(after[what], config.zone) }),
    ),
    "and",
  );
  await inTransaction(async (tx) => {
    await tx
      .update(quizTable)
      .set({ opens: date(after.opens), due: date(after.due), closes: date(after.closes) })
      .where(eq(quizTable.id, quiz.id));
    await note(tx, {
      actorId: viewer.id,
      action: "moved",
      subject: "quiz",
      subjectId: quiz.id,
      details: {
        reason,
        ...Object.fromEntries(
          moved.map((what) => [
            what,
            {
              from: before[what] === null ? null : iso(before[what]),
              to: after[what] === null ? null : iso(after[what]),
            },
          ]),
        ),
      },
    });
    const students = quiz.onlyAssigned
      ? await tx
          .select({ personId: assignment.personId })
          .from(assignment)
          .where(eq(assignment.quizId, quiz.id))
      : await tx
          .select({ personId: enrolment.personId })
          .from(enrolment)
          .where(and(eq(enrolment.courseId, quiz.courseId), eq(enrolment.role, "student")));
    await notify(
      tx,
      students.map(({ personId }) => ({
        personId,
        kind: "moved" as const,
        text: said("server.quizzes.move-window.moved", { title: quiz.title, changes, reason }),
        path: `/quizzes/${quiz.id}`,
      })),
    );
  });
  return after;
}
