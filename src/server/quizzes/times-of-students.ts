import { and, asc, eq, inArray, sql } from "drizzle-orm";
import { attemptsAllowed } from "@/core/attempt/attempts-left";
import { type Allowance, timeAllowed } from "@/core/attempt/deadline";
import type { Window } from "@/core/attempt/window";
import { decidingLine } from "@/core/brief/rule-sentences";
import { type Said, said } from "@/core/said";
import { capitalized } from "@/core/text/capitalized";
import { dayAndTime, lengthInWords } from "@/core/time/said-times";
import type { Database } from "@/data/database";
import { enrolment, person, quiz as quizTable } from "@/data/schema";
import { say, t } from "@/words/t";
import { allowancesIn, windowOf } from "../access/allowances";
import { isAssignedTo } from "../access/assigned";
import { now } from "../base/clock";
import { config } from "../base/config";
import { badInput } from "../base/problems";

type QuizRow = typeof quizTable.$inferSelect;

/** What holds for one student at one quiz. */
export interface TimesOfStudent {
  readonly quiz: QuizRow;
  readonly personId: string;
  readonly name: string;
  readonly allowance: Allowance;
  readonly window: Window;
  /** In milliseconds; null: no limit. */
  readonly time: number | null;
  /** Null: as many as one likes. */
  readonly attempts: number | null;
}

/** What holds now for everyone for whom some quizzes are set, by quiz and person. Three queries. */
export async function timesOfStudents(
  tx: Database,
  quizIds: readonly string[],
): Promise<ReadonlyMap<string, TimesOfStudent>> {
  if (quizIds.length === 0) return new Map();
  const rows = await tx
    .select({ quiz: quizTable, personId: person.id, name: person.name })
    .from(quizTable)
    .innerJoin(enrolment, and(eq(enrolment.courseId, quizTable.courseId), eq(enrolment.role, "student")))
    .innerJoin(person, eq(person.id, enrolment.personId))
    .where(and(inArray(quizTable.id, [...quizIds]), isAssignedTo(person.id)))
    .orderBy(asc(person.name), asc(sql`${quizTable.opens}`));
  const allowed = await allowancesIn(quizIds);
  return new Map(
    rows.map((row) => {
      const allowance = allowed(row.quiz.id, row.personId);
      const { settings } = row.quiz;
      return [
        `${row.quiz.id} ${row.personId}`,
        {
          ...row,
          allowance,
          window: windowOf(row.quiz, allowance),
          time: timeAllowed(settings.timeLimit ?? null, allowance),
          attempts: attemptsAllowed(settings.attempts, allowance),
        },
      ];
    }),
  );
}

/** What becomes otherwise for a student, as parts of a sentence about the quiz; empty: nothing. */
export function changesBetween(before: TimesOfStudent, after: TimesOfStudent): Said[] {
  const moments = (["opens", "due", "closes"] as const).map((what) => {
    const at = after.window[what];
    if (before.window[what] === at) return "";
    return at === null
      ? said(`server.quizzes.set-times.no-longer-${what}`)
      : said(`server.quizzes.set-times.now-${what}`, { when: dayAndTime(at, config.zone) });
  });
  return [
    ...moments,
    before.time === after.time
      ? ""
      : after.time === null
        ? said("server.quizzes.set-times.now-without-limit")
        : said("server.quizzes.set-times.now-time", { time: lengthInWords(after.time) }),
    before.attempts === after.attempts
      ? ""
      : after.attempts === null
        ? said("server.quizzes.set-times.now-any-attempts")
        : said("server.quizzes.set-times.now-attempts", { count: after.attempts }),
  ].filter((part) => part !== "");
}

/** Whether opening, due time and closing follow each other, as far as there are any. */
export const inOrder = ({ opens, due, closes }: Window): boolean => {
  const set = [opens, due, closes].filter((each) => each !== null);
  return set.every((each, i) => i === 0 || (set[i - 1] ?? 0) <= each);
};

/** No student's own window may end before it begins. @throws Problem that names who it is about */
export function refuseDisorder(after: ReadonlyMap<string, TimesOfStudent>): void {
  for (const { window, name, quiz } of after.values())
    if (!inOrder(window)) {
      const says = (what: "opens" | "due" | "closes") =>
        window[what] === null ? "–" : dayAndTime(window[what], config.zone);
      throw badInput(
        said("server.quizzes.set-times.not-in-order-for", {
          name,
          title: quiz.title,
          opens: says("opens"),
          due: says("due"),
          closes: says("closes"),
        }),
      );
    }
}

/** What a student reads first on the brief: "30 min for you, two attempts, the best counts, due Fri 27 Nov, 23:59". */
export const briefLine = ({
  quiz,
  allowance,
  window,
}: Pick<TimesOfStudent, "quiz" | "allowance" | "window">) =>
  capitalized(say(decidingLine({ rules: quiz.settings, allowance, window, zone: config.zone }, now())));

/** Who cannot begin any more, or gets less out of it than it says: sentences to look at before it is done. */
export function warningsAbout(after: Iterable<TimesOfStudent>): string[] {
  const found: string[] = [];
  for (const { name, quiz, window, time } of after) {
    const { opens, closes } = window;
    if (opens === null || closes === null || time === null || !(quiz.settings.closingCutsClock ?? true))
      continue;
    if (closes - opens < time)
      found.push(t("server.quizzes.set-times.shorter-than-the-limit", { name, title: quiz.title }));
  }
  return [...new Set(found)];
}
