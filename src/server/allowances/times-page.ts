import { aliasedTable, and, asc, desc, eq, isNotNull, isNull, or } from "drizzle-orm";
import { allowanceWords } from "@/core/allowances/allowance-terms";
import type { AllowanceLine, EveryonesTimes, TimesView } from "@/core/allowances/times-view";
import { database } from "@/data/database";
import { allowance, assignment, courseSection, enrolment, person, quiz, sectionMember } from "@/data/schema";
import { say } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { instantOf } from "../base/clock";
import { config } from "../base/config";
import { type AllowanceFor, openScope } from "./allowance-scope";
import { termsOf } from "./give-allowance";

/** So many allowances that have ended are listed, the last ones. */
const MOST_PAST = 100;

const giver = aliasedTable(person, "giver");
const ender = aliasedTable(person, "ender");

/** The allowances of a quiz with those throughout its course, or all of a course. */
async function linesOf(
  scope: Awaited<ReturnType<typeof openScope>>,
  which: "held" | "past",
): Promise<AllowanceLine[]> {
  const rows = await database()
    .select({
      row: allowance,
      quizTitle: quiz.title,
      student: person.name,
      section: courseSection.title,
      by: giver.name,
      endedBy: ender.name,
    })
    .from(allowance)
    .leftJoin(quiz, eq(quiz.id, allowance.quizId))
    .leftJoin(person, eq(person.id, allowance.personId))
    .leftJoin(courseSection, eq(courseSection.id, allowance.sectionId))
    .leftJoin(giver, eq(giver.id, allowance.grantedBy))
    .leftJoin(ender, eq(ender.id, allowance.endedBy))
    .where(
      and(
        or(
          eq(allowance.courseId, scope.courseId),
          scope.quiz === null ? eq(quiz.courseId, scope.courseId) : eq(allowance.quizId, scope.quiz.id),
        ),
        which === "held" ? isNull(allowance.endedAt) : isNotNull(allowance.endedAt),
      ),
    )
    .orderBy(
      ...(which === "held"
        ? [asc(courseSection.position), asc(person.name), asc(allowance.id)]
        : [desc(allowance.endedAt), desc(allowance.id)]),
    )
    .limit(which === "held" ? 5_000 : MOST_PAST);
  return rows.map(({ row, quizTitle, student, section, by, endedBy }): AllowanceLine => {
    const terms = termsOf(row);
    return {
      id: row.id,
      to:
        row.personId === null
          ? { sectionId: row.sectionId ?? "", name: section ?? "" }
          : { personId: row.personId, name: student ?? "" },
      quiz: row.quizId === null ? null : { id: row.quizId, title: quizTitle ?? "" },
      terms,
      words: allowanceWords(terms, config.zone).map((words) => say(words)),
      reason: row.reason,
      by,
      at: row.createdAt.getTime(),
      ended: row.endedAt === null ? null : { at: row.endedAt.getTime(), by: endedBy, reason: row.endReason },
    };
  });
}

/** Who of a course can be given something, and its sections. */
export async function reachable(courseId: string): Promise<Pick<TimesView, "students" | "sections">> {
  const students = await database()
    .select({ id: person.id, name: person.name })
    .from(enrolment)
    .innerJoin(person, eq(person.id, enrolment.personId))
    .where(and(eq(enrolment.courseId, courseId), eq(enrolment.role, "student")))
    .orderBy(asc(person.name));
  const rows = await database()
    .select({ id: courseSection.id, title: courseSection.title, personId: sectionMember.personId })
    .from(courseSection)
    .leftJoin(sectionMember, eq(sectionMember.sectionId, courseSection.id))
    .where(eq(courseSection.courseId, courseId))
    .orderBy(asc(courseSection.position), asc(courseSection.id));
  const sections = new Map<string, { id: string; name: string; members: string[] }>();
  for (const { id, title, personId } of rows) {
    const section = sections.get(id) ?? { id, name: title, members: [] };
    if (personId !== null) section.members.push(personId);
    sections.set(id, section);
  }
  return { students, sections: [...sections.values()] };
}

/** What holds for everyone at a quiz. */
async function everyones(set: typeof quiz.$inferSelect): Promise<EveryonesTimes> {
  const list = set.onlyAssigned
    ? await database()
        .select({ personId: assignment.personId })
        .from(assignment)
        .where(eq(assignment.quizId, set.id))
    : null;
  return {
    opens: instantOf(set.opens),
    due: instantOf(set.due),
    closes: instantOf(set.closes),
    timeLimit: set.settings.timeLimit ?? null,
    attempts: set.settings.attempts ?? null,
    closingCutsClock: set.settings.closingCutsClock ?? true,
    onlyFor: list?.map(({ personId }) => personId) ?? null,
  };
}

/** The times of a quiz, or the allowances of a whole course, for who may set them. @throws Problem "not found" */
export async function timesPageOf(viewer: Viewer, what: AllowanceFor): Promise<TimesView> {
  const scope = await openScope(viewer, what);
  return {
    course: { slug: scope.slug, title: scope.courseTitle },
    quiz: scope.quiz && { id: scope.quiz.id, title: scope.quiz.title },
    everyone: scope.quiz === null ? null : await everyones(scope.quiz),
    held: await linesOf(scope, "held"),
    past: await linesOf(scope, "past"),
    ...(await reachable(scope.courseId)),
  };
}
