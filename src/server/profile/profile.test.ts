import ICAL from "ical.js";
import { expect, test } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { profileOf, endSession } = await import("./profile");
const { changePassword } = await import("./change-password");
const { calendarOf, renewCalendarAddress } = await import("./calendar");
const { signIn } = await import("../sign-in/sign-in");
const { viewerOf } = await import("../access/viewer");

const quizId = await quiz("Tides and clearances");
const headers = new Headers({ "user-agent": "test" });
const signInAs = (name: string, password: string) =>
  signIn({ email: `${name}@alderquay.example`, password, shared: "" }, { address: "192.0.2.1", headers });

test("a calendar holds when quizzes open and are due for its person, and no practice", async () => {
  const noor = await viewer("noor.haldane");
  expect((await profileOf(noor, null)).calendarKey).toBeNull();
  await renewCalendarAddress(noor);
  const key = (await profileOf(noor, null)).calendarKey ?? "";
  const calendar = new ICAL.Component(ICAL.parse(await calendarOf(key)));
  const events = calendar.getAllSubcomponents("vevent").map((each) => new ICAL.Event(each));
  const due = events.find((event) => event.uid === `due-${quizId}@shizuka`);
  const [row] = await sql`select due from quiz where id = ${quizId}`;
  expect(due?.summary).toBe("Tides and clearances is due");
  const seconds = (at: Date | undefined) => Math.floor((at?.getTime() ?? 0) / 1_000);
  expect(seconds(due?.startDate.toJSDate())).toBe(seconds(row?.due));
  expect(events.some((event) => event.summary.startsWith("Foraging ranges opens"))).toBe(true);
  expect(events.filter((event) => /Buoyage|Steering/.test(event.summary))).toEqual([]);
  expect(new Set(events.map((event) => event.uid)).size).toBe(events.length);
});

test("a calendar, fetched without any cookie, speaks its person's language", async () => {
  const farid = await viewer("farid.kjeldsen");
  await sql`update person set language = 'ja' where id = ${farid.id}`;
  await renewCalendarAddress(farid);
  const calendar = await calendarOf((await profileOf(farid, null)).calendarKey ?? "");
  expect(calendar).toContain("SUMMARY:Tides and clearances：期限");
  expect(calendar).toMatch(/^PRODID:.*JA/m);
  expect(calendar).not.toMatch(/SUMMARY:.*(opens|is due)|min\b/);
});

test("a due time of one's own is what one's own calendar says", async () => {
  const camila = await viewer("camila.thornbury");
  await sql`insert into allowance (id, quiz_id, person_id, factor, extra_minutes, extra_attempts, due, reason)
    values (gen_random_uuid(), ${quizId}, ${camila.id}, 1, 0, 0, '2030-01-02T10:00:00Z', 'ill')`;
  await renewCalendarAddress(camila);
  const key = (await profileOf(camila, null)).calendarKey ?? "";
  expect(await calendarOf(key)).toContain("DTSTART:20300102T100000Z");
});

test("a renewed address ends the old one; a made-up one tells nothing", async () => {
  const farid = await viewer("farid.kjeldsen");
  await renewCalendarAddress(farid);
  const old = (await profileOf(farid, null)).calendarKey ?? "";
  await renewCalendarAddress(farid);
  await expect(calendarOf(old)).rejects.toMatchObject({ status: 404 });
  await expect(calendarOf("x".repeat(32))).rejects.toMatchObject({ status: 404 });
  await expect(calendarOf("' or true --")).rejects.toMatchObject({ status: 404 });
});

test("sessions are told apart and ended, one's own only", async () => {
  const here = await viewer("greta.nwosu");
  const there = await viewer("greta.nwosu");
  const stranger = await viewer("jun.abernathy");
  const { sessions } = await profileOf(here, here.token);
  expect(sessions.map((each) => each.here).sort()).toEqual([false, true]);
  const other = sessions.find((each) => !each.here)?.id ?? "";
  await expect(endSession(stranger, other)).rejects.toMatchObject({ status: 404 });
  expect(await viewerOf(there.token)).not.toBeNull();
  await endSession(here, other);
  expect(await viewerOf(there.token)).toBeNull();
  expect(await viewerOf(here.token)).not.toBeNull();
});

test("a password is changed only by who knows it, and ends the other sessions", async () => {
  const leif = await viewer("leif.okonma");
  const other = await viewer("leif.okonma");
  const change = (current: string, next: string) => changePassword(leif, leif.token, { current, next });
  await expect(change("wrong", "four quiet words here")).rejects.toMatchObject({
    status: 422,
    sentence: "The password that you have now is not right; nothing was changed.",
  });
  await expect(change("quiet harbour", "short")).rejects.toMatchObject({
    sentence: expect.stringContaining("12 characters or more"),
  });
  await expect(change("quiet harbour", "quiet harbour")).rejects.toMatchObject({ status: 422 });
  await expect(signInAs("leif.okonma", "four quiet words here")).rejects.toMatchObject({ status: 401 });
  await change("quiet harbour", "four quiet words here");
  expect(await viewerOf(other.token)).toBeNull();
  expect(await viewerOf(leif.token)).not.toBeNull();
  expect((await signInAs("leif.okonma", "four quiet words here")).cookies.length).toBeGreaterThan(0);
  await expect(signInAs("leif.okonma", "quiet harbour")).rejects.toMatchObject({ status: 401 });
});
