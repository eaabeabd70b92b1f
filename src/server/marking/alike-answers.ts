import { and, asc, desc, eq, inArray, isNotNull, isNull, lte, or, sql } from "drizzle-orm";
import { marking } from "@/core/kinds/marking";
import {
  type AlikePair,
  alikeness,
  alikePairs,
  commonPassages,
  type TypedAnswer,
} from "@/core/marking/alike";
import { questionIn } from "@/core/marking/mark-attempt";
import { plainText } from "@/core/text/plain-text";
import { MINUTE } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { alikePair, alikeRun, answer, attempt, attemptQuestion, person, quiz } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { log } from "../base/log";
import { Problem } from "../base/problems";
import { note } from "../base/record";
import { versionContent } from "../quizzes/versions";
import { inThread } from "../text/thread";
import { numberPapers, openRoom } from "./room";

/** So many pairs of a question are kept: more than anyone looks at. */
const MOST_PAIRS = 200;
/** A comparison that was begun so long ago and did not end is begun again. */
const GIVEN_UP = 10 * MINUTE;

/** The typed answers of a quiz by question, with what everyone had before them. */
async function typedAnswers(quizId: string) {
  const rows = await database()
    .select({
      attemptId: attempt.id,
      personId: attempt.personId,
      versionId: attempt.versionId,
      question: attemptQuestion.questionId,
      answer: answer.answer,
    })
    .from(attempt)
    .innerJoin(attemptQuestion, eq(attemptQuestion.attemptId, attempt.id))
    .innerJoin(answer, and(eq(answer.attemptId, attempt.id), eq(answer.slot, attemptQuestion.slot)))
    .where(
      and(
        eq(attempt.quizId, quizId),
        isNotNull(attempt.handedInAt),
        isNull(attempt.writtenRemovedAt),
        sql`${answer.answer} ? 'rich'`,
      ),
    )
    .orderBy(asc(attempt.id));
  const byQuestion = new Map<string, { answers: (TypedAnswer & { personId: string })[]; given: string[] }>();
  for (const { attemptId, personId, versionId, question, answer: written } of rows) {
    const content = await versionContent(versionId);
    const found = questionIn(content, question);
    if (!found || !marking(found.kind).byHand) continue;
    const held = byQuestion.get(question) ?? {
      answers: [],
      given: [
        found.text,
        ("model" in found && found.model) || "",
        content.reference ?? "",
        ...content.sections.map(({ stimulus }) => stimulus?.text ?? ""),
      ].map(plainText),
    };
    byQuestion.set(question, held);
    held.answers.push({
      id: attemptId,
      personId,
      text: plainText(String((written as { rich: unknown }).rich)),
    });
  }
  return byQuestion;
}

/** Compares the typed answers of a quiz with one another, and keeps the pairs that share something. */
export async function compareAnswers(quizId: string): Promise<void> {
  const byQuestion = await typedAnswers(quizId);
  const found: (AlikePair & { question: string })[] = [];
  let compared = 0;
  for (const [question, { answers, given }] of byQuestion) {
    compared += answers.length;
    const plain = answers.map(({ id, text }) => ({ id, text }));
    const pairs = (await inThread("alike", { answers: plain, given })) ?? alikePairs(plain, given);
    const people = new Map(answers.map(({ id, personId }) => [id, personId]));
    found.push(
      ...pairs
        // What somebody wrote in two attempts of their own is no evidence of anything.
        .filter(({ a, b }) => people.get(a) !== people.get(b))
        .slice(0, MOST_PAIRS)
        .map((pair) => ({ ...pair, question })),
    );
  }
  await inTransaction(async (tx) => {
    await tx.delete(alikePair).where(eq(alikePair.quizId, quizId));
    if (found.length > 0)
      await tx.insert(alikePair).values(
        found.map(({ a, b, shared, of, question }) => ({
          quizId,
          questionId: question,
          attemptA: a,
          attemptB: b,
          shared,
          of,
        })),
      );
    const finishedAt = new Date(now());
    await tx
      .insert(alikeRun)
      .values({ quizId, askedAt: finishedAt, finishedAt, compared })
      .onConflictDoUpdate({ target: alikeRun.quizId, set: { finishedAt, compared, claimedAt: null } });
  });
}

/**
 * Compares the answers of one quiz that has closed, or for which it was asked, if there is one; returns whether there was. Only
 * where its settings say so, and so its brief.
 */
export async function workAtAlike(): Promise<boolean> {
  const at = new Date(now());
  const [due] = await database()
    .select({ id: quiz.id })
    .from(quiz)
    .leftJoin(alikeRun, eq(alikeRun.quizId, quiz.id))
    .where(
      and(
        sql`(${quiz.settings}->>'alike')::boolean`,
        or(
          and(isNull(alikeRun.quizId), lte(quiz.closes, at)),
          and(isNull(alikeRun.finishedAt), isNotNull(alikeRun.askedAt)),
        ),
      ),
    )
    .orderBy(asc(quiz.id))
    .limit(1);
  if (!due) return false;
  const taken = await inTransaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`alike ${due.id}`}, 0))`);
    const [run] = await tx.select().from(alikeRun).where(eq(alikeRun.quizId, due.id));
    const isAnothers = run?.claimedAt != null && at.getTime() - run.claimedAt.getTime() < GIVEN_UP;
    if (run && (run.finishedAt !== null || isAnothers)) return false;
    const claimed = { askedAt: run?.askedAt ?? at, claimedAt: at };
    await tx
      .insert(alikeRun)
      .values({ quizId: due.id, ...claimed })
      .onConflictDoUpdate({ target: alikeRun.quizId, set: claimed });
    return true;
  });
  if (!taken) return false;
  try {
    await compareAnswers(due.id);
  } catch (error) {
    log.error({ err: error, quizId: due.id }, "the answers of a quiz could not be compared");
  }
  return true;
}

/** An instructor asks for the comparison now: a job does it. */
export async function askForAlike(viewer: Viewer, quizId: string): Promise<void> {
  const { opened } = await openRoom(viewer, quizId, "rule");
  const { quiz: set } = opened;
  if (!set.settings.alike)
    throw new Problem(409, "not-said", t("server.marking.alike-answers.this-quiz-does-not-compare"));
  const asked = { askedAt: new Date(now()), claimedAt: null, finishedAt: null, compared: 0 };
  await inTransaction(async (tx) => {
    await tx
      .insert(alikeRun)
      .values({ quizId: set.id, ...asked })
      .onConflictDoUpdate({ target: alikeRun.quizId, set: asked });
    await note(tx, {
      actorId: viewer.id,
      action: "alike answers asked for",
      subject: "quiz",
      subjectId: set.id,
    });
  });
}

/** A piece of an answer: as it stands, and whether the other one has it too. */
export interface ComparedPiece {
  readonly text: string;
  readonly common: boolean;
}

export interface ComparedPair {
  readonly question: string;
  /** The share that both have, in per cent. */
  readonly percent: number;
  readonly sides: readonly [ComparedSide, ComparedSide];
}

interface ComparedSide {
  readonly paper: number;
  readonly slot: number;
  readonly name: string | null;
  readonly handedInAt: number;
  readonly pieces: readonly ComparedPiece[];
}

function piecesOf(text: string, spans: readonly { from: number; to: number }[]): ComparedPiece[] {
  const pieces: ComparedPiece[] = [];
  let at = 0;
  for (const { from, to } of [...spans].sort((a, b) => a.from - b.from)) {
    if (from > at) pieces.push({ text: text.slice(at, from), common: false });
    pieces.push({ text: text.slice(from, to), common: true });
    at = to;
  }
  if (at < text.length) pieces.push({ text: text.slice(at), common: false });
  return pieces;
}

/** The pairs of answers of a quiz that are alike, most alike first, both texts side by side; for its instructors alone. */
export async function alikeOf(viewer: Viewer, quizId: string, most = 20) {
  const room = await openRoom(viewer, quizId, "rule");
  const { quiz: set, course } = room.opened;
  await numberPapers(set.id);
  const [run = null] = await database().select().from(alikeRun).where(eq(alikeRun.quizId, set.id));
  const rows = await database()
    .select()
    .from(alikePair)
    .where(eq(alikePair.quizId, set.id))
    .orderBy(desc(sql`${alikePair.shared}::float / greatest(1, ${alikePair.of})`), desc(alikePair.shared))
    .limit(most);
  const ids = [...new Set(rows.flatMap(({ attemptA, attemptB }) => [attemptA, attemptB]))];
  const written =
    ids.length === 0
      ? []
      : await database()
          .select({
            id: attempt.id,
            paper: attempt.paper,
            handedInAt: attempt.handedInAt,
            name: person.name,
            slot: attemptQuestion.slot,
            question: attemptQuestion.questionId,
            versionId: attempt.versionId,
            answer: answer.answer,
          })
          .from(attempt)
          .innerJoin(person, eq(person.id, attempt.personId))
          .innerJoin(attemptQuestion, eq(attemptQuestion.attemptId, attempt.id))
          .innerJoin(answer, and(eq(answer.attemptId, attempt.id), eq(answer.slot, attemptQuestion.slot)))
          .where(and(inArray(attempt.id, ids), isNull(attempt.writtenRemovedAt)));
  const pairs: ComparedPair[] = [];
  for (const { attemptA, attemptB, questionId, shared, of } of rows) {
    const [a, b] = [attemptA, attemptB].map((id) =>
      written.find((each) => each.id === id && each.question === questionId),
    );
    if (!a || !b) continue;
    const texts = [a, b].map((each) =>
      plainText(String((each.answer as { rich?: unknown } | null)?.rich ?? "")),
    );
    const [textA = "", textB = ""] = texts;
    const passages = commonPassages(textA, textB);
    const side = (
      row: typeof a,
      text: string,
      spans: readonly { from: number; to: number }[],
    ): ComparedSide => ({
      paper: row.paper ?? 0,
      slot: row.slot,
      name: room.namesHidden ? null : row.name,
      handedInAt: row.handedInAt?.getTime() ?? 0,
      pieces: piecesOf(text, spans),
    });
    const question = questionIn(await versionContent(a.versionId), questionId);
    pairs.push({
      question: plainText(question?.text ?? ""),
      percent: Math.round(alikeness({ shared, of }) * 100),
      sides: [
        side(
          a,
          textA,
          passages.map(({ inA }) => inA),
        ),
        side(
          b,
          textB,
          passages.map(({ inB }) => inB),
        ),
      ],
    });
  }
  return {
    quizId: set.id,
    title: set.title,
    course: { title: course.title, slug: course.slug },
    isOn: set.settings.alike ?? false,
    run: run && { at: run.finishedAt?.getTime() ?? null, compared: run.compared },
    namesHidden: room.namesHidden,
    pairs,
  };
}
