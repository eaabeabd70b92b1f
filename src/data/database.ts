import { AsyncLocalStorage } from "node:async_hooks";
import { drizzle, type PostgresJsDatabase } from "drizzle-orm/postgres-js";
import postgres from "postgres";
import * as schema from "./schema";

export type Database = PostgresJsDatabase<typeof schema>;
/** A database or a transaction in it: what a query function takes. */
export type Queryable = Pick<
  Database,
  "select" | "selectDistinct" | "selectDistinctOn" | "insert" | "update" | "delete" | "execute"
>;

/** Counts the queries of one request, so that each page's number is known. */
export const queryCount = new AsyncLocalStorage<{ queries: number }>();

export function countQuery(): void {
  const counter = queryCount.getStore();
  if (counter) counter.queries += 1;
}

interface Connections {
  readonly client: postgres.Sql;
  readonly db: Database;
}

/** Nothing that a request waits for takes longer, and no transaction is left open while nobody works in it. */
const LONGEST = { statement_timeout: 20_000, idle_in_transaction_session_timeout: 20_000 };

/**
 * Seconds before a lost connection is tried again. The driver's own rule counts every connection that a restart of the
 * database cuts, and then waits up to 20 s although the database is long there.
 */
const comeBackAfter = (failures: number): number =>
  Math.min(0.05 * 2 ** failures, 1) * (0.5 + Math.random() / 2);

/** Connects to a database. Dates and JSON pass through Drizzle; the bare client gets and gives text for both. */
export function connect(
  url: string,
  options: { readonly connections?: number; readonly limits?: boolean; readonly name?: string } = {},
): Connections {
  const client = postgres(url, {
    max: options.connections ?? 10,
    onnotice: () => {},
    // Asking for the types of arrays, of which there are none, would be a query of the driver's own that nobody catches.
    fetch_types: false,
    connect_timeout: 5,
    backoff: comeBackAfter,
    connection: { application_name: options.name ?? "shizuka", ...((options.limits ?? true) && LONGEST) },
  });
  const db = drizzle(client, { schema, casing: "snake_case", logger: { logQuery: countQuery } });
  return { client, db };
}

/** Saving has connections of its own: it waits for no page, no start and no hand-in of a whole class. */
type Pool = "pages" | "saving";
const MOST: { readonly [P in Pool]: number } = {
  pages: Number(process.env.DATABASE_CONNECTIONS ?? 10),
  saving: Number(process.env.DATABASE_SAVE_CONNECTIONS ?? 4),
};

const pools = new Map<Pool, Connections>();

function poolOf(name: Pool): Connections {
  const known = pools.get(name);
  if (known) return known;
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set: it names the PostgreSQL database to use.");
  const made = connect(url, { connections: MOST[name], name: `shizuka ${name}` });
  pools.set(name, made);
  return made;
}

/** Where the present work's queries go: a pool, or the transaction that it is in. */
interface Way {
  readonly pool: Pool;
  readonly transaction: { readonly db: Database; ended: boolean } | null;
}

const way = new AsyncLocalStorage<Way>();

/**
 * The process's database, from DATABASE_URL; within a transaction the transaction itself. So no work can come to hold one
 * connection and wait for a second, which is how a pool locks up.
 */
export function database(): Database {
  const present = way.getStore();
  if (present?.transaction && !present.transaction.ended) return present.transaction.db;
  return poolOf(present?.pool ?? "pages").db;
}

/**
 * A query that is built once for each place where it is asked, and not at each asking: building one costs the server more
 * than sending it. Its values are placeholders.
 */
export function prepared<Q>(build: (db: Database) => Q): () => Q {
  const built = new WeakMap<Database, Q>();
  return () => {
    const db = database();
    const known = built.get(db) ?? build(db);
    built.set(db, known);
    return known;
  };
}

/** The process's bare client, for the one statement of the hot path. */
export const client = (): postgres.Sql => poolOf(way.getStore()?.pool ?? "pages").client;

/** Does some work in one transaction; within another one it is part of that. */
export async function inTransaction<T>(work: (tx: Database) => Promise<T>): Promise<T> {
  const present = way.getStore();
  if (present?.transaction && !present.transaction.ended) return work(present.transaction.db);
  const pool = present?.pool ?? "pages";
  return poolOf(pool).db.transaction((tx) => {
    const transaction = { db: tx as unknown as Database, ended: false };
    return way.run({ pool, transaction }, async () => {
      try {
        return await work(transaction.db);
      } finally {
        transaction.ended = true;
      }
    });
  });
}

/** Does some work on the connections that saving has for itself. */
export const whileSaving = <T>(work: () => Promise<T>): Promise<T> =>
  way.run({ pool: "saving", transaction: null }, work);

/** Ends the process's connections, letting running queries finish. */
export async function disconnect(): Promise<void> {
  const open = [...pools.values()];
  pools.clear();
  await Promise.all(open.map(({ client: each }) => each.end({ timeout: 5 })));
}
