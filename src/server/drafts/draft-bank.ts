import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import * as yup from "yup";
import { type BankLine, type BankQuestion, linkedPiece, picturesShown } from "@/core/draft/bank";
import type { StandingPiece } from "@/core/draft/draft-view";
import { picturesOf } from "@/core/draft/pieces";
import { exactObject } from "@/core/kinds/shapes";
import { questionMistakes } from "@/core/quiz/quiz-file";
import { inTransaction } from "@/data/database";
import { draft } from "@/data/schema";
import { say, t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { bankLines, bankQuestions } from "../bank/bank-questions";
import { placeFields, writeBankQuestion } from "../bank/write-bank";
import { inputOf } from "../base/input";
import { badInput, notFound, Problem } from "../base/problems";
import { piecesSince, writePieces } from "./draft-pieces";
import { followBank } from "./follow-bank";
import { openDraft } from "./open-draft";

/** What a draft can take from the banks of its course, as a list. */
export async function bankOfDraft(viewer: Viewer, draftId: string): Promise<readonly BankLine[]> {
  const { course } = await openDraft(viewer, draftId);
  return bankLines(course.id);
}

const taking = exactObject({
  ids: yup
    .array()
    .of(
      yup
        .string()
        .strict()
        .matches(/^[0-9a-f-]{36}$/)
        .required(),
    )
    .max(200),
  topic: yup.string().strict().max(80),
  tag: yup.string().strict().max(40),
});

/** Questions of the banks, whole, for a draft that takes them. */
export async function takeFromBank(
  viewer: Viewer,
  draftId: string,
  input: unknown,
): Promise<readonly BankQuestion[]> {
  const { ids = [], topic, tag } = inputOf(taking, input);
  const { course } = await openDraft(viewer, draftId);
  const choices = topic === undefined ? [] : [tag === undefined ? { topic } : { topic, tag }];
  return inTransaction((tx) => bankQuestions(tx, course.id, { ids, choices }));
}

const putting = exactObject({
  slot: yup.number().strict().integer().required(),
  ...placeFields,
});

/**
 * Puts a question of a draft into the bank of its course, as it was saved: a new one, or the next version of the one that it was
 * taken from. The draft then follows it. Answers with the pieces that this changed.
 * @throws Problem where the question is not right yet, changed meanwhile, or belongs to another course's bank
 */
export async function putInBank(
  viewer: Viewer,
  draftId: string,
  input: unknown,
): Promise<readonly StandingPiece[]> {
  const { slot, ...place } = inputOf(putting, input);
  const opened = await openDraft(viewer, draftId);
  return inTransaction(async (tx) => {
    const [held] = await tx.select().from(draft).where(eq(draft.id, opened.draft.id)).for("update");
    if (!held || held.removedAt !== null) throw notFound();
    const standing = await piecesSince(tx, held.id, 0);
    const stands = standing.find((each) => each.slot === slot);
    if (stands?.piece.piece !== "question") throw notFound();
    const { question, bank } = stands.piece;
    const [mistake] = questionMistakes(question, "");
    if (mistake)
      throw new Problem(
        422,
        "to-put-right",
        t("server.drafts.draft-bank.put-right-first", { words: say(mistake.message) }),
      );
    if (question.recording !== undefined) throw badInput(t("server.drafts.draft-bank.recordings-stay"));
    const shown = new Set(picturesShown(question));
    const pictures = [...picturesOf(new Map(standing.map((each) => [each.slot, each.piece]))).values()]
      .filter(({ id, removed }) => shown.has(id) && !removed)
      .map(({ id, alt, asset, aspect }) => ({ id, alt, asset, aspect }));
    const written = await writeBankQuestion(tx, {
      courseId: held.courseId,
      by: viewer.id,
      id: bank?.id ?? null,
      place,
      question,
      pictures,
    });
    const link = { id: written.id, version: written.version, follows: true };
    await writePieces(tx, held.id, viewer.id, [
      {
        slot,
        piece: linkedPiece(question, link),
        version: stands.version + 1,
        device: randomUUID(),
        revision: 1,
      },
    ]);
    await followBank(tx, viewer.id, held);
    const before = new Map(standing.map((each) => [each.slot, each.version]));
    return (await piecesSince(tx, held.id, 0)).filter((each) => before.get(each.slot) !== each.version);
  });
}
