import { and, asc, desc, eq, inArray, isNotNull, isNull, lt } from "drizzle-orm";
import type { AnswerView, EarlierAnswer, RoomFile } from "@/core/desk/room-view";
import { type PresentedQuestion, readAnswer } from "@/core/kinds/answering";
import type { MarkedQuestion } from "@/core/kinds/kind";
import { present } from "@/core/kinds/marking";
import { planWithKeys } from "@/core/marking/mark-attempt";
import { shown } from "@/core/numbers/exact";
import { type ShownAnswer, shownAnswer } from "@/core/reveal/shown-answer";
import { database } from "@/data/database";
import {
  answer,
  attempt,
  attemptQuestion,
  lateWriting,
  mark,
  markQuery,
  person,
  upload,
} from "@/data/schema";
import { say, t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { allowancesIn, windowOf } from "../access/allowances";
import type { Viewer } from "../access/viewer";
import { currentMarks } from "../attempts/marks";
import { seedOf } from "../attempts/seeds";
import { answerDigest } from "../attempts/slip-code";
import { config } from "../base/config";
import { contentLanguage } from "../base/content-language";
import { notFound } from "../base/problems";
import { picturesShown } from "../desk/media";
import { heldKeys } from "../quizzes/keys";
import { versionContent } from "../quizzes/versions";
import { drawnEssay, drawnQuestion, drawnRubric, withFormulas } from "../text/formulas";
import { holderOf } from "./claims";
import { lateText, sizeOf } from "./pile";
import { openRoom, paperOf, type Room } from "./room";
import { standingWork } from "./save-marking";

type Row = typeof attempt.$inferSelect;

/** Where what belongs to a paper lies, by its number: no address in the room tells whose it is. */
const baseOf = (quizId: string, paper: number): string => `/api/quizzes/${quizId}/papers/${paper}`;

/** An essay whose pictures lie where its paper does. */
const withPaperFiles = (rich: string, attemptId: string, base: string): string =>
  rich.replaceAll(`/api/attempts/${attemptId}/files/`, `${base}/files/`);

const EXTENSION = /\.[A-Za-z0-9]{1,5}$/;

/** A file's name as it may be shown: of its own it may tell whose it is. */
export const roomName = (name: string, place: number, hidden: boolean): string =>
  hidden
    ? t("server.marking.answer-view.file", { place: place + 1, extension: EXTENSION.exec(name)?.[0] ?? "" })
    : name;

async function filesOf(
  row: Row,
  files: readonly { readonly id: string; readonly name: string; readonly size: number }[],
  hidden: boolean,
): Promise<RoomFile[]> {
  const known =
    files.length === 0
      ? []
      : await database()
          .select({ id: upload.id, type: upload.type })
          .from(upload)
          .where(
            and(
              eq(upload.attemptId, row.id),
              inArray(
                upload.id,
                files.map(({ id }) => id),
              ),
            ),
          );
  return files.map(({ id, name, size }, place) => ({
    id,
    name: roomName(name, place, hidden),
    size,
    type: known.find((each) => each.id === id)?.type ?? "",
  }));
}

/** What was written, as it can be shown: an essay, files, or in lines what no rule could mark. */
async function shownIn(
  row: Row,
  answered: ShownAnswer | null,
  base: string,
  hidden: boolean,
  detail: MarkedQuestion,
): Promise<AnswerView["answer"]> {
  switch (answered?.kind) {
    case "rich":
      return { kind: "rich", rich: await drawnEssay(withPaperFiles(answered.rich, row.id, base)) };
    case "files":
      return { kind: "files", files: await filesOf(row, answered.files, hidden), beside: answered.beside };
    default:
      return { kind: "lines", lines: detail.parts.map((part) => say(part.written)) };
  }
}

/** What was written to the same question in this student's earlier attempts, and what they were told of it. */
async function earlierOf(row: Row, question: string): Promise<EarlierAnswer[]> {
  const rows = await database()
    .select({ id: attempt.id, number: attempt.number, slot: attemptQuestion.slot, written: answer.answer })
    .from(attempt)
    .innerJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, attempt.id), eq(attemptQuestion.questionId, question)),
    )
    .innerJoin(answer, and(eq(answer.attemptId, attempt.id), eq(answer.slot, attemptQuestion.slot)))
    .where(
      and(
        eq(attempt.quizId, row.quizId),
        eq(attempt.personId, row.personId),
        lt(attempt.number, row.number),
        isNotNull(attempt.handedInAt),
        isNull(attempt.writtenRemovedAt),
      ),
    )
    .orderBy(asc(attempt.number));
  const earlier: EarlierAnswer[] = [];
  for (const { id, number, slot, written } of rows) {
    const rich =
      typeof written === "object" && written !== null && "rich" in written ? String(written.rich) : "";
    const [held] = await database()
      .select({ detail: mark.detail, source: mark.source, feedback: mark.feedback })
      .from(mark)
      .where(and(eq(mark.attemptId, id), eq(mark.slot, slot)))
      .orderBy(desc(mark.added))
      .limit(1);
    earlier.push({
      number,
      // Pictures of another attempt do not lie with this paper.
      rich: (await drawnEssay(rich)).replace(/<img\b[^>]*>/g, ""),
      marks: held?.source === "hand" ? `${shown(held.detail.marks)} / ${shown(held.detail.maximum)}` : null,
      feedback: held?.feedback ?? null,
    });
  }
  return earlier;
}

/** How the talk about a mark stands: it waits for an answer while its student spoke last. */
async function talkOf(row: Row, slot: number): Promise<AnswerView["talk"]> {
  const lines = await database()
    .select({ authorId: markQuery.authorId })
    .from(markQuery)
    .where(and(eq(markQuery.attemptId, row.id), eq(markQuery.slot, slot)))
    .orderBy(asc(markQuery.createdAt), asc(markQuery.id));
  return { lines: lines.length, waits: lines.at(-1)?.authorId === row.personId };
}

function shownQuestion(presented: PresentedQuestion) {
  const drawn = drawnQuestion(presented);
  return {
    text: drawn.text,
    stimulus: drawn.stimulus ?? null,
    recording: drawn.recording ?? null,
    figure: drawn.figure ?? null,
  };
}

/** An answer of the pile, with everything that is needed to mark it. @throws Problem "not found" */
export async function answerOf(
  viewer: Viewer,
  quizId: string,
  paper: number,
  slot: number,
  device: string | null = null,
): Promise<AnswerView> {
  const room = await openRoom(viewer, quizId);
  return answerIn(room, await paperOf(room, paper), slot, device);
}

async function answerIn(room: Room, row: Row, slot: number, device: string | null): Promise<AnswerView> {
  const { quiz } = room.opened;
  const paper = row.paper ?? 0;
  const base = baseOf(quiz.id, paper);
  const content = await versionContent(row.versionId);
  const seed = await seedOf(row);
  const keys = (await heldKeys(database(), [quiz.id]))(quiz.id);
  const place = planWithKeys(content, seed, keys.keyOf(row.versionId)).find((each) => each.slot === slot);
  if (!place) throw notFound();
  const { question } = place;
  const presented = present(question, seed);
  const [kept] = await database()
    .select({ answer: answer.answer })
    .from(answer)
    .where(and(eq(answer.attemptId, row.id), eq(answer.slot, slot)));
  const reading = readAnswer(presented, kept?.answer ?? null);
  const written = reading.ok ? reading.answer : null;
  const held = (await currentMarks(database(), row.id)).find((each) => each.slot === slot);
  if (!held) throw notFound();
  const [owner] = await database()
    .select({ name: person.name })
    .from(person)
    .where(eq(person.id, row.personId));
  const own = (await allowancesIn([quiz.id]))(quiz.id, row.personId);
  const [late] = await database()
    .select({ slot: lateWriting.slot })
    .from(lateWriting)
    .where(and(eq(lateWriting.attemptId, row.id), eq(lateWriting.slot, slot), isNull(lateWriting.decision)))
    .limit(1);
  const stands = await standingWork(database(), row.id, slot);
  const handedInAt = row.handedInAt?.getTime() ?? 0;
  const hidden = room.namesHidden;
  return {
    paper,
    slot,
    question: question.id,
    name: hidden ? null : (owner?.name ?? ""),
    handedIn: hidden
      ? null
      : t("server.marking.answer-view.handed-in", { at: dayAndTime(handedInAt, config.zone) }),
    late: hidden ? null : lateText(handedInAt, windowOf(quiz, own).due, row.addedMs),
    language: question.language ?? contentLanguage(content),
    answerLanguage: question.answerLanguage ?? question.language ?? contentLanguage(content),
    ...shownQuestion(presented),
    pictures: await picturesShown(row, content, [presented]),
    base,
    maximum: shown(held.detail.maximum),
    words: presented.kind === "essay" ? presented.words : null,
    size: sizeOf(kept?.answer ?? null),
    rubric: "rubric" in question && question.rubric ? drawnRubric(question.rubric) : null,
    model: "model" in question && question.model ? withFormulas(question.model) : null,
    answer: await shownIn(row, shownAnswer(question, presented, written, false), base, hidden, held.detail),
    earlier: await earlierOf(row, question.id),
    standing: stands && {
      work: stands.work,
      version: stands.version,
      device: stands.device,
      revision: stands.revision,
      writtenAt: stands.writtenAt,
      author: stands.author,
    },
    returnedVersion: stands?.returnedVersion ?? null,
    holder: await holderOf(database(), { attemptId: row.id, slot }, room.viewer, device),
    talk: await talkOf(row, slot),
    lateWriting: late !== undefined,
    answerDigest: answerDigest(kept?.answer ?? null),
  };
}
