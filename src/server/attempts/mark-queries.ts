import { asc, count, eq } from "drizzle-orm";
import * as yup from "yup";
import { questionCount } from "@/core/quiz/quiz-file";
import type { Instant } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { markQuery, person } from "@/data/schema";
import { inputOf } from "../input";
import { tell } from "../notices/tell";
import { badInput, Problem } from "../problems";
import { versionContent } from "../quiz-versions";
import type { Viewer } from "../viewer";
import { openAttempt } from "./access";
import { revealedOf } from "./revealed";

/** More than any talk about a paper takes; a bound against abuse. */
const MOST = 100;

const form = yup.object({
  slot: yup.number().integer().min(1).required("slot is missing: the question that is asked about."),
  text: yup
    .string()
    .trim()
    .max(2_000, "Two thousand characters at most; what takes more is better said in person.")
    .required("Write what you would like to know."),
});

export interface MarkQueryLine {
  readonly slot: number;
  readonly author: string;
  readonly own: boolean;
  readonly at: Instant;
  readonly text: string;
}

/** What was said about the marks of an attempt, oldest first. */
export async function markQueriesOf(viewer: Viewer, attemptId: string): Promise<MarkQueryLine[]> {
  const rows = await database()
    .select({
      slot: markQuery.slot,
      author: person.name,
      authorId: markQuery.authorId,
      at: markQuery.createdAt,
      text: markQuery.text,
    })
    .from(markQuery)
    .innerJoin(person, eq(person.id, markQuery.authorId))
    .where(eq(markQuery.attemptId, attemptId))
    .orderBy(asc(markQuery.createdAt), asc(markQuery.id));
  return rows.map(({ authorId, at, ...line }) => ({
    ...line,
    at: at.getTime(),
    own: authorId === viewer.id,
  }));
}

/** A student asks about the mark of a question, or the staff of the course answer; only where the marks are shown. */
export async function askAboutMark(viewer: Viewer, attemptId: string, input: unknown): Promise<void> {
  const { slot, text } = inputOf(form, input, "address");
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  const { attempt: row } = opened;
  const { reveal } = await revealedOf(viewer, opened);
  if (row.handedInAt === null || !reveal?.marks.visible) {
    throw new Problem(
      409,
      "marks-not-shown",
      "The marks of this attempt are not shown yet; there is nothing to ask about.",
    );
  }
  const quiz = await versionContent(row.versionId);
  if (slot > questionCount(quiz)) throw badInput(`This attempt has no question ${slot}.`);
  const [said] = await database()
    .select({ lines: count() })
    .from(markQuery)
    .where(eq(markQuery.attemptId, attemptId));
  if ((said?.lines ?? 0) >= MOST) {
    throw new Problem(
      409,
      "too-much",
      `There is room for ${MOST} lines about one attempt; talk in person now.`,
    );
  }
  const isOwn = row.personId === viewer.id;
  const { title, instructorId } = opened.quiz;
  await inTransaction(async (tx) => {
    await tx.insert(markQuery).values({ attemptId, slot, authorId: viewer.id, text });
    await tell(tx, [
      {
        personId: isOwn ? instructorId : row.personId,
        kind: isOwn ? "asked" : "answered",
        text: isOwn
          ? `${viewer.name} asks about the mark of question ${slot} in “${title}”.`
          : `${viewer.name} answered you about the mark of question ${slot} in “${title}”.`,
        path: `/attempts/${attemptId}/paper?q=${slot}#ask-${slot}`,
      },
    ]);
  });
}
