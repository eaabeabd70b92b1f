import { expect, test } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { mediaResponse, rangeOf } from "../edge/media-response";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { openDesk } = await import("./open-desk");
const { handInAttempt } = await import("./hand-in");
const { recordingOf } = await import("./media");

const TITLE = "Bees and flowers, on one page";

async function started(name: string) {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(TITLE));
  const desk = await openDesk(student, attemptId);
  const film = desk?.progress.slots.flatMap(({ question }) => question?.recording ?? [])[0];
  return { student, attemptId, film: film?.id ?? "" };
}

test("a film comes with its question, by a name of the attempt, and to its student alone", async () => {
  const { student, attemptId, film } = await started("noor.haldane");
  expect(film).not.toBe("");
  expect(film).not.toContain("waggle");
  const sent = await recordingOf(student, attemptId, film);
  expect(sent.type).toBe("video/webm");
  expect(sent.bytes.length).toBeGreaterThan(100_000);
  await expect(recordingOf(await viewer("bao.lindqvist"), attemptId, film)).rejects.toMatchObject({
    status: 404,
  });
  await expect(recordingOf(student, attemptId, "waggle")).rejects.toMatchObject({ status: 404 });
});

test("it goes when what was written is not shown any more", async () => {
  const { student, attemptId, film } = await started("bao.lindqvist");
  await handInAttempt(student, attemptId, {});
  expect((await recordingOf(student, attemptId, film)).lastsUntil).toBeNull();
  const [kept] = await sql`select settings from quiz where title = ${TITLE}`;
  await sql`update quiz set settings = jsonb_set(settings, '{reveal,written}', '"never"') where title = ${TITLE}`;
  await expect(recordingOf(student, attemptId, film)).rejects.toMatchObject({ status: 404 });
  await sql`update quiz set settings = ${sql.json(kept?.settings)} where title = ${TITLE}`;
});

test("players ask for a part first", async () => {
  const bytes = Buffer.from("0123456789");
  const asked = (headers: Record<string, string>) =>
    mediaResponse(new Request("http://localhost/", { headers }), "f", {
      type: "video/webm",
      bytes,
      lastsUntil: null,
    });
  const part = asked({ range: "bytes=2-4" });
  expect([part.status, part.headers.get("content-range"), await part.text()]).toEqual([
    206,
    "bytes 2-4/10",
    "234",
  ]);
  expect(await asked({}).text()).toBe("0123456789");
  expect(asked({ "if-none-match": '"f"' }).status).toBe(304);
  expect(asked({ range: "bytes=10-" }).status).toBe(416);
});

test.each([
  ["bytes=0-", { first: 0, last: 9 }],
  ["bytes=0-99", { first: 0, last: 9 }],
  ["bytes=-3", { first: 7, last: 9 }],
  ["bytes=-99", { first: 0, last: 9 }],
  ["bytes=9-9", { first: 9, last: 9 }],
  ["bytes=-", null],
  ["bytes=5-2", null],
  ["bytes=-0", null],
  ["bytes=0-1,3-4", null],
  ["lines=0-1", null],
])("of ten bytes, %s", (asked, range) => expect(rangeOf(asked, 10)).toEqual(range));
