import { asc, eq } from "drizzle-orm";
import { sectionAt } from "@/core/course/plan-draft";
import type { Instant } from "@/core/time/instants";
import { localText } from "@/core/time/local-time";
import { database } from "@/data/database";
import { planEntry, planSection } from "@/data/schema";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import { instantOf, now } from "../base/clock";
import { config } from "../base/config";
import { type QuizOfPerson, quizzesOf } from "../reveal/quizzes-of-person";

type PlanEntry =
  | { readonly kind: "quiz"; readonly item: QuizOfPerson }
  /** Rich text. */
  | { readonly kind: "reading" | "note"; readonly text: string };

export interface CoursePlan {
  readonly course: CourseOfPerson;
  readonly sections: readonly {
    readonly id: string;
    readonly title: string;
    readonly starts: Instant | null;
    /** The week in which we are. */
    readonly isNow: boolean;
    readonly entries: readonly PlanEntry[];
  }[];
}

/** The plan of a course as its instructor made it, by weeks or topics; quizzes in it stand as they do everywhere. */
export async function coursePlanOf(
  viewer: Parameters<typeof courseOf>[0],
  slug: string,
): Promise<CoursePlan> {
  const course = await courseOf(viewer, slug);
  const [items, rows] = await Promise.all([
    quizzesOf(viewer, course.id),
    database()
      .select({ section: planSection, entry: planEntry })
      .from(planSection)
      .leftJoin(planEntry, eq(planEntry.sectionId, planSection.id))
      .where(eq(planSection.courseId, course.id))
      .orderBy(asc(planSection.position), asc(planEntry.position)),
  ]);
  const sections = [...new Map(rows.map(({ section }) => [section.id, section])).values()];
  const at = now();
  const day = (moment: Instant) => localText(moment, config.zone);
  const current =
    sections[
      sectionAt(
        sections.map(({ starts }) => ({ starts: starts === null ? null : day(starts.getTime()) })),
        day(at),
      ) ?? -1
    ];
  return {
    course,
    sections: sections.map((section) => ({
      id: section.id,
      title: section.title,
      starts: instantOf(section.starts),
      isNow: section === current,
      entries: rows.flatMap(({ section: { id }, entry }): PlanEntry[] => {
        if (id !== section.id || !entry) return [];
        if (entry.kind !== "quiz") return [{ kind: entry.kind, text: entry.text }];
        const item = items.find((each) => each.quiz.id === entry.quizId);
        return item && item.status.state !== "not-assigned" ? [{ kind: "quiz", item }] : [];
      }),
    })),
  };
}
