import { and, asc, eq, isNull, or } from "drizzle-orm";
import { database } from "@/data/database";
import {
  answer,
  answerCheck,
  answerLog,
  attempt,
  course,
  enrolment,
  knownDevice,
  lateWriting,
  markQuery,
  person,
  personNotice,
  practiceAnswer,
  practiceRun,
  quiz,
  record,
  session,
  upload,
} from "@/data/schema";
import { say, t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { openAttempt } from "../attempts/open-attempt";
import { config } from "../base/config";
import { fileOf } from "../desk/uploads";
import { gradebookFile } from "../gradebook/gradebook-file";
import { markedPaperOf } from "../handed-in/marked-paper";
import { slipText } from "../handed-in/slip-text";
import { writtenIsShown } from "../reveal/revealed";
import { deviceWords } from "../sign-in/device-words";

/** One file of what is kept about a person. */
export interface DataFile {
  readonly path: string;
  readonly content: string | AsyncIterable<Buffer>;
}

const asJson = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

/** A part of a path that every system takes as the name of a file. */
const fileName = (text: string): string =>
  text
    .normalize("NFC")
    .replace(/[^\p{L}\p{N} ._-]/gu, "_")
    .replace(/^\.+/, "_")
    .slice(0, 80);

async function aboutPerson(viewer: Viewer): Promise<unknown> {
  const db = database();
  const [[self], sessions, devices, courses, notices, records] = await Promise.all([
    db.select().from(person).where(eq(person.id, viewer.id)),
    db.select().from(session).where(eq(session.userId, viewer.id)).orderBy(asc(session.createdAt)),
    db.select().from(knownDevice).where(eq(knownDevice.personId, viewer.id)),
    db
      .select({ course: course.title, code: course.code, role: enrolment.role, since: enrolment.createdAt })
      .from(enrolment)
      .innerJoin(course, eq(course.id, enrolment.courseId))
      .where(eq(enrolment.personId, viewer.id)),
    db
      .select({
        kind: personNotice.kind,
        text: personNotice.text,
        at: personNotice.createdAt,
        readAt: personNotice.readAt,
      })
      .from(personNotice)
      .where(eq(personNotice.personId, viewer.id))
      .orderBy(asc(personNotice.createdAt)),
    db
      .select({ at: record.at, action: record.action, subject: record.subject, details: record.details })
      .from(record)
      .where(or(eq(record.actorId, viewer.id), eq(record.subjectId, viewer.id)))
      .orderBy(asc(record.at)),
  ]);
  return {
    name: self?.name,
    email: self?.email,
    since: self?.createdAt,
    administrator: self?.administrator,
    secondFactor: self?.twoFactorEnabled,
    withoutMail: self?.mailOff,
    courses,
    sessions: sessions.map(({ createdAt, expiresAt, userAgent, ipAddress }) => ({
      since: createdAt,
      until: expiresAt,
      browser: say(deviceWords(userAgent)),
      networkAddress: ipAddress,
    })),
    knownBrowsers: devices.map(({ createdAt, usedAt }) => ({ since: createdAt, usedAt })),
    notices,
    record: records,
  };
}

/** All that a person wrote in one attempt, as it is kept. */
async function writtenIn(attemptId: string): Promise<unknown> {
  const db = database();
  const [answers, log, checks, late] = await Promise.all([
    db.select().from(answer).where(eq(answer.attemptId, attemptId)).orderBy(asc(answer.slot)),
    db.select().from(answerLog).where(eq(answerLog.attemptId, attemptId)).orderBy(asc(answerLog.savedAt)),
    db.select().from(answerCheck).where(eq(answerCheck.attemptId, attemptId)),
    db.select().from(lateWriting).where(eq(lateWriting.attemptId, attemptId)),
  ]);
  const written = (rows: readonly Record<string, unknown>[]) => rows.map(({ attemptId: _, ...row }) => row);
  return { answers: written(answers), everySave: written(log), checks: written(checks), late: written(late) };
}

/** The files of one attempt, as far as its person may read it now; what must wait is said. */
async function* filesOfAttempt(
  viewer: Viewer,
  { id, number, title }: { readonly id: string; readonly number: number; readonly title: string },
): AsyncGenerator<DataFile> {
  const folder = `attempts/${fileName(title)}, attempt ${number}`;
  const opened = await openAttempt(viewer, id);
  if (!(await writtenIsShown(viewer, opened))) {
    yield {
      path: `${folder}/waits.txt`,
      content: t("server.profile.own-data.what-was-written-here-can-be"),
    };
  } else {
    yield { path: `${folder}/written.json`, content: asJson(await writtenIn(id)) };
    const uploads = await database()
      .select()
      .from(upload)
      .where(eq(upload.attemptId, id))
      .orderBy(asc(upload.createdAt));
    for (const [i, { id: fileId, name, completedAt }] of uploads.entries()) {
      if (!completedAt) continue;
      const file = await fileOf(viewer, id, fileId);
      yield { path: `${folder}/files/${i + 1} ${fileName(name)}`, content: file.from(0) };
    }
  }
  const paper = await markedPaperOf(viewer, id);
  if (paper) yield { path: `${folder}/marked paper.json`, content: asJson(paper) };
  const slip = paper && (await slipText(viewer, id, `${config.address}/verify`));
  if (slip) yield { path: `${folder}/slip.txt`, content: slip.body };
}

/**
 * Everything that is kept about a person, file by file, as far as they may read it now: what an instructor has not shown
 * yet is not shown by this way either.
 */
export async function* ownData(viewer: Viewer): AsyncGenerator<DataFile> {
  const db = database();
  yield { path: "about me.json", content: asJson(await aboutPerson(viewer)) };
  const courses = await db
    .select({ slug: course.slug, role: enrolment.role })
    .from(enrolment)
    .innerJoin(course, eq(course.id, enrolment.courseId))
    .where(eq(enrolment.personId, viewer.id));
  for (const { slug, role } of courses) {
    if (role !== "student") continue;
    yield { path: `gradebook/${slug}.csv`, content: await gradebookFile(viewer, slug) };
  }
  const attempts = await db
    .select({ id: attempt.id, number: attempt.number, title: quiz.title })
    .from(attempt)
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .where(and(eq(attempt.personId, viewer.id), isNull(attempt.writtenRemovedAt)))
    .orderBy(asc(attempt.id));
  for (const each of attempts) yield* filesOfAttempt(viewer, each);
  const practised = await db
    .select({
      run: practiceRun.id,
      at: practiceAnswer.markedAt,
      slot: practiceAnswer.slot,
      answer: practiceAnswer.answer,
    })
    .from(practiceAnswer)
    .innerJoin(practiceRun, eq(practiceRun.id, practiceAnswer.runId))
    .innerJoin(attempt, eq(attempt.id, practiceRun.attemptId))
    .where(eq(attempt.personId, viewer.id));
  if (practised.length > 0) yield { path: "practice.json", content: asJson(practised) };
  const asked = await db
    .select({ at: markQuery.createdAt, slot: markQuery.slot, text: markQuery.text })
    .from(markQuery)
    .where(eq(markQuery.authorId, viewer.id));
  if (asked.length > 0) yield { path: "questions about marks.json", content: asJson(asked) };
}
