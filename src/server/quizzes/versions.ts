import { eq } from "drizzle-orm";
import { LRUCache } from "lru-cache";
import type { QuizContent } from "@/core/quiz/quiz-file";
import { database } from "@/data/database";
import { quizVersion } from "@/data/schema";

// The content of a version never changes.
const contents = new LRUCache<string, QuizContent>({ max: 200 });

/** The content of a quiz version; one query at most, then none. */
export async function versionContent(versionId: string): Promise<QuizContent> {
  const known = contents.get(versionId);
  if (known) return known;
  const [row] = await database()
    .select({ content: quizVersion.content })
    .from(quizVersion)
    .where(eq(quizVersion.id, versionId));
  if (!row) throw new Error(`Quiz version ${versionId} is missing.`);
  contents.set(versionId, row.content);
  return row.content;
}
