import { and, asc, desc, eq, gt, inArray, isNotNull, isNull, ne, or, sql } from "drizzle-orm";
import { may } from "@/core/access/may";
import { daysLate } from "@/core/attempt/late";
import type { PileLine, PileQuestion, PileState, PileView } from "@/core/desk/room-view";
import type { MarkedQuestion } from "@/core/kinds/kind";
import type { Rubric } from "@/core/kinds/rubric";
import { type HandWork, handState, isBlank } from "@/core/marking/hand-work";
import { questionIn } from "@/core/marking/mark-attempt";
import { type Exact, exact, shown } from "@/core/numbers/exact";
import { type Said, said } from "@/core/said";
import { firstWords, plainText } from "@/core/text/plain-text";
import { countWords } from "@/core/text/word-count";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import {
  answer,
  attempt,
  attemptQuestion,
  claim,
  courseSection,
  handMarking,
  lateWriting,
  mark,
  person,
  sectionMember,
  sharedPaper,
} from "@/data/schema";
import { t } from "@/words/t";
import { allowancesIn, windowOf } from "../access/allowances";
import type { Viewer } from "../access/viewer";
import { instantOf, now } from "../base/clock";
import { versionContent } from "../quizzes/versions";
import { remarksOf } from "./remarks";
import { numberPapers, openRoom, questionsByHand, type Room } from "./room";

/** How much was written. */
export function sizeOf(written: unknown): Said {
  if (typeof written !== "object" || written === null) return said("kinds.common.empty");
  if ("rich" in written) return said("count.words", { count: countWords(String(written.rich)) });
  if ("files" in written && Array.isArray(written.files))
    return said("count.files", { count: written.files.length });
  return "";
}

/** "1 day late"; null: in time. What was added to an attempt is no lateness. */
export function lateText(handedInAt: Instant, due: Instant | null, added: number): string | null {
  const days = daysLate(handedInAt, due === null ? null : due + added);
  return days === 0 ? null : t("server.marking.pile.days-late", { days });
}

/** Which answers are in a person's hand: what was left to one, and what one has marked. */
const inHand = (questions: readonly string[]) =>
  or(
    questions.length > 0 ? inArray(attemptQuestion.questionId, [...questions]) : undefined,
    sql`exists (select 1 from mark waiting where waiting.attempt_id = ${attemptQuestion.attemptId}
      and waiting.slot = ${attemptQuestion.slot} and waiting.awaiting > 0)`,
  );

const rowsOf = (quizId: string, questions: readonly string[]) =>
  database()
    .select({
      attemptId: attempt.id,
      versionId: attempt.versionId,
      paper: attempt.paper,
      personId: attempt.personId,
      number: attempt.number,
      name: person.name,
      handedInAt: attempt.handedInAt,
      addedMs: attempt.addedMs,
      slot: attemptQuestion.slot,
      question: attemptQuestion.questionId,
      answer: answer.answer,
      work: handMarking.work,
      version: handMarking.version,
      returnedVersion: handMarking.returnedVersion,
      marker: sharedPaper.markerId,
    })
    .from(attempt)
    .innerJoin(person, eq(person.id, attempt.personId))
    .innerJoin(attemptQuestion, eq(attemptQuestion.attemptId, attempt.id))
    .leftJoin(answer, and(eq(answer.attemptId, attempt.id), eq(answer.slot, attemptQuestion.slot)))
    .leftJoin(
      handMarking,
      and(eq(handMarking.attemptId, attempt.id), eq(handMarking.slot, attemptQuestion.slot)),
    )
    .leftJoin(sharedPaper, eq(sharedPaper.attemptId, attempt.id))
    .where(
      and(
        eq(attempt.quizId, quizId),
        isNotNull(attempt.handedInAt),
        isNull(attempt.writtenRemovedAt),
        inHand(questions),
      ),
    )
    .orderBy(asc(attempt.paper), asc(attemptQuestion.slot));

/** The marks that hold for answers that are in a person's hand, by attempt and slot. */
async function marksOf(quizId: string, questions: readonly string[]) {
  const rows = await database()
    .selectDistinctOn([mark.attemptId, mark.slot], {
      attemptId: mark.attemptId,
      slot: mark.slot,
      source: mark.source,
      marks: sql<string>`${mark.detail}->>'marks'`,
      maximum: sql<string>`${mark.detail}->>'maximum'`,
      state: sql<MarkedQuestion["state"]>`${mark.detail}->>'state'`,
    })
    .from(mark)
    .innerJoin(attempt, eq(attempt.id, mark.attemptId))
    .innerJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, mark.attemptId), eq(attemptQuestion.slot, mark.slot)),
    )
    .where(and(eq(attempt.quizId, quizId), inHand(questions)))
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
  return new Map(rows.map((row) => [`${row.attemptId} ${row.slot}`, row]));
}

/** Late writing of a quiz of which nothing is decided yet, by attempt and slot. */
async function undecidedLate(quizId: string): Promise<ReadonlySet<string>> {
  const rows = await database()
    .selectDistinct({ attemptId: lateWriting.attemptId, slot: lateWriting.slot })
    .from(lateWriting)
    .innerJoin(attempt, eq(attempt.id, lateWriting.attemptId))
    .where(and(eq(attempt.quizId, quizId), isNull(lateWriting.decision)));
  return new Set(rows.map(({ attemptId, slot }) => `${attemptId} ${slot}`));
}

/** Who has which answers of a quiz open besides this person. */
async function openElsewhere(quizId: string, viewer: Viewer): Promise<ReadonlyMap<string, string>> {
  const rows = await database()
    .select({ attemptId: claim.attemptId, slot: claim.slot, name: person.name })
    .from(claim)
    .innerJoin(attempt, eq(attempt.id, claim.attemptId))
    .innerJoin(person, eq(person.id, claim.personId))
    .where(and(eq(attempt.quizId, quizId), gt(claim.until, new Date(now())), ne(claim.personId, viewer.id)));
  return new Map(rows.map(({ attemptId, slot, name }) => [`${attemptId} ${slot}`, name]));
}

async function sectionsOf(room: Room) {
  const { course } = room.opened;
  const rows = await database()
    .select({ id: courseSection.id, title: courseSection.title, personId: sectionMember.personId })
    .from(courseSection)
    .leftJoin(sectionMember, eq(sectionMember.sectionId, courseSection.id))
    .where(eq(courseSection.courseId, course.id))
    .orderBy(asc(courseSection.position), asc(courseSection.id));
  const titles = new Map(rows.map(({ id, title }) => [id, title]));
  const ofPerson = new Map<string, string[]>();
  for (const { id, personId } of rows)
    if (personId) ofPerson.set(personId, [...(ofPerson.get(personId) ?? []), id]);
  return { sections: [...titles].map(([id, title]) => ({ id, title })), ofPerson };
}

/** How far an answer is, and what it comes to, exactly; null: nothing is decided. */
function pileStateOf(
  rubric: Rubric | undefined,
  maximum: string,
  work: HandWork | null,
  version: number | null,
  returned: { readonly version: number | null; readonly marks: string } | null,
): { readonly state: PileState; readonly points: Exact | null } {
  const state = work && handState(rubric, exact(maximum), work);
  const points = state?.ok ? state.marks : null;
  if (returned !== null && (work === null || returned.version === version))
    return { state: "returned", points: exact(returned.marks) };
  if (returned !== null) return { state: "changed", points };
  if (!work || !state?.ok || isBlank(work)) return { state: "awaits", points: null };
  return { state: state.isDone ? "marked" : "begun", points };
}

/** The rubric of a question in a version. */
export async function rubricOf(versionId: string, question: string): Promise<Rubric | undefined> {
  const found = questionIn(await versionContent(versionId), question);
  return found && "rubric" in found ? found.rubric : undefined;
}

/** An answer of the pile with what the server knows of it besides. */
export interface HeldLine extends PileLine {
  readonly attemptId: string;
  readonly personId: string;
  /** What it comes to, exactly; null: nothing is decided. */
  readonly points: Exact | null;
  /** What was returned of it, exactly; null: nothing. */
  readonly returnedPoints: Exact | null;
  /** Whether it says why a mark that was returned is changed. */
  readonly saysWhy: boolean;
}

/** All answers of a quiz that are in a person's hand, without those that were left empty; and how many of these there are. */
export async function linesOf(room: Room): Promise<{
  readonly lines: readonly HeldLine[];
  readonly empty: number;
  readonly titles: ReadonlyMap<string, string>;
  readonly sections: PileView["sections"];
}> {
  const { quiz } = room.opened;
  const byHand = await questionsByHand(quiz.id);
  const questions = [...byHand.keys()];
  await numberPapers(quiz.id);
  const rows = await rowsOf(quiz.id, questions);
  const allowed = await allowancesIn([quiz.id]);
  const marks = await marksOf(quiz.id, questions);
  const late = await undecidedLate(quiz.id);
  const open = await openElsewhere(quiz.id, room.viewer);
  const { sections, ofPerson } = await sectionsOf(room);
  const titles = new Map(byHand);
  const lines: HeldLine[] = [];
  let empty = 0;
  for (const row of rows) {
    const key = `${row.attemptId} ${row.slot}`;
    const held = marks.get(key);
    if (!held || held.state === "dropped") continue;
    if (held.state === "empty" && !late.has(key)) {
      empty += 1;
      continue;
    }
    if (!titles.has(row.question)) {
      const question = questionIn(await versionContent(row.versionId), row.question);
      titles.set(row.question, question?.text ?? row.question);
    }
    const rubric = await rubricOf(row.versionId, row.question);
    const returned = held.source === "hand" ? { version: row.returnedVersion, marks: held.marks } : null;
    const { state, points } = pileStateOf(rubric, held.maximum, row.work, row.version, returned);
    lines.push({
      state,
      points,
      marks: points === null ? null : shown(points),
      returnedPoints: returned && exact(returned.marks),
      saysWhy: (row.work?.reason.trim() ?? "") !== "",
      attemptId: row.attemptId,
      personId: row.personId,
      paper: row.paper ?? 0,
      slot: row.slot,
      question: row.question,
      size: sizeOf(row.answer),
      maximum: shown(held.maximum),
      name: room.namesHidden ? null : row.name,
      late: room.namesHidden
        ? null
        : lateText(
            instantOf(row.handedInAt) ?? 0,
            windowOf(quiz, allowed(quiz.id, row.personId)).due,
            row.addedMs,
          ),
      lateWriting: late.has(key),
      openAt: open.get(key) ?? null,
      mine: row.marker === room.viewer.id,
      sections: ofPerson.get(row.personId) ?? [],
    });
  }
  return { lines, empty, titles, sections };
}

const isWaiting = ({ state }: PileLine): boolean => state === "awaits" || state === "begun";

/** The order of a pile: by the lot of the papers, or by name where names are shown. */
const inOrder = (a: PileLine, b: PileLine): number =>
  (a.name === null || b.name === null
    ? a.paper - b.paper
    : a.name.localeCompare(b.name) || a.paper - b.paper) || a.slot - b.slot;

/** The marking room of a quiz: its pile, and the terms by which it is seen. */
export async function pileOf(viewer: Viewer, quizId: string): Promise<PileView> {
  const room = await openRoom(viewer, quizId);
  const { quiz, course } = room.opened;
  const { lines, empty, titles, sections } = await linesOf(room);
  const order = [...titles.keys()];
  const questions = order.flatMap((id): PileQuestion[] => {
    const own = lines.filter(({ question }) => question === id);
    if (own.length === 0) return [];
    const title = firstWords(plainText(titles.get(id) ?? ""), 70);
    return [{ id, title, awaiting: own.filter(isWaiting).length, all: own.length }];
  });
  return {
    quizId: quiz.id,
    title: quiz.title,
    course: { title: course.title, slug: course.slug },
    namesHidden: room.namesHidden,
    byStudent: room.byStudent,
    questions,
    lines: [...lines].sort(inOrder).map((line) => ({
      paper: line.paper,
      slot: line.slot,
      question: line.question,
      size: line.size,
      state: line.state,
      marks: line.marks,
      maximum: line.maximum,
      name: line.name,
      late: line.late,
      lateWriting: line.lateWriting,
      openAt: line.openAt,
      mine: line.mine,
      // A small section tells whose it is.
      sections: room.namesHidden ? [] : line.sections,
    })),
    empty,
    sections: room.namesHidden ? [] : sections,
    remarks: await remarksOf(viewer, course.id),
    serverNow: now(),
    mayReturn: may(room.opened, "return"),
  };
}
