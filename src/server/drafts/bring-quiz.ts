import { type Mistake, readQuizFile } from "@/core/quiz/quiz-file";
import { said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { say, t } from "@/words/t";
import { courseOf } from "../access/open-course";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { badInput, type Problem } from "../base/problems";
import { cleanQuiz } from "../quizzes/clean-quiz";
import { type BytesOf, bytesInFile, piecesOfQuiz, writeNewDraft } from "./make-draft";
import { broughtQuiz } from "./quiz-archive";

/** So many mistakes are told of a file that is not right. */
const TOLD = 12;

/** Brings a quiz into a course as a draft: a quiz file, or an archive with its pictures and recordings. @throws Problem */
export async function bringQuiz(
  viewer: Viewer,
  slug: string,
  bytes: Buffer,
): Promise<{ readonly id: string }> {
  const course = await courseOf(viewer, slug);
  mustMay({ role: course.role, given: false }, "rule");
  const { file, beside } = await broughtQuiz(bytes);
  const reading = readQuizFile(file);
  if (!reading.ok) throw notRight(reading.mistakes);
  const { quiz } = reading;
  const missing = [...(quiz.pictures ?? []), ...(quiz.recordings ?? [])].flatMap(
    ({ file: name }): Mistake[] =>
      name === undefined || beside.has(name)
        ? []
        : [{ path: name, message: said("server.drafts.bring-quiz.does-not-stand-beside") }],
  );
  if (missing.length > 0) throw notRight(missing);
  const bytesOf: BytesOf = (medium) =>
    medium.file === undefined ? bytesInFile(medium) : (beside.get(medium.file) ?? null);
  const id = await inTransaction(async (tx) => {
    const terms = { courseId: course.id, by: viewer.id };
    const pieces = await piecesOfQuiz(tx, cleanQuiz(quiz), terms, bytesOf);
    return writeNewDraft(tx, viewer, { courseId: course.id, pieces, title: quiz.title.trim() });
  });
  return { id };
}

function notRight(mistakes: readonly Mistake[]): Problem {
  const lines = mistakes
    .slice(0, TOLD)
    .map(({ path, message }) => `${path || t("server.drafts.bring-quiz.the-file")}: ${say(message)}`);
  const rest = mistakes.length - lines.length;
  return badInput(
    [
      t("server.drafts.bring-quiz.is-not-right", { count: mistakes.length }),
      ...lines,
      ...(rest > 0 ? [t("server.drafts.bring-quiz.and-more", { count: rest })] : []),
    ].join("\n"),
  );
}
