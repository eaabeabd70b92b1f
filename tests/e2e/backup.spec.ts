import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import postgres from "postgres";
import { createDatabase, startServer } from "../../tools/lib/server.mjs";
import { Caller, expect, House, test } from "../support/house";

const cluster = { url: (database: string) => (process.env.TEST_CLUSTER ?? "") + database };

const run = (script: "backup" | "restore", databaseUrl: string, ...args: string[]) => {
  const done = spawnSync("node", [`tools/${script}.mjs`, ...args], {
    env: { ...process.env, DATABASE_URL: databaseUrl },
    encoding: "utf8",
  });
  return { code: done.status, said: done.stdout + done.stderr };
};

/** Every table with what it holds, and every sequence with where it stands. */
async function contentOf(url: string): Promise<Record<string, string>> {
  const sql = postgres(url, { max: 1, onnotice: () => {} });
  const tables = await sql`
    select table_schema as schema, table_name as name from information_schema.tables
    where table_type = 'BASE TABLE' and table_schema not in ('pg_catalog', 'information_schema') order by 1, 2`;
  const found: Record<string, string> = {};
  for (const { schema, name } of tables) {
    const [row] = await sql.unsafe(
      `select count(*)::text || ' ' || coalesce(md5(string_agg(md5(t::text), '' order by md5(t::text))), '') as sum from "${schema}"."${name}" t`,
    );
    found[`${schema}.${name}`] = row?.sum;
  }
  for (const {
    name,
    at,
  } of await sql`select sequencename as name, last_value::text as at from pg_sequences`) {
    found[`sequence ${name}`] = at;
  }
  await sql.end();
  return found;
}

test("a restored college is the same to the last answer, and goes on", async ({ request }) => {
  test.setTimeout(180_000);
  const folder = mkdtempSync(join(tmpdir(), "shizuka-backup-"));
  const file = join(folder, "college.dump");
  const house = await House.open();
  try {
    const student = await house.caller(request, "hana.drummond");
    const started = await student.post(`/api/quizzes/${await house.quiz("Flower shapes")}/attempts`, {});
    const { attemptId } = started.json;
    await student.post(`/api/attempts/${attemptId}/begin`, {});
    const entry = {
      slot: 3,
      device: "5b1f2a56-1f0e-4c3b-9d6e-0c8f6a7b8c9d",
      answer: { parts: { a: "4.25" } },
      ribbon: true,
      ruledOut: [],
      revision: 1,
      writtenAt: Date.now(),
    };
    await student.post(`/api/attempts/${attemptId}/save`, { here: 3, entries: [entry] });
    await house.kill();
    const before = await contentOf(house.databaseUrl);

    expect(run("backup", house.databaseUrl, file)).toMatchObject({ code: 0 });
    expect(statSync(file).mode & 0o077).toBe(0);
    const twice = run("backup", house.databaseUrl, file);
    expect(twice.code).not.toBe(0);
    expect(twice.said).toContain("never overwrites");

    const elsewhere = await createDatabase(cluster, `restored_${process.pid}`);
    expect(run("restore", elsewhere, file)).toMatchObject({ code: 0 });
    expect(await contentOf(elsewhere)).toEqual(before);

    // It runs, and the student, still signed in, finds the answer and goes on.
    const server = await startServer(elsewhere);
    const again = new Caller(request, server.url, student.cookie);
    const desk = await again.get(`/attempts/${attemptId}`);
    expect(desk.text).toContain("4.25");
    const changed = { ...entry, revision: 2, answer: { parts: { a: "5" } }, writtenAt: Date.now() };
    expect(
      (await again.post(`/api/attempts/${attemptId}/save`, { here: 3, entries: [changed] })).status,
    ).toBe(200);
    await server.stop();

    // What is there is not lost by a slip of the hand.
    const refused = run("restore", elsewhere, file);
    expect(refused.code).not.toBe(0);
    expect(refused.said).toContain("--over");
    expect(run("restore", elsewhere, file, "--over")).toMatchObject({ code: 0 });
    expect(await contentOf(elsewhere)).toEqual(before);

    const broken = join(folder, "broken.dump");
    writeFileSync(broken, "no dump");
    expect(run("restore", elsewhere, broken, "--over").code).not.toBe(0);
    expect(await contentOf(elsewhere)).toEqual(before);
    const nowhere = join(folder, "nowhere.dump");
    expect(run("backup", `${elsewhere}_missing`, nowhere).code).not.toBe(0);
    expect(existsSync(nowhere)).toBe(false);
  } finally {
    await house.close().catch(() => {});
    rmSync(folder, { recursive: true, force: true });
  }
});
