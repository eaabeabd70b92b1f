import type { Queryable } from "@/data/database";
import { record } from "@/data/schema";
import { now } from "./clock";

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
  // By the same clock as everything that it is shown beside.
  await db.insert(record).values({ ...line, at: new Date(now()), details: line.details ?? {} });
}
