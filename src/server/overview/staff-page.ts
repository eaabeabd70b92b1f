import { asc, eq } from "drizzle-orm";
import { may } from "@/core/access/may";
import { NO_ALLOWANCE } from "@/core/attempt/deadline";
import { windowFor } from "@/core/attempt/window";
import type { RuleSentence } from "@/core/brief/phrases";
import { ruleSentences } from "@/core/brief/rule-sentences";
import { warningsOf } from "@/core/kinds/marking";
import { markFigure } from "@/core/marking/mark-words";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { alikeRun, attempt, person } from "@/data/schema";
import { openQuiz } from "../access/open-quiz";
import { isSeenBy } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { instantOf, now } from "../base/clock";
import { contentLanguage } from "../base/content-language";
import { notFound } from "../base/problems";
import { numberPapers, openRoom } from "../marking/room";
import { markersOf } from "../marking/share-pile";
import { ruleTerms } from "../quizzes/rule-terms";
import { versionContent } from "../quizzes/versions";
import { type StaffQuiz, staffQuizzes } from "./staff-quizzes";

/** A paper in the list of a quiz's hand-ins. */
export interface HandedInLine {
  readonly attemptId: string;
  readonly number: number;
  readonly name: string;
  readonly handedInAt: Instant | null;
  readonly by: "student" | "clock" | "instructor" | null;
  readonly figure: string;
  readonly returnedAt: Instant | null;
}

/** Everything of a quiz that those who teach it need in one place. */
export interface StaffPage {
  readonly quiz: StaffQuiz;
  readonly language: string;
  readonly rules: readonly RuleSentence[];
  readonly practice: boolean;
  /** Who has begun or handed in; empty where names are hidden. */
  readonly papers: readonly HandedInLine[];
  readonly namesHidden: boolean;
  readonly mayWatch: boolean;
  readonly mayMark: boolean;
  readonly mayRule: boolean;
  readonly mayReturn: boolean;
  /** Whether long answers are compared, and when that was done last. */
  readonly alike: { readonly isOn: boolean; readonly at: Instant | null };
  readonly markers: readonly { readonly id: string; readonly name: string }[];
  /** Questions with something an author should look at again. */
  readonly toPutRight: number;
  readonly now: Instant;
}

/** A quiz as its staff see it: its state, what students were told, who has handed in, what awaits, and the ways on. */
export async function staffPageOf(viewer: Viewer, quizId: string): Promise<StaffPage> {
  const opened = await openQuiz(viewer, quizId);
  if (opened.role === "student" || !isSeenBy(opened)) throw notFound();
  const { quiz: set } = opened;
  const [quiz] = await staffQuizzes(viewer, { quizId: set.id });
  if (!quiz) throw notFound();
  const content = await versionContent(opened.versionId);
  const window = windowFor(
    { opens: instantOf(set.opens), due: instantOf(set.due), closes: instantOf(set.closes) },
    NO_ALLOWANCE,
  );
  const mayMark = may(opened, "mark");
  const { namesHidden } = mayMark ? await openRoom(viewer, set.id) : { namesHidden: false };
  await numberPapers(set.id);
  const rows = await database()
    .select({ attempt, name: person.name })
    .from(attempt)
    .innerJoin(person, eq(person.id, attempt.personId))
    .where(eq(attempt.quizId, set.id))
    .orderBy(asc(person.name), asc(attempt.number));
  // An observer reads what was returned, and nothing before.
  const readable = rows.filter(({ attempt: row }) =>
    may(opened, row.returnedAt === null ? "read-work" : "read-returned"),
  );
  const [run] = await database().select().from(alikeRun).where(eq(alikeRun.quizId, set.id));
  return {
    quiz,
    language: contentLanguage(content),
    rules: ruleSentences(
      ruleTerms({
        content,
        settings: set.settings,
        window,
        allowance: NO_ALLOWANCE,
        used: null,
        first: undefined,
      }),
    ),
    practice: set.settings.practice ?? false,
    papers: namesHidden
      ? []
      : readable.map(({ attempt: row, name }) => ({
          attemptId: row.id,
          number: row.number,
          name,
          handedInAt: instantOf(row.handedInAt),
          by: row.handedInBy,
          figure:
            row.handedInAt === null
              ? ""
              : markFigure({ earned: row.earned ?? "0", awaited: row.awaited ?? "0", maximum: row.maximum }),
          returnedAt: instantOf(row.returnedAt),
        })),
    namesHidden,
    mayWatch: may(opened, "watch"),
    mayMark,
    mayRule: may(opened, "rule"),
    mayReturn: may(opened, "return"),
    alike: { isOn: set.settings.alike ?? false, at: instantOf(run?.finishedAt ?? null) },
    markers: may(opened, "rule") ? await markersOf(set.id, opened.course.id) : [],
    toPutRight: content.sections
      .flatMap(({ questions }) => questions)
      .filter((each) => warningsOf(each).length > 0).length,
    now: now(),
  };
}
