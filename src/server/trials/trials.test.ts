import { describe, expect, test } from "vitest";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { draftOfQuiz, newDraft } = await import("../drafts/make-draft");
const { beginTrial, removeEndedTrials } = await import("./begin-trial");
const { closeTrial, leaveTrial, paperOfTrial } = await import("./close-trial");
const { beginCheck, checkedQuiz, checkLinksOf, endCheckLink, makeCheckLink } = await import("./check-links");
const { sessionToken, tokenAt, viewerOf } = await import("../access/viewer");
const { trialSessionFor } = await import("../access/trial-cookie");
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart, openDesk } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { handInAttempt } = await import("../desk/hand-in");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { todayOf } = await import("../overview/today");
const { briefOf } = await import("../overview/brief");
const { draftPage } = await import("../drafts/draft-page");

const TIDES = "Tides and clearances";
const ines = await viewer("ines.marsh");
const noor = await viewer("noor.haldane");

const student = async (session: string) => {
  const found = await viewerOf(sessionToken(session));
  if (!found) throw new Error("nobody");
  return found;
};
const draft = async () => (await draftOfQuiz(ines, await quiz(TIDES))).id;

/** Everything that a college has, as counts: what a trial must leave as it was. */
const counts = async () =>
  (
    await sql`select (select count(*)::int from course) courses, (select count(*)::int from quiz) quizzes,
      (select count(*)::int from attempt) attempts, (select count(*)::int from person) people,
      (select count(*)::int from answer) answers, (select count(*)::int from answer_log) logged,
      (select count(*)::int from mark) marks, (select count(*)::int from slip) slips,
      (select count(*)::int from session) sessions, (select count(*)::int from person_notice) notices`
  )[0];

describe("trying a quiz out", () => {
  test("goes the whole way on the real desk with any allowance, and leaves nothing", async () => {
    const id = await draft();
    const before = await counts();
    const { quizId, session } = await beginTrial(ines, id, { factor: 1.5, extraMinutes: 5 });
    const self = await student(session);
    const brief = await briefOf(self, quizId);
    expect(brief.allowedTime).toBe(35 * 60_000);
    const { attemptId } = await startAttempt(self, quizId);
    await openDesk(self, attemptId);
    await confirmStart(self, attemptId);
    await saveAnswers(sessionToken(session), attemptId, writing(4, { parts: { a: "4.2" } }));
    await expect(closeTrial(self)).rejects.toMatchObject({ status: 409 });
    await handInAttempt(self, attemptId, {});
    await closeTrial(self);
    expect(await paperOfTrial(self)).toBe(`/attempts/${attemptId}/paper`);
    // Closed, it shows what students see then: right answers too.
    const paper = await markedPaperOf(self, attemptId);
    expect(paper?.questions.every(({ parts }) => parts.length > 0)).toBe(true);
    expect(JSON.stringify(paper)).toContain("4.2");
    // Nobody of the course knows of it.
    expect(JSON.stringify(await todayOf(ines))).not.toContain(quizId);
    expect(JSON.stringify(await todayOf(noor))).not.toContain(quizId);
    await leaveTrial(self);
    expect(await counts()).toEqual(before);
    expect(await viewerOf(sessionToken(session))).toBeNull();
  });

  test("one at a time for each author, and refused while something is to be put right", async () => {
    const id = await draft();
    const before = await counts();
    const first = await beginTrial(ines, id, {});
    const second = await beginTrial(ines, id, {});
    expect(await viewerOf(sessionToken(first.session))).toBeNull();
    expect((await counts())?.quizzes).toBe((before?.quizzes ?? 0) + 1);
    await leaveTrial(await student(second.session));
    const { id: unfinished } = await newDraft(ines, "nav-110", { title: "Not yet" });
    await expect(beginTrial(ines, unfinished, {})).rejects.toMatchObject({ type: "to-put-right" });
    await expect(beginTrial(noor, id, {})).rejects.toMatchObject({ status: 404 });
    await expect(beginTrial(ines, id, { factor: 0.5 })).rejects.toMatchObject({ status: 422 });
  });

  test("its student is nobody anywhere else, and nobody is its student elsewhere", async () => {
    const id = await draft();
    const { quizId, session } = await beginTrial(ines, id, {});
    const self = await student(session);
    await expect(briefOf(self, await quiz(TIDES))).rejects.toMatchObject({ status: 404 });
    await expect(briefOf(ines, quizId)).rejects.toMatchObject({ status: 404 });
    await expect(briefOf(noor, quizId)).rejects.toMatchObject({ status: 404 });
    await expect(draftPage(self, id)).rejects.toMatchObject({ status: 404 });
    await expect(closeTrial(noor)).rejects.toMatchObject({ status: 404 });
    const cookie = `${session}~${quizId}`;
    for (const path of [
      `/quizzes/${quizId}`,
      `/api/quizzes/${quizId}/attempts`,
      `/quizzes/${quizId}?x=1`,
      "/trial/close",
    ])
      expect(tokenAt(path, undefined, cookie)).toBe(sessionToken(session));
    for (const path of ["/today", `/quizzes/${await quiz(TIDES)}`, `/drafts/${id}`, `/quizzes/${quizId}x`])
      expect(trialSessionFor(path, cookie)).toBeNull();
    // One that somebody made up is none.
    expect(tokenAt(`/quizzes/${quizId}`, undefined, `made.up~${quizId}`)).toBeNull();
    await leaveTrial(self);
  });

  test("ends by itself", async () => {
    const { session } = await beginTrial(ines, await draft(), {});
    await sql`update trial set ends_at = now() - interval '1 second'`;
    expect(await removeEndedTrials()).toBe(1);
    expect(await viewerOf(sessionToken(session))).toBeNull();
    expect(await removeEndedTrials()).toBe(0);
  });
});

describe("a link for a colleague", () => {
  test("leads to that quiz alone, holds its secret nowhere, and ends with everything begun by it", async () => {
    const id = await draft();
    const { path } = await makeCheckLink(ines, id, { forWhom: "Dr Petrides", days: 3 });
    const secret = path.split("/").at(-1) ?? "";
    expect(await checkedQuiz(secret)).toMatchObject({ title: TIDES, forWhom: "Dr Petrides" });
    expect(JSON.stringify(await sql`select * from check_link`)).not.toContain(secret);
    expect(JSON.stringify(await sql`select * from record`)).not.toContain(secret);
    const begun = await beginCheck(secret, {});
    const self = await student(begun.session);
    expect((await briefOf(self, begun.quizId)).title).toBe(TIDES);
    const [link] = await checkLinksOf(ines, id);
    await expect(endCheckLink(noor, id, { id: link?.id })).rejects.toMatchObject({ status: 404 });
    await endCheckLink(ines, id, { id: link?.id });
    expect(await viewerOf(sessionToken(begun.session))).toBeNull();
    await expect(checkedQuiz(secret)).rejects.toMatchObject({ status: 404 });
    await expect(beginCheck(secret, {})).rejects.toMatchObject({ status: 404 });
    expect(await checkLinksOf(ines, id)).toEqual([]);
  });

  test("that is passed on fills nothing, and ends when its time has come", async () => {
    const id = await draft();
    const { path } = await makeCheckLink(ines, id, { forWhom: "all of them", days: 1 });
    const secret = path.split("/").at(-1) ?? "";
    for (let i = 0; i < 8; i += 1) await beginCheck(secret, {});
    const [row] = await sql`select count(*)::int n from trial where link_id is not null`;
    expect(row?.n).toBe(5);
    await sql`update check_link set ends_at = now()`;
    await expect(beginCheck(secret, {})).rejects.toMatchObject({ status: 404 });
    await expect(makeCheckLink(noor, id, { forWhom: "me", days: 1 })).rejects.toMatchObject({ status: 404 });
    await expect(makeCheckLink(ines, id, { forWhom: "x", days: 400 })).rejects.toMatchObject({ status: 422 });
  });
});
