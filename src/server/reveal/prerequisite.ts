import type { Prerequisite } from "@/core/attempt/start-rules";
import type { quiz } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { prerequisiteFrom, quizOfViewer } from "./quizzes-of-person";

/** The quiz that has to be done before another one, and how it stands for a person; no query where nothing is asked. */
export async function prerequisiteOf(
  row: Pick<typeof quiz.$inferSelect, "firstQuizId" | "firstAtLeast">,
  viewer: Pick<Viewer, "id">,
): Promise<Prerequisite | undefined> {
  if (row.firstQuizId === null) return undefined;
  const first = await quizOfViewer(viewer, row.firstQuizId);
  return first && prerequisiteFrom(first, row.firstAtLeast);
}
