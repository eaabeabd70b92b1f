import { asc, count, eq } from "drizzle-orm";
import * as yup from "yup";
import { questionCount } from "@/core/quiz/quiz-file";
import { said } from "@/core/said";
import type { Instant } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { markQuery, person } from "@/data/schema";
import { t } from "@/words/t";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { openAttempt } from "../attempts/open-attempt";
import { inputOf } from "../base/input";
import { badInput, Problem } from "../base/problems";
import { notify } from "../notices/notify";
import { versionContent } from "../quizzes/versions";
import { revealedOf } from "../reveal/revealed";

/** More than any talk about a paper takes; a bound against abuse. */
const MOST = 100;

const form = yup.object({
  slot: yup
    .number()
    .integer()
    .min(1)
    .required(said("server.marking.mark-queries.slot-is-missing-the-question-that")),
  text: yup
    .string()
    .trim()
    .max(2_000, said("server.marking.mark-queries.two-thousand-characters-at-most-what"))
    .required(said("server.marking.mark-queries.write-what-you-would-like-to")),
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

/** A student asks about the mark of a question, or those who may answer in the course do; only where the marks are shown. */
export async function askAboutMark(viewer: Viewer, attemptId: string, input: unknown): Promise<void> {
  const { slot, text } = inputOf(form, input, "address");
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  const { attempt: row } = opened;
  if (row.personId !== viewer.id) mustMay(opened, "answer");
  const { reveal } = await revealedOf(viewer, opened);
  if (row.handedInAt === null || !reveal?.marks.visible) {
    throw new Problem(409, "marks-not-shown", t("server.marking.mark-queries.the-marks-of-this-attempt-are"));
  }
  const quiz = await versionContent(row.versionId);
  if (slot > questionCount(quiz)) throw badInput(t("server.desk.no-such-question", { slot }));
  const [asked] = await database()
    .select({ lines: count() })
    .from(markQuery)
    .where(eq(markQuery.attemptId, attemptId));
  if ((asked?.lines ?? 0) >= MOST) {
    throw new Problem(
      409,
      "too-much",
      t("server.marking.mark-queries.there-is-room-for-lines-about", { most: MOST }),
    );
  }
  const isOwn = row.personId === viewer.id;
  const { title, instructorId } = opened.quiz;
  await inTransaction(async (tx) => {
    await tx.insert(markQuery).values({ attemptId, slot, authorId: viewer.id, text });
    await notify(tx, [
      {
        personId: isOwn ? instructorId : row.personId,
        kind: isOwn ? "asked" : "answered",
        text: isOwn
          ? said("server.marking.mark-queries.asks-about-the-mark-of-question", {
              name: viewer.name,
              slot,
              title,
            })
          : said("server.marking.mark-queries.answered-you-about-the-mark-of", {
              name: viewer.name,
              slot,
              title,
            }),
        path: `/attempts/${attemptId}/paper?q=${slot}#ask-${slot}`,
      },
    ]);
  });
}
