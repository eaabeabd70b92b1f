import { createHash } from "node:crypto";
import { and, asc, eq, inArray, isNull } from "drizzle-orm";
import type * as yup from "yup";
import { type AllowanceTerms, allowanceWords, NO_TERMS } from "@/core/allowances/allowance-terms";
import type { TimesEffect } from "@/core/allowances/times-view";
import { type Said, said, saidTogether } from "@/core/said";
import { type Database, inTransaction } from "@/data/database";
import { allowance, courseSection, enrolment, sectionMember } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { config } from "../base/config";
import { inputOf } from "../base/input";
import { badInput, isDuplicate, notFound, Problem } from "../base/problems";
import { noteAll } from "../base/record";
import { tried } from "../base/tried";
import { notify } from "../notices/notify";
import { holdQuizzes, moveDeadlines } from "../quizzes/move-deadlines";
import {
  briefLine,
  changesBetween,
  refuseDisorder,
  type TimesOfStudent,
  timesOfStudents,
  warningsAbout,
} from "../quizzes/times-of-students";
import { type AllowanceFor, type AllowanceScope, openScope } from "./allowance-scope";
import { allowanceShape, takeBackShape } from "./allowance-shape";

type Row = typeof allowance.$inferSelect;
type Given = yup.InferType<typeof allowanceShape>;

/** What an allowance holds, from its row. */
export const termsOf = (row: Row): AllowanceTerms => ({
  factor: row.factor,
  extraMinutes: row.extraMinutes,
  extraAttempts: row.extraAttempts,
  opens: row.opens?.getTime() ?? null,
  due: row.noDue ? "none" : (row.due?.getTime() ?? null),
  closes: row.noClosing ? "none" : (row.closes?.getTime() ?? null),
  daysLater: row.daysLater,
});

const instantIn = (text: string | null | undefined) =>
  text === null || text === undefined || text === "none" ? null : Date.parse(text);
const endIn = (text: string | null | undefined) => (text === "none" ? "none" : instantIn(text));

const termsIn = (given: Given): AllowanceTerms => ({
  factor: given.factor ?? null,
  extraMinutes: given.extraMinutes ?? null,
  extraAttempts: given.extraAttempts ?? null,
  opens: instantIn(given.opens),
  due: endIn(given.due),
  closes: endIn(given.closes),
  daysLater: given.daysLater ?? null,
});

const changedMeanwhile = () =>
  new Problem(409, "changed-meanwhile", t("server.quizzes.set-times.changed-meanwhile"));

/** The reason, which every deed has to have. @throws Problem without one */
function reasonIn(reason: string | undefined): string {
  if (reason === undefined) throw badInput(t("server.quizzes.set-times.say-why-the-students-read-it"));
  return reason;
}

async function giving(viewer: Viewer, what: AllowanceFor, input: unknown, isMeant: boolean) {
  const given = inputOf(allowanceShape, input);
  const scope = await openScope(viewer, what);
  const reason = isMeant ? reasonIn(given.reason) : null;
  const deed = (tx: Database) => give(tx, viewer, scope, given, reason);
  try {
    return await (isMeant ? inTransaction(deed) : tried(deed));
  } catch (error) {
    // Somebody gave the same one another in this very moment.
    if (isDuplicate(error)) throw changedMeanwhile();
    throw error;
  }
}

async function takingBack(viewer: Viewer, what: AllowanceFor, input: unknown, isMeant: boolean) {
  const wanted = inputOf(takeBackShape, input);
  const scope = await openScope(viewer, what);
  const reason = isMeant ? reasonIn(wanted.reason) : null;
  const deed = (tx: Database) => takeBack(tx, viewer, scope, wanted, reason);
  return isMeant ? inTransaction(deed) : tried(deed);
}

/** Something done with allowances, or looked over. */
export type AllowanceDeed = (viewer: Viewer, what: AllowanceFor, input: unknown) => Promise<TimesEffect>;

/** What giving an allowance would do; nothing is changed. */
export const lookOverAllowance: AllowanceDeed = (viewer, what, input) => giving(viewer, what, input, false);

/**
 * Gives an allowance to students or to a section, in the place of what each had been given there before. Attempts that run move
 * with it; those for whom something becomes otherwise are told, and nobody else.
 */
export const giveAllowance: AllowanceDeed = (viewer, what, input) => giving(viewer, what, input, true);

/** What taking an allowance back would do; nothing is changed. */
export const lookOverTakingBack: AllowanceDeed = (viewer, what, input) =>
  takingBack(viewer, what, input, false);

/** Takes an allowance back: from now on what everyone has holds, or what else was given. */
export const takeAllowanceBack: AllowanceDeed = (viewer, what, input) =>
  takingBack(viewer, what, input, true);

/** Which allowances hold in a scope itself. */
const heldIn = (tx: Database, { courseId, quiz }: AllowanceScope) =>
  tx
    .select()
    .from(allowance)
    .where(
      and(
        quiz === null ? eq(allowance.courseId, courseId) : eq(allowance.quizId, quiz.id),
        isNull(allowance.endedAt),
      ),
    )
    .orderBy(asc(allowance.id));

async function give(
  tx: Database,
  viewer: Viewer,
  scope: AllowanceScope,
  given: Given,
  reason: string | null,
): Promise<TimesEffect> {
  const terms = termsIn(given);
  refuseEmpty(scope, given, terms);
  const people = given.personIds
    ? [...new Set(given.personIds)]
    : await membersOf(tx, scope, given.sectionId);
  if (given.personIds) await refuseStrangers(tx, scope, people);
  const whom: { readonly personId?: string; readonly sectionId?: string }[] = given.personIds
    ? people.map((personId) => ({ personId }))
    : [{ sectionId: given.sectionId ?? "" }];
  return change(tx, viewer, scope, { reason, expects: given.expects, people, given: terms }, async (held) => {
    const mine = held.filter((row) =>
      whom.some((each) =>
        each.personId === undefined ? row.sectionId === each.sectionId : row.personId === each.personId,
      ),
    );
    const at = new Date(now());
    if (mine.length > 0)
      await tx
        .update(allowance)
        .set({ endedAt: at, endedBy: viewer.id })
        .where(
          inArray(
            allowance.id,
            mine.map(({ id }) => id),
          ),
        );
    const date = (moment: number | "none" | null) => (typeof moment === "number" ? new Date(moment) : null);
    await tx.insert(allowance).values(
      whom.map((each) => ({
        ...each,
        ...(scope.quiz === null ? { courseId: scope.courseId } : { quizId: scope.quiz.id }),
        factor: terms.factor,
        extraMinutes: terms.extraMinutes,
        extraAttempts: terms.extraAttempts,
        opens: date(terms.opens),
        due: date(terms.due),
        closes: date(terms.closes),
        noDue: terms.due === "none",
        noClosing: terms.closes === "none",
        daysLater: terms.daysLater,
        reason: reason ?? "",
        grantedBy: viewer.id,
        createdAt: at,
      })),
    );
    return {
      action: "allowance given",
      details: { terms, ...(given.sectionId ? { sectionId: given.sectionId } : {}) },
    };
  });
}

function refuseEmpty(scope: AllowanceScope, given: Given, terms: AllowanceTerms): void {
  if ((given.personIds === undefined) === (given.sectionId === undefined))
    throw badInput(t("server.allowances.give-allowance.students-or-a-section"));
  if (JSON.stringify(terms) === JSON.stringify(NO_TERMS))
    throw badInput(t("server.allowances.give-allowance.nothing-is-given"));
  const isDate = (moment: number | "none" | null) => typeof moment === "number";
  if (scope.quiz === null && (isDate(terms.opens) || isDate(terms.due) || isDate(terms.closes)))
    throw badInput(t("server.allowances.give-allowance.own-window-in-one-quiz"));
  if (scope.quiz !== null && terms.daysLater !== null)
    throw badInput(t("server.allowances.give-allowance.days-in-a-course"));
}

async function membersOf(
  tx: Database,
  { courseId }: AllowanceScope,
  sectionId: string | undefined,
): Promise<string[]> {
  const [section] = await tx
    .select({ id: courseSection.id })
    .from(courseSection)
    .where(and(eq(courseSection.id, sectionId ?? ""), eq(courseSection.courseId, courseId)));
  if (!section) throw badInput(t("server.allowances.give-allowance.no-such-section"));
  const rows = await tx
    .select({ personId: sectionMember.personId })
    .from(sectionMember)
    .where(eq(sectionMember.sectionId, section.id));
  return rows.map(({ personId }) => personId);
}

async function refuseStrangers(
  tx: Database,
  { courseId }: AllowanceScope,
  people: readonly string[],
): Promise<void> {
  const students = await tx
    .select({ id: enrolment.personId })
    .from(enrolment)
    .where(
      and(
        eq(enrolment.courseId, courseId),
        eq(enrolment.role, "student"),
        inArray(enrolment.personId, [...people]),
      ),
    );
  if (students.length < people.length) throw badInput(t("server.quizzes.set-times.not-a-student"));
}

async function takeBack(
  tx: Database,
  viewer: Viewer,
  scope: AllowanceScope,
  wanted: yup.InferType<typeof takeBackShape>,
  reason: string | null,
): Promise<TimesEffect> {
  const [row] = (await heldIn(tx, scope)).filter(({ id }) => id === wanted.id);
  if (!row) throw notFound();
  const people = row.personId === null ? await membersOf(tx, scope, row.sectionId ?? "") : [row.personId];
  return change(tx, viewer, scope, { reason, expects: wanted.expects, people, given: null }, async (held) => {
    if (!held.some(({ id }) => id === row.id)) throw notFound();
    await tx
      .update(allowance)
      .set({ endedAt: new Date(now()), endedBy: viewer.id, endReason: reason ?? "" })
      .where(eq(allowance.id, row.id));
    return {
      action: "allowance taken back",
      details: { terms: termsOf(row), ...(row.sectionId ? { sectionId: row.sectionId } : {}) },
    };
  });
}

interface Change {
  /** Null: it is only looked over. */
  readonly reason: string | null;
  readonly expects: string | undefined;
  /** Those it is about. */
  readonly people: readonly string[];
  /** What is given; null: it is taken back. */
  readonly given: AllowanceTerms | null;
}

/** Makes a change of allowances within a transaction in which nobody else makes one, and says what it does. */
async function change(
  tx: Database,
  viewer: Viewer,
  scope: AllowanceScope,
  { reason, expects: wanted, people, given }: Change,
  make: (
    held: readonly Row[],
  ) => Promise<{ readonly action: string; readonly details: Record<string, unknown> }>,
): Promise<TimesEffect> {
  const by = { actorId: viewer.id, reason };
  const quizzes = await holdQuizzes(tx, scope.quizIds, by);
  const held = await heldIn(tx, scope);
  const expects = createHash("sha256")
    .update(
      JSON.stringify([
        held.map(({ id }) => id),
        quizzes.map(({ id, opens, due, closes, settings }) => [id, opens, due, closes, settings]),
      ]),
    )
    .digest("base64url");
  if (wanted !== undefined && wanted !== expects) throw changedMeanwhile();
  const before = await timesOfStudents(tx, scope.quizIds);
  const { action, details } = await make(held);
  const after = await timesOfStudents(tx, scope.quizIds);
  refuseDisorder(after);
  const moved = await moveDeadlines(tx, quizzes, by);
  if (reason !== null)
    await noteAll(
      tx,
      people.map((personId) => ({
        actorId: viewer.id,
        action,
        subject: "person" as const,
        subjectId: personId,
        courseId: scope.courseId,
        details: {
          reason,
          ...(scope.quiz ? { quizId: scope.quiz.id } : { courseId: scope.courseId }),
          ...details,
        },
      })),
    );
  const concerned = new Set(people);
  const theirs = [...after].filter(([, { personId }]) => concerned.has(personId));
  const news = newsOf(scope, before, theirs, given, reason ?? "");
  if (reason !== null) await notify(tx, news);
  const coming = theirs
    .map(([, each]) => each)
    .filter(({ window }) => window.closes === null || window.closes > now());
  const reader = coming[0] ?? theirs[0]?.[1];
  return {
    moved,
    told: news.length,
    reads: reader ? { name: reader.name, title: reader.quiz.title, line: briefLine(reader) } : null,
    warnings: [
      ...unchanged(scope, before, theirs, people.length),
      ...(await warningsAbout(tx, before, after, concerned)),
    ],
    expects,
  };
}

type Times = Awaited<ReturnType<typeof timesOfStudents>>;

/** Each who is concerned, once, with what becomes otherwise for them in the quizzes. */
function newsOf(
  { quiz, courseTitle, slug }: AllowanceScope,
  before: Times,
  theirs: readonly (readonly [string, TimesOfStudent])[],
  given: AllowanceTerms | null,
  reason: string,
) {
  const changed = new Map<string, Said[]>();
  for (const [key, after] of theirs) {
    const then = before.get(key);
    const changes = then ? changesBetween(then, after) : [];
    if (changes.length > 0) changed.set(after.personId, changes);
  }
  return [...changed].map(([personId, changes]) => ({
    personId,
    kind: "extended" as const,
    text: quiz
      ? said("server.quizzes.set-times.moved", {
          title: quiz.title,
          changes: saidTogether(changes, "and"),
          reason,
        })
      : given
        ? said("server.allowances.give-allowance.throughout", {
            course: courseTitle,
            given: saidTogether(allowanceWords(given, config.zone), "commas"),
            reason,
          })
        : said("server.allowances.give-allowance.no-longer-throughout", { course: courseTitle, reason }),
    path: quiz ? `/quizzes/${quiz.id}` : `/courses/${slug}`,
  }));
}

/** Whether it makes no difference to some of those it is about, in a sentence. */
function unchanged(
  { quizIds }: AllowanceScope,
  before: Times,
  theirs: readonly (readonly [string, TimesOfStudent])[],
  people: number,
): string[] {
  if (quizIds.length === 0) return [];
  const changed = new Set(
    theirs.flatMap(([key, after]) => {
      const then = before.get(key);
      return then && changesBetween(then, after).length > 0 ? [after.personId] : [];
    }),
  );
  const without = people - changed.size;
  return without > 0 ? [t("server.allowances.give-allowance.no-difference", { count: without })] : [];
}
