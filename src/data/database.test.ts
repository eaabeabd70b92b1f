import { sql } from "drizzle-orm";
import { expect, test } from "vitest";
import { ownDatabase } from "../../tests/support/database";

const admin = await ownDatabase();
const { database, inTransaction } = await import("./database");

test("whenever all connections are cut, every query ends, and the next ones are answered at once", async () => {
  const many = (each: () => Promise<unknown>) => Promise.allSettled(Array.from({ length: 12 }, each));
  for (let round = 0; round < 10; round += 1) {
    // A transaction goes on asking after its connection is gone.
    const working = Promise.all([
      many(() => database().execute(sql`select pg_sleep(0.01)`)),
      many(() =>
        inTransaction(async (tx) => {
          await tx.execute(sql`select pg_sleep(0.01)`).catch(() => {});
          await tx.execute(sql`select 1`);
        }),
      ),
    ]);
    await admin`select pg_terminate_backend(pid) from pg_stat_activity
      where datname = current_database() and application_name = 'shizuka pages'`;
    await working;
    const from = performance.now();
    const isBack = async () =>
      (await many(() => database().execute(sql`select 1`))).every(({ status }) => status === "fulfilled");
    while (!(await isBack()));
    // Seen are 50 to 200 ms; a connection that is lost for good takes five seconds to say so.
    expect(performance.now() - from).toBeLessThan(4_000);
  }
}, 60_000);
