import { and, asc, eq, inArray, isNotNull, max, sql } from "drizzle-orm";
import { attemptsAllowed } from "@/core/attempt/attempts-left";
import { type Allowance, timeAllowed } from "@/core/attempt/deadline";
import type { Window } from "@/core/attempt/window";
import { decidingLine } from "@/core/brief/rule-sentences";
import { KEY } from "@/core/quiz/contradictions";
import { type Said, said } from "@/core/said";
import { capitalized } from "@/core/text/capitalized";
import { dayAndTime, lengthInWords } from "@/core/time/said-times";
import type { Database } from "@/data/database";
import { attempt, enrolment, person, quiz as quizTable } from "@/data/schema";
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

/** As many quizzes are named in one sentence. */
const NAMED = 5;

type Times = ReadonlyMap<string, TimesOfStudent>;

/** Quizzes of which right answers are shown already, to some at least. */
async function keysThatAreOut(tx: Database, quizzes: readonly QuizRow[]): Promise<ReadonlySet<string>> {
  const shown = quizzes.filter(({ settings: { reveal } }) => KEY.some((what) => reveal[what] !== "never"));
  if (shown.length === 0) return new Set();
  const rows = await tx
    .select({ id: attempt.quizId, returned: max(attempt.returnedAt) })
    .from(attempt)
    .where(
      and(
        inArray(
          attempt.quizId,
          shown.map(({ id }) => id),
        ),
        isNotNull(attempt.handedInAt),
      ),
    )
    .groupBy(attempt.quizId);
  const handedIn = new Map(rows.map(({ id, returned }) => [id, returned]));
  return new Set(
    shown
      .filter(({ id, settings: { reveal }, shownTold }) =>
        KEY.some(
          (what) =>
            shownTold.includes(what) ||
            (reveal[what] === "at-hand-in" && handedIn.has(id)) ||
            (reveal[what] === "when-returned" && (handedIn.get(id) ?? null) !== null),
        ),
      )
      .map(({ id }) => id),
  );
}

/** What should be looked at before a change of times is done, in sentences. @param only those it is about; absent: everyone */
export async function warningsAbout(
  tx: Database,
  before: Times,
  after: Times,
  only?: ReadonlySet<string>,
): Promise<string[]> {
  const at = now();
  const isOver = ({ window: { closes } }: TimesOfStudent) => closes !== null && closes <= at;
  const theirs = [...after].filter(([, each]) => (only?.has(each.personId) ?? true) && !isOver(each));
  const again = theirs.filter(([key]) => {
    const then = before.get(key);
    return then !== undefined && isOver(then);
  });
  const gain = theirs.filter(([key, each]) => {
    const then = before.get(key);
    return then === undefined || changesBetween(then, each).length > 0;
  });
  const out = await keysThatAreOut(tx, [...new Map(gain.map(([, { quiz }]) => [quiz.id, quiz])).values()]);
  const titlesOf = (some: typeof theirs) => {
    const titles = [...new Set(some.map(([, { quiz }]) => quiz.title))];
    return titles.slice(0, NAMED).join(", ") + (titles.length > NAMED ? " …" : "");
  };
  const known = gain.filter(([, { quiz }]) => out.has(quiz.id));
  return [
    ...(again.length > 0
      ? [t("server.quizzes.set-times.open-again", { titles: titlesOf(again), count: again.length })]
      : []),
    ...(known.length > 0 ? [t("server.quizzes.set-times.answers-are-out", { titles: titlesOf(known) })] : []),
    ...cutShort(theirs.map(([, each]) => each)),
  ];
}

/** Who gets less out of it than the limit says. */
function cutShort(some: readonly TimesOfStudent[]): string[] {
  const found: string[] = [];
  for (const { name, quiz, window, time } of some) {
    const { opens, closes } = window;
    if (opens === null || closes === null || time === null || !(quiz.settings.closingCutsClock ?? true))
      continue;
    if (closes - opens < time)
      found.push(t("server.quizzes.set-times.shorter-than-the-limit", { name, title: quiz.title }));
  }
  return [...new Set(found)];
}
