import { sql } from "drizzle-orm";
import type postgres from "postgres";
import type { OrderRule } from "@/core/attempt/order";
import { client, countQuery, database } from "../database";

/** A change to save, checked already. Instants as ISO text. */
export interface EntryToSave {
  readonly slot: number;
  /** The page that the slot is on, from 0. */
  readonly page: number;
  readonly device: string;
  readonly answer: unknown;
  readonly ribbon: boolean;
  readonly ruledOut: readonly string[];
  readonly revision: number;
  readonly writtenAt: string;
}

/** What a slot holds, as the hot path tells it. */
export interface HeldAnswer {
  readonly slot: number;
  readonly answer: unknown;
  readonly ribbon: boolean;
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
    /** Whether it runs and its time, with the grace, is not up. */
    readonly writable: boolean;
    /** The page that was reached. */
    readonly page: number;
    /** Sent slots that are closed or not reached yet: of these nothing was saved. */
    readonly shut: readonly number[];
    /** Sent slots whose number was given to another change before: what was logged stays, this was not saved. */
    readonly clashing: readonly number[];
  } | null;
  /** What stands now in the slots that were saved, where that is not what was sent: another device wrote later. */
  readonly held: readonly HeldAnswer[];
}

export interface SaveTerms {
  readonly token: string;
  readonly attemptId: string;
  readonly here: number;
  readonly rule: OrderRule;
  /** At most one for each slot. */
  readonly entries: readonly EntryToSave[];
  readonly now: string;
  readonly graceSeconds: number;
  /** The channel of the database over which the attempt's other open desks are told. */
  readonly channel: string;
}

/**
 * The hot path: session, owner, state, deadline, log line and answer in one statement and one round trip. What the log took
 * in, and only that, comes to be the answer; what was logged once is never changed, so repeating a save changes nothing, and
 * another change under the same number is refused. Of two devices the later writing stays, and both are in the log. The
 * attempt's row is locked, so that nothing is saved into an attempt after it was handed in, or into a question after it was
 * closed. An entry that cannot be saved holds up no other.
 *
 * Both tables are written with `on conflict do update`, also where that changes nothing: only so does one statement see what
 * was committed while it waited for the lock.
 */
export async function saveEntries(terms: SaveTerms): Promise<SaveOutcome> {
  countQuery();
  const [row] = await saveStatement(client(), terms);
  return JSON.parse(row.outcome) as SaveOutcome;
}

/** The statement itself, not yet sent: awaiting it sends it. */
export const saveStatement = (
  bare: postgres.ISql,
  { token, attemptId, here, rule, entries, now, graceSeconds, channel }: SaveTerms,
) =>
  bare<[{ outcome: string }]>`
    with entry as (
      select slot, page, device, nullif(answer, 'null'::jsonb) as answer, ribbon, "ruledOut" as ruled_out, revision,
        least("writtenAt", ${now}::timestamptz) as written_at
      from jsonb_to_recordset(${JSON.stringify(entries)}::jsonb) as raw(
        slot smallint, page smallint, device uuid, answer jsonb, ribbon boolean, "ruledOut" jsonb, revision bigint, "writtenAt" timestamptz
      )
    ), signed_in as (
      select person_id from session where token = ${token} and expires_at > ${now}::timestamptz
    ), mine as (
      select a.id, a.handed_in_at, a.deadline, a.page, a.told, a.checked_off from attempt a
      where a.id = ${attemptId}::uuid and a.person_id = (select person_id from signed_in)
      for no key update
    ), writable as (
      select id from mine
      where handed_in_at is null
        and (deadline is null or ${now}::timestamptz <= deadline + make_interval(secs => ${graceSeconds}))
    ), shut as (
      select e.slot from entry e cross join mine m
      where m.told @> to_jsonb(e.slot) or m.checked_off @> to_jsonb(e.slot) or case ${rule}::text
        when 'one-way' then e.page <> m.page when 'up-to' then e.page > m.page else false end
    ), logged as (
      insert into answer_log as held (attempt_id, slot, device, revision, answer, ribbon, ruled_out, written_at, saved_at)
      select w.id, e.slot, e.device, e.revision, e.answer, e.ribbon, e.ruled_out, e.written_at, ${now}::timestamptz
      from entry e cross join writable w
      where not exists (select 1 from shut s where s.slot = e.slot)
      on conflict (attempt_id, slot, device, revision) do update set revision = held.revision
      returning slot, device, revision, answer, ribbon, ruled_out, written_at, saved_at
    ), clashing as (
      select e.slot from logged l join entry e on e.slot = l.slot
      where (l.answer, l.ribbon, l.ruled_out) is distinct from (e.answer, e.ribbon, e.ruled_out)
    ), standing as (
      insert into answer as held (attempt_id, slot, device, revision, answer, ribbon, ruled_out, written_at, saved_at)
      select w.id, l.slot, l.device, l.revision, l.answer, l.ribbon, l.ruled_out, l.written_at, l.saved_at
      from logged l cross join writable w
      on conflict (attempt_id, slot) do update set (device, revision, answer, ribbon, ruled_out, written_at, saved_at) = (
        select newest.device, newest.revision, newest.answer, newest.ribbon, newest.ruled_out, newest.written_at, newest.saved_at
        from (values
          (excluded.device, excluded.revision, excluded.answer, excluded.ribbon, excluded.ruled_out, excluded.written_at, excluded.saved_at),
          (held.device, held.revision, held.answer, held.ribbon, held.ruled_out, held.written_at, held.saved_at)
        ) as newest(device, revision, answer, ribbon, ruled_out, written_at, saved_at)
        order by newest.written_at desc, newest.device desc, newest.revision desc limit 1
      )
      returning slot, device, revision, answer, ribbon, ruled_out, written_at
    ), moved as (
      update attempt set here = ${here} where id = (select id from writable) and here <> ${here}
    ), told as (
      select pg_notify(${channel}, ${`attempt ${attemptId} ${entries[0]?.device ?? "-"}`})
      where exists (select 1 from standing) and exists (
        select 1 from open_desk d where d.attempt_id = ${attemptId}::uuid
          and d.device is distinct from ${entries[0]?.device ?? null}::uuid)
    )
    select jsonb_build_object(
      'signedIn', exists (select 1 from signed_in),
      'told', (select count(*) from told),
      'attempt', (select jsonb_build_object('handedInAt', m.handed_in_at, 'deadline', m.deadline,
        'writable', exists (select 1 from writable), 'page', m.page,
        'shut', coalesce((select jsonb_agg(s.slot order by s.slot) from shut s), '[]'::jsonb),
        'clashing', coalesce((select jsonb_agg(c.slot order by c.slot) from clashing c), '[]'::jsonb)) from mine m),
      'held', coalesce((
        select jsonb_agg(jsonb_build_object('slot', a.slot, 'answer', a.answer, 'ribbon', a.ribbon, 'ruledOut', a.ruled_out,
          'revision', a.revision, 'device', a.device, 'writtenAt', a.written_at))
        from standing a join entry e on e.slot = a.slot
        where (a.device, a.revision) is distinct from (e.device, e.revision)
      ), '[]'::jsonb)
    )::text as outcome`;

/** Which of some entries are in the log already, word for word: sent again because the answer was lost on the way. */
export async function loggedAlready(
  attemptId: string,
  entries: readonly EntryToSave[],
): Promise<readonly EntryToSave[]> {
  if (entries.length === 0) return [];
  const rows = await database().execute<{ slot: number }>(sql`
    select e.slot::int as slot from jsonb_to_recordset(${JSON.stringify(entries)}::jsonb)
      as e(slot smallint, device uuid, answer jsonb, ribbon boolean, "ruledOut" jsonb, revision bigint)
    join answer_log l on (l.attempt_id, l.slot, l.device, l.revision) = (${attemptId}::uuid, e.slot, e.device, e.revision)
    where (l.answer, l.ribbon, l.ruled_out) is not distinct from (nullif(e.answer, 'null'::jsonb), e.ribbon, e."ruledOut")`);
  const slots = new Set(rows.map(({ slot }) => slot));
  return entries.filter(({ slot }) => slots.has(slot));
}
