import { and, asc, count, eq, max, min } from "drizzle-orm";
import type { HandedInBy } from "@/core/attempt/state";
import type { Instant } from "@/core/time/instants";
import { counted } from "@/core/time/words";
import { database } from "@/data/database";
import { answerLog, type attempt, record } from "@/data/schema";
import { CAME_BACK, LEFT } from "./presence";

/** What happened to an attempt, for its student: a moment and a few words each, oldest first. */
export interface RecordLine {
  readonly at: Instant;
  readonly words: string;
}

const WORDS: Readonly<Record<string, string>> = {
  "hand-in waited": "handing in was pressed before, and had waited for a connection",
  "taken back": "taken back",
  extended: "more time was given",
  [LEFT]: "left the desk, or lost the connection",
  [CAME_BACK]: CAME_BACK,
};

const BY: { readonly [B in HandedInBy]: string } = {
  student: "handed in",
  clock: "handed in by the clock",
  instructor: "handed in by the instructor",
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
  const said: RecordLine[] = [
    { at: startedAt.getTime(), words: "started" },
    ...before.map(({ at }) => ({ at: at.getTime(), words: BY.student })),
    ...lines.flatMap(({ at, action }): RecordLine[] => {
      const words = WORDS[action];
      return words ? [{ at: at.getTime(), words }] : [];
    }),
    ...(handedInAt && handedInBy ? [{ at: handedInAt.getTime(), words: BY[handedInBy] }] : []),
  ];
  if (saves?.first) said.push({ at: saves.first.getTime(), words: "first change saved" });
  if (saves?.last && saves.saves > 1) {
    said.push({ at: saves.last.getTime(), words: `last change saved, of ${counted(saves.saves, "change")}` });
  }
  return said.sort((a, b) => a.at - b.at);
}
