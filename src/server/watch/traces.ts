import { sql } from "drizzle-orm";
import { partOf, type Sitting, TRACE_PARTS } from "@/core/watch/watch-line";
import { database } from "@/data/database";

/** How many questions of each sitting got their first words in each part of its time, from the log: read once, then counted on. */
export async function tracesOf(quizId: string, sittings: readonly Sitting[]): Promise<Map<string, number[]>> {
  const rows = await database().execute<{ id: string; at: string }>(sql`
    select l.attempt_id as id, min(l.written_at) as at
    from answer_log l join attempt a on a.id = l.attempt_id
    where a.quiz_id = ${quizId} and l.answer is not null
    group by l.attempt_id, l.slot`);
  const traces = new Map(sittings.map(({ attemptId }) => [attemptId, Array<number>(TRACE_PARTS).fill(0)]));
  const byId = new Map(sittings.map((sitting) => [sitting.attemptId, sitting]));
  for (const { id, at } of rows) {
    const sitting = byId.get(id);
    const trace = traces.get(id);
    if (!sitting || !trace) continue;
    const part = partOf(Date.parse(at), sitting);
    trace[part] = (trace[part] ?? 0) + 1;
  }
  return traces;
}
