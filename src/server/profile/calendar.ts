import { randomBytes } from "node:crypto";
import { eq } from "drizzle-orm";
import ical, { ICalAlarmType, ICalCalendarMethod } from "ical-generator";
import { database } from "@/data/database";
import { person } from "@/data/schema";
import { speaker, t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { config } from "../base/config";
import { inLanguage } from "../base/language";
import { notFound } from "../base/problems";
import { limitWords } from "../quizzes/rule-words";
import { quizzesOf } from "../reveal/quizzes-of-person";

/** So long before something ends it is reminded of, in seconds: a day, and an hour. */
const REMINDERS = [86_400, 3_600];

/** Gives a person's calendar a new address; the old one is gone at once. */
export async function renewCalendarAddress(viewer: Viewer): Promise<void> {
  const calendarKey = randomBytes(24).toString("base64url");
  await database().update(person).set({ calendarKey }).where(eq(person.id, viewer.id));
}

/**
 * The quizzes of the person whose calendar has this key, as iCalendar (RFC 5545): when each opens and when it is due, in
 * the person's own window, in the person's language: a calendar is fetched by a program, which has chosen none. Nothing of marks or answers is in it, as its address is all that guards it.
 */
export async function calendarOf(key: string): Promise<string> {
  if (!/^[\w-]{32}$/.test(key)) throw notFound();
  const [owner] = await database().select().from(person).where(eq(person.calendarKey, key));
  if (!owner) throw notFound();
  return inLanguage(owner.language, () => calendarFor(owner));
}

async function calendarFor(owner: typeof person.$inferSelect): Promise<string> {
  const calendar = ical({
    name: t("server.profile.calendar.quizzes", { institution: config.institution }),
    method: ICalCalendarMethod.PUBLISH,
    ttl: 3600,
  });
  calendar.prodId({ company: "Shizuka", product: "quizzes", language: speaker().language.toUpperCase() });
  for (const item of await quizzesOf(owner)) {
    if (item.role !== "student" || item.quiz.settings.practice || item.status.state === "not-assigned")
      continue;
    const { opens, due, closes } = item.window;
    const stamp = new Date(now());
    const limit = limitWords(item);
    const page = `${config.address}/quizzes/${item.quiz.id}`;
    const { title } = item.quiz;
    const add = (what: string, at: number, summary: string) =>
      calendar.createEvent({
        id: `${what}-${item.quiz.id}@shizuka`,
        stamp,
        start: new Date(at),
        end: new Date(at),
        summary,
        description: `${item.course.title}\n${limit}\n${page}`,
        url: page,
        // A reminder a day and an hour before something ends; what opens needs none.
        alarms:
          what === "opens" ? [] : REMINDERS.map((trigger) => ({ type: ICalAlarmType.display, trigger })),
      });
    if (opens !== null) add("opens", opens, t("server.profile.calendar.opens", { title }));
    if (due !== null) add("due", due, t("server.profile.calendar.is-due", { title }));
    if (closes !== null && closes !== due)
      add("closes", closes, t("server.profile.calendar.closes", { title }));
  }
  return calendar.toString();
}
