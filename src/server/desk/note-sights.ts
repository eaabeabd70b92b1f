import { sql } from "drizzle-orm";
import * as yup from "yup";
import { MINUTE } from "@/core/time/instants";
import { database } from "@/data/database";
import { findAttempt } from "../access/find-attempt";
import type { Viewer } from "../access/viewer";
import { iso, now } from "../base/clock";
import { inputOf } from "../base/input";
import { slotShape } from "./slot-shape";

/** What was seen before a hand-in may be told so long after it. */
const AFTERWARDS = MINUTE;

const body = yup
  .object({
    sights: yup
      .array()
      .of(
        yup
          .object({
            slot: slotShape().required(),
            /** The server's time, as the desk reckons it. */
            at: yup.number().strict().integer().min(0).max(Number.MAX_SAFE_INTEGER).required(),
          })
          .strict()
          .noUnknown(),
      )
      .min(1)
      .max(1_000)
      .required(),
  })
  .strict()
  .noUnknown();

/**
 * A desk tells when questions of its attempt were first on the screen. The earliest word of each stands; a time outside the
 * attempt is moved to its edge. It counts for the figures alone.
 */
export async function noteSights(viewer: Viewer, attemptId: string, input: unknown): Promise<void> {
  const { sights } = inputOf(body, input);
  const { attempt: row } = await findAttempt(viewer, attemptId);
  const at = now();
  const handedInAt = row.handedInAt?.getTime() ?? null;
  if (handedInAt !== null && at > handedInAt + AFTERWARDS) return;
  const [first, last] = [row.startedAt.getTime(), Math.min(at, handedInAt ?? at)];
  const seen = sights.map((each) => ({ slot: each.slot, at: iso(Math.max(first, Math.min(each.at, last))) }));
  await database().execute(sql`update attempt_question q set seen_at = least(coalesce(q.seen_at, told.at), told.at)
    from (select slot, min(at) as at from jsonb_to_recordset(${JSON.stringify(seen)}::jsonb) as s(slot smallint, at timestamptz)
      group by slot) told
    where q.attempt_id = ${row.id} and q.slot = told.slot and (q.seen_at is null or q.seen_at > told.at)`);
}
