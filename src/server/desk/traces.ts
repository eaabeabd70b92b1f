import { sql } from "drizzle-orm";
import type { AttemptTraces } from "@/core/desk/desk-view";
import { database } from "@/data/database";
import { now } from "../base/clock";
import { GONE_AFTER } from "./presence";

/** What any desk of an attempt has changed on the server, without the answers themselves. One query. */
export async function tracesOf(attemptId: string): Promise<AttemptTraces> {
  const [row] = await database().execute<{ traces: AttemptTraces }>(sql`select jsonb_build_object(
    'answers', coalesce((
      select jsonb_agg(jsonb_build_object('slot', slot, 'device', device, 'revision', revision,
        'writtenAt', round(extract(epoch from written_at) * 1000)) order by slot)
      from answer where attempt_id = ${attemptId}::uuid), '[]'::jsonb),
    'turns', (select count(*) from answer_check where attempt_id = ${attemptId}::uuid)
      + (select jsonb_array_length(told) from attempt where id = ${attemptId}::uuid),
    'desks', (select count(*) from open_desk
      where attempt_id = ${attemptId}::uuid and seen_at > ${new Date(now() - GONE_AFTER).toISOString()}::timestamptz)
  ) as traces`);
  if (!row) throw new Error("A query without conditions has a row.");
  return row.traces;
}
