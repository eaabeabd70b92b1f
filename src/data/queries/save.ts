import type { OrderRule } from "@/core/attempt/order";
import { client, countQuery } from "../database";

/** A change to save, checked already. Instants as ISO text. */
export interface EntryToSave {
  readonly slot: number;
  /** The page that the slot is on, from 0. */
  readonly page: number;
  readonly device: string;
  readonly answer: unknown;
  readonly folded: boolean;
  readonly ruledOut: readonly string[];
  readonly revision: number;
  readonly writtenAt: string;
}

/** What a slot holds, as the hot path tells it. */
export interface HeldAnswer {
  readonly slot: number;
  readonly answer: unknown;
  readonly folded: boolean;
  readonly ruledOut: string[];
  readonly revision: number;
  readonly device: string;
  readonly writtenAt: string;
}

export interface SaveOutcome {
  readonly signedIn: boolean;
  /** Null: no such attempt of this person. */
  readonly attempt: {
    readonly handedInAt: string | null;
    readonly deadline: string | null;
    readonly writable: boolean;
    /** The page that was reached. */
    readonly page: number;
    /** Sent slots that are closed or not reached yet: with any of them, nothing was saved. */
    readonly shut: readonly number[];
  } | null;
  /** What stands in the sent slots where this save did not change it: the same entry sent before, or a later one. */
  readonly held: readonly HeldAnswer[];
}

/**
 * The hot path: session, owner, state, deadline, log line and answer in one statement and one round trip. Repeating it
 * changes nothing; of two devices the later writing stays, and both are in the log. The attempt's row is locked, so
 * that nothing is saved into an attempt after it was handed in, or into a question after it was closed. What was saved
 * before that and comes again, because its answer was lost on the way, is no change.
 */
export async function saveEntries(terms: {
  readonly token: string;
  readonly attemptId: string;
  readonly here: number;
  readonly rule: OrderRule;
  /** At most one for each slot. */
  readonly entries: readonly EntryToSave[];
  readonly now: string;
  readonly graceSeconds: number;
}): Promise<SaveOutcome> {
  const { token, attemptId, here, rule, now, graceSeconds } = terms;
  const sql = client();
  countQuery();
  const [row] = await sql<[{ outcome: string }]>`
    with entry as (
      select slot, page, device, nullif(answer, 'null'::jsonb) as answer, folded, "ruledOut" as ruled_out, revision,
        least("writtenAt", ${now}::timestamptz) as written_at
      from jsonb_to_recordset(${JSON.stringify(terms.entries)}::jsonb) as raw(
        slot smallint, page smallint, device uuid, answer jsonb, folded boolean, "ruledOut" jsonb, revision bigint, "writtenAt" timestamptz
      )
    ), signed_in as (
      select person_id from session where token = ${token} and expires_at > ${now}::timestamptz
    ), mine as (
      select a.id, a.handed_in_at, a.deadline, a.page, a.told from attempt a
      where a.id = ${attemptId}::uuid and a.person_id = (select person_id from signed_in)
      for no key update
    ), shut as (
      select e.slot from entry e cross join mine m
      where (m.told @> to_jsonb(e.slot) or case ${rule}::text
          when 'one-way' then e.page <> m.page when 'up-to' then e.page > m.page else false end)
        and not exists (
          select 1 from answer_log l
          where (l.attempt_id, l.slot, l.device, l.revision) = (m.id, e.slot, e.device, e.revision)
        )
    ), writable as (
      select id from mine
      where handed_in_at is null and not exists (select 1 from shut)
        and (deadline is null or ${now}::timestamptz <= deadline + make_interval(secs => ${graceSeconds}))
    ), logged as (
      insert into answer_log (attempt_id, slot, device, revision, answer, folded, ruled_out, written_at, saved_at)
      select w.id, e.slot, e.device, e.revision, e.answer, e.folded, e.ruled_out, e.written_at, ${now}::timestamptz
      from entry e cross join writable w
      on conflict do nothing
    ), kept as (
      insert into answer as held (attempt_id, slot, device, revision, answer, folded, ruled_out, written_at, saved_at)
      select w.id, e.slot, e.device, e.revision, e.answer, e.folded, e.ruled_out, e.written_at, ${now}::timestamptz
      from entry e cross join writable w
      on conflict (attempt_id, slot) do update set
        device = excluded.device, revision = excluded.revision, answer = excluded.answer, folded = excluded.folded,
        ruled_out = excluded.ruled_out, written_at = excluded.written_at, saved_at = excluded.saved_at
      where (excluded.written_at, excluded.device, excluded.revision) > (held.written_at, held.device, held.revision)
      returning slot
    ), moved as (
      update attempt set here = ${here} where id = (select id from writable) and here <> ${here}
    )
    select jsonb_build_object(
      'signedIn', exists (select 1 from signed_in),
      'attempt', (select jsonb_build_object('handedInAt', m.handed_in_at, 'deadline', m.deadline,
        'writable', exists (select 1 from writable), 'page', m.page,
        'shut', coalesce((select jsonb_agg(s.slot order by s.slot) from shut s), '[]'::jsonb)) from mine m),
      'held', coalesce((
        select jsonb_agg(jsonb_build_object('slot', a.slot, 'answer', a.answer, 'folded', a.folded, 'ruledOut', a.ruled_out,
          'revision', a.revision, 'device', a.device, 'writtenAt', a.written_at))
        from answer a join entry e on e.slot = a.slot
        where a.attempt_id = (select id from mine) and not exists (select 1 from kept k where k.slot = a.slot)
      ), '[]'::jsonb)
    )::text as outcome`;
  return JSON.parse(row.outcome) as SaveOutcome;
}
