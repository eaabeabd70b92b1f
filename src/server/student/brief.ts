import { and, asc, desc, eq, isNotNull, ne } from "drizzle-orm";
import { deadlineOf, timeAllowed } from "@/core/attempt/deadline";
import { rulingOnStart, type StartRuling } from "@/core/attempt/start-rules";
import type { Window } from "@/core/attempt/window";
import { written } from "@/core/numbers/exact";
import { questionCount, quizMaximum } from "@/core/quiz/quiz-file";
import { differingRules, type RuleSentence, type RuleTerms, ruleSentences } from "@/core/quiz/sentences";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt, quiz, quizVersion } from "@/data/schema";
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
  /** In which rules it is other than the last quiz of this course that its reader took; null: there is none. */
  readonly differs: { readonly from: string; readonly rules: readonly string[] } | null;
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

/** The quiz of a course that a person handed in last, other than this one. */
async function lastTaken(viewer: Viewer, courseId: string, quizId: string) {
  const [row] = await database()
    .select({ title: quiz.title, versionId: attempt.versionId })
    .from(attempt)
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .where(
      and(
        eq(attempt.personId, viewer.id),
        eq(quiz.courseId, courseId),
        ne(quiz.id, quizId),
        isNotNull(attempt.handedInAt),
      ),
    )
    .orderBy(desc(attempt.handedInAt))
    .limit(1);
  return row;
}

async function differing(terms: RuleTerms, last: { readonly title: string; readonly versionId: string }) {
  const { rules, reference } = await versionContent(last.versionId);
  return { from: last.title, rules: differingRules(terms, { rules, reference: reference !== undefined }) };
}

/** Everything that is said before a clock starts. Reading it starts nothing. */
export async function briefOf(viewer: Viewer, quizId: string): Promise<BriefView> {
  const { quiz: set, course, role, allowance, window, instructor } = await openQuiz(viewer, quizId);
  const readAttempts = () =>
    database()
      .select()
      .from(attempt)
      .where(and(eq(attempt.quizId, set.id), eq(attempt.personId, viewer.id)))
      .orderBy(asc(attempt.number));
  const [version, firstRead, last] = await Promise.all([
    database()
      .select({ id: quizVersion.id })
      .from(quizVersion)
      .where(and(eq(quizVersion.quizId, set.id), eq(quizVersion.number, set.currentVersion))),
    readAttempts(),
    lastTaken(viewer, course.id, set.id),
  ]);
  let attempts = firstRead;
  for (const overdue of attempts.filter((each) => isOverdue(each, now()))) {
    await settle(overdue.id);
    attempts = await readAttempts();
  }
  const content = await versionContent(version[0]?.id ?? "");
  const { rules } = content;
  const at = now();
  const first = await prerequisiteOf(set, viewer.id);
  const allowed = rules.attempts === undefined ? null : rules.attempts + allowance.extraAttempts;
  const terms: RuleTerms = {
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
  };
  return {
    quizId: set.id,
    title: set.title,
    course,
    role,
    practice: rules.practice ?? false,
    instructor,
    brief: content.brief ?? null,
    rules: ruleSentences(terms),
    differs: last ? await differing(terms, last) : null,
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
