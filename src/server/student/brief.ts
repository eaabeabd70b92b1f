import { and, asc, eq } from "drizzle-orm";
import { deadlineOf, timeAllowed } from "@/core/attempt/deadline";
import { rulingOnStart, type StartRuling } from "@/core/attempt/start-rules";
import type { Window } from "@/core/attempt/window";
import { written } from "@/core/numbers/exact";
import { questionCount, quizMaximum } from "@/core/quiz/quiz-file";
import { type RuleSentence, ruleSentences } from "@/core/quiz/sentences";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt, quizVersion } from "@/data/schema";
import { isOverdue, settle } from "../attempts/settle";
import { instantOf, now } from "../clock";
import { config } from "../config";
import { versionContent } from "../quiz-versions";
import { prerequisiteOf } from "../quizzes/first-quiz";
import { openQuiz } from "../quizzes/open-quiz";
import type { Viewer } from "../viewer";

export interface BriefView {
  readonly quizId: string;
  readonly title: string;
  readonly course: { readonly slug: string; readonly title: string; readonly code: string };
  readonly role: "student" | "assistant" | "instructor";
  readonly practice: boolean;
  readonly instructor: string;
  readonly brief: string | null;
  readonly rules: readonly RuleSentence[];
  readonly ruling: StartRuling;
  readonly window: Window;
  readonly now: Instant;
  /** When the time would end if it started now; null: nothing would end it. */
  readonly endsIfStarted: Instant | null;
  /** Milliseconds; null: no limit. */
  readonly allowedTime: number | null;
  readonly allowed: number | null;
  readonly pastAttempts: readonly {
    readonly id: string;
    readonly number: number;
    readonly handedInAt: Instant;
  }[];
}

/** Everything that is said before a clock starts. Reading it starts nothing. */
export async function briefOf(viewer: Viewer, quizId: string): Promise<BriefView> {
  const { quiz, course, role, allowance, window, instructor } = await openQuiz(viewer, quizId);
  const readAttempts = () =>
    database()
      .select()
      .from(attempt)
      .where(and(eq(attempt.quizId, quiz.id), eq(attempt.personId, viewer.id)))
      .orderBy(asc(attempt.number));
  const [version, firstRead] = await Promise.all([
    database()
      .select({ id: quizVersion.id })
      .from(quizVersion)
      .where(and(eq(quizVersion.quizId, quiz.id), eq(quizVersion.number, quiz.currentVersion))),
    readAttempts(),
  ]);
  let attempts = firstRead;
  for (const overdue of attempts.filter((each) => isOverdue(each, now()))) {
    await settle(overdue.id);
    attempts = await readAttempts();
  }
  const content = await versionContent(version[0]?.id ?? "");
  const { rules } = content;
  const at = now();
  const first = await prerequisiteOf(quiz, viewer.id);
  const allowed = rules.attempts === undefined ? null : rules.attempts + allowance.extraAttempts;
  return {
    quizId: quiz.id,
    title: quiz.title,
    course,
    role,
    practice: rules.practice ?? false,
    instructor,
    brief: content.brief ?? null,
    rules: ruleSentences({
      rules,
      window,
      allowance,
      used: attempts.length,
      questions: questionCount(content),
      drawn: content.sections.some((section) => section.draw !== undefined),
      maximum: written(quizMaximum(content)),
      zone: config.zone,
      first,
      reference: content.reference !== undefined,
    }),
    ruling: rulingOnStart({
      first,
      waitBetween: rules.waitBetween,
      lastHandIn: instantOf(attempts.at(-1)?.handedInAt ?? null),
      window,
      now: at,
      zone: config.zone,
      allowed,
      used: attempts.length,
      running: attempts.find((each) => each.handedInAt === null)?.id ?? null,
    }),
    window,
    now: at,
    endsIfStarted: deadlineOf({
      start: at,
      limitMinutes: rules.timeLimit ?? null,
      allowance,
      closes: window.closes,
      closingCuts: rules.closingCutsClock ?? true,
    }),
    allowedTime: timeAllowed(rules.timeLimit ?? null, allowance),
    allowed,
    pastAttempts: attempts.flatMap((each) =>
      each.handedInAt ? [{ id: each.id, number: each.number, handedInAt: each.handedInAt.getTime() }] : [],
    ),
  };
}
