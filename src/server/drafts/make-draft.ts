import { randomUUID } from "node:crypto";
import { and, eq, isNull } from "drizzle-orm";
import * as yup from "yup";
import type { PlannedWindow } from "@/core/course/moved-windows";
import { type Making, piecesOf } from "@/core/draft/assembled";
import { blankDraft } from "@/core/draft/blank";
import type { DraftPiece } from "@/core/draft/pieces";
import { exactObject } from "@/core/kinds/shapes";
import type { Picture, QuizContent, QuizFile, QuizRecording } from "@/core/quiz/quiz-file";
import type { QuizSettings } from "@/core/quiz/rules";
import { said } from "@/core/said";
import { type Database, database, inTransaction } from "@/data/database";
import { draft, quiz, quizVersion } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { courseOf } from "../access/open-course";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { hasWords, inputOf } from "../base/input";
import { notFound } from "../base/problems";
import { versionContent } from "../quizzes/versions";
import { keepAsset } from "./assets";
import { cleanPiece, writePieces } from "./draft-pieces";
import { newSlots } from "./new-slots";

/** A name for a section that no other has. */
const newName = (): string => `s${randomUUID().slice(0, 8)}`;

/** The bytes of what a picture shows or a recording plays; null: there are none. */
export type BytesOf = (medium: Picture | QuizRecording) => Buffer | null;

const DATA = /^data:[^;]+;base64,(.+)$/s;

/** The bytes that stand in a quiz file itself. */
export const bytesInFile: BytesOf = ({ data }) => {
  const [, base64] = DATA.exec(data ?? "") ?? [];
  return base64 ? Buffer.from(base64, "base64") : null;
};

/** Keeps what the pictures and recordings of a quiz show as files of its course. */
async function kept(
  tx: Database,
  quizFile: Pick<QuizFile, "pictures" | "recordings">,
  terms: { readonly courseId: string; readonly by: string },
  bytesOf: BytesOf,
): Promise<Making["assetOf"]> {
  const found = new Map<Picture | QuizRecording, { asset: string; aspect: number }>();
  for (const medium of [...(quizFile.pictures ?? []), ...(quizFile.recordings ?? [])]) {
    const bytes = bytesOf(medium);
    if (!bytes) continue;
    const { asset, aspect } = await keepAsset(tx, { ...terms, bytes });
    found.set(medium, { asset, aspect });
  }
  return (medium) => found.get(medium) ?? null;
}

/** The pieces of a draft that makes a quiz again. */
export async function piecesOfQuiz(
  tx: Database,
  quizFile: QuizFile,
  terms: { readonly courseId: string; readonly by: string },
  bytesOf: BytesOf = bytesInFile,
): Promise<Map<number, DraftPiece>> {
  return piecesOf(quizFile, {
    newSlot: newSlots(),
    newName,
    assetOf: await kept(tx, quizFile, terms, bytesOf),
  });
}

/** Writes a new draft with its pieces; answers its id. */
export async function writeNewDraft(
  tx: Database,
  viewer: Viewer,
  terms: {
    readonly courseId: string;
    readonly pieces: ReadonlyMap<number, DraftPiece>;
    readonly title: string;
    readonly quizId?: string;
    readonly ofVersion?: number;
    readonly settings?: QuizSettings;
    readonly planned?: PlannedWindow;
  },
): Promise<string> {
  const { pieces, ...row } = terms;
  const id = newId();
  await tx.insert(draft).values({ id, ...row, createdBy: viewer.id, changedBy: viewer.id });
  const device = randomUUID();
  await writePieces(
    tx,
    id,
    viewer.id,
    [...pieces].map(([slot, piece], i) => ({
      slot,
      piece: cleanPiece(piece),
      version: 1,
      device,
      revision: i + 1,
    })),
  );
  return id;
}

const body = exactObject({
  title: yup
    .string()
    .strict()
    .test("words", said("server.drafts.make-draft.a-title-is-missing"), hasWords)
    .max(200)
    .required(said("server.drafts.make-draft.a-title-is-missing")),
});

/** Begins a quiz in a course. */
export async function newDraft(
  viewer: Viewer,
  slug: string,
  input: unknown,
): Promise<{ readonly id: string }> {
  const { title } = inputOf(body, input);
  const course = await courseOf(viewer, slug);
  mustMay({ role: course.role, given: false }, "rule");
  const pieces = blankDraft(title.trim(), newName());
  const id = await inTransaction((tx) =>
    writeNewDraft(tx, viewer, { courseId: course.id, pieces, title: title.trim() }),
  );
  return { id };
}

/** A quiz as its file says it, of one of its versions and its settings. What was put right in its marking is no part of it. */
export const fileOf = (content: QuizContent, settings: QuizSettings): QuizFile => {
  const { corrections: _, rules, ...rest } = content;
  return { ...rest, rules: { ...rules, ...settings } };
};

/** The draft in which an assigned quiz is written on: the one that there is, or a new one of its current version. */
export async function draftOfQuiz(viewer: Viewer, quizId: string): Promise<{ readonly id: string }> {
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "rule");
  const find = (db: Pick<Database, "select">) =>
    db
      .select({ id: draft.id })
      .from(draft)
      .where(and(eq(draft.quizId, opened.quiz.id), isNull(draft.removedAt)));
  const [known] = await find(database());
  if (known) return known;
  const content = await versionContent(opened.versionId);
  return inTransaction(async (tx) => {
    // Two who begin at once write in one draft.
    const [held] = await tx.select().from(quiz).where(eq(quiz.id, opened.quiz.id)).for("update");
    if (!held) throw notFound();
    const [meanwhile] = await find(tx);
    if (meanwhile) return meanwhile;
    const [version] = await tx
      .select({ number: quizVersion.number })
      .from(quizVersion)
      .where(eq(quizVersion.id, opened.versionId));
    const terms = { courseId: held.courseId, by: viewer.id };
    const pieces = await piecesOfQuiz(tx, fileOf(content, held.settings), terms);
    const made = await writeNewDraft(tx, viewer, {
      courseId: held.courseId,
      pieces,
      title: content.title,
      quizId: held.id,
      settings: held.settings,
      ...(version ? { ofVersion: version.number } : {}),
    });
    return { id: made };
  });
}
