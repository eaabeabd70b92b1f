import { resolve } from "node:path";
import { sql } from "drizzle-orm";
import { migrate as applyMigrations } from "drizzle-orm/postgres-js/migrator";
import { connect } from "./database";

/**
 * Brings a database to the newest schema; of several processes that start at once one does it and the others wait. The
 * migrations lie in the project's own folder, where it is started from.
 */
export async function migrate(url: string): Promise<void> {
  const { client, db } = connect(url, { connections: 1, limits: false });
  try {
    // Held by the connection, and so given back with it, however this ends.
    await db.execute(sql`select pg_advisory_lock(hashtext('shizuka migrations'))`);
    await applyMigrations(db, { migrationsFolder: resolve("src/data/migrations") });
  } finally {
    await client.end();
  }
}
