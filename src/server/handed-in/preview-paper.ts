import { eq } from "drizzle-orm";
import { inTransaction } from "@/data/database";
import { person } from "@/data/schema";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { lockAttempt } from "../attempts/lock-attempt";
import { openAttempt } from "../attempts/open-attempt";
import { now } from "../base/clock";
import { notFound } from "../base/problems";
import { makeReturned } from "../marking/return-work";
import { markedPaperOf, type PaperView } from "./marked-paper";

/** Carries what was seen out of the transaction that is undone. */
class Seen extends Error {
  constructor(readonly paper: PaperView | null) {
    super("seen");
  }
}

/**
 * The paper exactly as its student will read it once it is returned: it is returned, read by them, and all of that is undone.
 * For who may return it.
 */
export async function previewPaper(viewer: Viewer, attemptId: string): Promise<PaperView | null> {
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  mustMay(opened, "return");
  try {
    await inTransaction(async (tx) => {
      const row = await lockAttempt(tx, attemptId);
      if (!row || row.handedInAt === null) throw notFound();
      await makeReturned(tx, [row], new Date(now()));
      const [student] = await tx.select().from(person).where(eq(person.id, row.personId));
      if (!student) throw notFound();
      const { id, name, email } = student;
      throw new Seen(await markedPaperOf({ id, name, email, administrator: false }, attemptId));
    });
    return null;
  } catch (error) {
    if (error instanceof Seen) return error.paper;
    throw error;
  }
}
