import { and, asc, count, eq, max, min } from "drizzle-orm";
import type { HandedInBy } from "@/core/attempt/answered-words";
import { type Said, said } from "@/core/said";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { answerLog, type attempt, record } from "@/data/schema";
import { say, t } from "@/words/t";
import { CAME_BACK, LEFT } from "../desk/presence";

/** What happened to an attempt, for its student: a moment and a few words each, oldest first. */
export interface RecordLine {
  readonly at: Instant;
  readonly words: string;
}

const WORDS: Readonly<Record<string, Said>> = {
  "hand-in waited": said("server.handed-in.own-record.handing-in-was-pressed-before-and"),
  "taken back": said("server.handed-in.own-record.taken-back"),
  extended: said("server.handed-in.own-record.more-time-was-given"),
  [LEFT]: said("server.handed-in.own-record.left-the-desk-or-lost-the"),
  [CAME_BACK]: said("server.handed-in.own-record.came-back"),
};

const BY: { readonly [B in HandedInBy]: Said } = {
  student: said("server.handed-in.own-record.handed-in"),
  clock: said("server.handed-in.own-record.handed-in-by-the-clock"),
  instructor: said("server.handed-in.own-record.handed-in-by-the-instructor"),
};

/** The record of one attempt: what was done to it, and when its answers were saved. Two queries. */
export async function recordOf({
  id: attemptId,
  startedAt,
  handedInAt,
  handedInBy,
}: Pick<typeof attempt.$inferSelect, "id" | "startedAt" | "handedInAt" | "handedInBy">): Promise<
  RecordLine[]
> {
  const [lines, [saves]] = await Promise.all([
    database()
      .select({ at: record.at, action: record.action })
      .from(record)
      .where(and(eq(record.subject, "attempt"), eq(record.subjectId, attemptId)))
      .orderBy(asc(record.at), asc(record.id)),
    database()
      .select({ saves: count(), first: min(answerLog.savedAt), last: max(answerLog.savedAt) })
      .from(answerLog)
      .where(eq(answerLog.attemptId, attemptId)),
  ]);
  // Start and end are what the attempt itself says; hand-ins before the last one were taken back.
  const before = lines.filter(({ action }) => action === "handed in").slice(0, -1);
  const told: RecordLine[] = [
    { at: startedAt.getTime(), words: t("server.handed-in.own-record.started") },
    ...before.map(({ at }) => ({ at: at.getTime(), words: say(BY.student) })),
    ...lines.flatMap(({ at, action }): RecordLine[] => {
      const words = WORDS[action];
      return words ? [{ at: at.getTime(), words: say(words) }] : [];
    }),
    ...(handedInAt && handedInBy ? [{ at: handedInAt.getTime(), words: say(BY[handedInBy]) }] : []),
  ];
  if (saves?.first)
    told.push({ at: saves.first.getTime(), words: t("server.handed-in.own-record.first-change-saved") });
  if (saves?.last && saves.saves > 1) {
    told.push({
      at: saves.last.getTime(),
      words: t("server.handed-in.own-record.last-change-saved-of-other", { saves: saves.saves }),
    });
  }
  return told.sort((a, b) => a.at - b.at);
}
