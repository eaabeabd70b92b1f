import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test, vi } from "vitest";
import { presentAttempt } from "@/core/attempt/plan";
import { answering } from "@/core/kinds/answering";
import { MINUTE, SECOND } from "@/core/time/instants";
import { ownDatabase } from "../../../tests/support/database";
import type { Viewer } from "../access/viewer";

const sql = await ownDatabase();
const { startAttempt } = await import("./start-attempt");
const { attemptPulse, confirmStart, openDesk } = await import("./open-desk");
const { handInAttempt } = await import("./hand-in");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { slipOf } = await import("../handed-in/slip");
const { answerDigest, canonicalJson, slipCode } = await import("../attempts/slip-code");
const { seedOf } = await import("../attempts/seeds");
const { versionContent } = await import("../quizzes/versions");
const { inLanguage } = await import("../base/language");
const { say } = await import("@/words/t");
const { saveAnswers } = await import("./save-answers");

async function viewerNamed(email: string): Promise<Viewer & { token: string }> {
  const [row] =
    await sql`select id, name, email, administrator from person where email = ${`${email}@alderquay.example`}`;
  const token = randomUUID();
  await sql`insert into session (id, person_id, token, expires_at) values (${randomUUID()}, ${row?.id}, ${token}, now() + interval '9 days')`;
  return { id: row?.id, name: row?.name, email: row?.email, administrator: row?.administrator, token };
}

const quizNamed = async (title: string): Promise<string> =>
  (await sql`select id from quiz where title = ${title}`)[0]?.id;
const rowOf = async (id: string) => (await sql`select * from attempt where id = ${id}`)[0];

/** The clock of the process, moved: `later` ms from the real present. */
function moveClock(later: number): void {
  vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + later });
}

afterEach(() => {
  vi.useRealTimers();
});

describe("the start of the clock", () => {
  test("is the moment at which the desk confirms, and the deadline follows from it", async () => {
    const student = await viewerNamed("camila.thornbury");
    const { attemptId } = await startAttempt(student, await quizNamed("Tides and clearances"));
    const view = await openDesk(student, attemptId);
    expect(view?.confirmed).toBe(false);
    moveClock(3 * SECOND);
    const before = Date.now();
    const { startedAt, deadline } = await confirmStart(student, attemptId);
    expect(startedAt).toBeGreaterThanOrEqual(before);
    expect(Number(deadline) - startedAt).toBe(20 * MINUTE);
    // Confirming again, or loading the desk again, moves nothing.
    moveClock(5 * SECOND);
    expect(await confirmStart(student, attemptId)).toMatchObject({ startedAt, deadline });
    expect((await openDesk(student, attemptId))?.clock).toMatchObject({ startedAt, deadline });
  });

  test("comes by itself 10 s after the questions were first sent, and fetching them again wins nothing", async () => {
    const student = await viewerNamed("farid.kjeldsen");
    const { attemptId } = await startAttempt(student, await quizNamed("Tides and clearances"));
    const first = await openDesk(student, attemptId);
    moveClock(8 * SECOND);
    const second = await openDesk(student, attemptId);
    expect(second?.clock.startedAt).toBe(first?.clock.startedAt);
    moveClock(30 * SECOND);
    const late = await confirmStart(student, attemptId);
    expect(late.startedAt).toBe(first?.clock.startedAt);
  });

  test("an attempt that never reached a screen started by itself, and is handed in at its end", async () => {
    const student = await viewerNamed("gideon.salcano");
    const { attemptId } = await startAttempt(student, await quizNamed("Lights at a glance"));
    moveClock(90 * SECOND);
    const pulse = await attemptPulse(student, attemptId);
    expect(pulse.handedInAt).toBe(pulse.deadline);
    expect((await rowOf(attemptId))?.handed_in_by).toBe("clock");
  });
});

describe("an allowance", () => {
  test("gives time and attempts to one student, and says so", async () => {
    const student = await viewerNamed("kofi.grunwalder");
    const quiz = await quizNamed("Tides and clearances");
    await sql`insert into allowance (id, quiz_id, person_id, factor, extra_minutes, extra_attempts, reason)
      values (gen_random_uuid(), ${quiz}, ${student.id}, 1.25, 5, 1, 'reads slowly')`;
    const { attemptId } = await startAttempt(student, quiz);
    const view = await openDesk(student, attemptId);
    expect(view).toMatchObject({
      allowed: 3,
      limitMinutes: 30,
      warnings: [15, 7.5, 2, 1 / 3].map((left) => left * MINUTE),
    });
    expect(view?.rules.flatMap(({ text }) => text)).toContainEqual({ strong: "30 minutes for you" });
    const { startedAt, deadline } = await confirmStart(student, attemptId);
    expect(Number(deadline) - startedAt).toBe(30 * MINUTE);
  });

  test("an own window opens a quiz that is closed for the others", async () => {
    const student = await viewerNamed("quentin.mbele");
    const quiz = await quizNamed("Compass and variation");
    await sql`delete from attempt where quiz_id = ${quiz} and person_id = ${student.id}`;
    await expect(startAttempt(student, quiz)).rejects.toMatchObject({ type: "closed" });
    await sql`insert into allowance (id, quiz_id, person_id, due, closes, reason)
      values (gen_random_uuid(), ${quiz}, ${student.id}, now() + interval '1 hour', now() + interval '1 hour', 'was ill')`;
    await expect(startAttempt(student, quiz)).resolves.toMatchObject({ attemptId: expect.any(String) });
  });

  test("closing cuts the clock", async () => {
    const student = await viewerNamed("valentin.aghedo");
    const quiz = await quizNamed("Tides and clearances");
    await sql`insert into allowance (id, quiz_id, person_id, closes, reason) values (gen_random_uuid(), ${quiz}, ${student.id}, now() + interval '7 minutes', 'trial')`;
    const { attemptId } = await startAttempt(student, quiz);
    const { startedAt, deadline } = await confirmStart(student, attemptId);
    expect(Number(deadline) - startedAt).toBeLessThanOrEqual(7 * MINUTE);
  });
});

describe("attempts", () => {
  test("are as many as allowed, each with questions of its own that never change", async () => {
    const student = await viewerNamed("daoud.wetherby");
    const quiz = await quizNamed("Tides and clearances");
    const first = await startAttempt(student, quiz);
    const presented = JSON.stringify((await openDesk(student, first.attemptId))?.progress);
    expect(JSON.stringify((await openDesk(student, first.attemptId))?.progress)).toBe(presented);
    await handInAttempt(student, first.attemptId, {});
    expect(await openDesk(student, first.attemptId)).toBeNull();
    const second = await startAttempt(student, quiz);
    expect((await rowOf(second.attemptId))?.number).toBe(2);
    expect(JSON.stringify((await openDesk(student, second.attemptId))?.progress)).not.toBe(presented);
    await handInAttempt(student, second.attemptId, {});
    await expect(startAttempt(student, quiz)).rejects.toMatchObject({
      status: 409,
      type: "no-attempts-left",
    });
  });

  test("staff cannot start one", async () => {
    const staff = await viewerNamed("ines.marsh");
    await expect(startAttempt(staff, await quizNamed("Tides and clearances"))).rejects.toMatchObject({
      status: 403,
    });
  });

  test("handed in early leave time: time taken is what was used", async () => {
    const student = await viewerNamed("yusuf.penhallow");
    const { attemptId } = await startAttempt(student, await quizNamed("Tides and clearances"));
    await handInAttempt(student, attemptId, {});
    const slip = await slipOf(student, attemptId);
    // Before the clock was confirmed no time was taken.
    expect(slip && slip.handedInAt - slip.startedAt).toBe(0);
    expect(slip).toMatchObject({ by: "student", answered: 0, questions: 10 });
  });
});

describe("the slip", () => {
  test("holds a digest of each answer that anyone can compute, and a code over all it proves", async () => {
    const student = await viewerNamed("samir.eastlake");
    const { attemptId } = await startAttempt(student, await quizNamed("Tides and clearances"));
    const answer = { parts: { b: "3.75", a: "4.2" } };
    const entry = {
      slot: 4,
      device: randomUUID(),
      answer,
      ribbon: false,
      ruledOut: [],
      revision: 1,
      writtenAt: Date.now(),
    };
    await saveAnswers(student.token, attemptId, { here: 4, entries: [entry] });
    await handInAttempt(student, attemptId, {});
    const slip = await slipOf(student, attemptId);
    expect(slip?.digests[3]).toBe(answerDigest({ parts: { a: "4.2", b: "3.75" } }));
    expect(slip?.digests.filter(Boolean)).toHaveLength(1);
    expect(canonicalJson(answer)).toBe('{"parts":{"a":"4.2","b":"3.75"}}');
    expect(slip?.code).toMatch(/^[0-9A-HJKMNP-TV-Z]{4}(-[0-9A-HJKMNP-TV-Z]{4}){2}$/);
    const facts = {
      attemptId,
      number: 1,
      handedInAt: new Date(slip?.handedInAt ?? 0).toISOString(),
      digests: slip?.digests ?? [],
    };
    expect(slipCode(facts)).toBe(slip?.code);
    expect(slipCode({ ...facts, digests: [] })).not.toBe(slip?.code);
  });
});

describe("the marked paper", () => {
  const reveal = (total: unknown, marks: unknown, written: unknown, right: unknown, worked: unknown) => ({
    total,
    marks,
    written,
    right,
    worked,
  });

  /** A handed-in attempt under certain reveal rules: everything answered rightly, so that every key stands in it. */
  async function paperUnder(email: string, rules: ReturnType<typeof reveal>) {
    const student = await viewerNamed(email);
    const quiz = await quizNamed("Lights at a glance");
    const version = randomUUID();
    const [old] = await sql`select content, facts, (select settings from quiz where id = quiz_id) as settings
        from quiz_version where quiz_id = ${quiz} order by number limit 1`;
    const settings = { ...old?.settings, attempts: 1, reveal: rules };
    const [next] = await sql`select max(number) + 1 as number from quiz_version where quiz_id = ${quiz}`;
    await sql`insert into quiz_version (id, quiz_id, number, content, facts)
      values (${version}, ${quiz}, ${next?.number}, ${sql.json(old?.content)}, ${sql.json(old?.facts)})`;
    await sql`update quiz set current_version = ${next?.number}, settings = ${sql.json(settings)} where id = ${quiz}`;
    const { attemptId } = await startAttempt(student, quiz);
    const row = await rowOf(attemptId);
    const questions = presentAttempt(await versionContent(row?.version_id), await seedOf(row as never));
    const entries = questions.map((question, i) => ({
      slot: i + 1,
      device: randomUUID(),
      answer: { pick: "options" in question ? question.options[0]?.id : "" },
      ribbon: false,
      ruledOut: [],
      revision: 1,
      writtenAt: Date.now(),
    }));
    await saveAnswers(student.token, attemptId, { here: 1, entries });
    await handInAttempt(student, attemptId, {});
    const paper = await markedPaperOf(student, attemptId);
    const summary = answering("one-of-several").summary(questions[0] as never, entries[0]?.answer as never);
    return { paper, text: JSON.stringify(paper), attemptId, student, summary };
  }

  test("the reason of a mark reads in the language of whoever reads it, not of whoever was there when it was made", async () => {
    const { attemptId, student } = await inLanguage("ja", () =>
      paperUnder(
        "noor.haldane",
        reveal("at-hand-in", "at-hand-in", "at-hand-in", "at-hand-in", "at-hand-in"),
      ),
    );
    // A mark that was changed tells how it came about; what an instructor wrote is said as it is.
    await sql`insert into mark (attempt_id, slot, id, question_id, version_id, marks, awaiting, maximum, source, detail, reason)
      select attempt_id, slot, ${randomUUID()}, question_id, version_id, marks, awaiting, maximum, 'hand', detail, '"Right after all"'
      from mark where attempt_id = ${attemptId} and slot = 1`;
    const paper = await markedPaperOf(student, attemptId);
    expect(inLanguage("ja", () => say(paper?.questions[0]?.history?.[1]?.reason))).toBe("Right after all");
    const reason = paper?.questions[0]?.history?.[0]?.reason ?? "";
    expect(say(reason)).toBe("marked at the hand-in");
    expect(inLanguage("ja", () => say(reason))).toBe("提出時に採点");
  });

  test("nothing is in it that the rules do not reveal", async () => {
    const { paper, text } = await paperUnder(
      "bao.lindqvist",
      reveal("never", "never", "never", "never", "never"),
    );
    expect(paper?.total).toBeNull();
    for (const field of ["right", "worked", "why", "marks", "written", "state", "feedback"])
      expect(text).not.toContain(`"${field}":"`);
    expect(text).not.toContain("anchor");
    expect(paper?.hidden.map(({ what, when }) => `${what} ${when}`)).toEqual([
      "total not shown",
      "marks not shown",
      "written not shown",
      "right not shown",
      "worked not shown",
    ]);
  });

  test("each thing comes with its own rule", async () => {
    const { paper, text, summary } = await paperUnder(
      "greta.nwosu",
      reveal("at-hand-in", "never", "at-hand-in", "never", { on: "2099-01-01T09:00:00Z" }),
    );
    expect(paper?.total).not.toBeNull();
    expect(text).toContain(summary);
    for (const field of ["right", "worked", "why"]) expect(text).not.toContain(`"${field}":"`);
    expect(paper?.hidden).toEqual([
      { what: "marks", when: "not shown", isNever: true },
      { what: "right", when: "not shown", isNever: true },
      { what: "worked", when: "once nobody can write in it any more", isNever: false },
    ]);
  });

  test("when the instructor returns it, it is all there; staff see it before", async () => {
    const all = "when-returned";
    const { paper, attemptId, student } = await paperUnder(
      "tadhg.villanueva",
      reveal(all, all, all, all, all),
    );
    expect(paper?.hidden).toHaveLength(5);
    const staff = await viewerNamed("ines.marsh");
    expect((await markedPaperOf(staff, attemptId))?.hidden).toEqual([]);
    await sql`update attempt set returned_at = now(), feedback = '<p>Well seen.</p>' where id = ${attemptId}`;
    const returned = await markedPaperOf(student, attemptId);
    expect(returned?.hidden).toEqual([]);
    expect(returned?.feedback).toBe("<p>Well seen.</p>");
    expect(JSON.stringify(returned)).toContain('"right":"');
  });
});
