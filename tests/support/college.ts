import { randomUUID } from "node:crypto";
import type postgres from "postgres";
import type { Viewer } from "../../src/server/access/viewer";

/** People and quizzes of the demo college, for tests of use cases. */
export const college = (sql: postgres.Sql) => ({
  async viewer(email: string): Promise<Viewer & { token: string }> {
    const [row] =
      await sql`select id, name, email, administrator from person where email = ${`${email}@alderquay.example`}`;
    const token = randomUUID();
    await sql`insert into session (id, person_id, token, expires_at) values (${randomUUID()}, ${row?.id}, ${token}, now() + interval '9 days')`;
    return {
      id: row?.id,
      name: row?.name,
      email: row?.email,
      administrator: row?.administrator,
      token,
    };
  },

  quiz: async (title: string): Promise<string> =>
    (await sql`select id from quiz where title = ${title}`)[0]?.id,

  attempt: async (id: string) => (await sql`select * from attempt where id = ${id}`)[0],
});

let revision = 0;

/** A save of one answer, as a device sends it. */
export const writing = (
  slot: number,
  answer: unknown,
  change: { readonly device?: string; readonly revision?: number; readonly writtenAt?: number } = {},
) => {
  revision += 1;
  return {
    here: slot,
    entries: [
      {
        slot,
        device: randomUUID(),
        answer,
        ribbon: false,
        ruledOut: [],
        revision,
        writtenAt: Date.now(),
        ...change,
      },
    ],
  };
};
