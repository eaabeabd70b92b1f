import { asc, eq } from "drizzle-orm";
import { REVEALED } from "@/core/quiz/rules";
import { database } from "@/data/database";
import { courseSection } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { notFound } from "../base/problems";
import { returningOf } from "../marking/returning";
import { staffQuizzes } from "./staff-quizzes";

/** The papers of a quiz as they can be returned, with what its rules show then. */
export async function returnPageOf(viewer: Viewer, quizId: string) {
  const { room, papers } = await returningOf(viewer, quizId);
  const { quiz: set, course } = room.opened;
  const [quiz] = await staffQuizzes(viewer, { quizId: set.id });
  if (!quiz) throw notFound();
  const { reveal } = set.settings;
  const atReturn = REVEALED.filter((what) => reveal[what] === "when-returned");
  return {
    quiz,
    papers,
    namesHidden: room.namesHidden,
    sections: room.namesHidden
      ? []
      : await database()
          .select({ id: courseSection.id, title: courseSection.title })
          .from(courseSection)
          .where(eq(courseSection.courseId, course.id))
          .orderBy(asc(courseSection.position), asc(courseSection.id)),
    told: atReturn.length === 0 ? t("server.overview.return-page.by-its-rules-everything-else") : "",
  };
}
