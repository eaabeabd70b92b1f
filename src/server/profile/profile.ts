import { and, desc, eq, gt, ne } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import { type ChosenNoticeKind, NOTICE_KINDS, STAFF_KINDS } from "@/core/notices/notice-kinds";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { enrolment, person, session } from "@/data/schema";
import { say } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { notFound } from "../base/problems";
import { deviceWords } from "../sign-in/device-words";

export interface ProfileView {
  readonly name: string;
  readonly email: string;
  /** The secret part of the calendar's address; null: it has none yet. */
  readonly calendarKey: string | null;
  /** The language that was chosen; null: the institution's own. */
  readonly language: string | null;
  /** Whether signing in also asks for a code. */
  readonly secondFactor: boolean;
  /** The kinds of notices that concern this person, each with whether it also comes by mail. */
  readonly notices: readonly { readonly kind: ChosenNoticeKind; readonly byMail: boolean }[];
  /** Newest first. */
  readonly sessions: readonly {
    readonly id: string;
    /** The one that is asking. */
    readonly here: boolean;
    readonly device: string;
    readonly since: Instant;
  }[];
}

/** What a person can see and change about themselves. */
export async function profileOf(viewer: Viewer, token: string | null): Promise<ProfileView> {
  const [[self], sessions, roles] = await Promise.all([
    database().select().from(person).where(eq(person.id, viewer.id)),
    database()
      .select()
      .from(session)
      .where(and(eq(session.userId, viewer.id), gt(session.expiresAt, new Date(now()))))
      .orderBy(desc(session.createdAt)),
    database()
      .selectDistinct({ role: enrolment.role })
      .from(enrolment)
      .where(eq(enrolment.personId, viewer.id)),
  ]);
  if (!self) throw notFound();
  return {
    name: self.name,
    email: self.email,
    calendarKey: self.calendarKey,
    language: self.language,
    secondFactor: self.twoFactorEnabled,
    notices: NOTICE_KINDS.filter((kind) =>
      roles.some(({ role }) => STAFF_KINDS.includes(kind) === (role !== "student")),
    ).map((kind) => ({ kind, byMail: !self.mailOff.includes(kind) })),
    sessions: sessions.map((each) => ({
      id: each.id,
      here: each.token === token,
      device: say(deviceWords(each.userAgent)),
      since: each.createdAt.getTime(),
    })),
  };
}

/** Ends one of a person's own sessions; the next request with it is not signed in. */
export async function endSession(viewer: Viewer, sessionId: string): Promise<void> {
  if (!isUuid(sessionId)) throw notFound();
  const ended = await database()
    .delete(session)
    .where(and(eq(session.id, sessionId), eq(session.userId, viewer.id)))
    .returning({ id: session.id });
  if (ended.length === 0) throw notFound();
}

/** Ends all of a person's sessions but the one that asks; returns how many there were. */
export async function endOtherSessions(viewer: Viewer, token: string | null): Promise<number> {
  const ended = await database()
    .delete(session)
    .where(and(eq(session.userId, viewer.id), ne(session.token, token ?? "")))
    .returning({ id: session.id });
  return ended.length;
}
