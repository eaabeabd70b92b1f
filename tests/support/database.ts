import postgres from "postgres";
import { afterAll } from "vitest";
import { createDatabase } from "../../tools/lib/server.mjs";

/**
 * Gives the tests of a file a database of their own with the demo college in it, as the process's database. The file
 * imports what it tests after this.
 */
export async function ownDatabase(): Promise<postgres.Sql> {
  const base = process.env.TEST_CLUSTER;
  if (!base) throw new Error("TEST_CLUSTER is not set: run these tests with  npm test unit");
  const name = `unit_${process.pid}_${process.env.VITEST_POOL_ID ?? 0}_${performance.now().toFixed(0)}`;
  const url = await createDatabase({ url: (database) => base + database }, name, "demo_template");
  process.env.DATABASE_URL = url;
  const sql = postgres(url, { max: 2, onnotice: () => {} });
  afterAll(async () => {
    const { disconnect } = await import("../../src/data/database");
    await disconnect();
    await sql.end();
  });
  return sql;
}
