import { inArray, sql } from "drizzle-orm";
import ipaddr from "ipaddr.js";
import { SECOND } from "@/core/time/instants";
import { database } from "@/data/database";
import { tryPace } from "@/data/schema";
import { t } from "@/words/t";
import { iso, now } from "../base/clock";
import { Problem } from "../base/problems";

/** How fast something secret may be tried by someone: so many at once, then one each so often. */
interface Pace {
  readonly who: string;
  readonly atOnce: number;
  /** In ms. */
  readonly every: number;
}

/** What one try is counted by: first who tries, then what they share with others. */
type Paces = readonly [Pace, ...Pace[]];

/** One person from one network; after the first few a wait that is short for a person and long for a program. */
const ONE = { atOnce: 8, every: 20 * SECOND } as const;
/** One person from wherever: only a crowd of networks gets there. */
const PERSON = { atOnce: 60, every: 5 * SECOND } as const;
/** A whole network: a class that signs in at once sits behind one address. What succeeds does not count. */
const NETWORK = { atOnce: 120, every: SECOND } as const;

/** The network of an address: an IPv6 household has a /64 to itself. */
export function networkOf(address: string): string {
  if (!ipaddr.isValid(address)) return address;
  const parsed = ipaddr.process(address);
  return parsed.kind() === "ipv6"
    ? `${ipaddr.IPv6.networkAddressFromCIDR(`${parsed.toString()}/64`).toString()}/64`
    : parsed.toString();
}

/** What a try to sign in is counted by: a known device by itself, anything else by person and network. */
export function signInPaces(email: string, address: string, knownDevice: string | null): Paces {
  const person = email.toLowerCase().slice(0, 200);
  if (knownDevice !== null) return [{ who: `device ${knownDevice}`, ...ONE }];
  const network = networkOf(address);
  return [
    { who: `person and network ${person} ${network}`, ...ONE },
    { who: `person ${person}`, ...PERSON },
    { who: `network ${network}`, ...NETWORK },
  ];
}

/** What a try of one's own present password or code is counted by. */
export const ownPace = (personId: string): Paces => [{ who: `own ${personId}`, ...ONE }];

/** Tries at once do not come in the order in which they looked at the clock. */
const SLACK = sql`interval '1 s'`;
/** Whoever is refused has paid so far ahead, and no further: the wait grows no longer by trying on. */
const BEYOND = sql`interval '2 s'`;

/**
 * Counts a try before anything is looked at, in one statement, so that thirty at once are counted as thirty. Each try pays
 * for a while ahead; whoever would have paid too far ahead waits, and no longer than one such while. What others share is
 * counted only once the first pace lets the try through: hammering at one door keeps nobody else from theirs.
 * @throws Problem with how long to wait
 */
export async function countTry([first, ...shared]: Paces): Promise<void> {
  const at = iso(now());
  const term = ({ who, atOnce, every }: Pace) => ({ who, every, most: atOnce * every });
  const terms = JSON.stringify([{ ...term(first), first: true }, ...shared.map(term)]);
  const paid = sql`(
    select least(greatest(held.paid_until, ${at}::timestamptz) + every, ${at}::timestamptz + most + ${BEYOND})
    from terms where terms.who = excluded.who
  )`;
  const rows = await database().execute<{ wait: string }>(sql`
    with terms as (
      select who, every * interval '1 ms' as every, most * interval '1 ms' as most, coalesce(first, false) as first
      from jsonb_to_recordset(${terms}::jsonb) as raw(who text, every int, most int, first boolean)
    ), own as (
      insert into try_pace as held (who, paid_until)
      select who, ${at}::timestamptz + every from terms where first
      on conflict (who) do update set paid_until = ${paid}
      returning who, paid_until
    ), shared as (
      insert into try_pace as held (who, paid_until)
      select who, ${at}::timestamptz + every from terms
      where not first
        and (select own.paid_until <= ${at}::timestamptz + most + ${SLACK} from own join terms using (who))
      order by who
      on conflict (who) do update set paid_until = ${paid}
      returning who, paid_until
    )
    select extract(epoch from every + paid_until - (${at}::timestamptz + most)) * 1000 as wait
    from (select * from own union all select * from shared) as counted join terms using (who)
    where paid_until > ${at}::timestamptz + most + ${SLACK}`);
  if (rows.length > 0) throw tooMany(Math.max(...rows.map((row) => Number(row.wait))));
}

function tooMany(wait: number): Problem {
  const seconds = Math.ceil(wait / SECOND);
  return new Problem(
    429,
    "too-many-tries",
    t("server.sign-in.try-pace.too-many-tries-that-failed-try", { seconds }),
    { retryAfter: seconds },
  );
}

/** A try that succeeded: it was no guess, and what was counted against its person is forgotten. */
export async function forgiveTry(paces: readonly Pace[]): Promise<void> {
  const shared = paces.filter(({ who }) => who.startsWith("network "));
  const own = paces.filter((pace) => !shared.includes(pace));
  await database()
    .delete(tryPace)
    .where(
      inArray(
        tryPace.who,
        own.map(({ who }) => who),
      ),
    );
  for (const { who, every } of shared) {
    await database().execute(
      sql`update try_pace set paid_until = paid_until - ${every} * interval '1 ms' where who = ${who}`,
    );
  }
}
