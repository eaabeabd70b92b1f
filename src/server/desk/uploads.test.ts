import { randomUUID } from "node:crypto";
import { expect, test } from "vitest";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { saveAnswers } = await import("./save-answers");
const { fileOf, receivePiece } = await import("./uploads");
const { typeByContent } = await import("./file-kinds");
const { cleanEssay } = await import("../text/rich-text");

const PNG = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
  "base64",
);

async function contentOf(pieces: AsyncIterable<Buffer>): Promise<Buffer> {
  const all: Buffer[] = [];
  for await (const piece of pieces) all.push(piece);
  return Buffer.concat(all);
}

/** The type of a file that comes in pieces of seven bytes. */
const typeOf = (bytes: Buffer) =>
  typeByContent(async function* () {
    for (let at = 0; at < bytes.length; at += 7) yield bytes.subarray(at, at + 7);
  });

async function started(name: string, title = "Pages of the field notebook") {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  const send = (id: string, bytes: Buffer, at: number, change: Record<string, unknown> = {}) =>
    receivePiece(
      student,
      attemptId,
      id,
      { slot: "1", name: "page.png", size: String(PNG.length), at: String(at), ...change },
      bytes,
    );
  const save = (slot: number, answer: unknown) =>
    saveAnswers(student.token, attemptId, writing(slot, answer));
  return { student, attemptId, send, save };
}

test("a file comes in pieces, goes on where it broke off, and is taken once its content is right", async () => {
  const { student, attemptId, send, save } = await started("noor.haldane");
  const id = randomUUID();
  expect(await send(id, Buffer.alloc(0), 0)).toEqual({ received: 0, done: false, type: null });
  expect(await send(id, PNG.subarray(0, 30), 0)).toMatchObject({ received: 30, done: false });
  // The answer was lost and the piece comes again; nothing is doubled.
  expect(await send(id, PNG.subarray(0, 30), 0)).toMatchObject({ received: 30, done: false });
  const file = { id, name: "page.png", size: PNG.length };
  await expect(save(1, { files: [file], text: "" })).rejects.toMatchObject({
    status: 422,
    sentence: expect.stringContaining("did not arrive completely"),
  });
  expect(await send(id, PNG.subarray(30), 30)).toEqual({
    received: PNG.length,
    done: true,
    type: "image/png",
  });
  expect(await send(id, PNG.subarray(30), 30)).toMatchObject({ done: true });
  await save(1, { files: [file], text: "north side" });
  const kept = await fileOf(student, attemptId, id);
  expect((await contentOf(kept.from(0))).equals(PNG)).toBe(true);
  // From the middle of a piece, from the beginning of one, and from its last byte.
  for (const at of [10, 30, PNG.length - 1]) {
    expect((await contentOf(kept.from(at))).equals(PNG.subarray(at))).toBe(true);
  }
  await expect(fileOf(await viewer("keziah.rowden"), attemptId, id)).rejects.toMatchObject({ status: 404 });
  const [teaches] =
    await sql`select p.email from enrolment e join person p on p.id = e.person_id join course c on c.id = e.course_id where c.slug = 'pol-101' and e.role = 'instructor'`;
  const staff = await viewer(String(teaches?.email).split("@")[0] ?? "");
  expect((await fileOf(staff, attemptId, id)).name).toBe("page.png");
});

test("content decides, not the name: what the question does not allow is refused and forgotten", async () => {
  const { send } = await started("keziah.rowden");
  const id = randomUUID();
  const script = Buffer.from("<script>alert(1)</script>");
  await expect(send(id, script, 0, { size: String(script.length) })).rejects.toMatchObject({
    status: 422,
    sentence: "“page.png” is not a picture or a PDF by its content, so it was not taken.",
  });
  expect(await sql`select 1 from upload where id = ${id}`).toHaveLength(0);
  expect(await sql`select 1 from upload_piece where upload_id = ${id}`).toHaveLength(0);
});

test.each([
  [{ size: "90000000" }, "is too large: 10 MB at most"],
  [{ size: "0" }, "The file is empty"],
  [{ size: "12" }, "reaches beyond the end"],
  [{ name: "../../etc/passwd" }, "no slashes"],
  [{ name: "\u0000\u202e" }, "no control characters"],
  [{ name: "x".repeat(300) }, "255 characters"],
  [{ slot: "3" }, "Question 3 takes no files"],
  [{ slot: "99" }, "takes no files"],
  [{ at: "-1" }, "at"],
  [{ at: undefined }, "At is missing"],
])("with %j it is refused with a sentence", async (change, words) => {
  const { send } = await started("ottoline.diaz");
  await expect(send(randomUUID(), PNG, 0, change)).rejects.toMatchObject({
    status: 422,
    sentence: expect.stringContaining(words),
  });
});

test("too many files, a file of another attempt, and one of another question are refused", async () => {
  const { attemptId, send, save } = await started("hana.drummond");
  const file = (id: string) => ({ id, name: "page.png", size: PNG.length });
  const ids = Array.from({ length: 10 }, () => randomUUID());
  for (const id of ids) await send(id, PNG, 0);
  await expect(send(randomUUID(), PNG, 0)).rejects.toMatchObject({
    sentence: expect.stringContaining("given too many files"),
  });
  await expect(save(1, { files: ids.slice(0, 3).map(file), text: "" })).rejects.toMatchObject({
    sentence: "Question 1: Hand in 2 files at most.",
  });
  await expect(save(2, { files: [file(ids[0] ?? "")], text: "" })).rejects.toMatchObject({ status: 422 });
  const other = await started("bao.lindqvist");
  await expect(other.save(1, { files: [file(ids[0] ?? "")], text: "" })).rejects.toMatchObject({
    status: 422,
  });
  await expect(other.send(ids[0] ?? "", PNG, 0)).rejects.toMatchObject({ status: 404 });
  expect(attemptId).not.toBe(other.attemptId);
});

test("kinds are told by their first bytes", async () => {
  expect(await typeOf(PNG)).toBe("image/png");
  expect(await typeOf(Buffer.from("%PDF-1.7\n%âãÏÓ"))).toBe("application/pdf");
  expect(await typeOf(Buffer.from("flower,visits\nclover,3\n"))).toBe("text/plain");
  expect(await typeOf(Buffer.from([0, 1, 2, 3, 0, 255]))).toBe("application/octet-stream");
});

test("an essay is cleaned on the way in; its pictures may only be its own files", async () => {
  const { attemptId, save } = await started("wanjiru.holloway", "Two short essays on the meadow");
  const own = `/api/attempts/${attemptId}/files/${randomUUID()}`;
  const rich = `<h3>Change</h3><p onclick="x()">Text <a href="javascript:x()">here</a><script>alert(1)</script></p><img src="${own}" alt="sketch"><img src="/api/attempts/${randomUUID()}/files/${randomUUID()}"><img src="data:image/png;base64,AA"><span data-type="inline-math" data-latex="a^2"></span>`;
  await save(1, { rich });
  const [kept] = await sql`select answer from answer where attempt_id = ${attemptId} and slot = 1`;
  expect(kept?.answer.rich).toBe(
    `<h3>Change</h3><p>Text here</p><img src="${own}" alt="sketch" /><span data-type="inline-math" data-latex="a^2"></span>`,
  );
  expect(cleanEssay(kept?.answer.rich, attemptId)).toBe(kept?.answer.rich);
});

test("a name that turns its direction around is shown as it is", async () => {
  const { student, attemptId, send } = await started("wanjiru.holloway");
  const id = randomUUID();
  await send(id, PNG, 0, { name: "flower\u202egnp.exe" });
  expect((await fileOf(student, attemptId, id)).name).toBe("flowergnp.exe");
});
