import { resolve } from "node:path";
import { migrate as applyMigrations } from "drizzle-orm/postgres-js/migrator";
import { connect } from "./database";

/** Brings a database to the newest schema. The migrations lie in the project's own folder, where it is started from. */
export async function migrate(url: string): Promise<void> {
  const { client, db } = connect(url, { connections: 1 });
  try {
    await applyMigrations(db, { migrationsFolder: resolve("src/data/migrations") });
  } finally {
    await client.end();
  }
}
