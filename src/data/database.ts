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

interface Connection {
  readonly client: postgres.Sql;
  readonly db: Database;
}

let connection: Connection | undefined;

/** Connects to a database. Dates and JSON pass through Drizzle; the bare client gets and gives text for both. */
export function connect(url: string, options: { readonly connections?: number } = {}): Connection {
  const client = postgres(url, { max: options.connections ?? 10, onnotice: () => {}, connect_timeout: 5 });
  const db = drizzle(client, { schema, casing: "snake_case", logger: { logQuery: countQuery } });
  return { client, db };
}

function current(): Connection {
  if (!connection) {
    const url = process.env.DATABASE_URL;
    if (!url) throw new Error("DATABASE_URL is not set: it names the PostgreSQL database to use.");
    connection = connect(url, { connections: Number(process.env.DATABASE_CONNECTIONS ?? 10) });
  }
  return connection;
}

/** The process's database, from DATABASE_URL. */
export const database = (): Database => current().db;
/** The process's bare client, for the one statement of the hot path. */
export const client = (): postgres.Sql => current().client;

/** Ends the process's connections, letting running queries finish. */
export async function disconnect(): Promise<void> {
  await connection?.client.end({ timeout: 5 });
  connection = undefined;
}
