import { randomUUID } from "node:crypto";
import { expect, test } from "vitest";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz, attempt } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { handInAttempt } = await import("../desk/hand-in");
const { ownData } = await import("./own-data");

async function takenOut(person: Awaited<ReturnType<typeof viewer>>): Promise<Map<string, string>> {
  const files = new Map<string, string>();
  for await (const { path, content } of ownData(person)) {
    if (typeof content === "string") files.set(path, content);
    else {
      const pieces: Buffer[] = [];
      for await (const piece of content) pieces.push(piece);
      files.set(path, Buffer.concat(pieces).toString("latin1"));
    }
  }
  return files;
}

test("a person takes out what is kept about them: account, gradebook, every save, papers and slips, and nobody else's", async () => {
  const noor = await viewer("noor.haldane");
  const { attemptId } = await startAttempt(noor, await quiz("Tides and clearances"));
  await confirmStart(noor, attemptId);
  await saveAnswers(noor.token, attemptId, writing(5, { parts: { a: "186.25" } }));
  const files = await takenOut(noor);
  const paths = [...files.keys()];
  expect(paths).toContain("about me.json");
  expect(paths).toContain("gradebook/nav-110.csv");
  const about = JSON.parse(files.get("about me.json") ?? "");
  expect(about).toMatchObject({ name: "Noor Haldane", email: "noor.haldane@alderquay.example" });
  expect(about.courses).toHaveLength(3);
  const written = files.get("attempts/Tides and clearances, attempt 1/written.json") ?? "";
  expect(JSON.parse(written).everySave).toMatchObject([{ slot: 5, answer: { parts: { a: "186.25" } } }]);
  expect(paths.some((path) => path.endsWith("/marked paper.json"))).toBe(true);
  expect(paths.some((path) => path.endsWith("/slip.txt"))).toBe(true);
  const all = [...files.values()].join("\n");
  for (const { email } of await sql`select email from person where email not like 'noor%'`) {
    expect(all).not.toContain(email);
  }
  // No secret of the account, and nothing by which anybody could sign in.
  const secrets =
    await sql`select token as secret from session union select password from account where password is not null
    union select calendar_key from person where calendar_key is not null union select secret_hash from known_device`;
  for (const { secret } of secrets) expect(all).not.toContain(secret);
});

test("what is not shown yet is not shown by taking it out", async () => {
  const student = await viewer("camila.thornbury");
  const id = await quiz("Lights at a glance");
  await sql`update quiz set settings = jsonb_set(settings, '{reveal}',
    '{"written":"never","marks":"never","right":"never","worked":"never","total":"never"}') where id = ${id}`;
  const { attemptId } = await startAttempt(student, id);
  await confirmStart(student, attemptId);
  const [seen] = await sql`select count(*)::int as n from answer where attempt_id = ${attemptId}`;
  expect(seen?.n).toBe(0);
  await handInAttempt(student, attemptId, {});
  const files = await takenOut(student);
  const theirs = [...files].filter(([path]) => path.startsWith("attempts/Lights at a glance"));
  expect(theirs.map(([path]) => path.split("/").at(-1))).toContain("waits.txt");
  expect(theirs.map(([path]) => path.split("/").at(-1))).not.toContain("written.json");
  const paper = theirs.find(([path]) => path.endsWith("marked paper.json"))?.[1];
  expect(JSON.parse(paper ?? "{}")).toMatchObject({ total: null, feedback: null });
});

test("a file that was brought is in it, and its name leads nowhere else", async () => {
  const { receivePiece } = await import("../desk/uploads");
  const student = await viewer("wanjiru.holloway");
  const { attemptId } = await startAttempt(student, await quiz("Pages of the field notebook"));
  const { number } = (await attempt(attemptId)) as { number: number };
  const png = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==",
    "base64",
  );
  const terms = { slot: "1", name: "..page.png", size: String(png.length), at: "0" };
  await receivePiece(student, attemptId, randomUUID(), terms, png);
  const files = await takenOut(student);
  const [found] = [...files].filter(([path]) => path.includes(`notebook, attempt ${number}/files/`));
  expect(found?.[0]).toBe(`attempts/Pages of the field notebook, attempt ${number}/files/1 _page.png`);
  expect(found?.[1]).toBe(png.toString("latin1"));
});
