import type { Queryable } from "@/data/database";
import { record } from "@/data/schema";

/** Adds a line to the append-only record. Takes the transaction in which the thing itself happens. */
export async function note(
  db: Queryable,
  line: {
    readonly actorId: string | null;
    readonly action: string;
    readonly subject: "attempt" | "quiz" | "person";
    readonly subjectId: string;
    readonly details?: Record<string, unknown>;
  },
): Promise<void> {
  await db.insert(record).values({ ...line, details: line.details ?? {} });
}
