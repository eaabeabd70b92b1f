import { and, asc, desc, eq, isNotNull, ne } from "drizzle-orm";
import type { CourseRole } from "@/core/access/may";
import { attemptsAllowed } from "@/core/attempt/attempts-left";
import { deadlineOf, timeAllowed } from "@/core/attempt/deadline";
import { lockedWords, rulingOnStart, type StartRuling } from "@/core/attempt/start-rules";
import type { Window } from "@/core/attempt/window";
import type { RuleSentence } from "@/core/brief/phrases";
import {
  decidingLine,
  differingRules,
  lateStartWords,
  type RuleTerms,
  ruleSentences,
} from "@/core/brief/rule-sentences";
import type { HelpRoutes } from "@/core/quiz/rules";
import { toldOtherwise } from "@/core/quiz/told-numbers";
import { capitalized } from "@/core/text/capitalized";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt, quiz } from "@/data/schema";
import { say } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import type { Viewer } from "../access/viewer";
import { isOverdue, settleAll } from "../attempts/settle";
import { instantOf, now } from "../base/clock";
import { config } from "../base/config";
import { contentLanguage } from "../base/content-language";
import { ruleTerms } from "../quizzes/rule-terms";
import { versionContent } from "../quizzes/versions";
import { totalOf } from "../reveal/counting-attempts";
import { prerequisiteOf } from "../reveal/prerequisite";
import { quizOfPerson } from "../reveal/quizzes-of-person";
import { withFormulas } from "../text/formulas";

export interface BriefView {
  readonly quizId: string;
  readonly title: string;
  /** The language of what the author wrote, as a tag (BCP 47). */
  readonly language: string;
  readonly course: { readonly slug: string; readonly title: string; readonly code: string };
  readonly role: CourseRole;
  readonly practice: boolean;
  readonly instructor: string;
  /** Where the instructor can be asked. */
  readonly help: HelpRoutes;
  /** What decides, in one line. */
  readonly deciding: string;
  /** What starting now would cost, where the due time is over; null where it is not. */
  readonly lateStart: string | null;
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
    /** The mark as it may be shown, or when it will be. */
    readonly mark: string;
  }[];
  /** What has to be done first: which quiz, and what of it is still missing; null: nothing is asked. */
  readonly first: { readonly quizId: string; readonly title: string; readonly missing: string | null } | null;
  /** For staff: where the instructor's text names another number than the settings. */
  readonly remarks: readonly string[];
}

/** The quiz of a course that a person handed in last, other than this one. */
async function lastTaken(viewer: Viewer, courseId: string, quizId: string) {
  const [row] = await database()
    .select({ title: quiz.title, settings: quiz.settings, versionId: attempt.versionId })
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

async function differing(terms: RuleTerms, last: NonNullable<Awaited<ReturnType<typeof lastTaken>>>) {
  const { rules, reference } = await versionContent(last.versionId);
  const before = { rules: { ...rules, ...last.settings }, reference: reference !== undefined };
  return { from: last.title, rules: differingRules(terms, before).map((rule) => say(rule)) };
}

/** Everything that is said before a clock starts. Reading it starts nothing. */
export async function briefOf(viewer: Viewer, quizId: string): Promise<BriefView> {
  const opened = await openQuiz(viewer, quizId);
  const { quiz: set, course, role, allowance, window, instructor, instructorMail, assigned } = opened;
  const readAttempts = () =>
    database()
      .select()
      .from(attempt)
      .where(and(eq(attempt.quizId, set.id), eq(attempt.personId, viewer.id)))
      .orderBy(asc(attempt.number));
  const [firstRead, last, first] = await Promise.all([
    readAttempts(),
    lastTaken(viewer, course.id, set.id),
    prerequisiteOf(set, viewer),
  ]);
  let attempts = firstRead;
  const overdue = attempts.filter((each) => isOverdue(each, now()));
  if (overdue.length > 0) {
    await settleAll(overdue);
    attempts = await readAttempts();
  }
  const content = await versionContent(opened.versionId);
  const { settings } = set;
  const at = now();
  const item = quizOfPerson(opened, attempts, first ? lockedWords(first) : null);
  const allowed = attemptsAllowed(settings.attempts, allowance);
  const terms = ruleTerms({ content, settings, window, allowance, used: attempts.length, first });
  return {
    quizId: set.id,
    title: set.title,
    language: contentLanguage(content),
    course,
    role,
    practice: settings.practice ?? false,
    instructor,
    brief: content.brief === undefined ? null : withFormulas(content.brief),
    help: { mail: instructorMail, ...settings.help },
    deciding: capitalized(say(decidingLine(terms, at))),
    lateStart: say(lateStartWords(terms, at)),
    rules: ruleSentences(terms),
    differs: last ? await differing(terms, last) : null,
    ruling: rulingOnStart({
      assigned,
      first,
      waitBetween: settings.waitBetween,
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
      limitMinutes: settings.timeLimit ?? null,
      allowance,
      closes: window.closes,
      closingCuts: settings.closingCutsClock ?? true,
    }),
    allowedTime: timeAllowed(settings.timeLimit ?? null, allowance),
    allowed,
    pastAttempts: attempts.flatMap((each) => {
      if (!each.handedInAt) return [];
      const total = totalOf(item, each);
      const handedInAt = each.handedInAt.getTime();
      return [{ id: each.id, number: each.number, handedInAt, mark: total.figure ?? total.words }];
    }),
    first:
      first && set.firstQuizId !== null
        ? { quizId: set.firstQuizId, title: first.title, missing: say(lockedWords(first)) }
        : null,
    remarks:
      role === "student" || content.brief === undefined
        ? []
        : toldOtherwise(content.brief, {
            rules: terms.rules,
            questions: terms.questions,
            maximum: Number(terms.maximum),
          }).map((remark) => say(remark)),
  };
}
