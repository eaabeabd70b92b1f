import { and, asc, count, desc, eq, gte, inArray, isNull, lte } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { slotAccessOn } from "@/core/attempt/order";
import type { PresentedQuestion } from "@/core/kinds/answering";
import { allowsInWords, type FileKind, sizeInWords, type UploadedFile } from "@/core/kinds/upload/answer";
import { said } from "@/core/said";
import { nameText } from "@/core/text/storable";
import { database, inTransaction } from "@/data/database";
import { upload, uploadPiece } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { lockRunning } from "../attempts/lock-running";
import { openAttempt } from "../attempts/open-attempt";
import { savePlanOf } from "../attempts/save-plan";
import { now as serverNow } from "../base/clock";
import { inputOf } from "../base/input";
import { badInput, notFound, Problem } from "../base/problems";
import { writtenIsShown } from "../reveal/revealed";
import { isAllowed, typeByContent } from "./file-kinds";

/** The largest piece of a file in one request. */
const LARGEST_PIECE = 1024 * 1024;
/** Replaced and removed files stay, for what was handed in earlier or elsewhere; so many for each that may be handed in. */
const SPARE = 5;
const LARGEST_PICTURE = 10_000_000;
const MOST_PICTURES = 20;

const terms = yup
  .object({
    slot: yup
      .number()
      .integer()
      .min(1)
      .max(1000)
      .required(said("server.desk.uploads.slot-is-missing-the-question-of")),
    name: yup
      .string()
      .transform((name: unknown) => (typeof name === "string" ? nameText(name) : name))
      .max(255, said("server.desk.uploads.the-name-of-a-file-has"))
      .matches(/^[^\p{Cc}/\\]+$/u, { message: said("server.desk.uploads.the-name-of-a-file-holds") })
      .required(said("server.desk.uploads.name-is-missing-what-the-file")),
    size: yup
      .number()
      .integer()
      .min(1, said("server.desk.uploads.the-file-is-empty"))
      .required(said("server.desk.uploads.size-is-missing-in-bytes")),
    at: yup.number().integer().min(0).required(said("server.desk.uploads.at-is-missing-where-this-piece")),
  })
  .noUnknown();

interface FileRules {
  readonly allows: readonly FileKind[];
  readonly largest: number;
  readonly most: number;
}

/** What a question takes; null when it takes no files. */
function rulesFor(question: PresentedQuestion | undefined): FileRules | null {
  if (question?.kind === "upload") {
    return { allows: question.allows, largest: question.largest, most: question.mostFiles };
  }
  return question?.kind === "essay"
    ? { allows: ["picture"], largest: LARGEST_PICTURE, most: MOST_PICTURES }
    : null;
}

/** The pieces of a file in order, read one by one as they are wanted, so that no file is held whole. */
async function* piecesOf(fileId: string, from = 0): AsyncGenerator<Buffer> {
  let at = from;
  for (;;) {
    const [piece] = await database()
      .select({ at: uploadPiece.at, bytes: uploadPiece.bytes })
      .from(uploadPiece)
      .where(and(eq(uploadPiece.uploadId, fileId), gte(uploadPiece.at, at)))
      .orderBy(asc(uploadPiece.at))
      .limit(1);
    if (!piece) return;
    yield piece.bytes;
    at = piece.at + piece.bytes.length;
  }
}

/** How much of a file is here; done once its content was looked at and taken. */
export interface Received {
  readonly received: number;
  readonly done: boolean;
  readonly type: string | null;
}

/**
 * Takes one piece of a file. A piece that does not begin where the last one ended changes nothing: the answer says where
 * to go on, so a lost connection costs no more than a piece. With the last piece the content is looked at; what the
 * question does not allow is refused and forgotten.
 */
export async function receivePiece(
  viewer: Viewer,
  attemptId: string,
  fileId: string,
  query: unknown,
  bytes: Buffer,
): Promise<Received> {
  if (!isUuid(fileId)) throw notFound();
  const opened = await openAttempt(viewer, attemptId);
  const given = inputOf(terms, query, "address");
  const plan = await savePlanOf(opened.attempt.id);
  const rules = rulesFor(plan?.questions[given.slot - 1]);
  if (!plan || !rules) throw badInput(t("server.desk.uploads.question-takes-no-files", { slot: given.slot }));
  if (given.size > rules.largest) {
    throw badInput(
      t("server.desk.uploads.is-too-large-at-most", {
        name: given.name,
        sizeInWords: sizeInWords(rules.largest),
      }),
    );
  }
  if (bytes.length > LARGEST_PIECE || given.at + bytes.length > given.size) {
    throw badInput(t("server.desk.uploads.this-piece-is-too-large-or"));
  }
  const here = await inTransaction(async (tx): Promise<Received> => {
    const row = await lockRunning(tx, attemptId);
    const page = plan.pageOf[given.slot - 1] ?? 0;
    const state = slotAccessOn(plan.rule, page, row.page, row.told.includes(given.slot));
    if (state !== "open")
      throw new Problem(409, "closed", t("server.desk.question-not-open", { slot: given.slot }));
    const [known] = await tx.select().from(upload).where(eq(upload.id, fileId)).for("update");
    if (known && (known.attemptId !== attemptId || known.slot !== given.slot || known.size !== given.size)) {
      throw notFound();
    }
    if (!known) {
      const [there] = await tx
        .select({ files: count() })
        .from(upload)
        .where(and(eq(upload.attemptId, attemptId), eq(upload.slot, given.slot)));
      if ((there?.files ?? 0) >= rules.most * SPARE) {
        throw badInput(t("server.desk.uploads.question-has-been-given-too-many", { slot: given.slot }));
      }
      await tx
        .insert(upload)
        .values({ id: fileId, attemptId, slot: given.slot, name: given.name, size: given.size });
    }
    const received = known?.received ?? 0;
    if (known?.completedAt) return { received, done: true, type: known.type };
    if (given.at !== received || bytes.length === 0) return { received, done: false, type: null };
    await tx.insert(uploadPiece).values({ uploadId: fileId, at: received, bytes });
    const now = received + bytes.length;
    await tx.update(upload).set({ received: now }).where(eq(upload.id, fileId));
    return { received: now, done: false, type: null };
  });
  return here.done || here.received < given.size ? here : taken(fileId, given, rules);
}

/**
 * Looks at the content of a file that is all here, and takes it or forgets it. Nobody waits for this: the attempt is not
 * locked, and doing it twice does it once. @throws Problem when the question does not allow it
 */
async function taken(
  fileId: string,
  { name, size }: { readonly name: string; readonly size: number },
  { allows }: FileRules,
): Promise<Received> {
  const type = await typeByContent(() => piecesOf(fileId));
  const unseen = and(eq(upload.id, fileId), isNull(upload.completedAt));
  if (!isAllowed(type, allows)) {
    await database().delete(upload).where(unseen);
    throw badInput(
      t("server.desk.uploads.is-not-by-its-content-so", { name, allowsInWords: allowsInWords(allows) }),
    );
  }
  await database()
    .update(upload)
    .set({ type, completedAt: new Date(serverNow()) })
    .where(unseen);
  return { received: size, done: true, type };
}

/** What is wrong with the files that an answer names, or null: each must have been received for this very question. */
export async function filesProblem(
  attemptId: string,
  slot: number,
  files: readonly UploadedFile[],
): Promise<string | null> {
  if (files.length === 0) return null;
  const there = await database()
    .select()
    .from(upload)
    .where(
      and(
        eq(upload.attemptId, attemptId),
        eq(upload.slot, slot),
        inArray(
          upload.id,
          files.map((file) => file.id),
        ),
      ),
    );
  const missing = files.filter(
    (file) =>
      !there.some((row) => row.id === file.id.toLowerCase() && row.completedAt && row.size === file.size),
  );
  if (missing.length === 0) return null;
  const [first] = missing;
  return t("server.desk.uploads.other-of-the-answer-such-as", {
    missingCount: missing.length,
    name: first?.name.slice(0, 40) ?? "",
  });
}

export interface KeptFile {
  readonly name: string;
  readonly type: string;
  /** In bytes. */
  readonly size: number;
  /** Its content from a byte on, piece by piece. */
  readonly from: (at: number) => AsyncIterable<Buffer>;
}

/** A file of an attempt, for its student as far as what was written is shown, and for the staff of the course. */
export async function fileOf(viewer: Viewer, attemptId: string, fileId: string): Promise<KeptFile> {
  if (!isUuid(fileId)) throw notFound();
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  if (!(await writtenIsShown(viewer, opened))) throw notFound();
  return keptFile(attemptId, fileId);
}

/** A file of an attempt, for who was found to be allowed to see it. @throws Problem "not found" */
export async function keptFile(attemptId: string, fileId: string): Promise<KeptFile> {
  if (!isUuid(fileId)) throw notFound();
  const [row] = await database()
    .select()
    .from(upload)
    .where(and(eq(upload.id, fileId), eq(upload.attemptId, attemptId)));
  if (!row?.completedAt || row.type === null) throw notFound();
  return { name: row.name, type: row.type, size: row.size, from: (at) => contentFrom(row.id, at) };
}

/** The content of a file from any byte on, which may lie in the middle of a piece. */
async function* contentFrom(fileId: string, at: number): AsyncGenerator<Buffer> {
  const [first] = await database()
    .select({ at: uploadPiece.at })
    .from(uploadPiece)
    .where(and(eq(uploadPiece.uploadId, fileId), lte(uploadPiece.at, at)))
    .orderBy(desc(uploadPiece.at))
    .limit(1);
  let skip = at - (first?.at ?? 0);
  for await (const piece of piecesOf(fileId, first?.at ?? 0)) {
    yield skip > 0 ? piece.subarray(skip) : piece;
    skip = 0;
  }
}
