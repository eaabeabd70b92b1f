import { afterEach, describe, expect, test, vi } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

const sql = await ownDatabase();
const { bellOf } = await import("./bell");
const { notify: tell } = await import("./notify");
const { inTransaction } = await import("@/data/database");
const { viewerOf } = await import("../access/viewer");
const { sendWaiting } = await import("../mail/send-waiting");
const { mailboxOf } = await import("../mail/mailbox");
const { chooseMail } = await import("../profile/choose-mail");
const { profileOf } = await import("../profile/profile");
const { returnWork } = await import("../marking/return-work");
const { setTimes } = await import("../quizzes/set-times");
const { extendRunning } = await import("../quizzes/extend-running");
const { startAttempt } = await import("../desk/start-attempt");
const { askAboutMark } = await import("../marking/mark-queries");
const { viewer, quiz } = college(sql);

const noor = await viewer("noor.haldane");
const ines = await viewer("ines.marsh");
const adaeze = await viewer("adaeze.okafor");
const newest = async (who: Parameters<typeof bellOf>[0]) => (await bellOf(who))[0];
const told = async (email: string) =>
  sql`select n.* from person_notice n join person p on p.id = n.person_id where p.email = ${`${email}@alderquay.example`} order by n.id desc`;
const clear = () => sql`delete from person_notice`;

afterEach(() => {
  vi.useRealTimers();
});

describe("what is told", () => {
  test("looking at the bell is what makes a notice seen", async () => {
    const unseen = async () => (await viewerOf(noor.token))?.unseen;
    expect(await unseen()).toBe(2);
    const lines = await bellOf(noor);
    expect(lines.filter(({ isNew }) => isNew).map(({ kind }) => kind)).toEqual(["returned", "moved"]);
    expect(await unseen()).toBe(0);
    expect((await bellOf(noor)).some(({ isNew }) => isNew)).toBe(false);
    // Nobody else's bell is touched.
    expect((await viewerOf(ines.token))?.unseen).toBe(1);
  });

  test("returned work is told to each of its students, once", async () => {
    await clear();
    const sampling = await quiz("Sampling pollinators");
    const { returned } = await returnWork(adaeze, sampling, {});
    expect(returned).toBeGreaterThan(5);
    expect(await newest(noor)).toMatchObject({
      kind: "returned",
      text: expect.stringMatching(/^“Sampling pollinators”, attempt 1, is returned\./),
      path: expect.stringMatching(/^\/attempts\/[0-9a-f-]{36}\/paper$/),
    });
    expect((await returnWork(adaeze, sampling, {})).returned).toBe(0);
    const [count] = await sql`select count(*)::int as count from person_notice where kind = 'returned'`;
    expect(count?.count).toBe(returned);
    const [line] = await sql`select count(*)::int as count from record where action = 'returned'`;
    expect(line?.count).toBe(returned);
  });

  test("a moved window is told to those who may take the quiz, with the new time and the reason", async () => {
    await clear();
    const tides = await quiz("Tides and clearances");
    const closes = new Date(Date.now() + 6 * 86_400_000).toISOString();
    await setTimes(ines, tides, { closes, reason: "The bridge is shut on Thursday." });
    expect(await newest(noor)).toMatchObject({
      kind: "moved",
      text: expect.stringMatching(
        /^“Tides and clearances” now closes .+\. The bridge is shut on Thursday\.$/,
      ),
    });
    const [students] =
      await sql`select count(*)::int as count from enrolment e join quiz q on q.course_id = e.course_id where q.id = ${tides} and e.role = 'student'`;
    expect((await sql`select id from person_notice`).length).toBe(students?.count);
    // Set for two students only: nobody else hears of it.
    await clear();
    const second = await quiz("Compass and variation, second sitting");
    await setTimes(ines, second, { closes: null, due: null, reason: "Take the time you need." });
    expect(english((await told("quentin.mbele"))[0]?.text ?? "")).toContain(
      "no longer is due at a set time and no longer closes",
    );
    expect((await sql`select id from person_notice`).length).toBe(2);
  });

  test("a window out of order, no reason, or another's hand move nothing", async () => {
    await clear();
    const tides = await quiz("Tides and clearances");
    const before = await sql`select opens, due, closes from quiz where id = ${tides}`;
    const bad = [
      { closes: "2001-01-01T00:00:00Z", reason: "x" },
      { closes: "tomorrow", reason: "x" },
      { due: null },
      { due: null, reason: " " },
      { due: null, reason: "x", title: "y" },
    ];
    for (const input of bad)
      await expect(setTimes(ines, tides, input)).rejects.toMatchObject({ status: 422 });
    await expect(setTimes(noor, tides, { due: null, reason: "x" })).rejects.toMatchObject({ status: 404 });
    await expect(setTimes(adaeze, tides, { due: null, reason: "x" })).rejects.toMatchObject({
      status: 404,
    });
    await expect(returnWork(noor, tides, {})).rejects.toMatchObject({ status: 404 });
    await expect(returnWork(ines, tides, { attemptIds: ["x"] })).rejects.toMatchObject({ status: 422 });
    expect(await sql`select opens, due, closes from quiz where id = ${tides}`).toEqual(before);
    expect(await sql`select id from person_notice`).toEqual([]);
  });

  test("more time, a question and its answer", async () => {
    await clear();
    const student = await viewer("camila.thornbury");
    await startAttempt(student, await quiz("Tides and clearances"));
    await extendRunning(ines, await quiz("Tides and clearances"), { minutes: 5, reason: "Fire drill." });
    expect(await newest(student)).toMatchObject({
      kind: "extended",
      text: expect.stringMatching(
        /^You have 5 more minutes in “Tides and clearances”: your time now ends .+\. Fire drill\.$/,
      ),
    });
    const [compass] =
      await sql`select a.id from attempt a join quiz q on q.id = a.quiz_id where q.title = 'Compass and variation' and a.person_id = ${noor.id} and a.number = 1`;
    await askAboutMark(noor, compass?.id, { slot: 2, text: "Why?" });
    expect(await newest(ines)).toMatchObject({
      kind: "asked",
      text: "Noor Haldane asks about the mark of question 2 in “Compass and variation”.",
    });
    await askAboutMark(ines, compass?.id, { slot: 2, text: "Because." });
    expect(await newest(noor)).toMatchObject({
      kind: "answered",
      path: `/attempts/${compass?.id}/paper?q=2#ask-2`,
    });
  });

  test("what is undone was never told", async () => {
    await clear();
    const undone = inTransaction(async (tx) => {
      await tell(tx, [{ personId: noor.id, kind: "moved", text: "Never.", path: "/today" }]);
      throw new Error("undone");
    });
    await expect(undone).rejects.toThrow("undone");
    expect(await bellOf(noor)).toEqual([]);
  });
});

describe("mail", () => {
  const say = (text: string, kind: "moved" | "returned" = "moved") =>
    inTransaction((tx) => tell(tx, [{ personId: noor.id, kind, text, path: "/today" }]));
  const states = async () => (await told("noor.haldane")).map(({ mail }) => mail);

  test("goes to the internal mailbox, once, with a link, where an administrator reads it and nobody else", async () => {
    await clear();
    await say("“Tides” now closes later.");
    expect(await sendWaiting()).toBe(1);
    expect(await sendWaiting()).toBe(0);
    const { mails, hasServer } = await mailboxOf(await viewer("yuki.brandvold"));
    expect(hasServer).toBe(false);
    expect(mails).toHaveLength(1);
    expect(mails[0]).toMatchObject({
      recipient: "noor.haldane@alderquay.example",
      subject: "“Tides” now closes later.",
      text: expect.stringMatching(/^Noor Haldane,\n\n“Tides” now closes later\.\n\nhttp:\/\/[^\n]+\/today\n/),
    });
    for (const other of [noor, ines]) {
      await expect(mailboxOf(other)).rejects.toMatchObject({ status: 404 });
    }
  });

  test("each person switches it by kind; the bell has it all the same", async () => {
    await clear();
    await chooseMail(noor, { shown: ["moved", "returned"], wanted: ["returned"] });
    expect((await profileOf(noor, null)).notices).toEqual([
      { kind: "returned", byMail: true },
      { kind: "shown", byMail: true },
      { kind: "opened", byMail: true },
      { kind: "moved", byMail: false },
      { kind: "by-clock", byMail: true },
      { kind: "extended", byMail: true },
      { kind: "answered", byMail: true },
      { kind: "gradebook", byMail: true },
      { kind: "announced", byMail: true },
    ]);
    await say("Moved.");
    await say("Returned.", "returned");
    expect(await states()).toEqual(["waiting", "off"]);
    expect(await bellOf(noor)).toHaveLength(2);
    await expect(chooseMail(noor, { shown: ["moved"], wanted: ["all"] })).rejects.toMatchObject({
      status: 422,
    });
    await chooseMail(noor, { shown: ["moved"], wanted: ["moved"] });
    expect((await profileOf(noor, null)).notices.every(({ byMail }) => byMail)).toBe(true);
    // Those who teach hear of questions and of nothing that only students are told.
    expect((await profileOf(ines, null)).notices).toEqual([
      { kind: "asked", byMail: true },
      { kind: "faulty", byMail: true },
    ]);
  });

  test("a mail server that refuses is asked again with growing pauses, six times at most, and holds up nobody else's mail", async () => {
    await clear();
    await say("Refused.");
    const refusing = { sendMail: () => Promise.reject(new Error("mailbox full")) };
    const later = (minutes: number) =>
      vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + minutes * 60_000 });
    expect(await sendWaiting(20, refusing as never)).toBe(1);
    // Not at once again.
    expect(await sendWaiting(20, refusing as never)).toBe(0);
    for (const minutes of [5, 17, 65, 257]) {
      later(minutes);
      expect(await sendWaiting(20, refusing as never)).toBe(1);
    }
    expect(await states()).toEqual(["waiting"]);
    later(1_025);
    await sendWaiting(20, refusing as never);
    expect(await states()).toEqual(["failed"]);
    await say("Sent.");
    await sendWaiting();
    expect(await states()).toEqual(["sent", "failed"]);
  });

  test("two processes send each notice once", async () => {
    await clear();
    await Promise.all(["One.", "Two.", "Three.", "Four."].map((text) => say(text)));
    const sent: string[] = [];
    const counting = {
      sendMail: async ({ subject }: { subject: string }) => {
        await new Promise((resolve) => setTimeout(resolve, 20));
        sent.push(subject);
      },
    };
    await Promise.all([sendWaiting(2, counting as never), sendWaiting(4, counting as never)]);
    await sendWaiting(20, counting as never);
    expect(sent.sort()).toEqual(["Four.", "One.", "Three.", "Two."]);
  });
});
