import { sql } from "drizzle-orm";
import { deadlineOf, NO_ALLOWANCE } from "@/core/attempt/deadline";
import { maximumOf, planAttempt, type Slot } from "@/core/attempt/plan";
import type { Answer } from "@/core/kinds/answering";
import { type CriteriaMarks, scoreRubric } from "@/core/kinds/rubric";
import { markByHand } from "@/core/marking/hand-mark";
import { type HandWork, NO_WORK } from "@/core/marking/hand-work";
import { stored } from "@/core/numbers/exact";
import type { NoteAnchor } from "@/core/reveal/note-anchor";
import { passageText } from "@/core/reveal/passages";
import { said } from "@/core/said";
import { HOUR, type Instant, MINUTE } from "@/core/time/instants";
import type { Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { writeAttemptQuestions } from "@/server/attempts/attempt-questions";
import { currentMarks, setMark } from "@/server/attempts/marks";
import { currentNaming, seedOf } from "@/server/attempts/seeds";
import { type HandIn, handInAll } from "@/server/attempts/settle";
import { answerDigest } from "@/server/attempts/slip-code";
import { publishWork } from "@/server/marking/publish-work";
import { sampleAnswers } from "./answers";
import { classWork, type Taken } from "./class/class-answers";
import { type ClassAttempt, classAttempts } from "./class/class-attempts";
import { levelsFor, reasonFor } from "./class/hand-marks";
import { type DemoQuiz, type Ids, idOf } from "./demo-quiz";
import {
  type HandMarked,
  NOTEBOOK_FILE,
  NOTEBOOK_PAGE,
  noorsAttempts,
  type SampleAttempt,
} from "./noors-work";
import { INSTRUCTORS, NOOR } from "./people";

/** What the instructor says to Noor’s half-term paper. */
const HALF_TERM_WORDS =
  "A paper to be pleased with, and the passage above all. Go through what is not full in the row below, and bring me one of them on Thursday.";

/** So many rows at once go into one statement. */
const ROWS_AT_ONCE = 2_000;
/** So many attempts are handed in together. */
const TOGETHER = 60;

/** Whom the clock handed in knew of it at the time, and was mailed then. */
const NOTICED_THEN = sql`update person_notice set mail = 'sent', mail_tries = 1, created_at = attempt.handed_in_at,
    read_at = least(attempt.handed_in_at + interval '10 hours', now())
  from attempt where person_notice.path = '/attempts/' || attempt.id || '/slip'`;

/** An attempt as it is to be written. */
interface Planned {
  readonly quiz: DemoQuiz;
  readonly student: string;
  readonly number: number;
  readonly started: Instant;
  readonly took: number;
  readonly isRunning: boolean;
  readonly returned: Instant | null;
  readonly feedback: string | null;
  readonly id: string;
  readonly seedText: string;
  readonly plan: readonly Slot[];
  readonly taken: Pick<Taken, "answers" | "first" | "checks" | "files">;
  readonly byHand: readonly HandMarked[];
  readonly notes: SampleAttempt["notes"];
}

/** Writes what Noor and the class have taken. */
export async function writeAttempts(
  db: Queryable,
  quizzes: readonly DemoQuiz[],
  people: Ids,
  at: Instant,
): Promise<void> {
  const naming = await currentNaming();
  const planned: Planned[] = [];
  for (const sample of noorsAttempts(at)) planned.push(await planOfNoor(sample, quizzes, naming));
  planned.push(...(await plansOf(classAttempts(quizzes, at), naming)));
  await writePlanned(db, planned, people, naming);
  await db.execute(NOTICED_THEN);
}

async function plansOf(attempts: readonly ClassAttempt[], naming: number): Promise<Planned[]> {
  const work = classWork(attempts);
  const planned: Planned[] = [];
  for (const each of attempts) planned.push(await planOfClass(each, work, naming));
  return planned;
}

/** Writes what a class has taken, handed in and marked as it is for everyone. */
export async function writeTaken(
  db: Queryable,
  attempts: readonly ClassAttempt[],
  people: Ids,
): Promise<void> {
  const naming = await currentNaming();
  await writePlanned(db, await plansOf(attempts, naming), people, naming);
}

async function writePlanned(
  db: Queryable,
  planned: readonly Planned[],
  people: Ids,
  naming: number,
): Promise<void> {
  // Nobody has two running attempts at a quiz: the first is handed in before the second begins.
  for (const number of [...new Set(planned.map((each) => each.number))].sort()) {
    const now = planned.filter((each) => each.number === number);
    const rows = await insertAttempts(db, now, people, naming);
    await insertWork(db, now);
    const handIns = now.flatMap((each): HandIn[] => {
      const row = rows.get(each.id);
      return each.isRunning || !row ? [] : [handInOf(each, row)];
    });
    for (let i = 0; i < handIns.length; i += TOGETHER) await handInAll(db, handIns.slice(i, i + TOGETHER));
  }
  for (const each of planned) await writeMarks(db, each, idOf(people, INSTRUCTORS[each.quiz.course]));
}

async function seeded(quiz: DemoQuiz, student: string, number: number, naming: number) {
  const id = newId();
  const seedText = `demo ${quiz.key} ${student} ${number}`;
  const seed = await seedOf({ id, seed: seedText, naming });
  return { id, seedText, seed, plan: planAttempt(quiz.content, seed) };
}

async function planOfNoor(
  sample: SampleAttempt,
  quizzes: readonly DemoQuiz[],
  naming: number,
): Promise<Planned> {
  const quiz = quizzes.find(({ key }) => key === sample.quiz);
  if (!quiz) throw new Error(`The demo has no quiz ${sample.quiz}.`);
  const { student, number = 1, took, running: isRunning = false } = sample;
  const { seed, ...own } = await seeded(quiz, student, number, naming);
  const answers = sampleAnswers(quiz.content, seed, sample.slips);
  const files = [...answers].flatMap(([slot, answer]) =>
    bringsFile(answer)
      ? [
          {
            id: NOTEBOOK_FILE,
            slot,
            name: "second day.txt",
            type: "text/plain",
            bytes: Buffer.from(NOTEBOOK_PAGE),
          },
        ]
      : [],
  );
  return {
    quiz,
    student,
    number,
    // So long after the due time that it is late.
    started: sample.started ?? (quiz.window.due ?? 0) + 5 * HOUR,
    took,
    isRunning,
    returned: sample.returned ?? null,
    feedback: sample.feedback ?? null,
    ...own,
    taken: { answers, first: new Map(), checks: new Map(), files },
    byHand: sample.byHand ?? [],
    notes: sample.notes,
  };
}

const bringsFile = (answer: Answer): boolean => "files" in answer && answer.files.length > 0;

async function planOfClass(
  each: ClassAttempt,
  work: ReturnType<typeof classWork>,
  naming: number,
): Promise<Planned> {
  const { quiz, character, number, started, took, returned, marked } = each;
  const { seed, ...own } = await seeded(quiz, character.name, number, naming);
  const taken = await work(each, seed);
  const markedAt = (returned ?? started + took + 6 * HOUR) - HOUR;
  const byHand = own.plan.flatMap(({ slot, question }): HandMarked[] => {
    const quality = taken.quality.get(slot);
    if (!marked || quality === undefined || !("rubric" in question) || !question.rubric) return [];
    const levels = levelsFor(question.rubric, quality, character.name);
    return [{ question: question.id, levels, reason: reasonFor(quality), at: markedAt + slot * MINUTE }];
  });
  return {
    quiz,
    student: character.name,
    number,
    started,
    took,
    isRunning: false,
    returned,
    feedback: character.name === NOOR ? HALF_TERM_WORDS : null,
    ...own,
    taken,
    byHand,
    notes: [],
  };
}

const deadlineAt = ({ quiz, started }: Planned): Instant | null =>
  deadlineOf({
    start: started,
    limitMinutes: quiz.settings.timeLimit ?? null,
    allowance: NO_ALLOWANCE,
    closes: quiz.window.closes,
    closingCuts: true,
  });

type AttemptRow = typeof schema.attempt.$inferSelect;

async function insertAttempts(
  db: Queryable,
  planned: readonly Planned[],
  people: Ids,
  naming: number,
): Promise<ReadonlyMap<string, AttemptRow>> {
  const rows = planned.map((each) => {
    const deadline = deadlineAt(each);
    return {
      id: each.id,
      quizId: each.quiz.id,
      versionId: each.quiz.versionId,
      personId: idOf(people, each.student),
      number: each.number,
      seed: each.seedText,
      naming,
      sentAt: new Date(each.started),
      startedAt: new Date(each.started),
      confirmed: true,
      deadline: deadline === null ? null : new Date(deadline),
      maximum: stored(maximumOf(each.plan)),
      returnedAt: each.returned === null ? null : new Date(each.returned),
    };
  });
  const inserted = await db.insert(schema.attempt).values(rows).returning();
  await writeAttemptQuestions(db, planned);
  return new Map(inserted.map((row) => [row.id, row]));
}

/** Inserts rows a part at a time: a statement takes so many values only. */
async function inParts<T>(rows: readonly T[], insert: (part: T[]) => Promise<unknown>): Promise<void> {
  for (let i = 0; i < rows.length; i += ROWS_AT_ONCE) await insert(rows.slice(i, i + ROWS_AT_ONCE));
}

/** What was written in the attempts: the answers, how they came about, what was checked, and files. */
async function insertWork(db: Queryable, planned: readonly Planned[]): Promise<void> {
  const standing: (typeof schema.answer.$inferInsert)[] = [];
  const log: (typeof schema.answerLog.$inferInsert)[] = [];
  const checks: (typeof schema.answerCheck.$inferInsert)[] = [];
  for (const each of planned) {
    const { answers, first, checks: checked } = each.taken;
    // The second half on another device, as it is when one changes from the phone to the desk.
    const devices = [newId(), newId()] as const;
    for (const [i, [slot, answer]] of [...answers].entries()) {
      const device = devices[i * 2 < answers.size ? 0 : 1];
      const time = (share: number) =>
        new Date(each.started + Math.floor((each.took * (i + share)) / (answers.size + 1)));
      const entry = (value: Answer, revision: number, at: Date) => ({
        attemptId: each.id,
        slot,
        answer: value,
        ribbon: false,
        ruledOut: [],
        revision,
        device,
        writtenAt: at,
        savedAt: at,
      });
      const before = first.get(slot);
      if (before) log.push(entry(before, 1, time(0.5)));
      const last = entry(answer, before ? 2 : 1, time(1));
      standing.push(last);
      log.push(last);
      for (const [number, tried] of (checked.get(slot) ?? []).entries()) {
        checks.push({
          attemptId: each.id,
          slot,
          number: number + 1,
          answer: tried,
          createdAt: time(0.5 + number / 10),
        });
      }
    }
  }
  await inParts(standing, (part) => db.insert(schema.answer).values(part));
  await inParts(log, (part) => db.insert(schema.answerLog).values(part));
  await db.execute(sql`update attempt_question q set seen_at = seen.at from (
      select x.attempt_id, x.slot, coalesce(lag(x.written_at) over (partition by x.attempt_id order by x.written_at, x.slot), a.started_at) as at
      from answer x join attempt a on a.id = x.attempt_id
    ) seen where seen.attempt_id = q.attempt_id and seen.slot = q.slot and q.seen_at is null`);
  await inParts(checks, (part) => db.insert(schema.answerCheck).values(part));
  const files = planned.flatMap((each) =>
    each.taken.files.map((file) => ({
      ...file,
      attemptId: each.id,
      at: new Date(each.started + each.took / 2),
    })),
  );
  if (files.length === 0) return;
  await db.insert(schema.upload).values(
    files.map(({ id, attemptId, slot, name, type, bytes, at }) => ({
      id,
      attemptId,
      slot,
      name,
      type,
      size: bytes.length,
      received: bytes.length,
      completedAt: at,
      createdAt: at,
    })),
  );
  await db.insert(schema.uploadPiece).values(files.map(({ id, bytes }) => ({ uploadId: id, at: 0, bytes })));
}

/** By its student, or by the clock where the time was used up. */
function handInOf(each: Planned, row: AttemptRow): HandIn {
  const deadline = deadlineAt(each);
  const at = each.started + each.took;
  return deadline !== null && at >= deadline
    ? { row, by: "clock", at: deadline, actorId: null }
    : { row, by: "student", at, actorId: row.personId };
}

/** Writes what a person marked and wrote in the margin: what is returned as marks, the rest as it is being written. */
async function writeMarks(db: Queryable, each: Planned, markerId: string): Promise<void> {
  const { id: attemptId, plan, byHand, notes = [], returned, feedback } = each;
  const placeOf = (id: string) => {
    const place = plan.find(({ question }) => question.id === id);
    if (!place) throw new Error(`The attempt has no question ${id}.`);
    return place;
  };
  const works = new Map<number, { work: HandWork; at: Instant }>();
  const workAt = (slot: number, at: Instant) => works.get(slot) ?? { work: NO_WORK, at };
  for (const { question: id, ruleChanged, levels, marks, remarks = {}, reason, at } of byHand) {
    if (ruleChanged) continue;
    const { slot } = placeOf(id);
    const criteria: CriteriaMarks = Object.fromEntries(
      Object.entries(levels ?? {}).map(([name, level]) => [
        name,
        { level, ...(remarks[name] ? { remark: remarks[name] } : {}) },
      ]),
    );
    works.set(slot, {
      work: {
        ...NO_WORK,
        criteria,
        marks: levels || marks === undefined ? null : `${marks}`,
        feedback: reason,
      },
      at,
    });
  }
  for (const { question: id, about, text } of notes) {
    const { slot } = placeOf(id);
    const { work, at } = workAt(slot, returned ?? each.started + each.took);
    const given = each.taken.answers.get(slot);
    const anchor = about === undefined ? null : anchorOn(about, given && "rich" in given ? given.rich : "");
    works.set(slot, {
      work: { ...work, notes: [...work.notes, { id: newId(), anchor, text }] },
      at,
    });
  }
  if (feedback) works.set(0, { work: { ...NO_WORK, feedback }, at: returned ?? 0 });
  if (works.size > 0) {
    await db.insert(schema.handMarking).values(
      [...works].map(([slot, { work, at }]) => ({
        attemptId,
        slot,
        work,
        answerDigest: slot === 0 ? "" : answerDigest(each.taken.answers.get(slot) ?? null),
        done: slot === 0 || work.marks !== null || isDecided(plan, slot, work),
        version: 1,
        device: newId(),
        revision: 1,
        authorId: markerId,
        writtenAt: new Date(at),
        savedAt: new Date(at),
      })),
    );
    if (returned !== null) await publishWork(db, [attemptId], new Date(returned));
  }
  const put = byHand.filter(({ ruleChanged }) => ruleChanged);
  if (put.length === 0) return;
  const standing = await currentMarks(db, attemptId);
  for (const { question, marks = 0, reason, at } of put) {
    const { slot } = placeOf(question);
    const before = standing.find((mark) => mark.slot === slot);
    const marking = before && markByHand(before.detail, { marks, reason });
    if (!marking?.ok) throw new Error(`The demo cannot mark ${question}.`);
    const detail = {
      ...marking.marked,
      parts: marking.marked.parts.map((part) => ({
        ...part,
        why: said("kinds.correction.given-credit", { reason }),
      })),
    };
    await setMark(db, attemptId, {
      slot,
      detail,
      source: "rule",
      reason,
      markedBy: markerId,
      at: new Date(at).getTime(),
    });
  }
}

/** Whether a rubric is decided whole. */
function isDecided(plan: readonly Slot[], slot: number, { criteria }: HandWork): boolean {
  const question = plan.find((each) => each.slot === slot)?.question;
  const score =
    question && "rubric" in question && question.rubric ? scoreRubric(question.rubric, criteria) : null;
  return score?.ok === true && score.left.length === 0;
}

/** Words of an answer as a note is pinned to them. */
function anchorOn(words: string, rich: string): NoteAnchor {
  const from = passageText(rich).indexOf(words);
  if (from === -1) throw new Error(`The answer does not hold “${words}”.`);
  return { kind: "words", from, to: from + words.length, words };
}
